// Makes the demo folders from a short description of each loop, the same every time: `node --import tsx demo/make.ts`.
import type { Check, Folder, Version } from '@calm-loop/contract'
import { upAndDown } from '@calm-loop/core/check'
import { normal, seedFrom, uniform } from '@calm-loop/core/device'
import { kindOf, readEntries, studyWiring } from '@calm-loop/core/kinds'
import { entryFrom } from '@calm-loop/core/quantity'
import { knotScales, spread } from '@calm-loop/core/thread'
import { writeWiring, type Wiring } from '@calm-loop/core/wiring'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { bundleText } from '../apps/server/src/services/bundles.ts'
import { signedDigest } from '../apps/server/src/services/folder.ts'

const read = (file: string) => JSON.parse(readFileSync(new URL(file, import.meta.url), 'utf8')) as never
const { people } = read('./people.json') as { people: { id: string; name: string; signIn: string }[] }
const kit = read('./kit.json') as (Check['gear'][number] & { measures: string; range: string })[]
const person = (signIn: string) => {
  const found = people.find((p) => p.signIn === signIn)!
  return { id: found.id, name: found.name }
}

interface History {
  readonly at: string
  /** Errors of the loop on that day, % of span. */
  readonly zero: number
  readonly span: number
}

interface Plan {
  readonly tag: string
  readonly service: string
  readonly area: string
  readonly kind: string
  readonly created: string
  readonly typed: Readonly<Record<string, string>>
  readonly gear: readonly string[]
  readonly history: readonly History[]
  /** How the wiring was found, where it is not as proposed. */
  readonly wrong?: (wiring: Wiring) => Wiring
  readonly note?: string
}

const wired = {
  supply: '24 V',
  liftOff: '12 V',
  shunt: '250 Ω',
  conductor: '1 mm2',
  countsLow: '13107',
  countsHigh: '65535',
}

const standard = (unit: string, low: number, high: number) => ({
  lrv: `${low} ${unit}`,
  urv: `${high} ${unit}`,
  receiverLow: `${low} ${unit}`,
  receiverHigh: `${high} ${unit}`,
  damping: '2 s',
  faultAction: 'high',
  faultCurrent: '21.5 mA',
  highestCurrent: '22 mA',
  tolerance: '0.5 %',
})
const commissioned = (plan: Omit<Plan, 'created' | 'gear' | 'history'> & Partial<Plan>): Plan => ({
  created: '2024-05-06T09:00:00.000Z',
  gear: [],
  history: [],
  ...plan,
})

