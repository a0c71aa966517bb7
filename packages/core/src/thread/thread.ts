// The thread: one instant's value at every knot of a loop, from the process to the controller's screen.
import { Refusal } from '../refusal/index.ts'
import { fromSi, toSi, type QuantityName } from '../quantity/index.ts'
import type { Working } from '../working/index.ts'

export type KnotRole = 'process' | 'sensor' | 'digital' | 'current' | 'input' | 'counts' | 'controller'

/** A place on the loop at which a value can be known. */
export interface Knot {
  readonly id: string
  readonly role: KnotRole
  /** What stands there, e.g. `Loop current`. */
  readonly name: string
  /** One line for the newcomer. */
  readonly explains: string
  readonly quantity: QuantityName
  /** Unit in which its values are given and shown. */
  readonly unit: string
  readonly decimals: number
}

/** Between two neighbouring knots: how a value becomes the next one's, and what goes wrong there. */
export type Stage = {
  /** What it is, e.g. `Range setting`. */
  readonly title: string
  /** What can make the reading part from the expectation here. */
  readonly causes: readonly string[]
} & (
  | {
      readonly ready: true
      /** From the left knot's value to the right one's, each in its knot's unit. May refuse. */
      readonly forward: (value: number) => number
      readonly inverse: (value: number) => number
      readonly working?: (value: number) => Working
    }
  | {
      readonly ready: false
      /** Names of the entries still missing. */
      readonly needs: readonly string[]
    }
)

/** Knots from the process to the controller, and the stages between them (one fewer). */
export interface Thread {
  readonly knots: readonly Knot[]
  readonly stages: readonly Stage[]
  /** Where no current carries the value: the knot whose values at the range's ends are known, and those. */
  readonly ends?: { readonly knotId: string; readonly low: number; readonly high: number } | undefined
}

export type KnotValue =
  | { readonly known: true; readonly value: number }
  | { readonly known: false; readonly why: 'needs' | 'outside'; readonly says: string }

/** Place of a knot in the thread. @throws Refusal `unknown-knot` */
export function knotIndex(thread: Thread, knotId: string): number {
  const index = thread.knots.findIndex((knot) => knot.id === knotId)
  if (index < 0) throw new Refusal('unknown-knot', `This loop has no knot called “${knotId}”.`)
  return index
}

/** The first two of a list, and how many more. */
function fewWords(words: readonly string[]): string {
  return words.length > 3 ? `${words.slice(0, 2).join(', ')} and ${words.length - 2} more` : words.join(', ')
}

function pass(from: KnotValue, stage: Stage, direction: 'forward' | 'inverse'): KnotValue {
  if (!stage.ready) return { known: false, why: 'needs', says: `needs ${fewWords(stage.needs)}` }
  if (!from.known) return from
  try {
    const value = stage[direction](from.value)
    return Number.isFinite(value)
      ? { known: true, value }
      : { known: false, why: 'outside', says: 'outside what can be computed' }
  } catch (error) {
    if (error instanceof Refusal) return { known: false, why: 'outside', says: error.message }
    throw error
  }
}

/**
 * The expected value at every knot, from the value at one. The given value comes back exactly as given; a knot that
 * cannot be known says why.
 * @throws Refusal `unknown-knot`
 */
export function spread(thread: Thread, knotId: string, value: number): KnotValue[] {
  const at = knotIndex(thread, knotId)
  const values: KnotValue[] = new Array(thread.knots.length)
  values[at] = { known: true, value }
  for (let i = at + 1; i < thread.knots.length; i++) values[i] = pass(values[i - 1]!, thread.stages[i - 1]!, 'forward')
  for (let i = at - 1; i >= 0; i--) values[i] = pass(values[i + 1]!, thread.stages[i]!, 'inverse')
  return values
}

/** Each knot's value at the range's low and high end: the ends of its scale. Undefined where it cannot be known. */
export function knotScales(thread: Thread): { low: number | undefined; high: number | undefined }[] {
  const current = thread.knots.findIndex((knot) => knot.role === 'current')
  const { ends: own } = thread
  const ends =
    current >= 0
      ? [4, 20].map((mA) => spread(thread, thread.knots[current]!.id, mA))
      : own
        ? [own.low, own.high].map((v) => spread(thread, own.knotId, v))
        : [[], []]
  return thread.knots.map((_, i) => {
    const [low, high] = ends.map((values) => {
      const v = values[i]
      return v?.known ? v.value : undefined
    })
    return withoutDust(low, high)
  })
}

