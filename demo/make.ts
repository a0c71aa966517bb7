// Makes the demo folders from a short description of each loop, the same every time: `node --import tsx demo/make.ts`.
import type { Check, CheckTerms, Version, WholeFolder } from '@calm-loop/contract'
import { CHECK_RULE, upAndDown } from '@calm-loop/core/check'
import { study } from '@calm-loop/core/loop'
import { seedFrom, uniform } from '@calm-loop/core/device'
import { currentKindOf, kindOf, readEntries, versionOf } from '@calm-loop/core/kinds'
import { entryFrom } from '@calm-loop/core/quantity'
import { knotScales, spread } from '@calm-loop/core/thread'
import { writeWiring } from '@calm-loop/core/wiring'
import { demoElectrodes } from './electrodes.ts'
import { PASTS } from './histories.ts'
import type { History, Plan as Entered } from './plan.ts'
import { PLANS } from './plans.ts'
import { WIRED } from './wired-plans.ts'
import { entryOf, kit, kitOn, later, noiseOf, person } from './record.ts'
import { monthOfCycles, SWITCHES, switchReadings } from './switches.ts'
import { workOf, type Plan } from './work.ts'
import { mkdirSync, writeFileSync } from 'node:fs'
import { bundleText } from '../apps/server/src/services/bundle-text.ts'
import { digestOf, subjectOfCheck } from '../apps/server/src/seals/seals.ts'
import { sure } from '../packages/core/src/sure/index.ts'