/** Loops whose measurement is entered as its value; the wiring is complete. */
const WIRED: readonly Plan[] = [
  commissioned({
    tag: 'FT-101', service: 'Seawater intake flow', area: 'Intake', kind: 'volume-flow',
    typed: {
      ...wired, ...standard('m3/h', 0, 500), sensorLow: '-1200 m3/h', sensorHigh: '1200 m3/h',
      device: 'Clamp pair M with wall transmitter, ultrasonic', serial: 'M-11806', controls: 'Intake pump speed; low flow stops the screen wash',
      tell: 'Wash house operator, radio channel 3', output: 'four-wire active', power: 'mains', receiver: 'passive card', maxV: '15 V',
      cableLength: '220 m', cableTemp: '35 °C', conductor: '1.5 mm2',
    },
  }),
  commissioned({
    tag: 'PDT-118', service: 'Wash-water filter, differential pressure', area: 'Wash house', kind: 'pressure',
    typed: {
      ...wired, ...standard('mbar', 0, 600), sensorLow: '-1000 mbar', sensorHigh: '1000 mbar',
      device: 'Pressure cell P4, two-wire, three-valve manifold', serial: 'P4-20773', controls: 'Filter backwash at 450 mbar',
      tell: 'Wash house operator, radio channel 3', cableLength: '60 m', cableTemp: '35 °C', otherSeries: '250 Ω',
    },
  }),
  commissioned({
    tag: 'LT-205', service: 'Hot condensate receiver level', area: 'Concentration', kind: 'level-in-contact',
    typed: {
      ...wired, ...standard('mm', 0, 1400), sensorLow: '0 mm', sensorHigh: '2000 mm',
      device: 'Guided-wave probe G3 on a cable', serial: 'G3-00412', controls: 'Condensate pump; high level alarm',
      tell: 'Boiler operator, radio channel 4', between: 'barrier', otherSeries: '120 Ω', cableLength: '110 m', cableTemp: '55 °C',
    },
  }),
  commissioned({
    tag: 'LT-208', service: 'Soda day tank level', area: 'Extraction', kind: 'level-in-contact',
    typed: {
      ...wired, ...standard('mm', 0, 2600), sensorLow: '-4000 mm', sensorHigh: '4000 mm',
      device: 'Pressure cell P4, wet leg', serial: 'P4-20790', controls: 'Soda make-up; low level stops dosing FT-214',
      tell: 'Extraction operator, radio channel 2', second: 'loop indicator', cableLength: '90 m', cableTemp: '35 °C',
    },
  }),
  commissioned({
    tag: 'FT-210', service: 'Alginate liquor mass flow', area: 'Concentration', kind: 'mass-flow',
    typed: {
      ...wired, ...standard('kg/h', 0, 9000), sensorLow: '0 kg/h', sensorHigh: '20000 kg/h',
      device: 'Coriolis meter C2, two-wire', serial: 'C2-55019', controls: 'Evaporator feed',
      tell: 'Boiler operator, radio channel 4', between: 'isolator', receiver: 'passive card', cableLength: '130 m', cableTemp: '40 °C',
    },
  }),
  commissioned({
    tag: 'FT-214', service: 'Soda dosing', area: 'Extraction', kind: 'mass-flow',
    typed: {
      ...wired, ...standard('kg/h', 0, 600), sensorLow: '0 kg/h', sensorHigh: '2000 kg/h',
      device: 'Coriolis meter C2, separate transmitter', serial: 'C2-55102', controls: 'Soda dosing pump',
      tell: 'Extraction operator, radio channel 2', output: 'isolated, fed by jumper', power: 'mains', receiver: 'passive card',
      cableLength: '75 m', cableTemp: '35 °C',
    },
    wrong: (w) => ({ ...w, conductors: w.conductors.filter((c) => c.from !== 'TX:A+') }),
    note: 'Wired as found: display works, output dead',
  }),
  commissioned({
    tag: 'AT-221', service: 'Extractor pH', area: 'Extraction', kind: 'ph',
    typed: {
      ...wired, ...standard('pH', 2, 12), sensorLow: '0 pH', sensorHigh: '14 pH',
      device: 'pH transmitter E1, three-wire', serial: 'E1-07741', controls: 'Soda dosing set point',
      tell: 'Extraction operator, radio channel 2', output: 'three-wire', receiver: 'passive card', cableLength: '40 m', cableTemp: '35 °C',
    },
  }),
  commissioned({
    tag: 'FT-310', service: 'Raw biogas flow', area: 'Gas', kind: 'mass-flow',
    typed: {
      ...wired, ...standard('kg/h', 0, 400), sensorLow: '0 kg/h', sensorHigh: '800 kg/h',
      device: 'Thermal insertion meter T1 through a ball valve', serial: 'T1-31120', controls: 'Flare valve',
      tell: 'Gas plant operator, radio channel 6', output: 'four-wire passive', receiver: 'card supplies loop', cableLength: '160 m', cableTemp: '45 °C',
    },
  }),
  commissioned({
    tag: 'FT-330', service: 'Biomethane export flow', area: 'Gas', kind: 'volume-flow',
    typed: {
      ...wired, ...standard('m3/h', 0, 900), sensorLow: '0 m3/h', sensorHigh: '2500 m3/h',
      device: 'Clamp pair G with wall transmitter, ultrasonic, two paths', serial: 'G-00219', controls: 'Export metering; low flow shuts the compressor down',
      tell: 'Gas plant operator, radio channel 6', output: 'four-wire active', receiver: 'passive card', maxV: '18 V', between: 'isolator',
      cableLength: '190 m', cableTemp: '45 °C',
    },
  }),
  commissioned({
    tag: 'FT-402', service: 'Steam to dryer', area: 'Drying', kind: 'mass-flow',
    typed: {
      ...wired, ...standard('kg/h', 0, 2500), sensorLow: '0 kg/h', sensorHigh: '4000 kg/h',
      device: 'Pressure cell P4 at an orifice', serial: 'P4-20811', controls: 'Dryer steam valve TV-405',
      tell: 'Dryer operator, radio channel 5', cableLength: '95 m', cableTemp: '60 °C',
    },
  }),
  commissioned({
    tag: 'FT-410', service: 'Wash water return, clamp-on survey', area: 'Wash house', kind: 'volume-flow',
    typed: {
      ...wired, ...standard('m3/h', 0, 120), sensorLow: '-400 m3/h', sensorHigh: '400 m3/h',
      device: 'Clamp pair M, portable', serial: 'M-11830', controls: 'Nothing; a day’s survey',
      tell: 'Wash house operator, radio channel 3', output: 'four-wire active', power: 'mains', receiver: 'passive card', junction: 'no', maxV: '15 V',
      cableLength: '12 m', cableTemp: '30 °C',
    },
  }),
  commissioned({
    tag: 'LY-133', service: 'Brine buffer level through the converter', area: 'Extraction', kind: 'level-in-contact',
    typed: {
      ...wired, ...standard('m', 0, 2.2), sensorLow: '0 m', sensorHigh: '3 m',
      device: 'Converter K2, channel 1 of two', serial: 'K2-01180', controls: 'Brine buffer display',
      tell: 'Extraction operator, radio channel 2', receiver: 'converter, channel 1', cableLength: '70 m', cableTemp: '35 °C', shunt: '100 Ω', otherSeries: '150 Ω',
    },
  }),
] // prettier-ignore

