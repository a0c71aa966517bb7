// A discrete sensor on an input or a load: fit, wiring, switch point, what a check is judged by, what is counted.
import { parseDays, parseShifts, type Expected, type ShiftPattern } from '../../discrete/index.ts'
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import {
  judgeSwitchWiring,
  proposeSwitch,
  type Conditions,
  type JudgedSwitch,
  type Wiring,
} from '../../wiring/index.ts'
import type { Desk, Entries, Figure, Keep, SwitchKind } from '../kind.ts'
import { readEntries, type Reader } from '../reader.ts'
import type { Lane, SwitchRun } from '../switch-run.ts'
import { recordedWiring, unreadableFindings, type RecordedWiring } from '../two-wire/index.ts'
import { discreteFields } from './fields.ts'
import { discreteFindings } from './findings.ts'
import { distanceOf, figuresOf, lanesOf, setupOf, verdictOfLanes, type SwitchSetup } from './setup.ts'
import { sure } from '../../sure/index.ts'

export { bothManners } from './findings.ts'
export { bothTeach, teachingsOf, type Teaching } from './teachings.ts'
export { setupOf, type SwitchSetup } from './setup.ts'
export { waysOf, withChanges, type Way, type Ways } from './ways.ts'

interface Drawn {
  readonly recorded: RecordedWiring
  readonly wiring: Wiring
  readonly own: boolean
  readonly conditions: Omit<Conditions, 'mA' | 'target'>
  readonly judged: JudgedSwitch
}

function drawnOf(r: Reader, setup: SwitchSetup, keep: Keep): Drawn {
  const text = r.text('wiring')
  const figures = figuresOf(setup, r)
  return keep('desk', JSON.stringify([text, setup.arrangement, figures]), () => {
    const recorded = recordedWiring(text)
    const own = recorded !== undefined && !(recorded instanceof Refusal)
    const wiring = own ? recorded : proposeSwitch(setup.arrangement)
    const conditions = { figures, coreOhm: 0.2, coreOhmPerM: 0.04 }
    return { recorded, wiring, own, conditions, judged: judgeSwitchWiring(wiring, { ...conditions, mA: 0 }) }
  })
}

const NEEDED_AT_THE_DESK: Readonly<Record<string, readonly string[]>> = {
  supply: ['supply'],
  inputOhm: ['inputOhm', 'supply'],
  loadOhm: ['loadCurrent', 'supply'],
  extraOhm: ['extraOhm'],
  coilOhm: ['coilCurrent'],
}

function runOf(r: Reader, setup: SwitchSetup, drawn: Drawn): SwitchRun {
  const { present, absent } = drawn.judged
  const lanes = lanesOf(r, setup, drawn.own && present && absent ? { present, absent } : undefined)
  const { entered } = setup
  const distance = distanceOf(r)
  const expected = (l: Lane): Expected => ({
    sensorLamp: l.sensorLamp ?? l.conducting,
    inputLamp: l.inputLamp ?? false,
    controller: l.controller ?? false,
    signalV: l.signalV,
  })
  return {
    entered,
    between: setup.between,
    extra: setup.extra,
    lanes,
    verdict: lanes && entered ? verdictOfLanes(lanes, entered.maxOut_mA) : undefined,
    needs: setup.needs,
    distance,
    plan:
      lanes && entered
        ? {
            present: expected(lanes.present),
            absent: expected(lanes.absent),
            supplyV: entered.circuit.supplyV,
            ...(distance
              ? {
                  distance: {
                    expected_mm: distance.expected_mm,
                    tolerancePct: r.in('distanceTolerance', '%') ?? 10,
                    differentialMaxPct: r.in('differentialMost', '%') ?? 20,
                  },
                }
              : {}),
          }
        : undefined,
  }
}