/** Ids that look like those of a client at that moment, but are the same on every run. */
function idMaker(seedText: string) {
  let seed = seedFrom(seedText)
  return (at: string): string => {
    let hex = new Date(at).getTime().toString(16).padStart(12, '0')
    for (let i = 0; i < 5; i++) {
      const [u, next] = uniform(seed)
      seed = next
      hex += Math.floor(u * 65536)
        .toString(16)
        .padStart(4, '0')
    }
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-7${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`
  }
}

type Measured = Pick<Check, 'tolerancePct' | 'range' | 'points' | 'readings'>

function currentReadings(plan: Plan, h: History, version: Version, makeId: (at: string) => string): Measured {
  const kind = currentKindOf(plan.kind)
  const { thread } = study(kind, version.entries)
  const { low, high } = sure(knotScales(thread)[0])
  const [process, controller] = [sure(thread.knots[0]), sure(thread.knots.at(-1))]
  const by = person('ailsa')
  const noise = noiseOf(plan.tag + h.at)
  const points = h.wide ? upAndDown([16, 50, 80]) : upAndDown()
  const decimals = (unit: string) => (unit === 'mm' ? 0 : unit === 'pH' ? 2 : 1)
  const readings: Check['readings'] = []
  for (const point of points) {
    const at = later(h.at, 120 + point.index * 230)
    const nominal = sure(low) + (point.percent / 100) * (sure(high) - sure(low))
    const reached = nominal + noise((sure(high) - sure(low)) * 0.002)
    const applied = Math.min(sure(high) * 1.02, Math.max(sure(low), reached))
    const typed = `${applied.toFixed(decimals(process.unit))} ${process.unit}`
    const given = plan.card
      ? entryOf(`${(4 + 0.16 * point.percent).toFixed(3)} mA`, 'mA')
      : entryOf(typed, process.unit)
    const expected = spread(thread, plan.card ? 'current' : process.id, given.value)
    const percent = (100 * (Number.parseFloat(typed) - sure(low))) / (sure(high) - sure(low))
    const error = h.zero + (h.span * percent) / 100 + (point.direction === 'down' ? 0.02 : 0) + noise(0.012)
    const current = expected[thread.knots.findIndex((k) => k.id === 'current')]
    const mA = (current?.known ? current.value : 4 + 0.16 * percent) + (plan.card ? 0 : 0.16 * error)
    const shown = sure(spread(thread, 'current', mA).at(-1))
    const span = sure(knotScales(thread).at(-1))
    const off = plan.card ? (error / 100) * (sure(span.high) - sure(span.low)) : 0
    const shows = shown.known ? (shown.value + off) * (h.scaled ?? 1) : 0
    const reads = {
      ...(plan.card ? {} : { current: entryOf(`${mA.toFixed(3)} mA`, 'mA') }),
      ...(shown.known
        ? { controller: entryOf(`${shows.toFixed(decimals(controller.unit))} ${controller.unit}`, controller.unit) }
        : {}),
    }
    const origin = h.practice ? ('simulated' as const) : ('typed' as const)
    readings.push({
      id: makeId(at),
      seq: point.index + 1,
      pointIndex: point.index,
      percent: point.percent,
      direction: point.direction,
      applied: given,
      reads,
      source: 'typed',
      origins: Object.fromEntries(['applied', ...Object.keys(reads)].map((key) => [key, origin])),
      supersedes: null,
      reason: '',
      by,
      takenAt: at,
      savedAt: later(at, 0.4),
    })
  }
  const tolerancePct = sure(readEntries(kind.fields, version.entries).in('tolerance', '%'))
  return { tolerancePct, range: { lrv: sure(low), urv: sure(high), unit: process.unit }, points, readings }
}

/** Read as the plan's kit can: the first piece for the quantity at the process, the loop meter in series. */
function termsOf(plan: Plan, version: Version, h: History): CheckTerms {
  const known = study(currentKindOf(plan.kind), version.entries)
  const process = sure(known.thread.knots[0])
  const used = plan.gear.map((name) => sure(kit.find((g) => g.name === name)))
  const reading = (quantity: string) => used.find((g) => g.ranges?.some((r) => r.quantity === quantity))?.id ?? null
  const tolerancePct = sure(known.reader.in('tolerance', '%'))
  return {
    standardAt: plan.card ? 'current' : process.id,
    standardGear: reading(plan.card ? 'current' : process.quantity),
    reads: [
      ...(plan.card ? [] : [{ at: 'current', gear: reading('current'), stand: 'in-series' as const }]),
      { at: 'controller', gear: null },
    ],
    rule: h.rule ?? 'simple',
    controllerTolerancePct: known.reader.in('controllerTolerance', '%') ?? tolerancePct,
  }
}

function checkOf({
  plan,
  loop,
  version,
  h,
  makeId,
}: {
  readonly plan: Plan
  readonly loop: WholeFolder['loop']
  readonly version: Version
  readonly h: History
  readonly makeId: (at: string) => string
}): Check {
  const [by, reviewer] = [person('ailsa'), person('magnus')]
  const measured = (): Measured =>
    kindOf(plan.kind).family === 'switch'
      ? switchReadings({ plan, h, entries: version.entries, by, makeId })
      : currentReadings(plan, h, version, makeId)
  const on = h.at.slice(0, 10)
  const check: Check = {
    id: makeId(h.at),
    versionId: version.id,
    phase: h.phase ?? 'as-found',
    gear: plan.gear.map((name) => ({ ...kitOn(name, on), ...(h.expired ? { expiredReason: h.expired } : {}) })),
    practice: h.practice ?? false,
    ...(kindOf(plan.kind).family === 'current' ? { rule: CHECK_RULE, terms: termsOf(plan, version, h) } : {}),
    ambient: plan.kind === 'rtd-head' ? 'bench by the dryer, 24 °C' : 'outdoors, dry',
    startedBy: by,
    startedAt: h.at,
    gates: [
      {
        id: makeId(later(h.at, 1)),
        gate: 'loop-in-manual',
        words: 'Operations told. Loop in manual; trips fed by it by-passed with permission, or it feeds none.',
        told: 'shift operator',
        by,
        at: later(h.at, 1),
      },
      {
        id: makeId(later(h.at, 2600)),
        gate: 'loop-released',
        words: 'Work finished. Operations told; by-passes removed; loop back in automatic by the operator.',
        told: 'shift operator',
        by,
        at: later(h.at, 2600),
      },
    ],
    ...measured(),
    signatures: [],
  }
  if (h.practice) return check
  const digest = sure(digestOf(2, subjectOfCheck(loop, version, check)))
  check.signatures.push(
    {
      id: makeId(later(h.at, 2700)),
      role: 'performed',
      by,
      at: later(h.at, 2700),
      statement: 'I took these readings with the equipment named.',
      digest,
    },
    {
      id: makeId(later(h.at, 86_400)),
      role: 'reviewed',
      by: reviewer,
      at: later(h.at, 86_400),
      statement: 'I have reviewed this record and agree with its verdict.',
      digest,
    },
  )
  return check
}

function folderOf(entered: Entered): WholeFolder {
  const plan: Plan = { ...entered, ...PASTS[entered.tag] }
  const makeId = idMaker(plan.tag)
  const loop = {
    id: makeId(plan.created),
    tag: plan.tag,
    service: plan.service,
    area: plan.area,
    kind: plan.kind,
    createdAt: plan.created,
  }
  const kind = kindOf(plan.kind)
  const { fields } = kind
  const entries = Object.fromEntries(
    Object.entries(plan.typed).map(([key, typed]) => {
      const field = fields.find((f) => f.key === key)
      if (!field) throw new Error(`${plan.tag}: no field ${key}`)
      return [key, field.type === 'quantity' ? entryFrom(typed, field) : { typed }]
    }),
  )
  if (plan.wrong) entries['wiring'] = { typed: writeWiring(plan.wrong(study(kind, entries).desk.wiring)) }
  const savedAt = later(plan.created, 1500)
  const version: Version = {
    id: makeId(later(plan.created, 60)),
    number: 1,
    parentId: null,
    revision: 1,
    entries,
    ...(versionOf(kind) > 1 ? { kindVersion: versionOf(kind) } : {}),
    author: person('rona'),
    startedAt: later(plan.created, 60),
    savedAt,
    reason:
      plan.note ??
      (plan.history.length || WIRED.includes(plan) ? 'Commissioned' : 'First entries; wiring not yet finished'),
    sealedAt: savedAt,
  }
  const { change } = plan
  const changed: Version | undefined = change && {
    ...version,
    id: makeId(change.at),
    number: 2,
    parentId: version.id,
    entries: {
      ...entries,
      ...Object.fromEntries(
        Object.entries(change.typed).map(([key, typed]) => [
          key,
          entryFrom(typed, sure(fields.find((f) => f.key === key)) as Parameters<typeof entryFrom>[1]),
        ]),
      ),
    },
    author: person('ailsa'),
    startedAt: change.at,
    savedAt: later(change.at, 90),
    reason: change.reason,
    sealedAt: later(change.at, 90),
  }
  const checks = plan.history.map((h) =>
    checkOf({ plan, loop, version: h.changed ? sure(changed) : version, h, makeId }),
  )
  return {
    loop,
    versions: [version, ...(changed ? [changed] : [])],
    checks,
    wireLog: [],
    workLog: workOf(plan, { loop, version, checks }, makeId),
    ...(plan.counts ? monthOfCycles(plan, entries, person('rona'), makeId) : { countLog: [], edges: [] }),
  }
}

/** Text of each demo folder by file name. */
export function demoFolders(): Record<string, string> {
  return Object.fromEntries([...PLANS, ...SWITCHES].map((plan) => [`${plan.tag}.json`, bundleText(folderOf(plan))]))
}

/** Text of the demo's electrodes. */
export const electrodesText = (): string => `${JSON.stringify(demoElectrodes(idMaker('electrodes')), null, 2)}\n`

if (process.argv[1] === new URL(import.meta.url).pathname) {
  mkdirSync(new URL('./folders/', import.meta.url), { recursive: true })
  for (const [name, text] of Object.entries(demoFolders()))
    writeFileSync(new URL(`./folders/${name}`, import.meta.url), text)
  writeFileSync(new URL('./electrodes.json', import.meta.url), electrodesText())
}
