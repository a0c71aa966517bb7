// Guided procedures: the database holds the events of a run; what follows from them is computed by the core, here as
// in the pages.
import {
  answerIdOf,
  answering,
  canonicalJson,
  runsOf,
  TrimLimits,
  USUAL_TRIM_LIMITS,
  type DoProcedure,
  type Kept,
  type Person,
  type WorkBody,
  type WorkEntry,
} from '@calm-loop/contract'
import { BY_HAND, eventOf, sentEvent, type OverLink } from '@calm-loop/contract/judging'
import { overHart } from '@calm-loop/core/guided'
import {
  advance,
  BY_EYE,
  replay,
  type Held,
  type ProcedureEvent,
  type RunState,
  type SteadyEvidence,
  type Step,
} from '@calm-loop/core/procedure'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { and, count, eq } from 'drizzle-orm'
import type { Database, Queries } from '../db/database.ts'
import { workLog } from '../db/schema.ts'
import { HttpProblem, idReused } from '../http/problems.ts'
import type { Device, Links } from '../link/links.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { namesOf, readFolder, workEntryOf } from './folder.ts'
import { settingOf } from './setting-of.ts'
import { steadyNow } from './steadiness.ts'
import { currentStudyOf } from './studies.ts'
import { calibratedAt } from './electrodes.ts'
import { doneBefore, refuseOtherEntries } from './waited.ts'
import { ownBuffers } from './work.ts'
import type { Workers } from '../workers/pool.ts'
import { inOneTurn } from './turns.ts'
import { inItsWorld, refuseOnBench } from './worlds.ts'
import { sure } from '@calm-loop/core/sure'

export const { read: trimLimits, save: saveTrimLimits } = settingOf('trim-limits', TrimLimits, USUAL_TRIM_LIMITS)

const SILENT = Symbol('silent')
/** The answer, or silence. */
const orSilence = async <T>({ driver }: Device, answer: Promise<T | undefined>): Promise<T | typeof SILENT> =>
  (await Promise.race([
    answer,
    new Promise<typeof SILENT>((resolve) => setTimeout(() => resolve(SILENT), driver.patience_ms).unref()),
  ])) ?? SILENT

interface Run {
  readonly events: readonly ProcedureEvent[]
  readonly state: RunState | undefined
  readonly log: readonly WorkEntry[]
  readonly seq: number
}

async function readRun(
  tx: Queries,
  loopId: string,
  run: string,
): Promise<Run & { folder: Awaited<ReturnType<typeof readFolder>> }> {
  const folder = inItsWorld(await readFolder(tx, loopId))
  const events =
    runsOf(folder.workLog)
      .find((r) => r.run === run)
      ?.entries.map((e) => e.event) ?? []
  const [stand] = await tx.select({ n: count() }).from(workLog).where(eq(workLog.loopId, loopId))
  return { folder, events, state: events.length ? replay(events) : undefined, log: folder.workLog, seq: sure(stand).n }
}

const openOf = (log: readonly WorkEntry[], but: string) =>
  runsOf(log).find(({ run, entries }) => {
    if (run === but) return false
    const state = attempt(() => replay(entries.map((e) => e.event)))
    return !(state instanceof Refusal) && (state.status === 'running' || state.status === 'cancelled')
  })

type Begin = Extract<DoProcedure, { do: 'begin' }>

/** Begun out of coverage by other entries or limits than stand now, it would be another run. @throws HttpProblem */
function refuseOther(on: Begin['on'], { versions }: RunNow['folder'], limits: TrimLimits): void {
  refuseOtherEntries(versions.at(-1), on, 'run')
  if (on && canonicalJson(on.limits) !== canonicalJson(limits))
    throw new HttpProblem(
      409,
      'version-conflict',
      'The limits of the site for trims were changed before this run arrived: it would go by others. Begin it anew.',
    )
}

/** What was done by hand follows what its person saw of the run, or does not stand. @throws HttpProblem */
function refuseAfterOthers({ after }: DoProcedure, log: readonly WorkEntry[], run: string): void {
  const last = runsOf(log)
    .find((r) => r.run === run)
    ?.entries.at(-1)
  if (!after || !last || last.id === after) return
  throw new HttpProblem(
    409,
    'run-went-on',
    `${last.by.name} went on with this run before this arrived. What you did here does not stand; see what it left ` +
      'otherwise than the record says.',
  )
}

