// The day of the demo plant: walking order, open jobs, who has which piece of the kit. Days are counted from when it
// is loaded, so that the demo never grows old.
import { Id, MoveKit, NewJob, Walking, type Person } from '@calm-loop/contract'
import { NewCalibration } from '@calm-loop/contract/kit-record'
import { SHUTDOWN_HOWS, WeekTerms } from '@calm-loop/contract/weeks'
import { daysLater } from '@calm-loop/core/check'
import { sure } from '@calm-loop/core/sure'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import type { Database } from '../db/database.ts'
import { gear, loops, people } from '../db/schema.ts'
import { makeJob } from './jobs.ts'
import { addCalibration, keepCertificate } from './kit-record.ts'
import { moveKit } from './kit-moves.ts'
import { saveWalking } from './round.ts'
import { saveWeekTerms } from './weeks.ts'

const DAY_ms = 86_400_000
const SHUTDOWN_ID = '019ad3b0-4000-7000-8000-000000000001'
const DemoDay = z.strictObject({
  weeks: WeekTerms.omit({ shutdowns: true }).extend({
    shutdown: z.strictObject({
      ...{ inDays: z.number(), days: z.number(), area: z.string(), how: z.enum(SHUTDOWN_HOWS), words: z.string() },
    }),
  }),
  walking: Walking,
  jobs: z.array(
    NewJob.omit({ loopId: true, by: true }).extend({
      ...{ id: Id, tag: z.string(), by: z.string(), dueIn_days: z.number().int().nullable() },
    }),
  ),
  calibrations: z.array(z.strictObject({ id: Id, gear: z.string(), by: z.string(), body: NewCalibration })),
  kit: z.array(MoveKit.omit({ after: true }).extend({ id: Id, gear: z.string(), by: z.string() })),
})

/** @param certificates a folder with those of the kit, by their numbers */
export async function loadDay(db: Database, text: string, certificates: string): Promise<void> {
  const { walking, jobs, kit, calibrations, weeks } = DemoDay.parse(JSON.parse(text))
  const [everyone, every, pieces] = [
    await db.select().from(people),
    await db.select().from(loops),
    await db.select().from(gear),
  ]
  const who = (signIn: string): Person => sure(everyone.find((p) => p.signIn === signIn))
  await saveWalking(db, walking, { person: who('rona') })
  const { shutdown, ...terms } = weeks
  const { inDays, days, ...still } = shutdown
  const from = daysLater(new Date().toISOString().slice(0, 10), inDays)
  const shutdowns = [{ id: SHUTDOWN_ID, from, to: daysLater(from, days), ...still }]
  await saveWeekTerms(db, { ...terms, shutdowns }, { person: who('rona') })
  for (const { id, tag, by, dueIn_days, ...job } of jobs) {
    const loopId = sure(every.find((l) => l.tag === tag)).id
    const due = dueIn_days === null ? null : new Date(Date.now() + dueIn_days * DAY_ms).toISOString().slice(0, 10)
    await makeJob(db, id, { ...job, loopId, by: due }, who(by))
  }
  const gearNamed = (name: string) => sure(pieces.find((g) => g.name === name)).id
  for (const { id, gear: name, by, body } of calibrations) {
    const ids = { gearId: gearNamed(name), calibrationId: id }
    await addCalibration(db, ids, body, who(by))
    const file = `${body.certificate}.pdf`
    await keepCertificate(db, ids, { bytes: readFileSync(join(certificates, file)), name: file }, who(by))
  }
  for (const { id, gear: name, by, ...move } of kit) {
    const gearId = gearNamed(name)
    await moveKit(db, { gearId, moveId: id }, { ...move, after: null }, who(by))
  }
}
