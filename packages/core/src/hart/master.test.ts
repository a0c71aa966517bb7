// Master against slave on a line that does everything a line can do.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  answerRequest,
  encodeFrame,
  encodePayload,
  EMPTY_STREAM,
  feed,
  IDLE_MASTER,
  masterStep,
  newDevice,
  USUAL_MASTER,
  wakeAt,
  type DeviceMake,
  type Frame,
  type HartDevice,
  type MasterAct,
  type MasterState,
  type Unanswered,
} from './index.ts'

const make: DeviceMake = {
  expandedType: 0x3d11,
  deviceId: 7,
  deviceRevision: 1,
  softwareRevision: 1,
  hardwareRevision: 1,
  profile: 1,
  unit: 'kPa',
  upperLimit: 1000,
  lowerLimit: -100,
  minimumSpan: 10,
  serialNumber: 1,
  others: [],
  parameters: [],
}
const request = (command: number, data = new Uint8Array()): Frame => ({
  type: 'request',
  address: { long: '3d11000007' },
  master: 'primary',
  burstMode: false,
  command,
  data,
  status: null,
})

interface Fault {
  /** What the line makes of the n-th answer: its bytes, with how late they come; nothing where it is lost. */
  (bytes: Uint8Array, n: number): { bytes: Uint8Array; late_ms: number } | undefined
}
/** Runs one exchange on a line with a fault, by a clock of its own. */
function exchange(fault: Fault, asked = request(1), start?: HartDevice) {
  let device = start ?? newDevice(make, { tag: 'X', range: { unit: 'kPa', lrv: 0, urv: 600 } })
  let state: MasterState = IDLE_MASTER
  let now = 1000
  let answersSent = 0
  let arrivals: { at: number; bytes: Uint8Array }[] = []
  let served = 0
  let end: Extract<MasterAct, { kind: 'answer' | 'unanswered' }> | undefined
  const step = (event: Parameters<typeof masterStep>[1]) => {
    const { state: next, acts } = masterStep(state, event, now, USUAL_MASTER)
    state = next
    for (const act of acts) {
      if (act.kind === 'answer' || act.kind === 'unanswered') end = act
      if (act.kind !== 'send') continue
      for (const frame of feed(EMPTY_STREAM, act.bytes, now, 100).frames) {
        const done = answerRequest(device, frame, { sensed: 240, others: [] })
        device = done.device
        served++
        if (!done.answer) continue
        const came = fault(encodeFrame(done.answer), answersSent++)
        if (came) arrivals.push({ at: now + 20 + came.late_ms, bytes: came.bytes })
      }
    }
  }
  step({ kind: 'ask', request: asked, preambles: 5 })
  while (!end && now < 60_000) {
    const wake = wakeAt(state, now, USUAL_MASTER) ?? Infinity
    arrivals.sort((a, b) => a.at - b.at)
    const next = arrivals[0]
    if (next && next.at <= wake) {
      now = Math.max(now, next.at)
      arrivals = arrivals.slice(1)
      step({ kind: 'bytes', bytes: next.bytes })
    } else {
      now = Math.max(now + 1, Math.ceil(wake))
      step({ kind: 'time' })
    }
  }
  return { end: end!, state, device, served, took: now - 1000 }
}
const clean: Fault = (bytes) => ({ bytes, late_ms: 0 })
const failed = (end: MasterAct): Unanswered | undefined => (end.kind === 'unanswered' ? end.why : undefined)