type RunNow = Awaited<ReturnType<typeof readRun>>
interface ToRun {
  readonly db: Database
  readonly workers: Workers
  readonly loopId: string
  readonly run: string
  readonly id: string
  readonly person: Person
  readonly wish: DoProcedure
  readonly waited_ms: number
}

/** Puts an event on record; its guards are those of the core. @throws Refusal */
async function append({
  db,
  workers,
  loopId,
  run,
  id,
  person,
  wish,
  waited_ms,
  make,
}: ToRun & { readonly make: (r: RunNow & { tx: Queries }) => ProcedureEvent | Promise<ProcedureEvent> }): Promise<{
  entry: WorkEntry
  event: ProcedureEvent
  state: RunState
  known: boolean
}> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const now = await readRun(tx, loopId, run)
    const names = await namesOf(tx)
    const [known] = await tx
      .select()
      .from(workLog)
      .where(and(eq(workLog.id, id), eq(workLog.loopId, loopId)))
    if (known) {
      const body = known.body as WorkBody & { what: 'procedure' }
      if (known.what !== 'procedure' || body.run !== run) throw idReused()
      return { entry: workEntryOf(known, names), event: body.event, state: sure(now.state), known: true }
    }
    // By hand it was no practice, whoever has connected the bench since.
    if (wish.byHand) refuseOnBench(now.folder)
    const event = await make({ ...now, tx })
    if (event.do === 'begin') {
      if (now.state) throw idReused('A run of this id was begun already.')
      const open = openOf(now.log, run)
      if (open)
        throw new Refusal(
          'run-open',
          `Another procedure on this loop is not finished: ${sure(open.entries[0]).by.name} began it at ` +
            `${sure(open.entries[0]).at.slice(11, 16)} UTC. Finish or cancel it first.`,
        )
    }
    const state = advance(now.state, event)
    if (event.do !== 'answered') refuseAfterOthers(wish, now.log, run)
    const waited = doneBefore(waited_ms)
    const done = waited ? { doneAt: waited.toISOString() } : {}
    const body: Kept<WorkBody> = { what: 'procedure', run, event, practice: !!now.folder.bench, ...done }
    const [row] = await tx
      .insert(workLog)
      .values({ id, loopId, seq: now.seq + 1, what: 'procedure', body, byId: person.id, at: new Date() })
      .returning()
    if (!body.practice) await calibratedAt(tx, workers, { loopId, run, state, person })
    if (event.do === 'begin' || event.do === 'sent' || event.do === 'cancel')
      await record({
        tx,
        personId: person.id,
        action: `procedure-${event.do}`,
        loopId,
        details: {
          run,
          ...(event.do === 'sent' ? { command: event.command } : {}),
        },
      })
    await announce(tx, { loopId, what: 'work', id, by: person.name })
    return { entry: workEntryOf(sure(row), names), event, state, known: false }
  })
}

const NO_DEVICE = 'There is no device behind this loop’s link that could be told anything.'
const NO_ANSWER = 'The device does not answer. Nothing was sent; check the wiring and the link, then try again.'

async function transmitterOf(links: Links, loopId: string): Promise<Device> {
  const device = await links.of(loopId)
  if (device.driver.description.family !== 'current') throw new Refusal('no-transmitter', NO_DEVICE)
  await device.driver.ready()
  return device
}

async function heldOf(device: Device): Promise<Held> {
  const answer = await orSilence(device, device.driver.read())
  if (answer === SILENT) throw new HttpProblem(504, 'device-silent', NO_ANSWER)
  if (!answer.held) throw new Refusal('no-transmitter', NO_DEVICE)
  return answer.held
}

/**
 * What the world of a run has become follows at the bench, where the device is a simulated one: valves as moved, the
 * sensor fed as said.
 */
async function follow(
  { bench }: Device,
  event: ProcedureEvent,
  before: RunState | undefined,
  after: RunState,
): Promise<void> {
  if (!bench) return
  if (event.do === 'valve') await bench.act({ do: 'valve', move: event.move })
  const was = before?.world.input ?? 'process'
  if (after.world.input !== was) await bench.act({ do: 'feed', input: after.world.input })
}

