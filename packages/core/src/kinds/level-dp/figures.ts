// Figures of a level by pressure: densities, pressures at empty and full, what the calibrator shows, volumes.
import { LEG_FLUIDS_SOURCE } from '../../level/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { sure } from '../../sure/index.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { volumeFigures } from '../vessel/index.ts'
import { gaugeAt } from './hydrostatics.ts'
import type { Known } from './known.ts'

/** What a figure that follows from the range still needs, or why there is none. */
const lacking = ({ needs, refused }: Known) => ({ needs, ...(refused ? { says: refused.message } : {}) })

/** Specific gravity as it is reckoned with. */
function gravityFigure(
  r: Reader,
  known: Known,
  { id, label, value, fluid }: { id: string; label: string; value: number | undefined; fluid: 'liquid' | 'legFill' },
): Figure {
  const temp = fluid === 'liquid' ? 'liquidTemp' : 'legTemp'
  const base = { id, stage: 'point', label, unit: '1', decimals: 4 } as const
  if (value === undefined) return { ...base, ...lacking(known) }
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
function gaugeFigures(r: Reader, known: Known): Figure[] {
  const { range } = known
  const unit = r.text('gaugeUnit') || 'mbar'
  return [0, 25, 50, 75, 100].map((percent): Figure => {
    const base = {
      id: `gauge-${percent}`,
      stage: 'point',
      label: `Calibrator at ${percent} %`,
      unit,
      decimals: 2,
    } as const
    if (!range) return { ...base, ...lacking(known) }
    const value = convertUnit(gaugeAt(range, percent), 'mmH2O', unit)
    return {
      ...base,
      value,
      working: () => ({
        title: base.label,
        formula: 'Δp at empty + share · span',
        numbers:
          `${show(range.lrv_mmH2O, 'mmH2O', { decimals: 1 })} + ${percent} % × ` +
          `${show(range.span_mmH2O, 'mmH2O', { decimals: 1 })} = ${show(value, unit, { decimals: 2 })}`,
        source: 'Hydrostatics; the level is linear in the pressure',
      }),
    }
  })
}

export function figuresOf(r: Reader, known: Known): Figure[] {
  const { range, dpUnit: pu } = known
  const mm = (key: string) => show(r.in(key, 'mm') ?? 0, 'mm', { trim: true })
  const at = (id: string, label: string, value: number | undefined, numbers: () => string): Figure => ({
    id,
    stage: 'point',
    label,
    unit: pu,
    decimals: 1,
    ...(value === undefined
      ? lacking(known)
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
  const above = (key: string) => `${sure(range).sg.toFixed(4)} × ${mm(key)} + (${sure(range).offsetWords})`
  return [
    gravityFigure(r, known, { id: 'sg', label: 'Specific gravity of the liquid', value: range?.sg, fluid: 'liquid' }),
    ...(['wet-leg', 'seals', 'one-seal'].includes(r.text('arrangement'))
      ? [
          gravityFigure(r, known, {
            id: 'fill-sg',
            label: 'Specific gravity of the fill',
            value: range?.fillSg,
            fluid: 'legFill',
          }),
        ]
      : []),
    at('dp-empty', 'Differential pressure at empty: 4 mA', range?.lrv_mmH2O, () => above('emptyHeight')),
    at('dp-full', 'Differential pressure at full: 20 mA', range?.urv_mmH2O, () => above('fullHeight')),
    at(
      'dp-span',
      'Span',
      range?.span_mmH2O,
      () => `${sure(range).sg.toFixed(4)} × (${mm('fullHeight')} − ${mm('emptyHeight')})`,
    ),
    ...gaugeFigures(r, known),
    ...volumeFigures(r, known.vessel, known.shapeNeeds, [
      { id: 'volume-dead', label: 'Volume below 0 %', level_mm: known.zeroAbove, needs: r.missing('emptyHeight') },
      {
        id: 'volume-full',
        label: 'Volume at 100 %',
        level_mm: known.fullAbove,
        needs: r.missing('fullHeight'),
      },
      {
        id: 'volume-overflow',
        label: 'Volume at the top',
        level_mm: known.depth,
        needs: r.missing('tankDepth'),
      },
    ]),
  ]
}