function figures(r: Reader, run: SwitchRun): Figure[] {
  const V = (v: number) => show(v, 'V', { decimals: 2 })
  const figure = ({
    id,
    label,
    unit,
    decimals,
    of,
    working,
  }: {
    readonly id: string
    readonly label: string
    readonly unit: string
    readonly decimals: number
    readonly of: (l: Lane) => number
    readonly working: (l: Lane) => string
  }): Figure[] =>
    (['present', 'absent'] as const).map((which) => {
      const l = run.lanes?.[which]
      const where = which === 'present' ? 'with target' : 'without target'
      return {
        id: `${id}-${which}`,
        stage: 'wire',
        label: `${label}, ${where}`,
        unit,
        decimals,
        ...(l
          ? {
              value: of(l),
              working: () => ({
                title: `${label}, ${where}`,
                formula: l.conducting
                  ? 'signal = what the conducting stage leaves'
                  : 'signal = what resistors and leakage leave',
                numbers: working(l),
                source: 'Kirchhoff at the signal wire; residual voltage and leakage as in IEC 60947-5-2',
              }),
            }
          : run.needs.length
            ? { needs: run.needs }
            : { says: 'cannot be computed from these entries' }),
      }
    })
  const residual = run.entered?.circuit.sensor.residualV ?? 0
  const supply = run.entered?.circuit.supplyV ?? 0
  const stage = r.text('output')
  const d = run.distance
  const lacks = (id: string) => {
    if (r.text('sensing') === 'lever or contact') return { says: 'a contact has none' }
    const needs = r.missing('sensing', 'rated', 'metal', ...(id === 'standard-side' ? ['face'] : []))
    return needs.length ? { needs } : { says: 'cannot be computed from these entries' }
  }
  const distance = ({
    id,
    label,
    value,
    formula,
    source,
  }: {
    readonly id: string
    readonly label: string
    readonly value: number | undefined
    readonly formula: string
    readonly source: string
  }): Figure => ({
    id,
    stage: 'switch-point',
    label,
    unit: 'mm',
    decimals: 2,
    ...(value === undefined
      ? lacks(id)
      : {
          value,
          working: () => ({
            title: label,
            formula,
            numbers: `rated ${show(r.in('rated', 'mm') ?? 0, 'mm')}: ${show(value, 'mm', { decimals: 2 })}`,
            source,
          }),
        }),
  })
  const side = d?.standardSide_mm
  return [
    ...figure({
      id: 'signal',
      label: 'Signal wire to negative',
      unit: 'V',
      decimals: 2,
      of: (l) => l.signalV,
      working: (l) =>
        l.conducting && stage === 'PNP' ? `${V(supply)} − ${V(residual)} = ${V(l.signalV)}` : `${V(l.signalV)}`,
    }),
    ...figure({
      id: 'input',
      label: 'Across the input',
      unit: 'V',
      decimals: 2,
      of: (l) => l.inputV,
      working: (l) => V(l.inputV),
    }),
    ...figure({
      id: 'through',
      label: 'Through the input',
      unit: 'mA',
      decimals: 2,
      of: (l) => l.input_mA,
      working: (l) => `${V(l.inputV)} / ${show(sure(run.entered).circuit.input.ohm, 'Ohm', { decimals: 0 })}`,
    }),
    ...figure({
      id: 'stage',
      label: 'Through the output',
      unit: 'mA',
      decimals: 2,
      of: (l) => l.sensor_mA,
      working: (l) => show(l.sensor_mA, 'mA', { decimals: 2 }),
    }),
    distance({
      id: 'expected',
      label: 'Expected operate distance',
      value: d?.expected_mm,
      formula: 'rated · factor of the metal',
      source: 'IEC 60947-5-2; factor from the table of metals',
    }),
    distance({
      id: 'assured',
      label: 'Surely seen up to',
      value: d?.assured_mm,
      formula: '0.9 · 0.9 · expected',
      source: 'IEC 60947-5-2: effective 0.9 to 1.1, usable 0.9 to 1.1 of that',
    }),
    distance({
      id: 'furthest',
      label: 'Seen by none beyond',
      value: d?.usable_mm[1],
      formula: '1.1 · 1.1 · expected',
      source: 'IEC 60947-5-2',
    }),
    distance({
      id: 'differential',
      label: 'Differential at most',
      value: d?.differentialMax_mm,
      formula: '0.2 · expected',
      source: 'IEC 60947-5-2: differential travel',
    }),
    distance({
      id: 'standard-side',
      label: 'Side of the standard target',
      value: side ?? undefined,
      formula: 'greater of face and 3 · rated',
      source: 'IEC 60947-5-2: a square of mild steel, 1 mm thick',
    }),
  ]
}