/** The ends of a scale to one part in 10¹² of the greater of them: an end that is reckoned back to 0 is 0. */
function withoutDust(low: number | undefined, high: number | undefined) {
  const greatest = Math.max(Math.abs(low ?? 0), Math.abs(high ?? 0))
  const digits = greatest > 0 ? Math.min(100, Math.max(0, 11 - Math.floor(Math.log10(greatest)))) : 0
  const [l, h] = [low, high].map((v) => (v === undefined ? v : Number(v.toFixed(digits)) + 0))
  return { low: l, high: h }
}

/** Where readings part from the expectation: between which read knots, by how much, and what can cause it. */
export interface Departure {
  readonly from: string
  readonly to: string
  /** Error that arises between the two knots, per cent of the right knot's span. */
  readonly errorPct: number
  readonly causes: readonly string[]
}

/**
 * For each pair of neighbouring knots that were read: the error that arises between them, judging the right one by
 * what was read at the left one.
 * @param reads value by knot id, in the knot's unit
 */
export function departures(thread: Thread, reads: Readonly<Record<string, number>>): Departure[] {
  const scales = knotScales(thread)
  const read = thread.knots.map((knot, i) => ({ knot, i })).filter(({ knot }) => reads[knot.id] !== undefined)
  const found: Departure[] = []
  for (let n = 1; n < read.length; n++) {
    const a = read[n - 1]!
    const b = read[n]!
    const expected = spread(thread, a.knot.id, reads[a.knot.id]!)[b.i]!
    const { low, high } = scales[b.i]!
    if (!expected.known || low === undefined || high === undefined || low === high) continue
    found.push({
      from: a.knot.id,
      to: b.knot.id,
      errorPct: (100 * (reads[b.knot.id]! - expected.value)) / (high - low),
      causes: thread.stages.slice(a.i, b.i).flatMap((stage) => stage.causes),
    })
  }
  return found
}

/** A stage given in SI, between knots of any unit of the same quantities. */
export function siStage(
  fromUnit: string,
  toUnit: string,
  stage: {
    title: string
    causes: readonly string[]
    forward: (si: number) => number
    inverse: (si: number) => number
    working?: (si: number) => Working
  },
): Stage {
  const { working } = stage
  return {
    title: stage.title,
    causes: stage.causes,
    ready: true,
    forward: (value) => fromSi(stage.forward(toSi(value, fromUnit)), toUnit),
    inverse: (value) => fromSi(stage.inverse(toSi(value, toUnit)), fromUnit),
    ...(working ? { working: (value: number) => working(toSi(value, fromUnit)) } : {}),
  }
}

/** A straight line through two points, between knots: the most common stage. @throws Refusal `zero-span` */
export function straightStage({
  title,
  causes,
  from,
  to,
  working,
}: {
  readonly title: string
  readonly causes: readonly string[]
  readonly from: readonly [number, number]
  readonly to: readonly [number, number]
  readonly working?: ((value: number) => Working) | undefined
}): Stage {
  if (from[0] === from[1] || to[0] === to[1]) throw new Refusal('zero-span', `${title} has no span.`)
  const slope = (to[1] - to[0]) / (from[1] - from[0])
  return {
    title,
    causes,
    ready: true,
    forward: (value) => to[0] + (value - from[0]) * slope,
    inverse: (value) => from[0] + (value - to[0]) / slope,
    ...(working ? { working } : {}),
  }
}

/**
 * A stage behind which a meter reports nothing for what lies below its cutoff. The way back is the stage’s own: what
 * reads 0 was 0.
 * @param cutoff in the right knot’s unit, above 0; undefined: none
 * @param below whether a value to the left lies below it, where that is not told by the value to the right
 */
export function withCutoff(stage: Stage, cutoff: number | undefined, below?: (value: number) => boolean): Stage {
  if (!stage.ready || cutoff === undefined) return stage
  const { forward, working } = stage
  const cut = (value: number) => (below ? below(value) : Math.abs(forward(value)) < cutoff)
  return {
    ...stage,
    forward: (value) => (cut(value) ? 0 : forward(value)),
    ...(working
      ? {
          working: (value: number) => {
            const made = working(value)
            return cut(value) ? { ...made, numbers: `${made.numbers}; below the low-flow cutoff: 0` } : made
          },
        }
      : {}),
  }
}