/**
 * What answers: the bench, or the loop’s own device. Where nothing does, or a procedure is not led over it, what is
 * done is done by hand.
 */
async function deviceFor({
  db,
  links,
  loopId,
  run,
  wish,
}: Pick<ToRun, 'db' | 'loopId' | 'run' | 'wish'> & { readonly links: Links }): Promise<Device | undefined> {
  const { folder, state } = await readRun(db, loopId, run)
  const answers = answering(folder)
  if (!answers) return undefined
  // What is only said or confirmed goes on while a device on its port is away; it is not asked for.
  if (
    answers === 'device' &&
    (wish.do === 'again' || wish.do === 'cancel' || wish.do === 'undone' || wish.do === 'valve')
  )
    return undefined
  const procedure = wish.do === 'begin' ? wish.procedure : state?.procedure
  if (answers === 'device' && procedure && !overHart(procedure)) return undefined
  return transmitterOf(links, loopId)
}

/** How still it stands: by samples of a witness that the device shows, else by eye. @throws Refusal `not-steady` */
function steadyBy(device: Device | undefined, state: RunState, step: Step): SteadyEvidence {
  if (!device?.driver.witnesses.has(step.of ?? 'digital')) return BY_EYE
  const found = steadyNow(device, state)
  // Nothing has come yet, as after its port was taken up again: that is not what somebody has seen.
  if (!found.samples) throw new Refusal('not-steady', 'Not stable: nothing has come from the device yet.')
  return found
}

/** Does what a page asks for, and says what came on record by it. The same again changes nothing. */
export async function doProcedure(asked: ToRun & { readonly links: Links }): Promise<WorkEntry[]> {
  const { wish } = asked
  const device = wish.byHand ? undefined : await deviceFor(asked)
  if (wish.do === 'send') return send(asked, wish.step, device)
  // The device is read before the turn is taken: nobody waits for it but the one who asked.
  const held = wish.do === 'read' && device ? await heldOf(device) : undefined
  const link: OverLink | undefined = device && {
    also: { ...device.driver.latest().knots },
    steadyBy: (state, step) => steadyBy(device, state, step),
    held,
  }
  let before: RunState | undefined
  const done = await append({
    ...asked,
    make: async ({ folder, state, log, tx }) => {
      before = state
      const begins = wish.do === 'begin'
      const limits = await trimLimits(tx)
      if (begins) refuseOther(wish.on, folder, limits)
      const ofTheSite = begins && wish.procedure === 'ph-calibration' ? await ownBuffers(tx) : []
      const study = () => currentStudyOf(folder.loop.kind, folder.versions.at(-1))
      return eventOf(wish, { tag: folder.loop.tag, study, limits, ownBuffers: ofTheSite, state, log }, link)
    },
  })
  if (!done.known && device) await follow(device, done.event, before, done.state)
  return [done.entry]
}

/**
 * Sends a gate's command: on record before it goes out, so that a cut in between leaves “unknown”, never a write
 * nobody knows of.
 */
async function send(asked: ToRun, step: string, device: Device | undefined): Promise<WorkEntry[]> {
  const changes = device ? (await heldOf(device)).changes : 0
  const sent = await append({ ...asked, make: ({ state }) => sentEvent(state, step, changes) })
  // A device may have taken it and not been heard; what was done by hand was done, unless it was read back meanwhile.
  const over = sent.known && (!asked.wish.byHand || sent.state.pending?.step !== step)
  if (over || sent.event.do !== 'sent') return [sent.entry]
  const answer = !device
    ? { taken: true, says: BY_HAND }
    : await orSilence(
        device,
        device.driver.command(sent.event.command).catch((error: unknown) => {
          if (error instanceof Refusal) return { taken: false, says: error.message }
          throw error
        }),
      )
  if (answer === SILENT) return [sent.entry]
  const answered = await append({
    ...asked,
    id: answerIdOf(asked.id),
    make: () => ({ do: 'answered', step, ...answer }),
  })
  return [sent.entry, answered.entry]
}
