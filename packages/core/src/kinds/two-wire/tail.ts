// The thread of a two-wire point from its digital value to the controller.
import { formatQuantity as show, type QuantityName } from '../../quantity/index.ts'
import { straightStage, type Knot, type Stage, type Thread } from '../../thread/index.ts'
import type { Reader } from '../reader.ts'
import { controllerStages } from './controller-stages.ts'
import { stageOr, entryOf } from './stage-or.ts'

/** Where a tail is not the plain one. */
export interface TailTerms {
  /** Digital values at 4 and 20 mA, where they are not the range values as entered. */
  readonly ends?: readonly [number, number]
  /** What the controller shows, where it is another quantity than the digital value. */
  readonly shows?: { readonly quantity: QuantityName; readonly unit: string }
  /** The controller takes the square root of the signal. */
  readonly root?: boolean
}

/**
 * A value on a bus: the controller shows the digital value itself, in its own unit. No current, no scale in between.
 */
function busTail(
  r: Reader,
  digital: Knot,
  terms: TailTerms,
): { knots: Knot[]; stages: Stage[]; ends?: Thread['ends'] } {
  const causes = [
    'another device answers at this address',
    'value taken in another unit',
    'stale value: the bus is cut',
  ]
  const [low, high] = terms.ends ?? [r.in('lrv', digital.unit), r.in('urv', digital.unit)]
  return {
    knots: [
      {
        ...digital,
        id: 'controller',
        role: 'controller',
        name: 'Controller shows',
        explains: 'What the operator trusts.',
      },
    ],
    stages: [
      straightStage({
        title: 'Bus value',
        causes,
        from: [0, 1],
        to: [0, 1],
        working: (v) => ({
          title: 'What the controller shows',
          formula: 'shown = digital value',
          numbers: `${show(v, digital.unit)} = ${show(v, digital.unit)}`,
          source: 'A bus carries the value itself',
        }),
      }),
    ],
    ...(low === undefined || high === undefined ? {} : { ends: { knotId: digital.id, low, high } }),
  }
}

/** Where an output stands still beyond its range, mA (NAMUR NE 43). */
const SATURATES_mA = [3.8, 20.5] as const

/** A value beyond the range drives the current no further than an output goes; back it is the line’s own. */
function saturating(stage: Stage): Stage {
  if (!stage.ready) return stage
  const [low, high] = SATURATES_mA
  const { forward, working } = stage
  const held = (mA: number) => Math.min(high, Math.max(low, mA))
  return {
    ...stage,
    forward: (value) => held(forward(value)),
    ...(working
      ? {
          working: (value: number) => {
            const made = working(value)
            const mA = forward(value)
            if (held(mA) === mA) return made
            const numbers = `${made.numbers}; the output stands still at ${show(held(mA), 'mA', { trim: true })}`
            return { ...made, numbers, source: 'IEC 60381-1; saturation after NAMUR NE 43' }
          },
        }
      : {}),
  }
}

/**
 * Knots and stages from the digital value to the controller. `digital` stands at the left; its range values must be in
 * its unit.
 */
export function currentTail(
  r: Reader,
  digital: Knot,
  terms: TailTerms = {},
): { knots: Knot[]; stages: Stage[]; ends?: Thread['ends'] } {
  if (r.text('output') === 'digital bus') return busTail(r, digital, terms)
  const shows = terms.shows ?? digital
  const behind = controllerStages(r, shows, terms.root ?? false)
  const knots: Knot[] = [
    {
      id: 'current',
      role: 'current',
      name: 'Loop current',
      explains: 'What a milliammeter in the loop reads.',
      quantity: 'current',
      unit: 'mA',
      decimals: 3,
    },
    {
      id: 'volts',
      role: 'input',
      name: 'Across the shunt',
      explains: 'What a voltmeter across the receiver’s resistor reads.',
      quantity: 'voltage',
      unit: 'V',
      decimals: 3,
    },
    ...behind.knots,
  ]
  const shunt = r.in('shunt', 'Ohm')
  const n = (v: number, unit: string) => show(v, unit, { trim: true })
  const rangeCauses = ['range set differently from the record', 'current trim off', 'output saturated or in fault']
  const shuntCauses = ['shunt of another value', 'leakage or short on a core', 'a second receiver in parallel']
  return {
    knots,
    stages: [
      stageOr('Range setting', rangeCauses, r.missing('lrv', 'urv'), () => {
        const [lrv, urv] = terms.ends ?? [entryOf(r, 'lrv', digital.unit), entryOf(r, 'urv', digital.unit)]
        const stage = straightStage({
          title: 'Range setting',
          causes: rangeCauses,
          from: [lrv, urv],
          to: [4, 20],
          working: (value) => ({
            title: 'Loop current',
            formula: 'I = 4 mA + 16 mA · (value − lower)/(upper − lower)',
            numbers:
              `4 mA + 16 mA × (${n(value, digital.unit)} − ${n(lrv, digital.unit)}) / (${n(urv, digital.unit)} − ` +
              `${n(lrv, digital.unit)}) = ${show(4 + (16 * (value - lrv)) / (urv - lrv), 'mA')}`,
            source: 'IEC 60381-1, the 4–20 mA signal',
          }),
        })
        return saturating(stage)
      }),
      stageOr(
        'Receiver shunt',
        shuntCauses,
        shunt !== undefined && shunt <= 0 ? ['a shunt above 0 Ω'] : r.missing('shunt'),
        () => {
          const ohm = entryOf(r, 'shunt', 'Ohm')
          return straightStage({
            title: 'Receiver shunt',
            causes: shuntCauses,
            from: [0, 1],
            to: [0, ohm / 1000],
            working: (mA) => ({
              title: 'Volts across the shunt',
              formula: 'V = I · R',
              numbers: `${show(mA, 'mA')} × ${n(ohm, 'Ohm')} = ${show((mA * ohm) / 1000, 'V')}`,
              source: 'Ohm’s law',
            }),
          })
        },
      ),
      ...behind.stages,
    ],
  }
}
