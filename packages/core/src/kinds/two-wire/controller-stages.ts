// From the volts across the shunt to what the operator reads: card, converter channel, display.
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { straightStage, type Knot, type Stage } from '../../thread/index.ts'
import type { Reader } from '../reader.ts'
import { channelAt, endsOf, inputTypeOf, isConverter } from './input-type.ts'
import { entryOf, stageOr } from './stage-or.ts'

type Pair = readonly [low: number, high: number]
type Head = Pick<Stage, 'title' | 'causes'>

/** A scale that stages join: its unit, what it still needs, and its figure at a loop current. */
interface Scale {
  readonly unit: string
  readonly needs: readonly string[]
  /** @throws Refusal `no-span` */
  at(mA: number): number
}

const n = (v: number, unit: string) => show(v, unit, { trim: true })

const shuntNeeds = (r: Reader): readonly string[] =>
  (r.in('shunt', 'Ohm') ?? 1) <= 0 ? ['a shunt above 0 Ω'] : r.missing('shunt')

const voltsScale = (r: Reader): Scale => ({
  unit: 'V',
  needs: shuntNeeds(r),
  at: (mA) => (mA * entryOf(r, 'shunt', 'Ohm')) / 1000,
})

const countsScale = (r: Reader): Scale => ({
  unit: 'counts',
  needs: r.missing('countsLow', 'countsHigh'),
  at: (mA) => {
    const [low, high] = [entryOf(r, 'countsLow', 'counts'), entryOf(r, 'countsHigh', 'counts')]
    return low + ((mA - 4) / 16) * (high - low)
  },
})

const isCounted = (r: Reader): boolean => r.text('cardCounts') === 'shown'

/** Between two entries, the one at 4 mA and the other at 20 mA. */
const enteredScale = (r: Reader, low: string, high: string, unit: string): Scale => ({
  unit,
  needs: r.missing(low, high),
  at: (mA) => {
    const [a, b] = [entryOf(r, low, unit), entryOf(r, high, unit)]
    return a + ((mA - 4) / 16) * (b - a)
  },
})

/** What the display shows, as chosen. */
function displayScale(r: Reader, unit: string): Scale {
  switch (r.text('shows')) {
    case '%':
      return enteredScale(r, 'percentLow', 'percentHigh', '%')
    case 'mA':
      return { unit: 'mA', needs: [], at: (mA) => mA }
    case 'counts':
      return isCounted(r) ? countsScale(r) : { ...countsScale(r), needs: ['a raw number that is shown'] }
    default:
      return enteredScale(r, 'receiverLow', 'receiverHigh', unit)
  }
}

/** The controller's scale with a square root: none of the signal gives the low end, all of it the high end. */
function rootStage(head: Head, [low, high]: Pair, [a, b]: Pair, [from, to]: readonly [string, string]): Stage {
  if (low === high || a === b) throw new Refusal('zero-span', `${head.title} has no span.`)
  const root = (signal: number) => Math.sqrt(Math.max(0, (signal - low) / (high - low)))
  return {
    ...head,
    ready: true,
    forward: (signal) => a + root(signal) * (b - a),
    inverse: (value) => low + Math.max(0, (value - a) / (b - a)) ** 2 * (high - low),
    working: (signal) => ({
      title: 'What the controller shows',
      formula: 'value = low + √((N − N₄)/(N₂₀ − N₄)) · (high − low)',
      numbers:
        `${n(a, to)} + √((${show(signal, from)} − ${show(low, from)}) / ${show(high - low, from)}) × ` +
        `${n(b - a, to)} = ${show(a + root(signal) * (b - a), to)}`,
      source: 'The controller’s scale as entered, with square root',
    }),
  }
}

/** One scale onto another, joined at two points. */
function straight(head: Head, from: Pair, to: Pair, units: readonly [string, string]): Stage {
  const [fromUnit, toUnit] = units
  const [[low, high], [a, b]] = [from, to]
  const counts = fromUnit === 'counts'
  return straightStage({
    ...head,
    from,
    to,
    working: (x) => ({
      title: head.title === 'Channel scale' ? 'What the channel takes it for' : 'What the controller shows',
      formula: counts
        ? 'value = low + (N − N low)/(N high − N low) · (high − low)'
        : 'value = low + share of the scale before it · (high − low)',
      numbers:
        `${n(a, toUnit)} + (${show(x, fromUnit)} − ${n(low, fromUnit)}) / ${n(high - low, fromUnit)} × ` +
        `${n(b - a, toUnit)} = ${n(a + ((x - low) / (high - low)) * (b - a), toUnit)}`,
      source: counts ? 'The controller’s scale as entered' : 'The scales as entered',
    }),
  })
}

