// A technician who works through guided procedures over HTTP, the way the pages do: passes gates, waits for
// steadiness, reads the bench.
import { LiveReading, runsOf, type FolderView, type LoopPage, type TransmitterView } from '@calm-loop/contract'
import { bufferPh } from '@calm-loop/core/analysis'
import { phPoints, replay, toUndo, type RunState, type Step } from '@calm-loop/core/procedure'
import { v7 as uuid } from 'uuid'
import { listenTo, type TestServer, type Visitor } from './harness.ts'

export type Apply = (target: number) => Promise<unknown>
/** Whether a run stands at this gate. */
export const at = (id: string) => (s: RunState) => s.steps[s.at]?.id === id

/** pH of the buffer that is named, else of the last of those at hand that was not read: their order is free. */
function nextBuffer(state: RunState, { asks }: Step): number {
  const read = phPoints(state).map((p) => p.buffer)
  return bufferPh(asks ?? state.terms.buffers!.filter((b) => !read.includes(b)).at(-1)!, 25).ph
}

export function technicianAt(server: TestServer, who: Visitor) {
  /** A loop by its tag, with its bench connected. */
  async function idOf(tag: string): Promise<string> {
    const { id } = ((await who.raw('GET', `/api/loops?q=${tag}`)).body as LoopPage).loops[0]!
    await who.connectBench(id)
    return id
  }
  const folder = async (loopId: string) => (await who.call('folder', { loopId })).body as FolderView
  const bench = (loopId: string, body: object) => who.call('commandBench', { loopId }, body)
  const view = async (loopId: string) => (await who.call('transmitter', { loopId })).body as TransmitterView
  const act = (loopId: string, runId: string, body: object, by = who, eventId = uuid()) =>
    by.call('doProcedure', { loopId, runId, eventId }, body)

  async function stateOf(loopId: string, runId: string): Promise<RunState> {
    const run = runsOf((await folder(loopId)).workLog).find((r) => r.run === runId)!
    return replay(run.entries.map((e) => e.event))
  }
  async function live(loopId: string): Promise<LiveReading> {
    const [heard] = await listenTo(server, who, `/api/loops/${loopId}/link/stream`, (events) => events.length > 0)
    return LiveReading.parse(heard!.data)
  }
  function point(loopId: string, applied: string, unit: string, shows: string, set = uuid()) {
    const entry = (typed: string) => ({ typed: `${typed} ${unit}`, value: Number(typed), unit })
    const body = { what: 'trim-point', set, phase: 'as-found', source: 'typed', current: null, receiver: null }
    return who.call('addWork', { loopId, entryId: uuid() }, { ...body, applied: entry(applied), digital: entry(shows) })
  }
  /** As-found points that agree, on record. */
  async function found(loopId: string, unit: string, values: readonly string[]): Promise<void> {
    const set = uuid()
    for (const v of values) {
      const answer = await point(loopId, v, unit, v, set)
      if (answer.status !== 200) throw new Error(answer.text)
    }
  }

  /** Passes the gate that is open, the way a technician would; answers what the server said. */
  async function passOne(loopId: string, runId: string, by = who, apply?: Apply) {
    const state = await stateOf(loopId, runId)
    const step = state.steps[state.at]!
    switch (step.kind) {
      case 'words':
        return act(loopId, runId, { do: 'pass', step: step.id, words: 'Rolf' }, by)
      case 'valve':
        return act(loopId, runId, { do: 'valve', step: step.id, move: step.move }, by)
      case 'command':
        return act(loopId, runId, { do: 'send', step: step.id }, by)
      case 'read-back':
        return act(loopId, runId, { do: 'read', step: step.id }, by)
      case 'apply':
        await apply?.(step.target!)
        return act(loopId, runId, { do: 'pass', step: step.id, typed: `${step.target} ${state.terms.unit}` }, by)
      case 'buffer':
        await apply?.(nextBuffer(state, step))
        return act(loopId, runId, { do: 'pass', step: step.id, typed: '25 °C' }, by)
      case 'steady': {
        for (let i = 0; ; i++) {
          const answer = await act(loopId, runId, { do: 'pass', step: step.id }, by)
          if (answer.status === 200 || i > 240) return answer
          await new Promise((resolve) => setTimeout(resolve, 250))
        }
      }
      case 'reading': {
        const { knots, transmitter } = await live(loopId)
        const { what, unit, decimals } = step.reads!
        const value = what === 'electrode' ? (transmitter?.electrode_mV ?? knots['electrode'])! : knots[what]!
        return act(loopId, runId, { do: 'pass', step: step.id, typed: `${value.toFixed(decimals + 1)} ${unit}` }, by)
      }
      default:
        return act(loopId, runId, { do: 'pass', step: step.id }, by)
    }
  }
  async function runTo(loopId: string, runId: string, until: (s: RunState) => boolean, apply?: Apply) {
    for (let i = 0; i < 80; i++) {
      const state = await stateOf(loopId, runId)
      if (state.status !== 'running' || until(state)) return state
      const answer = await passOne(loopId, runId, who, apply)
      if (answer.status !== 200) throw new Error(`${state.steps[state.at]!.id}: ${answer.text}`)
    }
    throw new Error('no end')
  }
  async function begin(loopId: string, procedure: string, choices: object = {}) {
    const runId = uuid()
    const answer = await act(loopId, runId, { do: 'begin', procedure, choices })
    return { runId, answer }
  }
  /** Cancels a run and puts back what it left, in its order. */
  async function putBack(loopId: string, runId: string): Promise<RunState> {
    const cancelled = await act(loopId, runId, { do: 'cancel', reason: 'test over' })
    if (cancelled.status !== 200) throw new Error(cancelled.text)
    for (let i = 0; i < 20; i++) {
      const state = await stateOf(loopId, runId)
      if (state.status !== 'cancelled') return state
      const first = toUndo(state)[0]!
      const done = state.pending
        ? await act(loopId, runId, { do: 'read', step: 'read-first' })
        : first.kind === 'valve'
          ? await act(loopId, runId, { do: 'valve', step: first.id, move: first.move })
          : first.kind === 'command'
            ? await act(loopId, runId, { do: 'send', step: first.id })
            : await act(loopId, runId, { do: 'undone', undo: first.id, words: 'done' })
      if (done.status !== 200) throw new Error(done.text)
    }
    throw new Error('no end')
  }
  /** Applies a value at the bench and waits until it is reached. */
  const applied =
    (loopId: string): Apply =>
    async (value) => {
      await bench(loopId, { do: 'apply', value })
      for (let i = 0; i < 40 && !(Math.abs(((await live(loopId)).reference ?? NaN) - value) <= 1e-6); i++)
        await new Promise((resolve) => setTimeout(resolve, 250))
    }
  return { idOf, folder, bench, view, act, stateOf, live, point, found, passOne, runTo, begin, putBack, applied }
}
export type Technician = ReturnType<typeof technicianAt>