describe('one exchange', () => {
  it('on a clean line is one try', () => {
    const { end, state } = exchange(clean)
    expect(end).toMatchObject({ kind: 'answer', tries: 1, frame: { command: 1 } })
    expect(state.counts).toMatchObject({ sent: 1, answered: 1, again: 0 })
  })
  it('whose answer is lost, damaged or late is tried again, as the same request', () => {
    expect(exchange((b, n) => (n === 0 ? undefined : clean(b, n))).end).toMatchObject({ kind: 'answer', tries: 2 })
    const damaged: Fault = (b, n) => ({ bytes: n < 2 ? b.map((x, i) => (i === 12 ? x ^ 4 : x)) : b, late_ms: 0 })
    expect(exchange(damaged).end).toMatchObject({ kind: 'answer', tries: 3 })
    expect(exchange((bytes) => ({ bytes, late_ms: 600 })).end).toMatchObject({ kind: 'answer', tries: 2 })
  })
  it('is given up after four tries, and says by what it was kept from an answer', () => {
    const silent = exchange(() => undefined)
    expect([failed(silent.end), silent.served]).toEqual(['silence', 4])
    expect(failed(exchange((b) => ({ bytes: b.map((x) => x & 0x7f), late_ms: 0 })).end)).toBe('noise')
    const other: Fault = () => ({
      bytes: encodeFrame({ ...request(1), type: 'response', status: [0, 0], address: { long: '3d11000008' } }),
      late_ms: 0,
    })
    expect(failed(exchange(other).end)).toBe('others')
  })
  it('with a busy device is waited out, and given up in the end', () => {
    const busy = { ...newDevice(make, { tag: 'X', range: { unit: 'kPa', lrv: 0, urv: 600 } }), busy: true }
    const { end, took } = exchange(clean, request(1), busy)
    expect(failed(end)).toBe('busy')
    expect(took).toBeGreaterThan(10_000)
  })
  /** What a line makes of one answer. */
  const harm = fc.record({
    lost: fc.boolean(),
    flip: fc.option(fc.nat({ max: 200 })),
    late_ms: fc.constantFrom(0, 0, 0, 100, 450, 900),
    before: fc.uint8Array({ maxLength: 12 }),
    cut: fc.option(fc.nat({ max: 20 })),
  })
  it('comes to its end on any line', () => {
    const ends = new Set<string>()
    fc.assert(
      fc.property(fc.infiniteStream(harm), (faults) => {
        const { end, state } = exchange((bytes) => {
          const f = faults.next().value
          if (f.lost) return undefined
          const kept = bytes.slice(0, bytes.length - (f.cut ?? 0))
          return { bytes: Uint8Array.from([...f.before, ...kept]), late_ms: f.late_ms }
        })
        expect(end).toBeDefined()
        ends.add(end.kind)
        expect(state.asked).toBeUndefined()
      }),
      { numRuns: 1500 },
    )
    expect(ends).toEqual(new Set(['answer', 'unanswered']))
  })
  it('never takes data of which a bit was damaged for what the device gave', () => {
    // Behind the byte count: a damaged count takes in what follows, and one byte of parity cannot tell that for sure.
    const DATA = 13
    fc.assert(
      fc.property(fc.infiniteStream(harm), (faults) => {
        const { end } = exchange((bytes) => {
          const f = faults.next().value
          if (f.lost) return undefined
          const kept = Uint8Array.from(bytes)
          const at = DATA + ((f.flip ?? 0) % (kept.length - DATA))
          if (f.flip !== null) kept[at] = (kept[at] ?? 0) ^ 0x10
          return { bytes: kept, late_ms: f.late_ms }
        })
        if (end.kind === 'answer')
          expect([...end.frame.data]).toEqual([...encodePayload(1, 'response', { unitCode: 12, value: 240 })])
      }),
      { numRuns: 1500 },
    )
  })
})

it('what another master says, and bursts, are told apart from answers', () => {
  const step = (bytes: Uint8Array, state = IDLE_MASTER) =>
    masterStep(state, { kind: 'bytes', bytes }, 5000, USUAL_MASTER)
  const burst = step(encodeFrame({ ...request(3), type: 'burst', status: [0, 0], burstMode: true }))
  expect(burst.acts).toMatchObject([{ kind: 'burst' }])
  const other = step(encodeFrame({ ...request(3), master: 'secondary' }))
  expect(other.state.counts.otherMaster).toBe(1)
})
