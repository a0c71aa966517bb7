// Guided work without a link: written with the technician's own communicator, read by eye, on record as that.
import { runsOf, workOf } from '@calm-loop/contract'
import { expectedAt } from '@calm-loop/core/procedure'
import { v7 as uuid } from 'uuid'
import { afterAll, expect, it } from 'vitest'
import { technicianAt } from './guided.ts'
import { startServer } from './harness.ts'

const server = await startServer()
const ailsa = await server.as('ailsa')
const { folder, act, stateOf, begin, idOf, point } = technicianAt(server, ailsa)
afterAll(() => server.stop())

/** Passes the gate that is open, at a real device. */
async function passByHand(loopId: string, runId: string) {
  const state = await stateOf(loopId, runId)
  const step = state.steps[state.at]!
  const pass = (more: object = {}) => act(loopId, runId, { do: 'pass', step: step.id, ...more })
  switch (step.kind) {
    case 'words':
      return pass({ words: 'Rolf' })
    case 'valve':
      return act(loopId, runId, { do: 'valve', step: step.id, move: step.move })
    case 'command':
      return act(loopId, runId, { do: 'send', step: step.id })
    case 'read-back':
      return act(loopId, runId, { do: 'read', step: step.id, seen: 'Zero trim: passed, on its display' })
    case 'steady':
      return pass({ words: 'Display still for 30 s' })
    case 'reading':
      return pass({
        typed: step.id === 'zero-found' ? '7.6 mbar' : `${expectedAt(state, step) ?? 0} ${step.reads!.unit}`,
      })
    default:
      return pass()
  }
}

it('a zero trim at a real device is led to its end; every figure typed, nothing simulated', async () => {
  const loopId = await idOf('PDT-118')
  await ailsa.connectBench(loopId, false)
  const { runId, answer } = await begin(loopId, 'zero-trim')
  expect(answer.status).toBe(200)
  for (let i = 0; i < 60; i++) {
    const state = await stateOf(loopId, runId)
    if (state.status !== 'running') break
    const said = await passByHand(loopId, runId)
    if (said.status !== 200) throw new Error(`${state.steps[state.at]!.id}: ${said.text}`)
  }
  expect((await stateOf(loopId, runId)).status).toBe('done')
  const { workLog } = await folder(loopId)
  const run = runsOf(workLog).find((r) => r.run === runId)!
  expect(run.entries.every((e) => e.practice === false)).toBe(true)
  const events = run.entries.map((e) => e.event)
  expect(events.filter((e) => e.do === 'answered')).toContainEqual({
    do: 'answered',
    step: 'write',
    taken: true,
    says: 'Done at the device with the technician’s own communicator.',
  })
  expect(events.find((e) => e.do === 'read')).toMatchObject({ seen: 'Zero trim: passed, on its display' })
  for (const e of events) if (e.do === 'pass') expect(e.also).toBeUndefined()
  expect(workOf(workLog, 'bench').length).toBeLessThan(2)
})

it('says by hand what it saw, or the gate stays shut', async () => {
  const loopId = await idOf('LT-205')
  await ailsa.connectBench(loopId, false)
  expect((await point(loopId, '0', 'mm', '0')).status).toBe(200)
  const { runId } = await begin(loopId, 'receiver-scale')
  for (let i = 0; i < 40; i++) {
    const state = await stateOf(loopId, runId)
    if (state.steps[state.at]!.kind === 'read-back') break
    const said = await passByHand(loopId, runId)
    if (said.status !== 200) throw new Error(`${state.steps[state.at]!.id}: ${said.text}`)
  }
  const { steps, at, terms } = await stateOf(loopId, runId)
  const read = (more: object) => act(loopId, runId, { do: 'read', step: steps[at]!.id, ...more }, ailsa, uuid())
  expect((await read({})).problem.code).toBe('words-missing')
  expect((await read({ seen: 'scale' })).problem.code).toBe('value-missing')
  expect((await read({ seen: ' ', typed: ['0 mm', '1 mm'] })).problem.code).toBe('invalid-input')
  const typed = [`${terms.toLow} ${terms.receiverUnit}`, `${terms.toHigh} ${terms.receiverUnit}`]
  expect((await read({ seen: 'Its scale page', typed })).status).toBe(200)
  expect((await stateOf(loopId, runId)).at).toBe(at + 1)
})
