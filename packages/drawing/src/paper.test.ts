// What is drawn for paper: the thread as a strip, the wiring laid out and drawn, a scene as SVG.
import { currentKindOf, KINDS, type CurrentKind } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { addDevice, energise, INSULATION, takeOut, typeOf, type Wiring } from '@calm-loop/core/wiring'
import Elk from 'elkjs/lib/elk.bundled.js'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../core/src/kinds/demo-entries.fixture.ts'
import {
  boxHeight,
  labelPoint,
  namePlace,
  layoutWiring,
  paperTones,
  roundedPath,
  rowAt,
  sidesOf,
  threadStrip,
  tracePlot,
  toSvg,
  wiringDrawing,
  type Scene,
  type Shape,
  type StripKnot,
} from './index.ts'

const elk = new Elk()
const currents = KINDS.filter((k): k is CurrentKind => k.family === 'current')
const of = (id: string, changed: Record<string, string> = {}) => study(currentKindOf(id), demoEntries(id, changed))
const texts = (scene: Scene) => scene.shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))
const circles = (scene: Scene, fill: string) =>
  scene.shapes.filter((s): s is Shape & { kind: 'circle' } => s.kind === 'circle' && s.fill === fill)

/** The thread of a loop at a share of its range, with what was read at some knots. */
function strip(id: string, share: number, reads: Readonly<Record<string, number>> = {}): StripKnot[] {
  const s = of(id)
  const { low, high } = s.scales[0]!
  const expected = s.expect(s.thread.knots[0]!.id, low! + share * (high! - low!))
  return s.thread.knots.map((knot, i) => ({ knot, ...s.scales[i]!, expected: expected[i]!, read: reads[knot.id] }))
}

describe('the thread as a strip', () => {
  it.each(currents.map((k) => k.id))('%s: a ring and a figure for every knot that is known', (id) => {
    const knots = strip(id, 0.5)
    const scene = threadStrip(knots, 520, 170)
    expect(circles(scene, 'sheet')).toHaveLength(knots.filter((k) => k.expected.known && k.low !== k.high).length)
    expect(circles(scene, 'signal')).toHaveLength(0)
    for (const { knot } of knots) expect(texts(scene)).toContain(knot.name)
    expect(texts(scene).join(' ')).not.toMatch(/NaN|undefined|Infinity/)
  })
  it('puts a dot where something was read: above its ring when it reads high', () => {
    const knots = strip('level-from-above', 0.5, { current: 14, controller: 1500 })
    const scene = threadStrip(knots, 520, 170)
    const [dot] = circles(scene, 'signal')
    const ring = circles(scene, 'sheet').find((r) => r.x === dot!.x)!
    expect(dot!.y).toBeLessThan(ring.y)
    expect(circles(scene, 'signal')).toHaveLength(2)
  })
  it('shows a dash, and no ring, where nothing can be known', () => {
    const [first, ...rest] = strip('level-from-above', 0.5)
    const unknown: StripKnot = { ...first!, expected: { known: false, says: 'needs tank depth', needs: [] } as never }
    const scene = threadStrip([unknown, ...rest], 520, 170)
    expect(texts(scene)).toContain('—')
    expect(circles(scene, 'sheet')).toHaveLength(rest.filter((k) => k.expected.known).length)
  })
  it('keeps all of it on its sheet, whatever was read', () => {
    for (const read of [-1e9, 0, 4, 25, 1e9])
      for (const s of threadStrip(strip('rtd-head', 0.2, { current: read }), 520, 170).shapes)
        if ('y' in s) {
          expect(s.y).toBeGreaterThan(0)
          expect(s.y).toBeLessThanOrEqual(170)
        }
  })
})

