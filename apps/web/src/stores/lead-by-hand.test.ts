// A guided run out of coverage: led by the same rules, sent in its order, and shown to be put right where somebody had
// gone on first.
import 'fake-indexeddb/auto'
import { runsOf, USUAL_TRIM_LIMITS, type DoProcedure, type FolderView, type WorkEntry } from '@calm-loop/contract'
import { describe, expect, it, vi } from 'vitest'
import { demoEntries } from '../../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { runsAside } from '../trim/run-aside.ts'
import { useFolder } from './folder.ts'
import { useOutbox } from './outbox.ts'
import { AILSA, answering, DAY, folderOf, LOOP_ID, noNetwork, refusal, sessionOf } from './server.fixture.ts'
import { useSession } from './session.ts'
import { inEmptyRoom } from './room.fixture.ts'
import { useTrim } from './trim.ts'

inEmptyRoom()
const EVENT = 'PUT /api/loops/*/procedures/*/events/*'
const RONA = { id: '01890000-0000-7000-8000-00000000000b', name: 'Rona Teague' }

/** As found is on record: nothing is adjusted before it is. */
const FOUND = [{ what: 'trim-point', id: 'p1', set: 's', phase: 'as-found' }] as unknown as WorkEntry[]
const told = (workLog = FOUND) => folderOf('pressure', demoEntries('pressure'), { workLog })

async function open(answers: Parameters<typeof answering>[0] = {}, view?: () => FolderView) {
  const asked = answering({
    ...answers,
    'GET /api/session': () => sessionOf(['technician']),
    [`GET /api/loops/${LOOP_ID}`]: () => view?.() ?? told(),
    ...(answers[EVENT] ? {} : { [EVENT]: noNetwork }),
  })
  await useSession().load()
  await useFolder().open(LOOP_ID)
  return asked
}
/** Passes the gate that is open, at a real device. */
async function pass(): Promise<void> {
  const trim = useTrim()
  const { id, state } = trim.open!
  const step = state.steps[state.at]!
  const wish: DoProcedure =
    step.kind === 'command'
      ? { do: 'send', step: step.id }
      : step.kind === 'read-back'
        ? { do: 'read', step: step.id, seen: 'taken, on its display' }
        : { do: 'pass', step: step.id, words: 'Bree' }
  if (!(await trim.act(id, wish))) throw new Error(`${step.id}: ${trim.problem}`)
}
const begin = () => useTrim().begin('damping-change', { damping: '2 s' })
async function toEnd(): Promise<void> {
  for (let i = 0; i < 30 && useTrim().open; i++) await pass()
}

describe('guided work out of coverage', () => {
  it('is led to its end by the same gates, and all of it waits in its order', async () => {
    await open()
    expect(await begin()).toBe(true)
    await toEnd()
    const { last } = useTrim()
    expect(last?.state.status).toBe('done')
    expect(last!.state.world.written).toHaveLength(1)
    expect(last!.entries.every((e) => e.by.name === AILSA.name && e.practice === false)).toBe(true)
    await useOutbox().settled()
    const sent = useOutbox().waiting.map((w) => w.body as DoProcedure)
    expect(sent[0]).toMatchObject({ do: 'begin', byHand: true, on: { limits: USUAL_TRIM_LIMITS, revision: 0 } })
    // Each follows the one before it; a command has its answer in between.
    const ids = last!.entries.map((e) => e.id)
    for (const { after } of sent.slice(1)) expect(ids).toContain(after)
    expect(new Set(sent.slice(1).map((s) => s.after)).size).toBe(sent.length - 1)
  })
  it('keeps a gate shut that the core keeps shut, and says why', async () => {
    await open()
    await begin()
    const trim = useTrim()
    expect(await trim.act(trim.open!.id, { do: 'pass', step: 'no-such-gate' })).toBe(false)
    expect(trim.problem).toContain('Not yet')
    await useOutbox().settled()
    expect(useOutbox().waiting).toHaveLength(1)
  })
  it('refused as the site has other limits now, is begun by those the next time', async () => {
    const other = { ...USUAL_TRIM_LIMITS, plausiblePct: 9 }
    const asked = await open({
      'GET /api/settings/trim-limits': () => other,
      [EVENT]: ({ body }) => {
        const { on } = body as Extract<DoProcedure, { do: 'begin' }>
        const isOld = on!.limits.plausiblePct !== other.plausiblePct
        return isOld ? refusal(409, 'version-conflict', 'The limits of the site were changed.') : []
      },
    })
    expect(await begin()).toBe(false)
    expect(await begin()).toBe(true)
    expect(asked.filter((a) => a.method === 'PUT')).toHaveLength(2)
  })
  it('is sent in its order when the server is reached', async () => {
    await open()
    await begin()
    await pass()
    await useOutbox().settled()
    const asked = await open({ [EVENT]: () => [] })
    await useOutbox().flush()
    await vi.waitFor(() => expect(useOutbox().waiting).toEqual([]))
    expect(asked.filter((a) => a.method === 'PUT').map((a) => (a.body as DoProcedure).do)).toEqual(['begin', 'pass'])
  })
})

