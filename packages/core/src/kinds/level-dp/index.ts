// A kind of point: level by differential pressure, whose zero the mounting and the leg suppress or elevate.
import type { Finding } from '../../findings/index.ts'
import { dpLevelRange, type DpLevelRange, type LegArrangement } from '../../level/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { straightStage, type Knot, type Stage } from '../../thread/index.ts'
import { PLAIN, type CurrentKind, type Field, type Figure, type MovableProcess } from '../kind.ts'
import type { Reader } from '../reader.ts'
import {
  currentTail,
  identifyFields,
  manifoldField,
  rangeFields,
  stageOr,
  tripFields,
  wireFields,
} from '../two-wire/index.ts'
import { sure } from '../../sure/index.ts'

const vessel = { stage: 'point', type: 'quantity' } as const
const wet = { key: 'arrangement', is: ['wet-leg'] }
const length = ({
  key,
  group,
  label,
  help,
  more = {},
}: {
  readonly key: string
  readonly group: string
  readonly label: string
  readonly help: string
  readonly more?: Partial<Field>
}): Field => ({ ...vessel, key, group, quantity: 'length', unit: 'mm', label, help, required: true, ...more }) as Field
const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  {
    key: 'arrangement',
    stage: 'point',
    group: 'Vessel',
    type: 'choice',
    required: true,
    label: 'Low side',
    help: 'What the low side of the cell is joined to.',
    options: [
      { value: 'open', label: 'open to air' },
      { value: 'dry-leg', label: 'dry leg: gas of the vessel' },
      { value: 'wet-leg', label: 'wet leg: filled' },
    ],
    resets: ['legSg', 'legHeight', 'lrv', 'urv'],
  },
  {
    ...vessel,
    key: 'sg',
    group: 'Vessel',
    quantity: 'ratio',
    unit: '1',
    label: 'Specific gravity of the liquid',
    help: 'Water is 1.',
    required: true,
  },
  length({
    key: 'emptyHeight',
    group: 'Vessel',
    label: 'Liquid above the lower tap at 0 %',
    help: 'The level that counts as empty.',
  }),
  length({
    key: 'fullHeight',
    group: 'Vessel',
    label: 'Liquid above the lower tap at 100 %',
    help: 'The level that counts as full.',
  }),
  length({
    key: 'belowTap',
    group: 'Mounting',
    label: 'Transmitter below the lower tap',
    help: 'Negative when it hangs above the tap.',
  }),
  {
    ...vessel,
    key: 'legSg',
    group: 'Leg',
    quantity: 'ratio',
    unit: '1',
    label: 'Specific gravity of the fill',
    help: 'Of what stands in the wet leg.',
    required: true,
    when: wet,
  },
  length({
    key: 'legHeight',
    group: 'Leg',
    label: 'Fill above the transmitter',
    help: 'Height of the wet leg on the low side.',
    more: { when: wet },
  }),
  manifoldField,
  ...(['Low', 'High'] as const).map((end): Field => ({
    ...vessel,
    key: `sensor${end}`,
    group: 'Sensor',
    quantity: 'pressure',
    unit: 'mbar',
    label: `${end === 'Low' ? 'Lower' : 'Upper'} sensor limit`,
    help:
      `${end === 'Low' ? 'Lowest' : 'Highest'} differential pressure that the cell measures; below zero with a ` +
      'wet leg.',
    required: true,
  })),
  ...rangeFields('pressure', 'mbar', { quantity: 'length', unit: 'mm' }),
  ...tripFields('length', 'mm'),
]

const KEYS = ['sg', 'emptyHeight', 'fullHeight', 'belowTap', 'arrangement', 'legSg', 'legHeight'] as const

/** What the vessel makes of empty and full, or why it makes nothing; undefined while entries are missing. */
export function dpLevelOf(r: Reader): DpLevelRange | Refusal | undefined {
  if (r.missing(...KEYS).length) return undefined
  const sg = sure(r.in('sg', '1'))
  if (!(sg > 0)) return new Refusal('not-positive', 'A specific gravity is above 0.')
  return attempt(() =>
    dpLevelRange({
      arrangement: r.text('arrangement') as LegArrangement,
      sg,
      emptyHeight_mm: sure(r.in('emptyHeight', 'mm')),
      fullHeight_mm: sure(r.in('fullHeight', 'mm')),
      transmitterBelowTap_mm: sure(r.in('belowTap', 'mm')),
      legSg: r.in('legSg', '1'),
      legHeight_mm: r.in('legHeight', 'mm'),
    }),
  )
}

const levelUnit = (r: Reader) => (r.missing('receiverHigh').length ? 'mm' : r.unit('receiverHigh'))
const dpUnit = (r: Reader) => (r.missing('urv').length ? 'mbar' : r.unit('urv'))