describe('the wiring laid out', () => {
  const wirings: [string, Wiring][] = currents.map((k) => [k.id, of(k.id).desk.wiring])

  it.each(wirings)('%s: no two devices overlap, and conductors end at their terminals', async (_, wiring) => {
    const layout = await layoutWiring(wiring, elk)
    expect(layout.devices.map((d) => d.id).sort()).toEqual(wiring.devices.map((d) => d.id).sort())
    for (const a of layout.devices)
      for (const b of layout.devices)
        if (a !== b) {
          const apart = a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y
          expect(apart, `${a.id} and ${b.id}`).toBe(true)
        }
    for (const placed of layout.conductors) {
      const conductor = wiring.conductors.find((c) => c.id === placed.id)!
      const ends = [
        [conductor.from, placed.fromSide, placed.points[0]!],
        [conductor.to, placed.toSide, placed.points.at(-1)!],
      ] as const
      for (const [ref, side, at] of ends) {
        const [id, terminal] = ref.split(':')
        const box = layout.devices.find((d) => d.id === id)!
        const row = typeOf(wiring.devices.find((d) => d.id === id)!)!.terminals.findIndex((t) => t.id === terminal)
        expect(Math.abs(at.x - (side === 'left' ? box.x : box.x + box.width)), ref).toBeLessThan(1.5)
        expect(Math.abs(at.y - (box.y + rowAt(row))), ref).toBeLessThan(1.5)
      }
    }
  })
  it('takes the room that there is, and does without when there is none', async () => {
    const wiring = wirings[0]![1]
    const [narrow, wide] = [await layoutWiring(wiring, elk, 300), await layoutWiring(wiring, elk, 2000)]
    expect(wide.width).toBeGreaterThan(narrow.width)
  })
  it('stacks what stands in one place, and leaves out conductors that end nowhere', async () => {
    const wiring = wirings[0]![1]
    const loose = { ...wiring, conductors: [...wiring.conductors, { ...wiring.conductors[0]!, id: 'C99', to: 'XX:1' }] }
    const layout = await layoutWiring(loose, elk)
    expect(layout.conductors.some((c) => c.id === 'C99')).toBe(false)
  })
  it('says by which sides a conductor leaves: out of the earlier column, back to the same device on one side', () => {
    const wiring = wirings[0]![1]
    const [a, b] = [wiring.conductors[0]!.from, wiring.conductors[0]!.to]
    const there = sidesOf(wiring, a, b)
    const back = sidesOf(wiring, b, a)
    expect([back.toSide, back.fromSide]).toEqual([there.fromSide, there.toSide])
    expect(sidesOf(wiring, a, a)).toEqual({ fromSide: 'right', toSide: 'right' })
    expect(sidesOf(wiring, 'XX:1', 'YY:1').fromSide).toBe('right')
  })
  it('gives a device the height of its rows', () => {
    const [one, two] = [...wirings[0]![1].devices]
      .sort((x, y) => typeOf(x)!.terminals.length - typeOf(y)!.terminals.length)
      .slice(-2)
    expect(boxHeight(two!) - boxHeight(one!)).toBe(
      rowAt(typeOf(two!)!.terminals.length) - rowAt(typeOf(one!)!.terminals.length),
    )
  })
})

describe('a run through points', () => {
  it('is nothing for one point, straight for two, rounded at every corner', () => {
    expect(roundedPath([{ x: 1, y: 2 }])).toBe('')
    expect(
      roundedPath([
        { x: 0, y: 0 },
        { x: 10, y: 0 },
      ]),
    ).toBe('M0 0L10 0')
    const bent = roundedPath([
      { x: 0, y: 0 },
      { x: 40, y: 0 },
      { x: 40, y: 40 },
    ])
    expect(bent).toBe('M0 0L33 0Q40 0 40 7L40 40')
    // Two points at one place make no corner that is no number.
    expect(
      roundedPath([
        { x: 0, y: 0 },
        { x: 0, y: 0 },
        { x: 9, y: 0 },
      ]),
    ).not.toContain('NaN')
  })
  it('has its name in the middle of its longest level stretch', () => {
    const points = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 10, y: 50 },
      { x: 90, y: 50 },
    ]
    expect(labelPoint(points)).toEqual({ x: 50, y: 50, length: 80 })
    expect(labelPoint([]).length).toBe(-1)
  })
})

describe('the name of a conductor on the page', () => {
  const across = { fromSide: 'right', toSide: 'left' } as const
  const linked = { fromSide: 'right', toSide: 'right' } as const
  const link = [
    { x: 100, y: 20 },
    { x: 114, y: 20 },
    { x: 114, y: 60 },
    { x: 100, y: 60 },
  ]
  it('stands beside a link between two terminals of one device, never under it', () => {
    expect(namePlace(link, linked)).toEqual({ x: 114, y: 40, beside: 'right' })
    const left = link.map((p) => ({ x: 200 - p.x, y: p.y }))
    expect(namePlace(left, { fromSide: 'left', toSide: 'left' })).toEqual({ x: 86, y: 40, beside: 'left' })
  })
  it('stands on the run where there is room, and where it goes across', () => {
    const wide = link.map((p) => ({ ...p, x: p.x === 114 ? 180 : p.x }))
    expect(namePlace(wide, linked)).toEqual({ x: 140, y: 20 })
    expect(namePlace(link, across)).toEqual({ x: 107, y: 20 })
    expect(namePlace([], linked)).toEqual({ x: 0, y: 0 })
  })
})

