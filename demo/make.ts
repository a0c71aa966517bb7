// Makes the demo folders from a short description of each loop, the same every time: `node --import tsx demo/make.ts`.
import type { Check, CheckTerms, Version, WholeFolder } from '@calm-loop/contract'
import { CHECK_RULE, upAndDown } from '@calm-loop/core/check'
import { study } from '@calm-loop/core/loop'
import { normal, seedFrom, uniform } from '@calm-loop/core/device'
import { currentKindOf, kindOf, readEntries, versionOf } from '@calm-loop/core/kinds'
import { entryFrom } from '@calm-loop/core/quantity'
import { knotScales, spread } from '@calm-loop/core/thread'
import { writeWiring } from '@calm-loop/core/wiring'
import { PLANS, WIRED, type History, type Plan } from './plans.ts'
import { entryOf, later } from './record.ts'
import { monthOfCycles, SWITCHES, switchReadings } from './switches.ts'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { bundleText } from '../apps/server/src/services/bundle-text.ts'
import { digestOf } from '../apps/server/src/seals/seals.ts'
import { sure } from '../packages/core/src/sure/index.ts'

const read = <T>(file: string) => JSON.parse(readFileSync(new URL(file, import.meta.url), 'utf8')) as T
const { people } = read<{ people: { id: string; name: string; signIn: string }[] }>('./people.json')
const kit = read<(Check['gear'][number] & { measures: string; range: string })[]>('./kit.json')
const person = (signIn: string) => {
  const found = sure(people.find((p) => p.signIn === signIn))
  return { id: found.id, name: found.name }
}

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
  const unit = sure(thread.knots[0]).unit
  const by = person('ailsa')
  let seed = seedFrom(plan.tag + h.at)
  const noise = (size: number) => {
    const [n, next] = normal(seed)
    seed = next
    return n * size
  }
  const points = upAndDown()
  const readings: Check['readings'] = []
  for (const point of points) {
    const at = later(h.at, 120 + point.index * 230)
    const nominal = sure(low) + (point.percent / 100) * (sure(high) - sure(low))
    const applied = Math.min(sure(high) * 1.02, Math.max(sure(low), nominal + noise((sure(high) - sure(low)) * 0.002)))
    const appliedEntry = entryOf(`${applied.toFixed(unit === 'mm' ? 0 : 1)} ${unit}`, unit)
    const percent = (100 * (appliedEntry.value - sure(low))) / (sure(high) - sure(low))
    const error = h.zero + (h.span * percent) / 100 + (point.direction === 'down' ? 0.02 : 0) + noise(0.012)
    const mA = 4 + 0.16 * (percent + error)
    const shown = sure(spread(thread, 'current', mA).at(-1))
    const controller = sure(thread.knots.at(-1))
    readings.push({
      id: makeId(at),
      seq: point.index + 1,
      pointIndex: point.index,
      percent: point.percent,
      direction: point.direction,
      applied: appliedEntry,
      reads: {
        current: entryOf(`${mA.toFixed(3)} mA`, 'mA'),
        ...(shown.known
          ? {
              controller: entryOf(
                `${shown.value.toFixed(controller.unit === 'mm' ? 0 : 1)} ${controller.unit}`,
                controller.unit,
              ),
            }
          : {}),
      },
      source: 'typed',
      origins: { applied: 'typed', current: 'typed', ...(shown.known ? { controller: 'typed' } : {}) },
      supersedes: null,
      reason: '',
      by,
      takenAt: at,
      savedAt: later(at, 0.4),
    })
  }
  const tolerancePct = sure(readEntries(kind.fields, version.entries).in('tolerance', '%'))
  return { tolerancePct, range: { lrv: sure(low), urv: sure(high), unit }, points, readings }
}

/** Read as the plan's kit can: the first piece for the quantity at the process, the loop meter in series. */
function termsOf(plan: Plan, version: Version): CheckTerms {
  const known = study(currentKindOf(plan.kind), version.entries)
  const process = sure(known.thread.knots[0])
  const used = plan.gear.map((name) => sure(kit.find((g) => g.name === name)))
  const reading = (quantity: string) => used.find((g) => g.ranges?.some((r) => r.quantity === quantity))?.id ?? null
  const tolerancePct = sure(known.reader.in('tolerance', '%'))
  return {
    standardAt: process.id,
    standardGear: reading(process.quantity),
    reads: [
      { at: 'current', gear: reading('current'), stand: 'in-series' },
      { at: 'controller', gear: null },
    ],
    rule: 'simple',
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
    phase: 'as-found',
    // Gear was always in date then; the demo's expired piece shows on what is done from now on.
    gear: plan.gear
      .map((name) => sure(kit.find((g) => g.name === name)))
      .map(({ measures: _, range: _range, ...piece }) => ({
        ...piece,
        ...(piece.calibrated ? { calibrated: `${on.slice(0, 4)}-01-31` } : {}),
        due: `${Number(on.slice(0, 4)) + 1}-01-31`,
      })),
    practice: false,
    ...(kindOf(plan.kind).family === 'current' ? { rule: CHECK_RULE, terms: termsOf(plan, version) } : {}),
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
  const digest = sure(digestOf(2, loop, version, check))
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

/** What was found along the chain, and the practice case that the bench begins with. */
function workOf(plan: Plan, makeId: (at: string) => string): WholeFolder['workLog'] {
  const by = person('ailsa')
  const at = '2026-09-15T08:20:00.000Z'
  const set = plan.found ? makeId(at) : ''
  const { thread } = plan.found ? study(currentKindOf(plan.kind), {}) : { thread: undefined }
  const unit = (role: string) => sure(sure(thread).knots.find((k) => k.role === role)).unit
  return [
    ...(plan.bench
      ? [{ what: 'bench' as const, case: plan.bench, id: makeId(later(at, 1)), by, at: later(at, 1) }]
      : []),
    ...(plan.found ?? []).map(([applied, digital, current, receiver], i) => ({
      what: 'trim-point' as const,
      set,
      phase: 'as-found' as const,
      applied: entryOf(applied, unit('process')),
      digital: entryOf(digital, unit('digital')),
      current: entryOf(current, 'mA'),
      receiver: entryOf(receiver, unit('controller')),
      source: 'typed' as const,
      id: makeId(later(at, 60 + 95 * i)),
      by,
      at: later(at, 60 + 95 * i),
    })),
  ]
}

function folderOf(plan: Plan): WholeFolder {
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
  return {
    loop,
    versions: [version],
    checks: plan.history.map((h) => checkOf({ plan, loop, version, h, makeId })),
    wireLog: [],
    workLog: workOf(plan, makeId),
    ...(plan.counts ? monthOfCycles(plan, entries, person('rona'), makeId) : { countLog: [], edges: [] }),
  }
}

/** Text of each demo folder by file name. */
export function demoFolders(): Record<string, string> {
  return Object.fromEntries([...PLANS, ...SWITCHES].map((plan) => [`${plan.tag}.json`, bundleText(folderOf(plan))]))
}

if (process.argv[1] === new URL(import.meta.url).pathname) {
  mkdirSync(new URL('./folders/', import.meta.url), { recursive: true })
  for (const [name, text] of Object.entries(demoFolders()))
    writeFileSync(new URL(`./folders/${name}`, import.meta.url), text)
}
