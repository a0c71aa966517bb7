// What the demo plant's people did besides checks: points of trims, surveys, decisions, verifications.
import type { Check, Version, WholeFolder } from '@calm-loop/contract'
import { runRecord } from '@calm-loop/contract/judging'
import { currentKindOf, kindOf } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { digestOf, subjectOfRun } from '../apps/server/src/seals/seals.ts'
import { sure } from '../packages/core/src/sure/index.ts'
import type { Past } from './histories.ts'
import type { Plan as Entered } from './plan.ts'
import { entryOf, kit, later, noiseOf, person } from './record.ts'

export type Plan = Entered & Partial<Past>
type Work = WholeFolder['workLog'][number]

/** Points of the chain as they were typed in. */
function trimPoints(
  plan: Plan,
  {
    at,
    phase,
    points,
    makeId,
  }: { at: string; phase: 'as-found' | 'as-left'; points: NonNullable<Plan['found']>; makeId: (at: string) => string },
): Work[] {
  const by = person('ailsa')
  const set = makeId(at)
  const { thread } = study(currentKindOf(plan.kind), {})
  const unit = (role: string) => sure(thread.knots.find((k) => k.role === role)).unit
  return points.map(([applied, digital, current, receiver], i) => ({
    what: 'trim-point' as const,
    set,
    phase,
    applied: entryOf(applied, unit('process')),
    digital: entryOf(digital, digital.replace(/^[-\d.]+ /, '')),
    current: entryOf(current, 'mA'),
    receiver: entryOf(receiver, unit('controller')),
    source: 'typed' as const,
    practice: false,
    id: makeId(later(at, 60 + 95 * i)),
    by,
    at: later(at, 60 + 95 * i),
  }))
}

/** A survey: a row a minute, with a shift's rhythm and two standstills. */
function surveyOf(s: NonNullable<Past['survey']>, makeId: (at: string) => string): Work[] {
  const by = person('ailsa')
  const id = makeId(s.at)
  const noise = noiseOf(s.at)
  let total = 0
  const rows = Array.from({ length: s.minutes }, (_, i): [number, number, number, number, number] => {
    const stands = (i > 118 && i < 134) || (i > 262 && i < 281)
    const flow = stands ? 0 : Math.max(0, s.flow * (1 + 0.12 * Math.sin(i / 37)) + noise(0.35))
    total += flow / 60
    const [sound, signal] = [1481.6 + noise(0.4), 78 + noise(1.2)]
    return [
      Date.parse(s.at) + i * 60_000,
      ...([flow, total, sound, signal].map((v) => Math.round(v * 100) / 100) as [number, number, number, number]),
    ]
  })
  const end = later(s.at, s.minutes * 60)
  return [
    {
      what: 'survey',
      interval_s: 60,
      unit: s.unit,
      note: s.note,
      hours: s.minutes / 60,
      practice: false,
      id,
      by,
      at: s.at,
    },
    { what: 'survey-rows', survey: id, rows, practice: false, id: makeId(later(end, 1)), by, at: later(end, 1) },
    {
      what: 'survey-end',
      survey: id,
      total: Math.round(total * 100) / 100,
      rows: rows.length,
      practice: false,
      id: makeId(later(end, 2)),
      by,
      at: later(end, 2),
    },
  ]
}

