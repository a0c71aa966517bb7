import { study } from '@calm-loop/core/loop'
import { describe, expect, it } from 'vitest'
import { judgeLoop, resultOf, type WholeJudgement } from '@calm-loop/core/check'
import { currentKindOf, switchKindOf } from '@calm-loop/core/kinds'
import { demoEntries } from '../../core/src/kinds/demo-entries.fixture.ts'
import { errorPlot, placeOnScale, plottedOf, switchDrawing, toSvg, type ErrorPlotInput, type Shape } from './index.ts'

const input: ErrorPlotInput = {
  readings: [],
  tolerancePct: 0.5,
  filled: false,
  planned: [0, 50, 100],
  width: 500,
  height: 260,
}
const marks = (i: ErrorPlotInput) => errorPlot(i).shapes.filter((s) => s.kind === 'rect' && s.stroke === 'signal')

describe('the error plot', () => {
  it('grows by a mark with each reading, up higher for a larger error', () => {
    const readings = [0.1, 0.4].map((errorPct, i) => ({ percent: i * 50, direction: 'up' as const, errorPct }))
    const [a, b] = marks({ ...input, readings }) as { y: number; x: number }[]
    expect(b!.y).toBeLessThan(a!.y)
    expect(b!.x).toBeGreaterThan(a!.x)
    expect(marks(input)).toHaveLength(0)
  })
  it('keeps every mark inside the drawing, however large the error', () => {
    for (const errorPct of [0.01, 1, 40, -900])
      for (const m of marks({ ...input, readings: [{ percent: 100, direction: 'down', errorPct }] }) as {
        x: number
        y: number
      }[]) {
        expect(m.y).toBeGreaterThan(20)
        expect(m.y).toBeLessThan(input.height - 40)
        expect(m.x).toBeLessThan(input.width)
      }
  })
  it('draws only places that share the tolerance drawn, that of the place which errs most against its own', () => {
    const known = study(currentKindOf('pressure'), demoEntries('pressure'))
    const judged = (mA: number, controller: number): WholeJudgement => {
      const reading = { id: 'r', pointIndex: 0, percent: 50, direction: 'up' as const, applied: 300 }
      const loop = judgeLoop([{ ...reading, reads: { current: mA, controller } }], known.thread, {
        standardAt: 'process',
        tolerancePct: 0.5,
        controllerTolerancePct: 2,
        rule: 'simple',
      })!
      return { judged: loop.judged, result: resultOf(loop.judged, 0.5), loop }
    }
    const near = plottedOf(judged(12.064, 305.4), 0.5)
    expect(near).toMatchObject({ tolerancePct: 0.5, readings: [{ percent: 50 }] })
    expect(near.readings[0]!.errorPct).toBeCloseTo(0.4, 6)
    const far = plottedOf(judged(12.016, 318), 0.5)
    expect(far.tolerancePct).toBe(2)
    expect(far.readings[0]!.errorPct).toBeCloseTo(3, 6)
    expect(plottedOf(null, 0.5)).toEqual({ readings: [], tolerancePct: 0.5 })
  })
  it('keeps its key inside however narrow it is', () => {
    const readings = [{ percent: 50, direction: 'up' as const, errorPct: 0.1, u_pct: 0.05 }]
    for (const width of [320, 400, 459, 460, 700]) {
      const key = errorPlot({ ...input, readings, width }).shapes.find(
        (s) => s.kind === 'text' && s.text.startsWith('up'),
      )
      // Seven units of width a letter at this size, rather too many.
      expect((key as { text: string; x: number }).x - 7 * (key as { text: string }).text.length).toBeGreaterThan(0)
    }
  })
  it('says in words what it shows', () => {
    expect(errorPlot({ ...input, readings: [{ percent: 25, direction: 'up', errorPct: -0.3 }] }).title).toContain(
      '−0.300 % of span at 25 % up',
    )
  })
  it('writes text that cannot break out of the drawing', () => {
    expect(
      toSvg(
        { width: 1, height: 1, title: '<b>&', shapes: [{ kind: 'text', x: 0, y: 0, text: '</svg><script>', size: 9 }] },
        () => 'f',
      ),
    ).not.toMatch(/<b>|<script>/)
  })
})