const PLANS: readonly Plan[] = [
  ...WIRED,
  {
    tag: 'LT-112',
    service: 'Wash tank level',
    area: 'Wash house',
    kind: 'level-from-above',
    created: '2023-03-06T09:10:00.000Z',
    gear: ['Loop meter L1', 'Dip gauge D2'],
    typed: {
      ...wired,
      device: 'Level head A2, ultrasonic, two-wire',
      serial: 'A2-30418',
      controls: 'Wash water inlet valve LV-112; high level stops the wash pump',
      tell: 'Wash house operator, radio channel 3',
      interval: '6 months',
      cableLength: '140 m',
      cableTemp: '45 °C',
      tankDepth: '3200 mm',
      emptyDistance: '3600 mm',
      fullDistance: '600 mm',
      blanking: '300 mm',
      reports: 'level',
      airTemp: '18 °C',
      compensation: 'measured',
      lrv: '0 mm',
      urv: '3000 mm',
      damping: '2 s',
      faultAction: 'high',
      faultCurrent: '21.5 mA',
      highestCurrent: '22 mA',
      tolerance: '0.5 %',
      receiverLow: '0 mm',
      receiverHigh: '3000 mm',
    },
    history: [
      { at: '2024-03-12T08:31:00.000Z', zero: 0.04, span: -0.02 },
      { at: '2024-09-10T09:02:00.000Z', zero: 0.06, span: 0.01 },
      { at: '2025-03-11T08:47:00.000Z', zero: 0.03, span: -0.05 },
      { at: '2025-09-16T10:15:00.000Z', zero: 0.09, span: -0.02 },
      { at: '2026-03-10T08:20:00.000Z', zero: 0.07, span: 0.03 },
      { at: '2026-09-15T09:40:00.000Z', zero: 0.11, span: -0.01 },
    ],
  },
  {
    tag: 'LT-133',
    service: 'Brine buffer level',
    area: 'Extraction',
    kind: 'level-from-above',
    created: '2026-10-19T07:55:00.000Z',
    gear: [],
    history: [],
    typed: {
      device: 'Level head A2, ultrasonic, two-wire',
      serial: 'A2-31977',
      controls: 'Two brine pumps, staged',
      supply: '24 V',
      liftOff: '12 V',
      shunt: '250 Ω',
      conductor: '1 mm2',
      shape: 'horizontal, dished ends',
      diameter: '2.4 m',
      tankLength: '5.5 m',
      tankDepth: '2.4 m',
      emptyDistance: '2.75 m',
      fullDistance: '0.55 m',
      lrv: '0 m',
      urv: '2.2 m',
      reports: 'level',
    },
  },
  {
    tag: 'TT-405',
    service: 'Dryer outlet temperature',
    area: 'Drying',
    kind: 'rtd-head',
    created: '2023-02-14T13:20:00.000Z',
    gear: ['Loop meter L1', 'Dry block B1'],
    typed: {
      ...wired,
      liftOff: '10 V',
      device: 'Head transmitter H1 with Pt100 insert',
      serial: 'H1-08852',
      controls: 'Dryer steam valve TV-405; high temperature trips the dryer fan',
      tell: 'Dryer operator, radio channel 5',
      interval: '12 months',
      cableLength: '85 m',
      cableTemp: '60 °C',
      element: 'Pt100',
      leads: '3',
      lowest: '20 °C',
      highest: '140 °C',
      immersion: '180 mm',
      well: '9 mm',
      lrv: '0 °C',
      urv: '150 °C',
      damping: '1 s',
      faultAction: 'low',
      faultCurrent: '3.5 mA',
      highestCurrent: '22 mA',
      tolerance: '0.5 %',
      receiverLow: '0 °C',
      receiverHigh: '150 °C',
    },
    history: [
      { at: '2023-10-04T12:05:00.000Z', zero: 0.08, span: 0.05 },
      { at: '2024-10-08T12:30:00.000Z', zero: 0.17, span: 0.09 },
      { at: '2025-10-07T11:50:00.000Z', zero: 0.27, span: 0.13 },
    ],
  },
]

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
const later = (at: string, seconds: number) => new Date(new Date(at).getTime() + seconds * 1000).toISOString()
const entryOf = (typed: string, unit: string) => ({ typed, value: Number.parseFloat(typed), unit })