describe('a run on which somebody had gone on first', () => {
  /** The record: the run as begun, and what Rona did of it. */
  let record: WorkEntry[] = []
  const view = () => told([...FOUND, ...record])
  async function bothWentOn() {
    record = []
    await open({}, view)
    await begin()
    const run = useTrim().open!
    record = run.entries.map((e) => ({ ...e }))
    await useOutbox().settled()
    for (const w of [...useOutbox().waiting]) await useOutbox().dismiss(w.id)
    await useFolder().refresh()
    // Out of coverage here, as far as what was written; Rona has told operations and is gone.
    for (let i = 0; i < 30 && !useTrim().open?.state.world.written.length; i++) await pass()
    await useOutbox().settled()
    const { steps } = run.state
    const hers = { what: 'procedure', run: run.id, event: { do: 'pass', step: steps[0]!.id, words: 'Bree' } }
    record = [...record, { ...hers, id: 'r1', by: RONA, at: DAY, practice: false } as unknown as WorkEntry]
    await open({ [EVENT]: () => refusal(409, 'run-went-on', 'Rona Teague went on with this run.') }, view)
    await useOutbox().flush()
    await vi.waitFor(() => expect(useOutbox().waiting).toEqual([]))
    await useFolder().refresh()
    return run.id
  }
  it('shows what was done here, what it left otherwise, and keeps both until that is put right', async () => {
    const run = await bothWentOn()
    const log = useFolder().here.workLog
    expect(
      runsOf(log)
        .find((r) => r.run === run)!
        .entries.at(-1)!.by.name,
    ).toBe('Rona Teague')
    const [aside, more] = runsAside(useOutbox().refused, LOOP_ID, log)
    expect(more).toBe(undefined)
    expect(aside).toMatchObject({ run, name: 'Damping change', why: 'Rona Teague went on with this run.' })
    expect(aside!.steps.length).toBeGreaterThan(1)
    expect(aside!.putRight[0]).toMatchObject({ id: 'written', title: 'Look at what the device holds' })
    expect(aside!.putRight.at(-1)!.id).toBe('told')
    expect(runsAside(useOutbox().refused, 'another-loop', log)).toEqual([])
  })
  it('that was begun here and refused is held against what another run has left', async () => {
    record = []
    await open({}, view)
    await begin()
    await pass()
    const { run, event } = useTrim().open!.entries[0]!
    record = [{ what: 'procedure', run: 'hers', event, id: 'r0', by: RONA, at: DAY } as unknown as WorkEntry]
    await useOutbox().settled()
    await open({ [EVENT]: () => refusal(422, 'run-open', 'Another procedure on this loop is not finished.') }, view)
    await useOutbox().flush()
    await vi.waitFor(() => expect(useOutbox().waiting).toEqual([]))
    const [aside] = runsAside(useOutbox().refused, LOOP_ID, record)
    expect(aside).toMatchObject({ run, name: 'Damping change' })
    expect(aside!.steps[0]).toBe('Begun: Damping change')
    expect(aside!.putRight.map((a) => a.id)).toContain('told')
  })
  it('that cannot be followed is said to be unknown, never to be in order', () => {
    const params = { loopId: LOOP_ID, runId: 'r', eventId: 'e' }
    const shown = { run: 'r', events: [{ do: 'pass', step: 'told' }] }
    const write = {
      id: 'e',
      endpoint: 'doProcedure',
      params,
      body: { do: 'pass', step: 'told' },
      shown,
      tag: '',
    } as const
    const refused = [{ ...write, by: '', byName: '', at: 0, refused: 'no' }]
    expect(runsAside(refused, LOOP_ID, [])).toMatchObject([{ name: 'Guided work', steps: ['told'], putRight: [] }])
  })
})
