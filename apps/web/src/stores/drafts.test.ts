// Drafts of loops that no page has open: sent when the server is there, merged, and left to a person where two meet.
import 'fake-indexeddb/auto'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { draftKey, draftsOf } from './draft-notes.ts'
import { useDrafts } from './drafts.ts'
import { useOpenLoop } from './open-loop.ts'
import { AILSA, answering, DAY, folderOf, LOOP_ID, noNetwork, sessionOf } from './server.fixture.ts'
import { useSession } from './session.ts'

const RONA = { id: '01890000-0000-7000-8000-00000000000b', name: 'Rona Teague' }
const typed = (values: Record<string, string>) =>
  Object.fromEntries(Object.entries(values).map(([key, v]) => [key, { typed: v }]))
const draft = (base: Record<string, string>, entries: Record<string, string>, person = AILSA.id) =>
  localStorage.setItem(
    draftKey(person, LOOP_ID),
    JSON.stringify({ base: typed(base), entries: typed(entries), tag: 'LT-1' }),
  )
const left = () => draftsOf(AILSA.id)

/** A server that holds these entries, by whom; what was saved there. */
async function server(stands: Record<string, string>, by = AILSA, sealed = false) {
  const folder = folderOf('level-from-above', typed(stands))
  const version = { ...folder.versions[0]!, author: by, ...(sealed ? {} : { sealedAt: null }) }
  const saved: { entries: Record<string, { typed: string }>; parentId: string | null }[] = []
  answering({
    'GET /api/session': () => sessionOf(['technician']),
    [`GET /api/loops/${LOOP_ID}`]: () => ({ ...folder, versions: [version] }),
    [`PUT /api/loops/${LOOP_ID}/versions/*`]: ({ body }) => {
      saved.push(body as (typeof saved)[0])
      return { ...version, ...(body as object), savedAt: DAY }
    },
  })
  await useSession().load()
  return saved
}

beforeEach(() => setActivePinia(createPinia()))
afterEach(() => {
  vi.unstubAllGlobals()
  localStorage.clear()
})

describe('a draft', () => {
  it('goes on in one’s own open version', async () => {
    draft({ device: 'A' }, { device: 'B' })
    const saved = await server({ device: 'A' })
    await useDrafts().send()
    expect(saved).toMatchObject([{ entries: { device: { typed: 'B' } }, parentId: null, revision: 1 }])
    expect(left()).toEqual([])
  })
  it('becomes a version after what somebody else has saved, with what they changed', async () => {
    draft({ device: 'A', serial: '1' }, { device: 'B', serial: '1' })
    const saved = await server({ device: 'A', serial: '2' }, RONA)
    await useDrafts().send()
    expect(saved).toMatchObject([{ entries: { device: { typed: 'B' }, serial: { typed: '2' } }, revision: 0 }])
    expect(saved[0]!.parentId).toBeTruthy()
  })
  it('that meets another’s change of the same entry waits to be decided where it is opened', async () => {
    draft({ device: 'A' }, { device: 'B' })
    const saved = await server({ device: 'C' }, RONA)
    const drafts = useDrafts()
    await drafts.send()
    expect(saved).toEqual([])
    expect(drafts.toDecide).toEqual([LOOP_ID])
    expect(left()).toMatchObject([{ tag: 'LT-1', entries: { device: { typed: 'B' } } }])
  })
  it('that the record has already, as after a lost answer, is put away', async () => {
    draft({ device: 'A' }, { device: 'B' })
    const saved = await server({ device: 'B' })
    await useDrafts().send()
    expect(saved).toEqual([])
    expect(left()).toEqual([])
  })
  it('stays while the server is away, while its loop is open, and while nobody is signed in', async () => {
    draft({ device: 'A' }, { device: 'B' })
    const saved = await server({ device: 'A' })
    useOpenLoop().id = LOOP_ID
    await useDrafts().send()
    useOpenLoop().id = undefined
    useSession().ended = true
    await useDrafts().send()
    useSession().ended = false
    answering({ [`GET /api/loops/${LOOP_ID}`]: noNetwork })
    await useDrafts().send()
    expect(saved).toEqual([])
    expect(left()).toHaveLength(1)
  })
  it('of a loop that is gone does not hold up the next', async () => {
    const gone = '01890000-0000-7000-8000-000000000000'
    localStorage.setItem(draftKey(AILSA.id, gone), JSON.stringify({ base: {}, entries: typed({ device: 'X' }) }))
    draft({ device: 'A' }, { device: 'B' })
    const saved = await server({ device: 'A' })
    const drafts = useDrafts()
    await drafts.send()
    expect(saved).toHaveLength(1)
    expect(left()).toMatchObject([{ loopId: gone }])
    // What is not taken says why, until somebody puts it away.
    expect(drafts.refused).toEqual({ [gone]: expect.stringContaining('nothing at GET') })
    drafts.dismiss(left()[0]!)
    expect([left(), drafts.waiting]).toEqual([[], []])
  })
  it('of somebody else, or that cannot be read, is left alone', async () => {
    draft({}, { device: 'B' }, RONA.id)
    localStorage.setItem(draftKey(AILSA.id, 'other'), '{torn')
    const saved = await server({})
    await useDrafts().send()
    expect(saved).toEqual([])
    expect(localStorage).toHaveLength(2)
  })
})
