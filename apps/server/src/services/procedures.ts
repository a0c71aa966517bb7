// Guided procedures: the database holds the events of a run; what follows from them is computed by the core, here as
// in the pages.
import {
  answering,
  asFoundStanding,
  runsOf,
  TrimLimits,
  USUAL_TRIM_LIMITS,
  type DoProcedure,
  type Kept,
  type Person,
  type WorkBody,
  type WorkEntry,
} from '@calm-loop/contract'
import { overHart } from '@calm-loop/core/guided'
import { termsOf } from '@calm-loop/core/loop'
import {
  advance,
  BY_EYE,
  commandFrom,
  heldByHand,
  replay,
  stepsOf,
  toUndo,
  type Command,
  type Held,
  type ProcedureEvent,
  type RunState,
  type SteadyEvidence,
  type Step,
} from '@calm-loop/core/procedure'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { and, count, eq } from 'drizzle-orm'
import { v7 as uuid } from 'uuid'
import type { Database, Queries } from '../db/database.ts'
import { workLog } from '../db/schema.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Device, Links } from '../link/links.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { namesOf, readFolder, workEntryOf } from './folder.ts'
import { settingOf } from './setting-of.ts'
import { steadyNow } from './steadiness.ts'
import { currentStudyOf } from './studies.ts'
import { calibratedAt } from './electrodes.ts'
import { ownBuffers } from './work.ts'
import type { Workers } from '../workers/pool.ts'
import { inOneTurn } from './turns.ts'
import { inItsWorld } from './worlds.ts'
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

