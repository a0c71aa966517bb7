// The thread of a two-wire point from its digital value to the controller.
import { formatQuantity as show, type QuantityName } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { straightStage, type Knot, type Stage, type Thread } from '../../thread/index.ts'
import type { Reader } from '../reader.ts'
import { inSentence } from '../../words/index.ts'
import { sure } from '../../sure/index.ts'

const notReady = (title: string, causes: readonly string[], needs: readonly string[]): Stage => ({
  title,
  causes,
  ready: false,
  needs,
})

/** A stage when all it needs is there and it has a span, else one that says what it needs. */
export function stageOr(title: string, causes: readonly string[], needs: readonly string[], make: () => Stage): Stage {
  if (needs.length) return notReady(title, causes, needs)
  const stage = attempt(make)
  return stage instanceof Refusal ? notReady(title, causes, [`${inSentence(title)} with a span`]) : stage
}

/**
 * An entry that a stage stands on.
 * @throws Refusal `no-span` where a choice that is none leaves its field out, so that nobody asks for it
 */
function entryOf(r: Reader, key: string, unit: string): number {
  const value = r.in(key, unit)
  if (value === undefined) throw new Refusal('no-span', 'There is no such field while a choice before it is open.')
  return value
}

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

/** The controller's scale with a square root: none of the signal gives the low end, all of it the high end. */
function rootStage(head: Pick<Stage, 'title' | 'causes'>, from: Pair, to: Pair, unit: string): Stage {
  const [[low, high], [a, b], { title, causes }] = [from, to, head]
  if (low === high || a === b) throw new Refusal('zero-span', `${title} has no span.`)
  const root = (counts: number) => Math.sqrt(Math.max(0, (counts - low) / (high - low)))
  return {
    title,
    causes,
    ready: true,
    forward: (counts) => a + root(counts) * (b - a),
    inverse: (value) => low + Math.max(0, (value - a) / (b - a)) ** 2 * (high - low),
    working: (counts) => ({
      title: 'What the controller shows',
      formula: 'value = low + √((N − N₄)/(N₂₀ − N₄)) · (high − low)',
      numbers:
        `${show(a, unit, { trim: true })} + √((${show(counts, 'counts')} − ${show(low, 'counts')}) / ` +
        `${show(high - low, 'counts')}) × ${show(b - a, unit, { trim: true })} = ` +
        `${show(a + root(counts) * (b - a), unit)}`,
      source: 'The controller’s scale as entered, with square root',
    }),
  }
}

type Pair = readonly [low: number, high: number]
type Ends = readonly [low: string, high: string, unit: string]