it('holds a value beyond a scale at its end and says which way', () => {
  expect(placeOnScale(50, 0, 100)).toEqual({ at: 0.5, beyond: 0 })
  expect(placeOnScale(500, 0, 100)).toMatchObject({ beyond: 1 })
  expect(placeOnScale(5, 0, -100)).toMatchObject({ at: -0.05, beyond: 0 })
  expect(placeOnScale(1, 2, 2)).toBeUndefined()
})

describe('the drawing of a discrete point', () => {
  const kind = switchKindOf('discrete-sensor')
  const draw = (changed: Record<string, string>, width = 900) =>
    switchDrawing(
      study(kind, demoEntries(kind.id, changed)).run,
      { output: changed['output'] ?? 'PNP', meansTrue: 'closed' },
      width,
    )
  const flowing = (shapes: readonly Shape[]) =>
    shapes.filter((s) => s.kind === 'path' && s.opacity !== undefined).length
  const words = (shapes: readonly Shape[]) => shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))

  it('lets current flow on the side where the sensor conducts, and nowhere in a mismatch', () => {
    const left = (s: Shape) => s.kind === 'path' && Number(/^M([\d.]+)/.exec(s.d)?.[1]) < 450
    const { shapes } = draw({ leakage: '0 mA' })
    expect(flowing(shapes.filter(left))).toBeGreaterThan(3)
    expect(flowing(shapes.filter((s) => !left(s)))).toBe(0)
    expect(flowing(draw({ output: 'NPN', leakage: '0 mA' }).shapes)).toBe(0)
  })
  it('says volts, milliamps and what the controller reads, on both sides', () => {
    const said = words(draw({}).shapes)
    expect(said).toEqual(
      expect.arrayContaining([
        'Target present',
        'Target absent',
        '22.2 V',
        '4.0 mA',
        'input on',
        'controller true: closed',
        'input off',
      ]),
    )
  })
  it('stays on its sheet for every way and width', () => {
    for (const between of ['nothing', 'bias resistor', 'relay, NO contact', 'relay, NC contact'])
      for (const common of ['negative', 'positive'])
        for (const width of [500, 1100]) {
          const { shapes, height } = draw(
            { output: 'NPN', between, common, extraOhm: '2200', extraTo: 'positive' },
            width,
          )
          for (const s of shapes)
            if ('x' in s) {
              expect(s.x).toBeGreaterThanOrEqual(0)
              expect(s.x).toBeLessThanOrEqual(width)
              expect(s.y).toBeLessThanOrEqual(height)
            }
        }
  })
})

describe('how sure a plotted error is', () => {
  const at = (more: object) =>
    errorPlot({ ...input, readings: [{ percent: 50, direction: 'up', errorPct: 0.4, ...more }] })
  const bars = (scene: ReturnType<typeof at>) =>
    scene.shapes.filter((s) => s.kind === 'line' && s.stroke === 'signal') as {
      y1: number
      y2: number
      x1: number
      x2: number
    }[]
  const words = (scene: ReturnType<typeof at>) => scene.shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))
  it('is a bar of the expanded uncertainty, twice as long for twice as much', () => {
    const length = (u_pct: number) => {
      const [bar] = bars(errorPlot({ ...input, readings: [{ percent: 50, direction: 'up', errorPct: 0.1, u_pct }] }))
      return bar!.y2 - bar!.y1
    }
    expect(length(0.1)).toBeCloseTo(2 * length(0.05), 9)
    expect(bars(at({}))).toEqual([])
  })
  it('is a probability where that is a question, inside the drawing at either edge', () => {
    expect(words(at({ u_pct: 0.1, probabilityInside: 0.84 }))).toContain('84 %')
    const plain = words(at({})).length
    expect(words(at({ u_pct: 0.01, probabilityInside: 0.999 }))).toHaveLength(plain)
    for (const direction of ['up', 'down'] as const) {
      const scene = errorPlot({
        ...input,
        readings: [{ percent: 100, direction, errorPct: 0.4, u_pct: 0.1, probabilityInside: 0.5 }],
      })
      const text = scene.shapes.find((s) => s.kind === 'text' && s.text === '50 %' && s.size === 13)
      expect(text).toMatchObject({ anchor: 'end' })
    }
  })
  it('makes room for the whole bar', () => {
    const scene = at({ errorPct: 1, u_pct: 0.6 })
    for (const bar of bars(scene)) expect(Math.min(bar.y1, bar.y2)).toBeGreaterThan(20)
  })
})
