// What a loop was checked with: each piece of kit, and the calibration that it had then, with its certificate.
import type { KitBehind } from '@calm-loop/contract/kit-record'
import { and, asc, eq, inArray, sql } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { kitCalibrations, kitCertificates } from '../db/kit-schema.ts'
import { checks, loops, workLog } from '../db/schema.ts'
import { notFound } from '../http/problems.ts'

/** @throws HttpProblem `not-found` */
export async function kitBehind(db: Queries, loopId: string): Promise<KitBehind[]> {
  if (!(await db.$count(loops, eq(loops.id, loopId)))) throw notFound('This loop')
  const used = await db
    .select({ gear: checks.gear, on: checks.startedAt })
    .from(checks)
    // What is practised at the bench is no record.
    .where(and(eq(checks.loopId, loopId), sql`${checks.practice} is not true`))
  const signed = await db
    .select({ body: workLog.body, on: workLog.at })
    .from(workLog)
    .where(and(eq(workLog.loopId, loopId), eq(workLog.what, 'run-signed')))
  const runs = signed.flatMap(({ body, on }) => (body.what === 'run-signed' ? [{ gear: body.gear, on }] : []))
  const uses = [...used, ...runs].sort((a, b) => b.on.getTime() - a.on.getTime())
  const known = await calibrationsOf(db, [...new Set(uses.flatMap((u) => u.gear.map((g) => g.id)))])
  const behind = new Map<string, KitBehind>()
  for (const { gear, on } of uses)
    for (const { id: gearId, name, serial, certificate = '' } of gear) {
      const usedOn = on.toISOString()
      const its = known.filter((k) => k.gearId === gearId)
      // By the number that the check itself has; where it has none, by the day.
      const row = its.findLast((k) =>
        certificate ? k.body.certificate === certificate : k.body.day <= usedOn.slice(0, 10),
      )
      const calibration = row ? calibrationOf(row) : null
      const which = `${gearId} ${certificate} ${row?.id}`
      if (!behind.has(which)) behind.set(which, { gearId, name, serial, certificate, usedOn, calibration })
    }
  return [...behind.values()]
}

type Row = Awaited<ReturnType<typeof calibrationsOf>>[number]
const calibrationOf = ({ id, body, name, digest }: Row): KitBehind['calibration'] => ({
  ...{ id, day: body.day, certificate: body.certificate },
  file: name === null || digest === null ? null : { name, digest },
})

/** By day; of one day by when they were put on record. */
async function calibrationsOf(db: Queries, gearIds: readonly string[]) {
  const { id, gearId, body } = kitCalibrations
  return db
    .select({ id, gearId, body, name: kitCertificates.name, digest: kitCertificates.digest })
    .from(kitCalibrations)
    .leftJoin(kitCertificates, eq(kitCertificates.calibrationId, id))
    .where(inArray(gearId, [...gearIds]))
    .orderBy(asc(sql`${body}->>'day'`), asc(kitCalibrations.at))
}
