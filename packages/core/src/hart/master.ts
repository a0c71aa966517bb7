// A HART master: one request at a time, tried again when nothing comes, and everything else that is heard told apart.
// A state, an event, a time in; the next state and what is to be done out. No clock of its own.
import { EVERY_DEVICE, encodeFrame, type Frame, type Master, type Received } from './frame.ts'
import { CODE } from './status.ts'
import { EMPTY_STREAM, feed, type HartStream } from './stream.ts'

export interface MasterSetup {
  readonly master: Master
  /** How often a request is sent before it is given up. */
  readonly tries: number
  /** From the end of a request to the first byte of its answer, ms. */
  readonly answerWithin_ms: number
  /** Silence that ends a half frame, ms. */
  readonly gap_ms: number
  /** Time of a byte on the line, ms; 0 where somebody else keeps the line’s time. */
  readonly byte_ms: number
  /** How long a busy device is waited out, ms. */
  readonly busyFor_ms: number
}
export const USUAL_MASTER: MasterSetup = {
  master: 'primary',
  tries: 4,
  answerWithin_ms: 420,
  gap_ms: 150,
  byte_ms: 0,
  busyFor_ms: 10_000,
}
/** Between two asks of a busy device, ms. */
const BUSY_AGAIN_ms = 500
/** After an exchange that needed more than one try, answers that come late are let go by, ms. */
const REST_ms = 800

/** Why there is no answer: nothing came, bytes that are no frame, frames of others only, or busy for too long. */
export type Unanswered = 'silence' | 'noise' | 'others' | 'busy'

export interface Counts {
  readonly sent: number
  readonly answered: number
  /** Tries beyond the first. */
  readonly again: number
  readonly unanswered: number
  /** Bytes that belong to no frame. */
  readonly junk: number
  readonly bursts: number
  /** Requests of another master, and answers to it. */
  readonly otherMaster: number
  /** Answers of other devices, or to an earlier request. */
  readonly strays: number
}
export const NO_COUNTS: Counts = {
  sent: 0,
  answered: 0,
  again: 0,
  unanswered: 0,
  junk: 0,
  bursts: 0,
  otherMaster: 0,
  strays: 0,
}

interface Asked {
  readonly request: Frame
  readonly preambles: number
  readonly begun_ms: number
  /** When the try under way was sent; the answer is due from its end. */
  readonly sent_ms: number
  readonly tries: number
  readonly most: number
  readonly within_ms: number
  /** Since when it says that it is busy. */
  readonly busySince_ms?: number | undefined
  /** When it is to be sent (again): it is not on its way. */
  readonly sendAt_ms?: number | undefined
  readonly junkBefore: number
  readonly othersBefore: number
}
export interface MasterState {
  readonly stream: HartStream
  readonly counts: Counts
  readonly asked?: Asked | undefined
  readonly restUntil_ms: number
}
export const IDLE_MASTER: MasterState = { stream: EMPTY_STREAM, counts: NO_COUNTS, restUntil_ms: 0 }

export type MasterEvent =
  | {
      readonly kind: 'ask'
      readonly request: Frame
      readonly preambles: number
      readonly tries?: number
      readonly within_ms?: number
    }
  | { readonly kind: 'bytes'; readonly bytes: Uint8Array }
  | { readonly kind: 'time' }
  | { readonly kind: 'drop' }
export type MasterAct =
  | { readonly kind: 'send'; readonly bytes: Uint8Array }
  | { readonly kind: 'answer'; readonly frame: Received; readonly tries: number; readonly took_ms: number }
  | { readonly kind: 'unanswered'; readonly why: Unanswered; readonly tries: number; readonly took_ms: number }
  | { readonly kind: 'burst'; readonly frame: Received }
  | { readonly kind: 'heard'; readonly frame: Received }

const plus = (counts: Counts, more: Partial<Counts>): Counts => {
  const sum = { ...counts }
  for (const [key, n] of Object.entries(more) as [keyof Counts, number][]) sum[key] += n
  return sum
}
const others = (c: Counts) => c.otherMaster + c.strays

const sameAddress = (a: Frame, b: Frame): boolean =>
  JSON.stringify(a.address) === JSON.stringify(b.address) ||
  // To everybody: answered with its own address, or with that.
  ('long' in a.address && a.address.long === EVERY_DEVICE && 'long' in b.address)
const answers = (request: Frame, got: Received): boolean =>
  got.type === 'response' &&
  got.master === request.master &&
  got.command === request.command &&
  sameAddress(request, got)

interface Step {
  readonly state: MasterState
  readonly acts: readonly MasterAct[]
}

function send(state: MasterState, asked: Asked, now_ms: number): Step {
  const bytes = encodeFrame(asked.request, asked.preambles)
  return {
    state: {
      ...state,
      counts: plus(state.counts, { sent: 1, again: asked.tries > 0 ? 1 : 0 }),
      asked: { ...asked, sent_ms: now_ms, tries: asked.tries + 1, sendAt_ms: undefined },
    },
    acts: [{ kind: 'send', bytes }],
  }
}
/** When the answer to the try under way must have begun. */
const dueAt = (asked: Asked, setup: MasterSetup): number =>
  asked.sent_ms + asked.within_ms + setup.byte_ms * (asked.preambles + 10 + asked.request.data.length)

