// A kind of point: level by the pressure of the liquid, whose zero the mounting and the leg suppress or elevate.
import type { Finding } from '../../findings/index.ts'
import { LEG_FLUIDS_SOURCE } from '../../level/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { sure } from '../../sure/index.ts'
import { straightStage, type Knot, type Stage } from '../../thread/index.ts'
import { PLAIN, type CurrentKind, type Figure, type MovableProcess } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { currentTail, stageOr } from '../two-wire/index.ts'
import { shownTail, vesselFindings, vesselNeeds, vesselOf, volumeFigures } from '../vessel/index.ts'
import { fields } from './fields.ts'
import { dpLevelOf, gaugeAt, KEYS } from './hydrostatics.ts'

export { dpLevelOf, gaugeAt, type Hydrostatics } from './hydrostatics.ts'

const levelUnit = (r: Reader) => (r.missing('receiverHigh').length ? 'mm' : r.unit('receiverHigh'))
const dpUnit = (r: Reader) => (r.missing('urv').length ? 'mbar' : r.unit('urv'))

const vesselIn = (r: Reader) => vesselOf(r, r.in('tankDepth', 'm'))
/** Height of the 0 % level above the vessel's lowest point, mm. */
function zeroAbove(r: Reader): number | undefined {
  const empty = r.in('emptyHeight', 'mm')
  return empty === undefined ? undefined : empty + (r.in('tapAbove', 'mm') ?? 0)
}

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
          formula: 'Δp = sg · h + what presses at none',
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
  const tail = shownTail(r, currentTail(r, digital, { shows: { quantity: 'length', unit: lu } }), {
    vessel: vesselIn(r),
    needs: [...vesselNeeds(r, 'tankDepth'), ...r.missing('emptyHeight')],
    zero_mm: zeroAbove(r) ?? 0,
  })
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
            formula: 'Δp = sg · h + what presses at none',
            numbers: `${numbers()} = ${show(value, 'mmH2O', { decimals: 1 })}`,
            source: 'Hydrostatics: 1 mm of liquid of specific gravity 1 is 1 mmH₂O',
          }),
        }),
  })
  const above = (key: string) => `${sure(known).sg.toFixed(4)} × ${mm(key)} + (${sure(known).offsetWords})`
  return [
    gravityFigure(r, { id: 'sg', label: 'Specific gravity of the liquid', value: known?.sg, fluid: 'liquid' }),
    ...(['wet-leg', 'seals', 'one-seal'].includes(r.text('arrangement'))
      ? [
          gravityFigure(r, {
            id: 'fill-sg',
            label: 'Specific gravity of the fill',
            value: known?.fillSg,
            fluid: 'legFill',
          }),
        ]
      : []),
    at('dp-empty', 'Differential pressure at empty: 4 mA', known?.lrv_mmH2O, () => above('emptyHeight')),
    at('dp-full', 'Differential pressure at full: 20 mA', known?.urv_mmH2O, () => above('fullHeight')),
    at(
      'dp-span',
      'Span',
      known?.span_mmH2O,
      () => `${sure(known).sg.toFixed(4)} × (${mm('fullHeight')} − ${mm('emptyHeight')})`,
    ),
    ...gaugeFigures(r, known, says),
    ...volumeFigures(r, vesselIn(r), vesselNeeds(r, 'tankDepth'), [
      { id: 'volume-dead', label: 'Volume below 0 %', level_mm: zeroAbove(r), needs: r.missing('emptyHeight') },
      {
        id: 'volume-full',
        label: 'Volume at 100 %',
        level_mm: fullAbove(r),
        needs: r.missing('fullHeight'),
      },
      {
        id: 'volume-overflow',
        label: 'Volume at the top',
        level_mm: r.in('tankDepth', 'mm'),
        needs: r.missing('tankDepth'),
      },
    ]),
  ]
}
const fullAbove = (r: Reader): number | undefined => {
  const full = r.in('fullHeight', 'mm')
  return full === undefined ? undefined : full + (r.in('tapAbove', 'mm') ?? 0)
}