function checkOf(
  plan: Plan,
  loop: Folder['loop'],
  version: Version,
  h: History,
  makeId: (at: string) => string,
): Check {
  const kind = kindOf(plan.kind)
  const { thread } = kind.study(version.entries)
  const { low, high } = knotScales(thread)[0]!
  const unit = thread.knots[0]!.unit
  const [by, reviewer] = [person('ailsa'), person('magnus')]
  let seed = seedFrom(plan.tag + h.at)
  const noise = (size: number) => {
    const [n, next] = normal(seed)
    seed = next
    return n * size
  }
  const on = h.at.slice(0, 10)
  const check: Check = {
    id: makeId(h.at),
    versionId: version.id,
    phase: 'as-found',
    tolerancePct: readEntries(kind.fields, version.entries).in('tolerance', '%')!,
    range: { lrv: low!, urv: high!, unit },
    points: upAndDown(),
    // Gear was always in date then; the demo's expired piece shows on what is done from now on.
    gear: plan.gear
      .map((name) => kit.find((g) => g.name === name)!)
      .map(({ id, name, serial, uncertainty }) => ({
        id,
        name,
        serial,
        uncertainty,
        due: `${Number(on.slice(0, 4)) + 1}-01-31`,
      })),
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
    readings: [],
    signatures: [],
  }
  for (const point of check.points) {
    const at = later(h.at, 120 + point.index * 230)
    const nominal = low! + (point.percent / 100) * (high! - low!)
    const applied = Math.min(high! * 1.02, Math.max(low!, nominal + noise((high! - low!) * 0.002)))
    const appliedEntry = entryOf(`${applied.toFixed(unit === 'mm' ? 0 : 1)} ${unit}`, unit)
    const percent = (100 * (appliedEntry.value - low!)) / (high! - low!)
    const error = h.zero + (h.span * percent) / 100 + (point.direction === 'down' ? 0.02 : 0) + noise(0.012)
    const mA = 4 + 0.16 * (percent + error)
    const shown = spread(thread, 'current', mA).at(-1)!
    const controller = thread.knots.at(-1)!
    check.readings.push({
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
      supersedes: null,
      reason: '',
      by,
      takenAt: at,
      savedAt: later(at, 0.4),
    })
  }
  const digest = signedDigest(loop, version, check)
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

function folderOf(plan: Plan): Folder {
  const makeId = idMaker(plan.tag)
  const loop = {
    id: makeId(plan.created),
    tag: plan.tag,
    service: plan.service,
    area: plan.area,
    kind: plan.kind,
    createdAt: plan.created,
  }
  const { fields } = kindOf(plan.kind)
  const entries = Object.fromEntries(
    Object.entries(plan.typed).map(([key, typed]) => {
      const field = fields.find((f) => f.key === key)
      if (!field) throw new Error(`${plan.tag}: no field ${key}`)
      return [key, field.type === 'quantity' ? entryFrom(typed, field) : { typed }]
    }),
  )
  if (plan.wrong)
    entries['wiring'] = { typed: writeWiring(plan.wrong(studyWiring(readEntries(fields, entries)).desk.wiring)) }
  const savedAt = later(plan.created, 1500)
  const version: Version = {
    id: makeId(later(plan.created, 60)),
    number: 1,
    parentId: null,
    revision: 1,
    entries,
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
    checks: plan.history.map((h) => checkOf(plan, loop, version, h, makeId)),
    wireLog: [],
  }
}

/** Text of each demo folder by file name. */
export function demoFolders(): Record<string, string> {
  return Object.fromEntries(PLANS.map((plan) => [`${plan.tag}.json`, bundleText(folderOf(plan))]))
}

if (process.argv[1] === new URL(import.meta.url).pathname) {
  mkdirSync(new URL('./folders/', import.meta.url), { recursive: true })
  for (const [name, text] of Object.entries(demoFolders()))
    writeFileSync(new URL(`./folders/${name}`, import.meta.url), text)
}