describe('the wiring on paper', () => {
  const entries = of('level-from-above')
  const { wiring, conditions } = entries.desk
  const drawn = async (w: Wiring, powered = true) => {
    const energised = powered ? energise({ wiring: w, conditions: { ...conditions, mA: 12 } }) : undefined
    return wiringDrawing('LT-112', w, await layoutWiring(w, elk), energised)
  }
  it('names every device and terminal, with volts where they can be told', async () => {
    const scene = await drawn(wiring)
    for (const device of wiring.devices) {
      expect(texts(scene)).toContain(device.name)
      for (const t of typeOf(device)!.terminals) expect(texts(scene)).toContain(t.id)
    }
    expect(texts(scene).filter((t) => / V$/.test(t)).length).toBeGreaterThan(4)
    expect(texts(await drawn(wiring, false)).filter((t) => / V$/.test(t))).toEqual([])
  })
  it('draws each conductor in the colour of its insulation', async () => {
    const strokes = (await drawn(wiring)).shapes.flatMap((s) =>
      s.kind === 'path' && typeof s.stroke === 'object' ? [s.stroke.colour] : [],
    )
    const ended = wiring.conductors.filter((c) => c.from && c.to)
    expect(strokes).toHaveLength(ended.length)
    for (const c of ended) expect(strokes).toContain(INSULATION[c.colour ?? ''] ?? '#cfcabb')
  })
  it('draws what was changed by hand: one conductor less, one device more', async () => {
    const fewer = takeOut(wiring, wiring.conductors[0]!.id)
    expect(texts(await drawn(fewer, false))).not.toContain(wiring.conductors[0]!.id)
    const more = addDevice(wiring, 'fuse')
    const added = more.devices.find((d) => !wiring.devices.some((w) => w.id === d.id))!
    expect(texts(await drawn(more, false))).toContain(added.id)
  })
  it('is SVG that says what it shows, with every sign escaped', async () => {
    const scene = await drawn(wiring)
    const svg = toSvg(scene, (_, mono) => (mono ? 'figures' : 'words'))
    expect(svg).toMatch(/^<svg .*<title>[^<]+<\/title>/)
    expect(svg).not.toMatch(/NaN|undefined/)
    const odd: Scene = {
      width: 1,
      height: 1,
      title: 'a < b & c',
      shapes: [
        { kind: 'text', x: 0, y: 0, text: '<&>', size: 9 },
        { kind: 'line', x1: 0, y1: 0, x2: 1, y2: 1, stroke: 'ink', dash: '2 2', opacity: 0.5 },
      ],
    }
    const text = toSvg(odd, () => 'words')
    expect(text).toContain('<title>a &lt; b &amp; c</title>')
    expect(text).toContain('>&lt;&amp;&gt;</text>')
    expect(text).toContain(`stroke="${paperTones.ink}" stroke-width="1" stroke-dasharray="2 2" opacity="0.5"`)
  })
})

describe('the trace of a survey', () => {
  const row = (minute: number, flow: number | null) => [minute * 60_000, flow, 0, null, null] as const
  const plot = (rows: readonly (readonly [number, number | null, number, null, null])[]) =>
    tracePlot({ rows, interval_s: 60, unit: 'm3/h', width: 600, height: 200, clock: (ms) => `${ms / 60_000} min` })
  const paths = (scene: Scene) => scene.shapes.filter((s) => s.kind === 'path' && s.stroke === 'signal')
  it('names its unit, its time and its ends, and breaks where nobody logged', () => {
    const scene = plot([row(0, 10), row(1, 20), row(2, 12), row(40, 5), row(41, null), row(42, 7), row(43, 8)])
    expect(texts(scene)).toEqual(expect.arrayContaining(['flow, m³/h', '0 min', '43 min']))
    expect(paths(scene)).toHaveLength(3)
    expect(scene.title).toBe('Flow of the survey in m³/h: between 0 and 20, in 3 stretches.')
  })
  it('keeps every peak of a hundred thousand rows, with no more points than it has room for', () => {
    const rows = Array.from({ length: 100_000 }, (_, i) => row(i, i === 54_321 ? 99 : 10 + Math.sin(i)))
    const [path] = paths(plot(rows)) as { d: string }[]
    const heights = path!.d.split('L').map((p) => Number(p.replace('M', '').split(' ')[1]))
    expect(heights.length).toBeLessThan(1300)
    expect(Math.min(...heights)).toBeLessThan(45)
  })
  it('of nothing is an empty frame without a bad figure', () => {
    for (const rows of [[], [row(3, null)], [row(3, 4)]])
      expect(JSON.stringify(plot(rows))).not.toMatch(/NaN|null|undefined|Infinity/)
  })
})