/** Specific gravity as it is reckoned with. */
function gravityFigure(
  r: Reader,
  { id, label, value, fluid }: { id: string; label: string; value: number | undefined; fluid: 'liquid' | 'legFill' },
): Figure {
  const temp = fluid === 'liquid' ? 'liquidTemp' : 'legTemp'
  const base = { id, stage: 'point', label, unit: '1', decimals: 4 } as const
  if (value === undefined) {
    const range = dpLevelOf(r)
    return { ...base, needs: r.missing(...KEYS), ...(range instanceof Refusal ? { says: range.message } : {}) }
  }
  const ofTable = r.text(fluid) !== 'own'
  return {
    ...base,
    value,
    working: () => ({
      title: label,
      formula: 'sg = ρ(t) / 1000 kg/m³',
      numbers: ofTable
        ? `${r.text(fluid)} at ${show(r.in(temp, 'degC') ?? 20, 'degC', { trim: true })} = ${value.toFixed(4)}`
        : `${value}`,
      source: ofTable ? LEG_FLUIDS_SOURCE : 'As entered',
    }),
  }
}

/** What the calibrator shows at each point of a check, in the unit of its gauge. */
function gaugeFigures(r: Reader, known: ReturnType<typeof dpLevelOf>, says: string | undefined): Figure[] {
  const unit = r.text('gaugeUnit') || 'mbar'
  return [0, 25, 50, 75, 100].map((percent): Figure => {
    const base = {
      id: `gauge-${percent}`,
      stage: 'point',
      label: `Calibrator at ${percent} %`,
      unit,
      decimals: 2,
    } as const
    if (!known || known instanceof Refusal) return { ...base, needs: r.missing(...KEYS), ...(says ? { says } : {}) }
    const value = convertUnit(gaugeAt(known, percent), 'mmH2O', unit)
    return {
      ...base,
      value,
      working: () => ({
        title: base.label,
        formula: 'Δp at empty + share · span',
        numbers:
          `${show(known.lrv_mmH2O, 'mmH2O', { decimals: 1 })} + ${percent} % × ` +
          `${show(known.span_mmH2O, 'mmH2O', { decimals: 1 })} = ${show(value, unit, { decimals: 2 })}`,
        source: 'Hydrostatics; the level is linear in the pressure',
      }),
    }
  })
}

/** What stands in the way of believing the pressure, whatever the range. */
function standingFindings(r: Reader): Finding[] {
  const found = vesselFindings(vesselIn(r))
  if (r.text('arrangement') === 'submersible' && r.text('vent') === 'closed')
    found.push({
      code: 'vent-closed',
      grade: 'look',
      fields: ['vent'],
      what: 'The vent tube of the submersible is closed, wet or not led out.',
      why: 'The weather is measured too: a change of 30 mbar is 300 mm of water.',
      sure: 'Certain, as entered.',
      action: 'Lead it to a dry box open to the air, with fresh desiccant.',
    })
  const [full, depth] = [fullAbove(r), r.in('tankDepth', 'mm')]
  if (full !== undefined && depth !== undefined && full > depth + 1e-6)
    found.push({
      code: 'full-above-overflow',
      grade: 'stop',
      fields: ['fullHeight', 'tankDepth', 'tapAbove'],
      what: `100 % lies ${show(full - depth, 'mm', { trim: true })} above the vessel’s top.`,
      why: 'The vessel overflows before it reads full.',
      sure: 'Certain, if the heights are right.',
      action: `Full is at most ${show(depth - (r.in('tapAbove', 'mm') ?? 0), 'mm', { trim: true })} above the tap.`,
    })
  return found
}

function findingsOf(r: Reader): Finding[] {
  const pu = dpUnit(r)
  const range = dpLevelOf(r)
  const n = (v: number) => show(v, pu, { trim: true })
  const found: Finding[] = standingFindings(r)
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
  name: 'Level by pressure',
  summary:
    'Hydrostatic or differential pressure at a vessel: open, submersible, dry or wet leg, remote seals; its zero ' +
    'is suppressed or elevated; 4–20 mA.',
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
