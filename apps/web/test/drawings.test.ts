// The drawing of every kind: of complete, half-entered and odd data it shows a picture and no figure that is none.
import { KINDS, kindOf, type Entries } from '@calm-loop/core/kinds'
import { knotScales } from '@calm-loop/core/thread'
import { describe, expect, it } from 'vitest'
import { nextTick, type Component } from 'vue'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { useFolder } from '../src/stores/folder.ts'
import { useThread } from '../src/stores/thread.ts'
import { open, parts, show } from './panel.ts'

const drawings = Object.fromEntries(
  Object.entries(import.meta.glob<{ default: Component }>('../src/kinds/*/PointDrawing.vue', { eager: true })).map(
    ([path, module]) => [path.split('/').at(-2)!, module.default],
  ),
)
const drawn = KINDS.map((k) => k.id).filter((id) => drawings[id])
const NOT_A_FIGURE = /NaN|Infinity|undefined|\[object/

parts()

/** All that a drawing says and all that it draws with. */
function everything(root: Element): string {
  return [root, ...root.querySelectorAll('*')]
    .flatMap((e) => [...e.attributes].map((a) => `${a.name}="${a.value}"`))
    .concat(root.textContent ?? '')
    .join('\n')
}
function draw(kind: string, entries: Entries) {
  open({ kind, entries })
  return show(drawings[kind]!)
}

it('every kind has a drawing of its own', () => {
  expect(KINDS.map((k) => k.id).filter((id) => !drawings[id])).toEqual([])
  expect(drawn.length).toBeGreaterThan(12)
})

describe.each(drawn)('the drawing of %s', (id) => {
  const complete = demoEntries(id)
  it('is a picture with words of its own for those who do not see it', () => {
    const { element } = draw(id, complete)
    const pictures = [...(element as Element).parentElement!.querySelectorAll('svg')]
    expect(pictures.length).toBeGreaterThan(0)
    for (const svg of pictures) {
      const hidden = svg.closest('[aria-hidden=true]') !== null
      const named = (svg.getAttribute('aria-label') ?? svg.querySelector('title')?.textContent ?? '').trim()
      expect(hidden || named.length > 3).toBe(true)
    }
    expect(everything(element as Element)).not.toMatch(NOT_A_FIGURE)
  })
  it('is drawn while any one entry is missing, and while none is there', async () => {
    const wrapper = draw(id, complete)
    const folder = useFolder()
    for (const key of Object.keys(complete)) {
      const { [key]: _, ...rest } = complete
      folder.entries = rest
      await nextTick()
      expect(everything(wrapper.element as Element), `without ${key}`).not.toMatch(NOT_A_FIGURE)
    }
    folder.entries = {}
    await nextTick()
    expect(everything(wrapper.element as Element), 'empty').not.toMatch(NOT_A_FIGURE)
  })
  it('bears what nobody should have entered', async () => {
    const wrapper = draw(id, complete)
    const folder = useFolder()
    const quantities = kindOf(id).fields.filter((f) => f.type === 'quantity' && complete[f.key]?.value !== undefined)
    for (const [i, field] of quantities.entries()) {
      const value = [0, -1, 1e9][i % 3]!
      const { unit = '' } = complete[field.key]!
      folder.entries = { ...complete, [field.key]: { typed: `${value} ${unit}`, value, unit } }
      await nextTick()
      expect(everything(wrapper.element as Element), `${field.key} ${value}`).not.toMatch(NOT_A_FIGURE)
    }
  })
  it('follows the thread from end to end', async () => {
    const wrapper = draw(id, complete)
    const thread = useThread()
    if (!thread.thread) return
    const [scale] = knotScales(thread.thread)
    const process = thread.thread.knots[0]!
    for (const share of [-0.2, 0, 0.01, 0.5, 1, 1.2]) {
      thread.hold(process.id, scale!.low! + share * (scale!.high! - scale!.low!))
      await nextTick()
      expect(everything(wrapper.element as Element), String(share)).not.toMatch(NOT_A_FIGURE)
    }
  })
})

it('a small pipe whose marks lie far from the beam’s exits is drawn between its marks', () => {
  const small = { od: '26.9 mm', wall: '2.6 mm', material: 'carbon-steel', liner: 'none', faceOffset: '20 mm' }
  const wrapper = draw('clamp-on', demoEntries('clamp-on', { ...small, liquid: 'water', transducer: 'S1' }))
  const figures = (path: string) => [...path.matchAll(/-?[\d.]+/g)].map((m) => Number(m[0]))
  const [from, , to] = figures(wrapper.find('path.dim').attributes('d')!)
  const [exit] = figures(wrapper.find('path.beam').attributes('d')!)
  const [first] = figures(wrapper.find('path.mark').attributes('d')!)
  expect(exit).toBeGreaterThan(from! + 20)
  expect(exit).toBeLessThan(to! - 20)
  expect(first).toBe(from)
  expect(wrapper.findAll('circle.chosen')).toHaveLength(1)
  const pitch = wrapper.findAll('circle').map((c) => Number(c.attributes('cx')))
  expect(pitch[0]).toBeCloseTo(from!, 6)
})