/** The raw number of the card, between its two as entered. */
function cardStage(r: Reader): Stage {
  const causes = ['input type or card range set wrong', 'card out of tolerance']
  const [volts, counts] = [voltsScale(r), countsScale(r)]
  return stageOr('Input card', causes, [...counts.needs, ...volts.needs], () => {
    const [v4, v20, n4, n20] = [volts.at(4), volts.at(20), counts.at(4), counts.at(20)]
    return straightStage({
      title: 'Input card',
      causes,
      from: [v4, v20],
      to: [n4, n20],
      working: (v) => ({
        title: 'Counts of the input card',
        formula: 'N = N₄ + (V − V₄)/(V₂₀ − V₄) · (N₂₀ − N₄)',
        numbers:
          `${n(n4, 'counts')} + (${show(v, 'V')} − ${show(v4, 'V')}) / ${show(v20 - v4, 'V')} × ` +
          `${n(n20 - n4, 'counts')} = ${show(n4 + ((v - v4) / (v20 - v4)) * (n20 - n4), 'counts')}`,
        source: 'The card’s counts at 4 and 20 mA as entered',
      }),
    })
  })
}

/** What a converter's channel takes the signal for: between the ends of its own input, whatever the loop's are. */
function channelStage(r: Reader, signal: Scale, unit: string): Stage {
  const title = 'Channel scale'
  const causes = ['channel scaled differently from the transmitter', 'input type of the channel changed']
  const type = inputTypeOf(r)
  const needs = [
    ...signal.needs,
    ...r.missing('channelLow', 'channelHigh'),
    ...(type ? [] : ['an input type of the channel']),
    ...(type?.takes === 'voltage' ? shuntNeeds(r) : []),
  ]
  return stageOr(title, causes, [...new Set(needs)], () => {
    if (!type) throw new Refusal('no-span', 'The channel has no input type.')
    const [low, high] = endsOf(type, type.takes === 'voltage' ? entryOf(r, 'shunt', 'Ohm') : 1)
    const to = [entryOf(r, 'channelLow', unit), entryOf(r, 'channelHigh', unit)] as const
    return straight({ title, causes }, [signal.at(low), signal.at(high)], to, [signal.unit, unit])
  })
}

/** What a display shows of a channel: scale on scale where it has one of its own, the current where it shows that. */
function shownOfChannel(r: Reader, head: Head, unit: string, root: boolean): Stage {
  const display = displayScale(r, unit)
  const scaled = ['engineering units', '%'].includes(r.text('shows'))
  const needs = [...r.missing('channelLow', 'channelHigh', 'shunt'), ...display.needs]
  return stageOr(head.title, head.causes, needs, () => {
    const at = (mA: number) => channelAt(r, mA, unit) ?? entryOf(r, 'channelLow', unit)
    const from: Pair = scaled ? [entryOf(r, 'channelLow', unit), entryOf(r, 'channelHigh', unit)] : [at(4), at(20)]
    const make = root ? rootStage : straight
    return make(head, from, [display.at(4), display.at(20)], [unit, display.unit])
  })
}

/** Knots and stages from the volts across the shunt to the controller. */
export function controllerStages(
  r: Reader,
  shows: Pick<Knot, 'quantity' | 'unit'>,
  root: boolean,
): { knots: Knot[]; stages: Stage[] } {
  const unit = r.missing('receiverHigh').length ? shows.unit : r.unit('receiverHigh')
  const channelUnit = r.text('shows') === 'engineering units' ? unit : r.unit('channelHigh')
  const display = displayScale(r, unit)
  const quantity = ({ '%': 'ratio', mA: 'current', counts: 'count' } as const)[display.unit]
  const decimals = ({ '%': 2, mA: 3, counts: 0, m: 3, mm: 0 } as const)[display.unit] ?? 1
  const controller: Knot = {
    id: 'controller',
    role: 'controller',
    name: 'Controller shows',
    explains: 'What the operator trusts.',
    ...(r.text('shows') === 'engineering units' || !quantity ? { quantity: shows.quantity } : { quantity }),
    unit: display.unit,
    decimals,
  }
  const counts: Knot = {
    id: 'counts',
    role: 'counts',
    name: 'Card counts',
    explains: 'The input card’s raw number.',
    quantity: 'count',
    unit: 'counts',
    decimals: 0,
  }
  const channel: Knot = {
    ...controller,
    id: 'channel',
    role: 'counts',
    name: 'Converter channel',
    explains: 'What the converter itself takes the signal for.',
    quantity: shows.quantity,
    unit: channelUnit,
    decimals: channelUnit === 'm' ? 3 : channelUnit === 'mm' ? 0 : 1,
  }
  const signal = isCounted(r) ? countsScale(r) : voltsScale(r)
  const causes = ['controller scaled differently from the transmitter']
  const converter = isConverter(r)
  const last = converter
    ? shownOfChannel(r, { title: 'Display scale', causes }, channelUnit, root)
    : stageOr('Receiver scale', causes, [...signal.needs, ...display.needs], () => {
        const head = { title: 'Receiver scale', causes }
        const make = root ? rootStage : straight
        return make(head, [signal.at(4), signal.at(20)], [display.at(4), display.at(20)], [signal.unit, display.unit])
      })
  return {
    knots: [...(isCounted(r) ? [counts] : []), ...(converter ? [channel] : []), controller],
    stages: [
      ...(isCounted(r) ? [cardStage(r)] : []),
      ...(converter ? [channelStage(r, signal, channelUnit)] : []),
      last,
    ],
  }
}
