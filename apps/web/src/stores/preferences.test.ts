import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { usePreferences } from './preferences.ts'

describe('the decimal mark', () => {
  beforeEach(() => {
    localStorage.clear()
    setActivePinia(createPinia())
  })
  it('is that of the site, until one’s own is chosen', async () => {
    const preferences = usePreferences()
    expect(preferences.number(3.25, { decimals: 2 })).toBe('3.25')
    preferences.siteMark = ','
    expect(preferences.quantity(3.25, 'mA', { decimals: 2 })).toBe('3,25 mA')
    // Nothing is kept on the device until something is chosen.
    expect(localStorage.length).toBe(0)
    preferences.decimalMark = '.'
    await nextTick()
    expect(preferences.number(3.25, { decimals: 2 })).toBe('3.25')
    setActivePinia(createPinia())
    usePreferences().siteMark = ','
    expect(usePreferences().decimalMark).toBe('.')
  })
})
