import { mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import { describe, expect, it } from 'vitest'
import { createVuetify } from 'vuetify'
import QuantityField from './QuantityField.vue'

const field = (props: object = {}) =>
  mount(QuantityField, {
    props: {
      label: 'Tank depth',
      quantity: 'length',
      unit: 'mm',
      help: 'From the inside bottom.',
      standard: '0 mm',
      ...props,
    },
    global: { plugins: [createVuetify(), createPinia()] },
  })
const says = (w: ReturnType<typeof field>) => w.find('.says').text()

describe('the quantity field', () => {
  it('explains itself and its standard while empty', () => {
    expect(says(field())).toBe('From the inside bottom. 0 mm unless entered.')
  })
  it('shows what it understood when that is not what stands there', async () => {
    const w = field()
    await w.find('input').setValue('3,2 m')
    expect(says(w)).toBe('3.2 m = 3200 mm')
    expect(w.emitted('entry')?.at(-1)).toEqual([{ typed: '3,2 m', value: 3.2, unit: 'm' }])
    await w.find('input').setValue('12 ft 6 in')
    expect(says(w)).toBe('12.5 ft = 3810 mm')
    const plain = field()
    await plain.find('input').setValue('3200')
    expect(says(plain)).toBe('')
  })
  it('takes a bare number in the unit that stands beside it, and keeps which was meant', async () => {
    const w = field()
    const input = () => w.find('input').element as HTMLInputElement
    const suffix = () => w.find('.v-text-field__suffix__text').text()
    await w.find('input').setValue('24 in')
    await w.find('input').setValue('24')
    expect([input().value, suffix()]).toEqual(['24', 'in'])
    const kept = { typed: '24 in', value: 24, unit: 'in' }
    expect(w.emitted('entry')?.at(-1)).toEqual([kept])
    // What comes back from the record is not put under the hand.
    await w.setProps({ entry: kept })
    expect(input().value).toBe('24')
    await w.find('input').setValue('')
    expect([w.emitted('entry')?.at(-1), suffix()]).toEqual([[{ typed: '' }], 'in'])
    await w.find('input').setValue('610 mm')
    await w.find('input').setValue('611')
    expect(w.emitted('entry')?.at(-1)).toEqual([{ typed: '611', value: 611, unit: 'mm' }])
    await w.setProps({ entry: { typed: '3 ft', value: 3, unit: 'ft' } })
    expect(input().value).toBe('3 ft')
    await w.find('input').setValue('4')
    expect(w.emitted('entry')?.at(-1)).toEqual([{ typed: '4 ft', value: 4, unit: 'ft' }])
  })
  it('refuses nonsense in words, keeps it, and still hands it on as typed', async () => {
    const w = field()
    await w.find('input').setValue('3 kg/h')
    expect(says(w)).toContain('measures mass flow')
    expect(w.find('input').attributes('aria-invalid')).toBe('true')
    expect((w.find('input').element as HTMLInputElement).value).toBe('3 kg/h')
    expect(w.emitted('entry')?.at(-1)).toEqual([{ typed: '3 kg/h' }])
  })
  it('asks which is meant, and takes the one that is chosen', async () => {
    const w = field({ quantity: 'volume-flow', unit: 'm3/h', label: 'Flow' })
    await w.find('input').setValue('1,500 gpm')
    expect(says(w)).toContain('in two ways')
    expect(w.emitted('entry')?.at(-1)).toEqual([{ typed: '1,500 gpm' }])
    const choices = w.findAll('.choices button')
    expect(choices.map((b) => b.text())).toEqual(['1500 gpm', '1.500 gpm'])
    await choices[0]!.trigger('click')
    expect(w.emitted('entry')?.at(-1)).toEqual([{ typed: '1500 gpm', value: 1500, unit: 'gpm' }])
    expect(w.findAll('.choices button')).toHaveLength(0)
  })
  it('offers the gauge pressure that an absolute one would be', async () => {
    const w = field({ quantity: 'pressure', unit: 'bar', reference: 'gauge', label: 'Pressure' })
    await w.find('input').setValue('8 bara')
    expect(says(w)).toContain('gauge is wanted here')
    await w.find('.choices button').trigger('click')
    expect(w.emitted('entry')?.at(-1)).toEqual([{ typed: '6.98675 barg', value: 6.98675, unit: 'barg' }])
  })
  it('follows its entry when that is changed from elsewhere', async () => {
    const w = field({ entry: { typed: '1 m', value: 1, unit: 'm' } })
    await w.setProps({ entry: { typed: '2 m', value: 2, unit: 'm' } })
    expect((w.find('input').element as HTMLInputElement).value).toBe('2 m')
  })
  it('says when it is needed, and tells of Enter and of Backspace on nothing', async () => {
    const w = field({ needed: true })
    expect(w.find('label').text()).toContain('to be entered')
    await w.find('input').trigger('keydown', { key: 'Enter' })
    await w.find('input').trigger('keydown', { key: 'Backspace' })
    await w.find('input').setValue('1')
    await w.find('input').trigger('keydown', { key: 'Backspace' })
    expect([w.emitted('enter')?.length, w.emitted('back')?.length]).toEqual([1, 1])
  })
})