/** Puts an event on record; its guards are those of the core. @throws Refusal */
async function append({
  db,
  workers,
  loopId,
  run,
  id,
  person,
  make,
}: {
  readonly db: Database
  readonly workers: Workers
  readonly loopId: string
  readonly run: string
  readonly id: string
  readonly person: Person
  readonly make: (r: Awaited<ReturnType<typeof readRun>> & { tx: Queries }) => ProcedureEvent | Promise<ProcedureEvent>
}): Promise<{ entry: WorkEntry; event: ProcedureEvent; state: RunState; known: boolean }> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const now = await readRun(tx, loopId, run)
    const names = await namesOf(tx)
    const [known] = await tx
      .select()
      .from(workLog)
      .where(and(eq(workLog.id, id), eq(workLog.loopId, loopId)))
    if (known) {
      const body = known.body as WorkBody & { what: 'procedure' }
      if (known.what !== 'procedure' || body.run !== run)
        throw new HttpProblem(409, 'id-reused', 'Something else is already on record under this id.')
      return { entry: workEntryOf(known, names), event: body.event, state: sure(now.state), known: true }
    }
    const event = await make({ ...now, tx })
    if (event.do === 'begin') {
      if (now.state) throw new HttpProblem(409, 'id-reused', 'A run of this id was begun already.')
      const open = openOf(now.log, run)
      if (open)
        throw new Refusal(
          'run-open',
          `Another procedure on this loop is not finished: ${sure(open.entries[0]).by.name} began it at ` +
            `${sure(open.entries[0]).at.slice(11, 16)} UTC. Finish or cancel it first.`,
        )
    }
    const state = advance(now.state, event)
    const body: Kept<WorkBody> = { what: 'procedure', run, event, practice: !!now.folder.bench }
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
}: {
  readonly db: Database
  readonly links: Links
  readonly loopId: string
  readonly run: string
  readonly wish: DoProcedure
}): Promise<Device | undefined> {
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
export async function doProcedure({
  db,
  workers,
  links,
  loopId,
  run,
  id,
  wish,
  person,
}: {
  readonly db: Database
  readonly workers: Workers
  readonly links: Links
  readonly loopId: string
  readonly run: string
  readonly id: string
  readonly wish: DoProcedure
  readonly person: Person
}): Promise<WorkEntry[]> {
  const device = await deviceFor({ db, links, loopId, run, wish })
  if (wish.do === 'send') return send({ db, workers, device, loopId, run, id, step: wish.step, person })
  // The device is read before the turn is taken: nobody waits for it but the one who asked.
  const held = wish.do === 'read' && device ? await heldOf(device) : undefined
  let before: RunState | undefined
  const done = await append({
    db,
    workers,
    loopId,
    run,
    id,
    person,
    make: async ({ folder, state, log, tx }) => {
      before = state
      switch (wish.do) {
        case 'begin': {
          const known = currentStudyOf(folder.loop.kind, folder.versions.at(-1))
          const { procedure, choices } = wish
          const [site, own] = [await trimLimits(tx), procedure === 'ph-calibration' ? await ownBuffers(tx) : []]
          const terms = termsOf(known, { tag: folder.loop.tag, procedure, site, choices, ownBuffers: own })
          return { do: 'begin', procedure, terms, steps: stepsOf(procedure, terms) }
        }
        case 'pass': {
          const step = state?.steps[state.at]
          const also =
            device && step && (step.kind === 'reading' || step.kind === 'steady')
              ? { also: { ...device.driver.latest().knots } }
              : {}
          return {
            do: 'pass',
            step: wish.step,
            ...also,
            ...(wish.words === undefined ? {} : { words: wish.words }),
            ...(wish.typed === undefined ? {} : { typed: wish.typed }),
            ...(step?.kind === 'steady' && state ? { steady: steadyBy(device, state, step) } : {}),
            ...(step?.kind === 'as-found' ? { points: asFoundStanding(log).map((p) => p.id) } : {}),
          }
        }
        case 'read':
          return held ? { do: 'read', step: wish.step, held } : { do: 'read', step: wish.step, ...seenBy(state, wish) }
        default:
          return wish
      }
    },
  })
  if (!done.known && device) await follow(device, done.event, before, done.state)
  return [done.entry]
}

const BY_HAND = 'Done at the device with the technician’s own communicator.'

/** What the device holds, as the person saw it. @throws Refusal `words-missing`, `value-missing` */
function seenBy(state: RunState | undefined, wish: Extract<DoProcedure, { do: 'read' }>) {
  if (!wish.seen?.trim()) throw new Refusal('words-missing', 'Say what the device shows now, as you see it there.')
  const { typed } = wish
  return { held: heldByHand(sure(state), typed), seen: wish.seen.trim(), ...(typed ? { typed } : {}) }
}

/** What the gate that is open sends. */
function planned(state: RunState | undefined): Command | undefined {
  const sends = state?.steps[state.at]?.sends
  return sends && state && commandFrom(sends, state.values)
}

/**
 * Sends a gate's command: on record before it goes out, so that a cut in between leaves “unknown”, never a write
 * nobody knows of.
 */
async function send({
  db,
  workers,
  device,
  loopId,
  run,
  id,
  step,
  person,
}: {
  readonly db: Database
  readonly workers: Workers
  readonly device: Device | undefined
  readonly loopId: string
  readonly run: string
  readonly id: string
  readonly step: string
  readonly person: Person
}): Promise<WorkEntry[]> {
  const changes = device ? (await heldOf(device)).changes : 0
  const sent = await append({
    db,
    workers,
    loopId,
    run,
    id,
    person,
    make: ({ state }) => {
      const command: Command | undefined =
        state?.status === 'cancelled' ? toUndo(state).find((u) => u.id === step)?.command : planned(state)
      // Where nothing is sent here, the core says what stands in the way.
      return { do: 'sent', step, command: command ?? { do: 'release' }, changesBefore: changes }
    },
  })
  if (sent.known || sent.event.do !== 'sent') return [sent.entry]
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
    db,
    workers,
    loopId,
    run,
    id: uuid(),
    person,
    make: () => ({ do: 'answered', step, ...answer }),
  })
  return [sent.entry, answered.entry]
}