function whyNot(state: MasterState, asked: Asked): Unanswered {
  if (asked.busySince_ms !== undefined) return 'busy'
  if (others(state.counts) > asked.othersBefore) return 'others'
  return state.counts.junk > asked.junkBefore ? 'noise' : 'silence'
}
function ended(state: MasterState, asked: Asked, now_ms: number): MasterState {
  return { ...state, asked: undefined, restUntil_ms: asked.tries > 1 ? now_ms + REST_ms : 0 }
}
function giveUp(state: MasterState, asked: Asked, now_ms: number): Step {
  const why = whyNot(state, asked)
  return {
    state: { ...ended({ ...state, counts: plus(state.counts, { unanswered: 1 }) }, asked, now_ms), restUntil_ms: 0 },
    acts: [{ kind: 'unanswered', why, tries: asked.tries, took_ms: now_ms - asked.begun_ms }],
  }
}

function atTime(state: MasterState, now_ms: number, setup: MasterSetup): Step {
  const { asked } = state
  if (!asked) return { state, acts: [] }
  if (asked.sendAt_ms !== undefined) return now_ms >= asked.sendAt_ms ? send(state, asked, now_ms) : { state, acts: [] }
  // An answer that has begun is let to its end.
  const coming = state.stream.held.length > 0 && now_ms - state.stream.at_ms <= setup.gap_ms
  if (now_ms < dueAt(asked, setup) || coming) return { state, acts: [] }
  return asked.tries < asked.most ? send(state, asked, now_ms) : giveUp(state, asked, now_ms)
}

function heard(state: MasterState, frame: Received, now_ms: number, setup: MasterSetup): Step {
  const { asked } = state
  if (frame.type === 'burst')
    return { state: { ...state, counts: plus(state.counts, { bursts: 1 }) }, acts: [{ kind: 'burst', frame }] }
  if (frame.type === 'request' || frame.master !== setup.master)
    return { state: { ...state, counts: plus(state.counts, { otherMaster: 1 }) }, acts: [{ kind: 'heard', frame }] }
  if (!asked || asked.sendAt_ms !== undefined || !answers(asked.request, frame))
    return { state: { ...state, counts: plus(state.counts, { strays: 1 }) }, acts: [{ kind: 'heard', frame }] }
  if (frame.status?.[0] === CODE.busy) {
    const busySince_ms = asked.busySince_ms ?? now_ms
    if (now_ms - busySince_ms > setup.busyFor_ms) return giveUp(state, { ...asked, busySince_ms }, now_ms)
    // Waited out apart from the tries.
    const again = { ...asked, busySince_ms, tries: asked.tries - 1, sendAt_ms: now_ms + BUSY_AGAIN_ms }
    return { state: { ...state, asked: again }, acts: [{ kind: 'heard', frame }] }
  }
  return {
    state: ended({ ...state, counts: plus(state.counts, { answered: 1 }) }, asked, now_ms),
    acts: [{ kind: 'answer', frame, tries: asked.tries, took_ms: now_ms - asked.begun_ms }],
  }
}

function atBytes(state: MasterState, bytes: Uint8Array, now_ms: number, setup: MasterSetup): Step {
  const { stream, frames, junk } = feed(state.stream, bytes, now_ms, setup.gap_ms)
  let next: MasterState = { ...state, stream, counts: plus(state.counts, { junk }) }
  const acts: MasterAct[] = []
  for (const frame of frames) {
    const step = heard(next, frame, now_ms, setup)
    next = step.state
    acts.push(...step.acts)
  }
  return { state: next, acts }
}

/** What becomes of a master by an event at a time (ms, any origin). A request is asked only while none is under way. */
export function masterStep(state: MasterState, event: MasterEvent, now_ms: number, setup: MasterSetup): Step {
  switch (event.kind) {
    case 'bytes':
      return atBytes(state, event.bytes, now_ms, setup)
    case 'drop':
      return { state: { ...state, asked: undefined }, acts: [] }
    case 'ask': {
      const asked: Asked = {
        request: { ...event.request, master: setup.master },
        preambles: event.preambles,
        begun_ms: now_ms,
        sent_ms: now_ms,
        tries: 0,
        most: event.tries ?? setup.tries,
        within_ms: event.within_ms ?? setup.answerWithin_ms,
        junkBefore: state.counts.junk,
        othersBefore: others(state.counts),
      }
      if (now_ms < state.restUntil_ms)
        return { state: { ...state, asked: { ...asked, sendAt_ms: state.restUntil_ms } }, acts: [] }
      return send(state, asked, now_ms)
    }
    case 'time': {
      // Silence does its work on what is held, then on what is asked.
      const quiet = atBytes(state, new Uint8Array(), now_ms, setup)
      const timed = atTime(quiet.state, now_ms, setup)
      return { state: timed.state, acts: [...quiet.acts, ...timed.acts] }
    }
  }
}

/** When time is to be told next, ms; undefined while nothing is under way. */
export function wakeAt({ asked, stream }: MasterState, now_ms: number, setup: MasterSetup): number | undefined {
  if (!asked) return undefined
  if (asked.sendAt_ms !== undefined) return asked.sendAt_ms
  const coming = stream.held.length > 0 ? stream.at_ms + setup.gap_ms + 1 : now_ms
  return Math.max(dueAt(asked, setup), coming)
}
