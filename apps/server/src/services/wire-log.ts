// The log of wiring work: gates that cannot be passed while something is wrong, and readings at the terminals.
import {
  canonicalJson,
  inWorld,
  standingReadings,
  type AddWireEntry,
  type FolderView,
  type WireEntry,
} from '@calm-loop/contract'
import type { Desk } from '@calm-loop/core/kinds'
import { entryIsTrue, convertUnit } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { GATE_WORDS, refuseGate, terminalsOf, writeWiring, type GateEntry } from '@calm-loop/core/wiring'
import { eq } from 'drizzle-orm'
import { wireLog } from '../db/schema.ts'
import { HttpProblem, idReused } from '../http/problems.ts'
import { record } from './audit.ts'
import { announce } from './events.ts'
import { namesOf, readWiring, wireEntryOf, type AtWiring } from './folder.ts'
import { studyOf } from './studies.ts'
import { isSame } from './worlds.ts'
import { inOneTurn, type LogWrite } from './turns.ts'
import { sure } from '@calm-loop/core/sure'

/** The wiring desk of a loop as it stands on record. */
export function deskOfFolder({ loop, versions }: Pick<FolderView, 'loop' | 'versions'>): Desk {
  return studyOf(loop.kind, versions.at(-1)).desk
}

const gatesOf = (log: readonly WireEntry[]): GateEntry[] =>
  log.flatMap((e) => (e.what === 'gate' ? [{ gate: e.gate, wiring: e.wiring }] : []))

function refuseEntry(entry: AddWireEntry, { kind, version, bench, wireLog: all }: AtWiring): void {
  if (entry.what === 'afresh') return
  const log = inWorld(all, !!bench)
  const { desk } = studyOf(kind, version)
  if (entry.what === 'gate') {
    if (entry.words !== GATE_WORDS[entry.gate])
      throw new Refusal(
        'unknown-words',
        'These are not the words of this gate. Load the page again and confirm what stands there.',
      )
    const drawn = writeWiring(desk.wiring)
    if (entry.wiring !== drawn)
      throw new HttpProblem(
        409,
        'wiring-changed',
        'The wiring on record is not the one you were looking at. Look at it again.',
      )
    const refusal = refuseGate({
      gate: entry.gate,
      log: gatesOf(log),
      wiring: drawn,
      findings: desk.findings,
      needs: desk.needs,
    })
    if (refusal) throw refusal
  }
  if (entry.what === 'reading') {
    if (!entryIsTrue(entry.read))
      throw new Refusal('entry-mismatch', 'What was typed and what was understood do not agree.')
    convertUnit(entry.read.value, entry.read.unit, entry.spot.of === 'volts' ? 'V' : 'mA')
    const spots = terminalsOf(desk.wiring)
    const lost =
      entry.spot.of === 'volts'
        ? [entry.spot.red, entry.spot.black].find((ref) => !spots.has(ref))
        : desk.wiring.conductors.some((c) => entry.spot.of === 'current' && c.id === entry.spot.conductor)
          ? undefined
          : entry.spot.conductor
    if (lost !== undefined) throw new Refusal('no-such-terminal', `There is no ${lost} in this wiring.`)
    if (entry.supersedes && !log.some((e) => e.what === 'reading' && e.id === entry.supersedes))
      throw new Refusal('no-such-reading', 'The reading to be corrected is not one of this loop.')
    const standing = standingReadings(log).find((r) => canonicalJson(r.spot) === canonicalJson(entry.spot))
    if (standing && entry.supersedes !== standing.id)
      throw new HttpProblem(
        409,
        'already-read',
        `${standing.by.name} has read this spot: ${standing.read.typed}. That reading stands; say what is ` +
          'wrong with it to correct it.',
        { current: standing },
      )
  }
}

/** Adds an entry; the same again changes nothing. */
export function addWireEntry({ db, loopId, id, entry, person }: LogWrite<AddWireEntry>): Promise<WireEntry> {
  return inOneTurn(db, `loop ${loopId}`, async (tx) => {
    const there = await readWiring(tx, loopId)
    const names = await namesOf(tx)
    const [known] = await tx.select().from(wireLog).where(eq(wireLog.id, id))
    if (known) {
      if (known.loopId === loopId && isSame(known.body, entry)) return wireEntryOf(known, names)
      throw idReused()
    }
    refuseEntry(entry, there)
    const [row] = await tx
      .insert(wireLog)
      .values({
        id,
        loopId,
        seq: there.wireLog.length + 1,
        body: { ...entry, practice: !!there.bench },
        byId: person.id,
        at: new Date(),
      })
      .returning()
    if (entry.what === 'gate')
      await record({
        tx,
        personId: person.id,
        action: `wiring-${entry.gate}`,
        loopId,
        details: { id, told: entry.told },
      })
    await announce(tx, { loopId, what: 'wire-log', id, by: person.name })
    return wireEntryOf(sure(row), names)
  })
}