const WIRE_KEYS = new Set(discreteFields.filter((f) => f.stage === 'wire').map((f) => f.key))

/** The desk, with what stops the pair from working among its findings: power does not go on before that is mended. */
function deskFrom(r: Reader, drawn: Drawn, found: readonly Finding[]): Desk {
  const { judged, wiring, own, conditions, recorded } = drawn
  const needs = judged.needs.flatMap((n) =>
    (NEEDED_AT_THE_DESK[n] ?? []).filter((k) => r.missing(k).length > 0).map((k) => r.label(k)),
  )
  return {
    wiring,
    own,
    conditions,
    findings: [
      ...unreadableFindings(recorded),
      ...found
        .filter((f) => f.grade === 'stop' && f.fields.some((k) => WIRE_KEYS.has(k)))
        .map((f) => ({ ...f, where: judged.spots ? [judged.spots.sensor, judged.spots.inputEnd] : [] })),
      ...judged.findings.filter((f) => !found.some((o) => o.code === f.code)),
    ],
    needs: [...new Set(needs)],
  }
}

export const discreteSensor: SwitchKind = {
  id: 'discrete-sensor',
  family: 'switch',
  name: 'Discrete sensor',
  listed: ['discrete', 'switch', 'proximity', 'prox', 'inductive', 'on off'],
  summary: 'A sensor or contact with two states, on a controller’s input or straight on a load.',
  fields: discreteFields,
  look(r, keep) {
    const setup = setupOf(r)
    const drawn = drawnOf(r, setup, keep)
    const run = runOf(r, setup, drawn)
    const own = discreteFindings(r, setup, run, drawn.own)
    const desk = deskFrom(r, drawn, own)
    return {
      run,
      desk,
      figures: figures(r, run),
      // One that both say stands there once, with its place.
      findings: [...own.filter((f) => !desk.findings.some((d) => d.code === f.code)), ...desk.findings],
    }
  },
  check: {
    works: ['discrete'],
    trueInput: 'Distance at which it changed',
    reference: 'feeler gauge or scale',
    process: 'Target',
    cautions: [
      'Isolate and lock off the machine before reaching in; keep hands out while it can move. Tell ' +
        'operations: what this point switches will move.',
      'A safety function is never made with an ordinary sensor and relay: guards and emergency stops follow ' +
        'the site’s functional-safety procedure.',
    ],
  },
}

/** Terms for counting, from the entries; what is missing for them is named. */
export interface CountTerms {
  readonly patterns: readonly ShiftPattern[]
  readonly days: ReadonlySet<number>
  readonly idealCycle_s: number | undefined
  readonly longCycle_s: number | undefined
  readonly needs: readonly string[]
}

const WHOLE_DAYS: readonly ShiftPattern[] = [{ name: 'Day', from_min: 0, to_min: 1440 }]

export function countTerms(entries: Entries): CountTerms {
  const r = readEntries(discreteFields, entries)
  const shifts = attempt(() => parseShifts(r.text('shifts')))
  const days = attempt(() => parseDays(r.text('days')))
  const positive = (key: string) => {
    const v = r.in(key, 's')
    return v !== undefined && v > 0 ? v : undefined
  }
  return {
    patterns: shifts instanceof Refusal ? WHOLE_DAYS : shifts,
    days: days instanceof Refusal ? parseDays('every day') : days,
    idealCycle_s: positive('idealCycle'),
    longCycle_s: positive('longCycle'),
    needs: r.missing('idealCycle', 'shifts', 'days'),
  }
}