function threadOf(r: Reader) {
  const [lu, pu] = [levelUnit(r), dpUnit(r)]
  const range = dpLevelOf(r)
  const known = range && !(range instanceof Refusal) ? range : undefined
  const needs = known ? [] : range instanceof Refusal ? ['a vessel that makes a span'] : r.missing(...KEYS)
  const level: Knot = {
    id: 'level',
    role: 'process',
    name: 'Level',
    explains: 'Liquid above the 0 % level.',
    quantity: 'length',
    unit: lu,
    decimals: lu === 'm' ? 3 : 0,
  }
  const dp: Knot = {
    id: 'dp',
    role: 'sensor',
    name: 'Differential pressure',
    explains: 'High side less low side, at the cell.',
    quantity: 'pressure',
    unit: pu,
    decimals: 1,
  }
  const digital: Knot = {
    ...dp,
    id: 'digital',
    role: 'digital',
    name: 'Reported pressure',
    explains: 'The transmitter’s own digital value.',
  }
  const head = ['density other than entered', 'wet leg not full, or boiled away', 'impulse line blocked']
  const cell = ['zero shifted by mounting', 'sensor trim off', 'manifold’s equalizing valve not tight']
  const stages: Stage[] = [
    stageOr('Hydrostatics', head, needs, () => {
      const [low, high] = [sure(known).lrv_mmH2O, sure(known).urv_mmH2O].map((v) => convertUnit(v, 'mmH2O', pu)) as [
        number,
        number,
      ]
      const full = convertUnit(sure(r.in('fullHeight', 'mm')) - sure(r.in('emptyHeight', 'mm')), 'mm', lu)
      return straightStage({
        title: 'Hydrostatics',
        causes: head,
        from: [0, full],
        to: [low, high],
        working: (v) => ({
          title: 'Differential pressure',
          formula: 'Δp = sg · (h + below tap) − leg',
          numbers:
            `${show(low, pu)} + ${show(v, lu, { trim: true })} / ${show(full, lu, { trim: true })} × ` +
            `${show(high - low, pu)} = ${show(low + (v / full) * (high - low), pu)}`,
          source: 'Hydrostatics: 1 mm of liquid of specific gravity 1 is 1 mmH₂O',
        }),
      })
    }),
    straightStage({
      title: 'Sensor',
      causes: cell,
      from: [0, 1],
      to: [0, 1],
      working: (v) => ({
        title: 'Reported pressure',
        formula: 'reported = measured',
        numbers: `${show(v, pu)} = ${show(v, pu)}`,
        source: 'A sensor without error reports what is there',
      }),
    }),
  ]
  const tail = currentTail(r, digital, { shows: { quantity: 'length', unit: lu } })
  return { knots: [level, dp, digital, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

/** Zero suppressed (the range begins above none) or elevated (below), in words. */
export const zeroWords = (low: number, words: (v: number) => string): string =>
  Math.abs(low) < 1e-9
    ? 'The range begins at no pressure.'
    : low > 0
      ? `Zero suppressed by ${words(low)}: at empty the line already presses on the high side.`
      : `Zero elevated by ${words(-low)}: at empty the leg outweighs the high side.`

function figuresOf(r: Reader): Figure[] {
  const pu = dpUnit(r)
  const range = dpLevelOf(r)
  const known = range && !(range instanceof Refusal) ? range : undefined
  const says = range instanceof Refusal ? range.message : undefined
  const mm = (key: string) => show(r.in(key, 'mm') ?? 0, 'mm', { trim: true })
  const leg = () => (r.text('arrangement') === 'wet-leg' ? ` − ${r.in('legSg', '1')} × ${mm('legHeight')}` : '')
  const at = (id: string, label: string, value: number | undefined, numbers: () => string): Figure => ({
    id,
    stage: 'point',
    label,
    unit: pu,
    decimals: 1,
    ...(value === undefined
      ? { needs: r.missing(...KEYS), ...(says ? { says } : {}) }
      : {
          value: convertUnit(value, 'mmH2O', pu),
          working: () => ({
            title: label,
            formula: 'Δp = sg · (h + below tap) − leg',
            numbers: `${numbers()} = ${show(value, 'mmH2O', { decimals: 1 })}`,
            source: 'Hydrostatics: 1 mm of liquid of specific gravity 1 is 1 mmH₂O',
          }),
        }),
  })
  return [
    at(
      'dp-empty',
      'Differential pressure at empty: 4 mA',
      known?.lrv_mmH2O,
      () => `${r.in('sg', '1')} × (${mm('emptyHeight')} + ${mm('belowTap')})${leg()}`,
    ),
    at(
      'dp-full',
      'Differential pressure at full: 20 mA',
      known?.urv_mmH2O,
      () => `${r.in('sg', '1')} × (${mm('fullHeight')} + ${mm('belowTap')})${leg()}`,
    ),
    at('dp-span', 'Span', known?.span_mmH2O, () => `${r.in('sg', '1')} × (${mm('fullHeight')} − ${mm('emptyHeight')})`),
  ]
}

function findingsOf(r: Reader): Finding[] {
  const pu = dpUnit(r)
  const range = dpLevelOf(r)
  const n = (v: number) => show(v, pu, { trim: true })
  const found: Finding[] = []
  if (range instanceof Refusal)
    found.push({
      code: range.code,
      grade: 'stop',
      fields: ['emptyHeight', 'fullHeight', 'sg'],
      what: range.message,
      why: 'No range follows from these figures.',
      sure: 'Certain.',
      action: 'Correct the heights or the specific gravity.',
    })
  const [lrv, urv] = [r.in('lrv', pu), r.in('urv', pu)]
  if (range && !(range instanceof Refusal)) {
    const [low, high] = [range.lrv_mmH2O, range.urv_mmH2O].map((v) => convertUnit(v, 'mmH2O', pu)) as [number, number]
    if (
      lrv !== undefined &&
      urv !== undefined &&
      Math.max(Math.abs(lrv - low), Math.abs(urv - high)) > 0.001 * Math.abs(high - low)
    )
      found.push({
        code: 'range-not-as-computed',
        grade: 'look',
        fields: ['lrv', 'urv'],
        what:
          `The range is ${n(lrv)} to ${n(urv)}; the vessel makes ${show(low, pu, { decimals: 1 })} to ` +
          `${show(high, pu, { decimals: 1 })}.`,
        why:
          `At empty the loop would read ${(((low - lrv) / (urv - lrv)) * 100).toFixed(1)} %, at full ` +
          `${(((high - lrv) / (urv - lrv)) * 100).toFixed(1)} %.`,
        sure: 'Certain, if vessel and fill are as entered.',
        action: 'Range the transmitter as computed: under Range, Re-range.',
      })
    const [sl, sh] = [r.in('sensorLow', pu), r.in('sensorHigh', pu)]
    if (sl !== undefined && sh !== undefined && (Math.min(low, high) < sl || Math.max(low, high) > sh))
      found.push({
        code: 'range-beyond-sensor',
        grade: 'stop',
        fields: ['sensorLow', 'sensorHigh'],
        what:
          `Empty and full make ${show(low, pu, { decimals: 1 })} and ${show(high, pu, { decimals: 1 })}, beyond ` +
          `the cell’s ${n(sl)} to ${n(sh)}.`,
        why: 'The current would stand while the level goes on.',
        sure: 'Certain, if the nameplate was copied right.',
        action: 'Take another cell, or mount it elsewhere.',
      })
  }
  return found
}

/** How the vessel’s level moves on the bench. */
function processOf(r: Reader): MovableProcess | undefined {
  const [empty, full] = [r.in('emptyHeight', levelUnit(r)), r.in('fullHeight', levelUnit(r))]
  if (empty === undefined || full === undefined || full <= empty) return undefined
  const span = full - empty
  return { lowest: -span * 0.02, highest: span * 1.02, ratePerSecond: span / 12, scatter: span * 0.003 }
}

export const levelDp: CurrentKind = {
  id: 'level-dp',
  name: 'Level by differential pressure',
  summary:
    'A differential pressure cell at a vessel, low side open, dry or filled; its zero is suppressed or ' +
    'elevated; 4–20 mA.',
  family: 'current',
  fields,
  has: PLAIN,
  look: (r) => ({
    thread: threadOf(r),
    figures: figuresOf(r),
    findings: findingsOf(r),
    rangeUnit: dpUnit(r),
    shownUnit: levelUnit(r),
    tripUnit: levelUnit(r),
    procedures: ['zero-trim', 'sensor-trim'],
    sensorLimits: (unit) => ({ low: r.in('sensorLow', unit), high: r.in('sensorHigh', unit) }),
    rangeFromMounting(unit) {
      const range = dpLevelOf(r)
      if (!range || range instanceof Refusal) return undefined
      const [low, high] = [range.lrv_mmH2O, range.urv_mmH2O].map((v) => convertUnit(v, 'mmH2O', unit))
      return { low: sure(low), high: sure(high) }
    },
    process: () => processOf(r),
  }),
  check: {
    trueInput: 'True level reached',
    reference: 'pressure calibrator at the manifold',
    process: 'Vessel level',
    cautions: [
      'Tell operations and put the loop in manual: a moving level drives pumps and trips.',
      'A wet leg is a measure, not a line: never drain it; opened the wrong way it is lost. Hot or corrosive ' +
        'contents: nothing is opened without the site’s permit.',
    ],
  },
}