/** One scale onto another, between the entries of its ends. */
function scaleOf({
  r,
  title,
  causes,
  from,
  to,
  root,
}: {
  readonly r: Reader
  readonly title: string
  readonly causes: readonly string[]
  readonly from: Ends
  readonly to: Ends
  readonly root: boolean | undefined
}): Stage {
  return stageOr(title, causes, r.missing(from[0], from[1], to[0], to[1]), () => {
    const [low, high] = [entryOf(r, from[0], from[2]), entryOf(r, from[1], from[2])]
    const [a, b] = [entryOf(r, to[0], to[2]), entryOf(r, to[1], to[2])]
    if (root) return rootStage({ title, causes }, [low, high], [a, b], to[2])
    const n = (v: number, unit: string) => show(v, unit, { trim: true })
    const counts = from[2] === 'counts'
    return straightStage({
      title,
      causes,
      from: [low, high],
      to: [a, b],
      working: (x) => ({
        title: title === 'Channel scale' ? 'What the channel takes it for' : 'What the controller shows',
        formula: counts
          ? 'value = low + (N − N₄)/(N₂₀ − N₄) · (high − low)'
          : 'value = low + share of the channel’s scale · (high − low)',
        numbers:
          `${n(a, to[2])} + (${show(x, from[2])} − ${n(low, from[2])}) / ${n(high - low, from[2])} × ` +
          `${n(b - a, to[2])} = ${n(a + ((x - low) / (high - low)) * (b - a), to[2])}`,
        source: counts ? 'The controller’s scale as entered' : 'The scales as entered',
      }),
    })
  })
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
  const controllerUnit = r.missing('receiverHigh').length ? shows.unit : r.unit('receiverHigh')
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
    {
      id: 'counts',
      role: 'counts',
      name: 'Card counts',
      explains: 'The input card’s raw number.',
      quantity: 'count',
      unit: 'counts',
      decimals: 0,
    },
    {
      id: 'controller',
      role: 'controller',
      name: 'Controller shows',
      explains: 'What the operator trusts.',
      quantity: shows.quantity,
      unit: controllerUnit,
      decimals: controllerUnit === 'm' ? 3 : controllerUnit === 'mm' ? 0 : 1,
    },
  ]
  // A converter stands between: what it takes the current for is a knot of its own, and the display scales that.
  const converter = r.text('receiver').startsWith('converter')
  const controller = sure(knots.at(-1))
  if (converter)
    knots.splice(-1, 0, {
      ...controller,
      id: 'channel',
      role: 'counts',
      name: 'Converter channel',
      explains: 'What the converter itself takes the current for.',
    })
  const shunt = r.in('shunt', 'Ohm')
  const n = (v: number, unit: string) => show(v, unit, { trim: true })
  const rangeCauses = ['range set differently from the record', 'current trim off', 'output saturated or in fault']
  const shuntCauses = ['shunt of another value', 'leakage or short on a core', 'a second receiver in parallel']
  const cardCauses = ['input type or card range set wrong', 'card out of tolerance']
  const scaleCauses = ['controller scaled differently from the transmitter']
  return {
    knots,
    stages: [
      stageOr('Range setting', rangeCauses, r.missing('lrv', 'urv'), () => {
        const [lrv, urv] = terms.ends ?? [entryOf(r, 'lrv', digital.unit), entryOf(r, 'urv', digital.unit)]
        return straightStage({
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
      stageOr('Input card', cardCauses, [...r.missing('countsLow', 'countsHigh'), ...r.missing('shunt')], () => {
        const ohm = entryOf(r, 'shunt', 'Ohm')
        const [low, high] = [entryOf(r, 'countsLow', 'counts'), entryOf(r, 'countsHigh', 'counts')]
        return straightStage({
          title: 'Input card',
          causes: cardCauses,
          from: [(4 * ohm) / 1000, (20 * ohm) / 1000],
          to: [low, high],
          working: (v) => ({
            title: 'Counts of the input card',
            formula: 'N = N₄ + (V − V₄)/(V₂₀ − V₄) · (N₂₀ − N₄)',
            numbers:
              `${n(low, 'counts')} + (${show(v, 'V')} − ${show((4 * ohm) / 1000, 'V')}) / ` +
              `${show((16 * ohm) / 1000, 'V')} × ${n(high - low, 'counts')} = ` +
              `${show(low + ((v - (4 * ohm) / 1000) / ((16 * ohm) / 1000)) * (high - low), 'counts')}`,
            source: 'The card’s counts at 4 and 20 mA as entered',
          }),
        })
      }),
      ...(converter
        ? [
            scaleOf({
              r,
              title: 'Channel scale',
              causes: ['channel scaled differently from the transmitter', 'input type of the channel changed'],
              from: ['countsLow', 'countsHigh', 'counts'],
              to: ['channelLow', 'channelHigh', controllerUnit],
              root: false,
            }),
            scaleOf({
              r,
              title: 'Display scale',
              causes: scaleCauses,
              from: ['channelLow', 'channelHigh', controllerUnit],
              to: ['receiverLow', 'receiverHigh', controllerUnit],
              root: terms.root,
            }),
          ]
        : [
            scaleOf({
              r,
              title: 'Receiver scale',
              causes: scaleCauses,
              from: ['countsLow', 'countsHigh', 'counts'],
              to: ['receiverLow', 'receiverHigh', controllerUnit],
              root: terms.root,
            }),
          ]),
    ],
  }
}
