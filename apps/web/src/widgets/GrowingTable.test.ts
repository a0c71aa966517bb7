import { flushPromises, mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { h, type VNodeRef } from 'vue'
import { createVuetify } from 'vuetify'
import GrowingTable from './GrowingTable.vue'

interface Row {
  id: number
  name: string
}
const rows = (n: number): Row[] => Array.from({ length: n }, (_, id) => ({ id, name: `row ${id}` }))
const table = (
  items: Row[],
  more: object = {},
  columns: readonly { title: string; hidden?: boolean }[] = [{ title: 'Name' }, { title: 'Change', hidden: true }],
) =>
  mount(GrowingTable, {
    props: { columns, items, keyOf: (item: object) => (item as Row).id, ...more },
    slots: {
      row: ({ item, at }: { item: object; at?: VNodeRef }) =>
        h('tr', { ...(at ? { ref: at } : {}), class: 'row' }, h('td', (item as Row).name)),
    },
    global: { plugins: [createVuetify()] },
  })
const names = (w: ReturnType<typeof table>) => w.findAll('.row').map((r) => r.text())
async function drawn(): Promise<void> {
  await import('./virtualTable.ts')
  await flushPromises()
}

describe('a list that can grow', () => {
  it('shows every row of a short list, under its headings', () => {
    const w = table(rows(3))
    expect(names(w)).toEqual(['row 0', 'row 1', 'row 2'])
    expect(w.findAll('th').map((h) => h.text())).toEqual(['Name', 'Change'])
    expect(w.find('th:nth-child(2) .visually-hidden').exists()).toBe(true)
    expect(w.find('th:nth-child(1) .visually-hidden').exists()).toBe(false)
  })
  it('draws only what is in view of ten thousand, once it can, and the first of them until then', async () => {
    const w = table(rows(10_000))
    expect(names(w)).toHaveLength(40)
    await drawn()
    expect(w.find('.long').exists()).toBe(true)
    expect(names(w).length).toBeGreaterThan(4)
    expect(names(w).length).toBeLessThan(120)
    expect(names(w)[0]).toBe('row 0')
    expect(w.findAll('th').map((h) => h.text())).toEqual(['Name', 'Change'])
  })
  it('asks for more when it is scrolled near its end, and not before', async () => {
    const w = table(rows(200))
    await drawn()
    const box = w.find('.v-table__wrapper')
    const laidOut = (scrollTop: number) => {
      for (const [name, value] of Object.entries({ scrollHeight: 9000, clientHeight: 500, scrollTop }))
        Object.defineProperty(box.element, name, { value, configurable: true })
      return box.trigger('scroll')
    }
    await laidOut(2000)
    expect(w.emitted('end')).toBeUndefined()
    await laidOut(8200)
    expect(w.emitted('end')).toHaveLength(1)
  })
  it('lays out every row when the table for many cannot be had', async () => {
    const w = table(rows(200), { load: () => Promise.reject(new Error('out of coverage')) })
    expect(names(w)).toHaveLength(40)
    await flushPromises()
    expect(names(w)).toHaveLength(200)
    expect(w.find('.long').exists()).toBe(false)
  })
  it('is never so tall that many rows fit, so that it can be scrolled to the next ones', async () => {
    Object.defineProperty(window, 'innerHeight', { value: 4000, configurable: true })
    const w = table(rows(50))
    await drawn()
    expect(Number.parseFloat(w.find<HTMLElement>('.v-table__wrapper').element.style.height)).toBe(1200)
  })
  it('goes back to a plain table when a filter leaves few', async () => {
    const w = table(rows(200))
    await drawn()
    await w.setProps({ items: rows(2) })
    expect(names(w)).toEqual(['row 0', 'row 1'])
    expect(w.find('.long').exists()).toBe(false)
  })
})
