// An electrode with a memory: what is known of it by its serial number over all points that it served, whatever loop it
// is plugged in at.
import { onePointCalibration, phCalibration, verdictOf, type ElectrodeVerdict } from '../analysis/index.ts'
import { Refusal } from '../refusal/index.ts'

export const ELECTRODE_SORTS = ['ph', 'orp'] as const
export type ElectrodeSort = (typeof ELECTRODE_SORTS)[number]

/** A buffer, or a redox solution, as it was read. */
export interface MemoryPoint {
  /** As on the bottle. */
  readonly buffer: string
  /** Of the buffer as it was read; a redox solution's may not be. */
  readonly temp_C?: number
  /** pH of the buffer there; of a redox solution its potential, mV. */
  readonly is: number
  readonly mV: number
  /** The voltage was not read itself: it follows from what the device reported and the offset that it held. */
  readonly reckoned?: true
}

/** What happened to an electrode: the list of these is the whole truth of it. */
export type ElectrodeEvent =
  | {
      readonly what: 'entered'
      readonly sort: ElectrodeSort
      readonly serial: string
      /** What it is, in plain words. */
      readonly model: string
      /** Whether it keeps its calibration itself. */
      readonly memory: boolean
      /** Day until which its maker vouches for it unused (ISO 8601). */
      readonly bestBefore?: string | undefined
    }
  | {
      readonly what: 'calibrated'
      readonly points: readonly MemoryPoint[]
      /** Time to 95 % of a step between two buffers, s. */
      readonly response_s?: number | undefined
      /** Of the glass, brought to 25 °C. */
      readonly glass_MOhm?: number | undefined
      /** Day until which it may wait on the shelf with this calibration (ISO 8601). */
      readonly bestBefore?: string | undefined
      /** What it showed when it was read back after the calibration was written into it. */
      readonly readBack?: { readonly slopePercent?: number | undefined; readonly offset_mV: number } | undefined
    }
  | { readonly what: 'plugged-in'; readonly loopId: string; readonly tag: string }
  | { readonly what: 'taken-out'; readonly words: string }
  | { readonly what: 'retired'; readonly words: string }

/** An event with the moment it was put on record (ISO 8601). */
export type Dated<E> = E & { readonly at: string }

export interface MemoryCalibration {
  readonly at: string
  readonly points: readonly MemoryPoint[]
  /** % of the ideal slope; undefined of a redox electrode, which has none. */
  readonly slopePercent: number | undefined
  /** Whether that slope was read; in one buffer that of before only stays. */
  readonly slopeRead: boolean
  readonly offset_mV: number
  /** Mean of the temperatures that were read; undefined where none was. */
  readonly temp_C: number | undefined
  readonly verdict: ElectrodeVerdict
  readonly response_s: number | undefined
  readonly glass_MOhm: number | undefined
  readonly bestBefore: string | undefined
  /** Tag of the point where it was plugged in meanwhile; undefined at the bench. */
  readonly tag: string | undefined
}

export interface Electrode {
  readonly sort: ElectrodeSort
  readonly serial: string
  readonly model: string
  readonly memory: boolean
  readonly enteredAt: string
  readonly place:
    | { readonly at: 'shelf' }
    | { readonly at: 'point'; readonly loopId: string; readonly tag: string; readonly since: string }
    | { readonly at: 'retired'; readonly words: string }
  /** The newest best-before that was said, of the maker or of a calibration. */
  readonly bestBefore: string | undefined
  readonly calibrations: readonly MemoryCalibration[]
  readonly last: MemoryCalibration | undefined
  /** Days in service at points until a moment. */
  readonly served: readonly { readonly tag: string; readonly from: string; readonly to: string | undefined }[]
}

/** A redox electrode further off than this is worn, and further than twice this to be replaced, mV. */
const REDOX_OFF_mV = 15

/**
 * What a calibration makes of its points: slope and offset of pH in one to five buffers, the offset alone of a redox
 * electrode in its solution. One buffer keeps the slope of before, and there must be one.
 * @throws Refusal `points-too-close`, `no-slope`, `same-buffer`, `buffers-missing`
 */
