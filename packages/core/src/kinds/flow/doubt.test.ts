// The trials of every flow's doubt against the law of propagation: each cause moved both ways by itself, their effects
// squared and added.
import { describe, expect, it } from 'vitest'
import { runTrials, type FlowModel, type Trials } from '../../flow/index.ts'
import { study } from '../../loop/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import { currentKindOf } from '../index.ts'

function run(model: FlowModel, n: number): Trials {
  const steps = runTrials(model, n, 23)
  for (;;) {
    const step = steps.next()
    if (step.done) return step.value
  }
}
/** Standard uncertainty of the first output. Source: JCGM 100, 5.1.2 */
function propagated(model: FlowModel): number {
  const values = model.inputs.map((i) => i.value)
  const moved = (n: number, by: number) => model.compute(values.map((v, i) => (i === n ? v + by : v)))[0]!
  const squares = model.inputs.map(({ tolerance, distribution }, n) => {
    if (tolerance === 0) return 0
    const u = tolerance / (distribution === 'normal' ? 2 : Math.sqrt(3))
    return ((moved(n, u) - moved(n, -u)) / 2) ** 2
  })
  return Math.sqrt(squares.reduce((a, b) => a + b, 0))
}

describe.each([
  ['orifice-dp', [{}, { edge: 'rounded', dpDoubt: '2 %' }, { bore: '72 mm', urv: '1500 kg/h', densityDoubt: '4 %' }]],
  ['coriolis', [{}, { zeroLimit: '400 ns' }]],
  ['thermal-insertion', [{}]],
  ['clamp-on', [{}, { setSpacing: '270 mm' }, { liner: 'none', disturbance: 'pump', upstream: '1 m' }]],
] as const)('the doubt of %s', (kind, rounds) => {
  it.each(rounds)('is what its causes make together, within 3 %%: %o', (changed) => {
    const model = study(currentKindOf(kind), demoEntries(kind, changed)).doubt!()!
    const { spread, value } = run(model, 40_000).results[0]!
    expect(spread / propagated(model)).toBeGreaterThan(0.97)
    expect(spread / propagated(model)).toBeLessThan(1.03)
    expect(Math.abs(value)).toBeGreaterThan(0)
  })
})