const KIT_OF_VERIFICATION = ['Pressure calibrator C1']
/** A run of the verification sheet, each step in its order, signed by who did it and by the reviewer. */
function verificationOf(
  { at, temp, offs }: NonNullable<Past['verified']>,
  loop: WholeFolder['loop'],
  version: Version,
  makeId: (at: string) => string,
): Work[] {
  const [by, reviewer] = [person('ailsa'), person('magnus')]
  const sheet = sure(
    study(currentKindOf(loop.kind), version.entries)
      .sheets?.()
      .find((s) => s.id === 'verify'),
  )
  const day = entryOf(temp, 'degC')
  const { lines } = sure(sheet.judge?.({ figures: new Map([['temp', day]]) }))
  const run = makeId(at)
  const figureAt = (step: string, unit: string) => {
    const n = Number(step.replace('point-', ''))
    if (n) return entryOf(`${(sure(lines[n - 1]).expected * (1 + sure(offs[n - 1]) / 100)).toFixed(1)} ${unit}`, unit)
    return step === 'temp'
      ? day
      : entryOf(`${sure(sheet.steps.find((s) => s.id === step)?.ask?.plan?.low) + 3} ${unit}`, unit)
  }
  const steps = sheet.steps.map((step, i): Work => {
    const when = later(at, 150 * i)
    return {
      ...{ what: 'step', sheet: sheet.id, run, step: step.id, title: step.title },
      value: step.ask ? figureAt(step.id, step.ask.unit) : null,
      words: step.askWords ? 'gas plant operator' : '',
      ...{ practice: false, id: makeId(when), by, at: when },
    }
  })
  const gear = KIT_OF_VERIFICATION.map((name) => sure(kit.find((g) => g.name === name))).map(
    ({ measures: _, range: _range, ...piece }) => piece,
  )
  const used = { gear, ambient: 'outdoors, 21 °C, still air' }
  const subject = subjectOfRun(loop, version, sure(runRecord(steps, run)), used)
  const digest = sure(digestOf(1, subject))
  const signed = (role: 'performed' | 'reviewed', who: typeof by, when: string, statement: string): Work => ({
    ...{ what: 'run-signed', run, sheet: sheet.id, role, statement, digest, version: version.id, ...used },
    ...{ practice: false, id: makeId(when), by: who, at: when },
  })
  const end = later(at, 150 * steps.length)
  return [
    ...steps,
    signed('performed', by, later(end, 300), 'I did this verification with the equipment named.'),
    signed('reviewed', reviewer, later(end, 70_000), 'I have reviewed this record and agree with its verdict.'),
  ]
}

/** What was done and decided besides checks, in its order; and the practice case that the bench begins with. */
export function workOf(
  plan: Plan,
  {
    loop,
    version,
    checks,
  }: { readonly loop: WholeFolder['loop']; readonly version: Version; readonly checks: readonly Check[] },
  makeId: (at: string) => string,
): WholeFolder['workLog'] {
  const by = person('ailsa')
  const at = '2026-09-15T08:20:00.000Z'
  const answers = plan.history.flatMap((h, i): Work[] => {
    const when = later(h.at, 5400)
    return h.answer
      ? [
          {
            what: 'measured-since',
            check: sure(checks[i]).id,
            answer: h.answer,
            practice: false,
            id: makeId(when),
            by,
            at: when,
          },
        ]
      : []
  })
  const { interval, trimmed } = plan
  const entered = plan.typed['interval'] ?? kindOf(plan.kind).fields.find((f) => f.key === 'interval')?.default ?? ''
  const work: Work[] = [
    ...(plan.bench
      ? [{ what: 'bench' as const, case: plan.bench, id: makeId(later(at, 1)), by, at: later(at, 1) }]
      : []),
    ...(plan.found ? trimPoints(plan, { at, phase: 'as-found', points: plan.found, makeId }) : []),
    ...(trimmed ? trimPoints(plan, { at: trimmed.at, phase: 'as-found', points: trimmed.found, makeId }) : []),
    ...(trimmed
      ? trimPoints(plan, { at: later(trimmed.at, 2400), phase: 'as-left', points: trimmed.left, makeId })
      : []),
    ...answers,
    ...(plan.survey ? surveyOf(plan.survey, makeId) : []),
    ...(interval
      ? [
          {
            what: 'interval' as const,
            days: interval.days,
            instead: entered,
            suggested_days: interval.suggested,
            reason: interval.reason,
            practice: false,
            id: makeId(interval.at),
            by: person('magnus'),
            at: interval.at,
          },
        ]
      : []),
  ]
  if (plan.verified) work.push(...verificationOf(plan.verified, loop, version, makeId))
  return work.sort((a, b) => a.at.localeCompare(b.at))
}