export function calibrated(
  sort: ElectrodeSort,
  points: readonly MemoryPoint[],
  slopeBefore?: number,
): Pick<MemoryCalibration, 'slopePercent' | 'slopeRead' | 'offset_mV' | 'verdict'> {
  const [first, more] = points
  if (!first) throw new Refusal('buffers-missing', 'A calibration needs at least one buffer.')
  if (sort === 'orp') {
    const offset_mV = points.reduce((sum, p) => sum + p.mV - p.is, 0) / points.length
    const off = Math.abs(offset_mV)
    return {
      slopePercent: undefined,
      slopeRead: false,
      offset_mV,
      verdict: off <= REDOX_OFF_mV ? 'good' : off <= 2 * REDOX_OFF_mV ? 'worn' : 'replace',
    }
  }
  const temp_C = meanTemp_C(points)
  if (temp_C === undefined)
    throw new Refusal('value-missing', 'The temperature of each buffer belongs to a calibration of pH.')
  const read = points.map((p) => ({ ph: p.is, mV: p.mV }))
  if (!more) {
    if (slopeBefore === undefined)
      throw new Refusal('buffers-missing', 'One buffer keeps the slope of before, and none was ever read: take two.')
    const one = onePointCalibration({ point: { ph: first.is, mV: first.mV }, temp_C, slopePercent: slopeBefore })
    return { slopePercent: slopeBefore, slopeRead: false, offset_mV: one.offset_mV, verdict: one.verdict }
  }
  if (new Set(points.map((p) => p.buffer)).size < points.length)
    throw new Refusal('same-buffer', 'The same buffer stands there twice.')
  const { slopePercent, offset_mV } = phCalibration({ points: read, temp_C })
  return { slopePercent, slopeRead: true, offset_mV, verdict: verdictOf(slopePercent, offset_mV) }
}

/** Mean of the temperatures that were read; undefined where one was not. */
function meanTemp_C(points: readonly MemoryPoint[]): number | undefined {
  const read = points.flatMap((p) => (p.temp_C === undefined ? [] : [p.temp_C]))
  return read.length && read.length === points.length ? read.reduce((a, b) => a + b, 0) / read.length : undefined
}

/** What follows from events, oldest first. @throws Refusal `electrode-unknown`, and what makes an event impossible */
export function electrodeOf(events: readonly Dated<ElectrodeEvent>[]): Electrode {
  const [first, ...rest] = events
  if (first?.what !== 'entered') throw new Refusal('electrode-unknown', 'This electrode was never entered.')
  const { sort, serial, model, memory, bestBefore, at } = first
  const fresh: Electrode = {
    ...{ sort, serial, model, memory, bestBefore },
    enteredAt: at,
    place: { at: 'shelf' },
    calibrations: [],
    last: undefined,
    served: [],
  }
  return rest.reduce(afterEvent, fresh)
}

/** @throws Refusal `electrode-elsewhere`, `electrode-retired`, `electrode-not-there`, `electrode-known` */
export function afterEvent(e: Electrode, event: Dated<ElectrodeEvent>): Electrode {
  if (e.place.at === 'retired')
    throw new Refusal('electrode-retired', `Electrode ${e.serial} is out of use: ${e.place.words}.`)
  switch (event.what) {
    case 'entered':
      throw new Refusal('electrode-known', `Electrode ${e.serial} was entered before.`)
    case 'calibrated':
      return afterCalibration(e, event)
    case 'plugged-in':
      if (e.place.at === 'point' && e.place.loopId !== event.loopId)
        throw new Refusal(
          'electrode-elsewhere',
          `Electrode ${e.serial} is plugged in at ${e.place.tag}. Take it out there first.`,
        )
      // Plugged in where it is: read up again.
      if (e.place.at === 'point') return e
      return {
        ...e,
        place: { at: 'point', loopId: event.loopId, tag: event.tag, since: event.at },
        served: [...e.served, { tag: event.tag, from: event.at, to: undefined }],
      }
    case 'taken-out':
      if (e.place.at !== 'point')
        throw new Refusal('electrode-not-there', `Electrode ${e.serial} is plugged in nowhere.`)
      return { ...e, place: { at: 'shelf' }, served: closed(e.served, event.at) }
    case 'retired':
      return { ...e, place: { at: 'retired', words: event.words }, served: closed(e.served, event.at) }
  }
}

const closed = (served: Electrode['served'], at: string): Electrode['served'] =>
  served.map((s) => (s.to === undefined ? { ...s, to: at } : s))

function afterCalibration(e: Electrode, event: Dated<Extract<ElectrodeEvent, { what: 'calibrated' }>>): Electrode {
  const { points, response_s, glass_MOhm, bestBefore, at } = event
  const last: MemoryCalibration = {
    at,
    points,
    ...calibrated(e.sort, points, e.last?.slopePercent),
    temp_C: meanTemp_C(points),
    ...{ response_s, glass_MOhm, bestBefore },
    tag: e.place.at === 'point' ? e.place.tag : undefined,
  }
  return { ...e, last, calibrations: [...e.calibrations, last], bestBefore: bestBefore ?? e.bestBefore }
}
