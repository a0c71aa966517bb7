import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { createVuetify } from 'vuetify'
import ChoiceField from './ChoiceField.vue'

const options = (...values: string[]) => values.map((value) => ({ value, label: `the ${value}` }))
const field = (props: object = {}) =>
  mount(ChoiceField, {
    props: { label: 'Taps', options: options('flange', 'corner'), value: '', ...props },
    global: { plugins: [createVuetify()] },
  })
const pressed = (w: ReturnType<typeof field>) =>
  w.findAll('button').flatMap((b) => (b.attributes('aria-pressed') === 'true' ? [b.text()] : []))

describe('one of a few', () => {
  it('shows all of them, pressed what is chosen', async () => {
    const w = field({ value: 'corner' })
    expect(w.findAll('button').map((b) => b.text())).toEqual(['the flange', 'the corner'])
    expect(pressed(w)).toEqual(['the corner'])
    await w.setProps({ value: 'flange' })
    expect(pressed(w)).toEqual(['the flange'])
  })
  it('says what was chosen, and changes nothing itself', async () => {
    const w = field({ value: 'corner' })
    await w.findAll('button')[0]!.trigger('click')
    expect(w.emitted('choose')).toEqual([['flange']])
    expect(pressed(w)).toEqual(['the corner'])
  })
  it('lets the standard be chosen, which stands pressed until something is', async () => {
    const w = field({ standard: 'flange' })
    expect(pressed(w)).toEqual(['the flange'])
    await w.findAll('button')[0]!.trigger('click')
    expect(w.emitted('choose')).toEqual([['flange']])
  })
  it('stays chosen when it is pressed again', async () => {
    const w = field({ value: 'corner' })
    await w.findAll('button')[1]!.trigger('click')
    expect(w.emitted('choose')).toEqual([['corner']])
    expect(pressed(w)).toEqual(['the corner'])
  })
  it('asks where one is needed', () => {
    expect(field({ needed: true }).text()).toContain('to be chosen')
    expect(field({ needed: true, standard: 'flange' }).text()).not.toContain('to be chosen')
    expect(field({ needed: true, value: 'flange' }).text()).not.toContain('to be chosen')
  })
  it('is a list where there are more than four', () => {
    const w = field({ options: options('a', 'b', 'c', 'd', 'e'), value: 'd' })
    expect(w.findAll('button')).toHaveLength(0)
    expect(w.text()).toContain('the d')
  })
})
