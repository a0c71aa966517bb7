// Figures of a probe: what it can measure, where the ends of the current lie, what its display shows there.
import { DIELECTRIC_SOURCE, ZONES_SOURCE } from '../../level/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { sure } from '../../sure/index.ts'
import type { Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { vesselNeeds, volumeFigures, volumeIn } from '../vessel/index.ts'
import type { ProbeGeometry } from './geometry.ts'

const mm = (v: number) => show(v, 'mm', { trim: true })
const KEYS = ['probeLength', 'topDeadZone', 'bottomDeadZone', 'emptyDistance', 'fullDistance'] as const

interface Row {
  readonly id: string
  readonly stage?: 'point' | 'range'
  readonly label: string
  readonly unit?: string
  readonly decimals?: number
  readonly value: number | undefined
  readonly needs: readonly string[]
  /** Why there is none although nothing is missing. */
  readonly says?: string | undefined
  readonly formula: string
  readonly numbers: () => string
  readonly source?: string
}
const figure = ({ stage = 'point', unit = 'mm', decimals = 0, value, needs, says, ...row }: Row): Figure => ({
  id: row.id,
  stage,
  label: row.label,
  unit,
  decimals,
  ...(value === undefined
    ? { needs, ...(says ? { says } : {}) }
    : {
        value,
        working: () => ({
          title: row.label,
          formula: row.formula,
          numbers: row.numbers(),
          source: row.source ?? 'Geometry of the probe as entered',
        }),
      }),
})

/** What the probe leaves of the distances that are wanted. */
function leftFigures(r: Reader, g: ProbeGeometry): Figure[] {
  const known = g.range instanceof Refusal ? undefined : g.range
  const says = g.range instanceof Refusal ? g.range.message : undefined
  const needs = r.missing(...KEYS)
  const between = () => `${mm(sure(g.top))} … ${mm(sure(g.length))} − ${mm(sure(g.bottom))}`
  const held = (id: string, label: string, value: number | undefined, wanted: number | undefined): Figure =>
    figure({
      id,
      label,
      value,
      needs,
      says,
      formula: 'wanted distance, held between the upper dead zone and the probe’s length less the lower one',
      numbers: () => `${mm(sure(wanted))} within ${between()} = ${mm(sure(value))}`,
    })
  return [
    held('probe-4', 'Farthest distance that can be 0 %', known?.distance4mA_mm, g.empty),
    held('probe-20', 'Nearest distance that can be 100 %', known?.distance20mA_mm, g.full),
    figure({
      id: 'probe-span',
      label: 'Span the probe leaves',
      value: known?.span_mm,
      needs,
      says,
      formula: 'span = distance at 0 % − distance at 100 %',
      numbers: () =>
        `${mm(sure(known).distance4mA_mm)} − ${mm(sure(known).distance20mA_mm)} = ${mm(sure(known).span_mm)}`,
    }),
  ]
}

/** What zones are usual for the probe in this liquid. */
function liquidFigures(r: Reader, g: ProbeGeometry): Figure[] {
  const er = typeof g.er === 'number' ? g.er : undefined
  const needs = r.missing('liquid', 'dielectric')
  const says = g.er instanceof Refusal ? g.er.message : undefined
  const zone = (id: string, label: string, value: number | undefined): Figure =>
    figure({
      id,
      label,
      value,
      needs,
      says,
      formula: 'by the make of the probe and the dielectric constant; a cable’s weight is added below',
      numbers: () => `${g.make} at ε = ${sure(er).toFixed(1)}: ${mm(sure(value))}`,
      source: ZONES_SOURCE,
    })
  return [
    figure({
      id: 'dielectric',
      label: 'Dielectric constant at its temperature',
      unit: '1',
      decimals: 1,
      value: er,
      needs,
      says,
      formula: 'ε(t) of the table',
      numbers: () => `${r.text('liquid')} at ${show(r.in('liquidTemp', 'degC') ?? 20, 'degC', { trim: true })}`,
      source: r.text('liquid') === 'own' ? 'As entered' : DIELECTRIC_SOURCE,
    }),
    zone('usual-top', 'Upper dead zone, as it is usual', g.usual?.top_mm),
    zone('usual-bottom', 'Lower dead zone, as it is usual', g.usual?.bottom_mm),
  ]
}

/** Unit and figure of what the display shows at a distance from the face. */
const DISPLAYS: Record<string, { unit: string; decimals: number }> = {
  level: { unit: 'mm', decimals: 0 },
  distance: { unit: 'mm', decimals: 0 },
  percent: { unit: '%', decimals: 1 },
  current: { unit: 'mA', decimals: 2 },
  volume: { unit: 'm3', decimals: 2 },
}
function shownAt(r: Reader, g: ProbeGeometry, end: 4 | 20): number | undefined {
  const distance = end === 4 ? g.at4 : g.at20
  if (distance === undefined) return undefined
  switch (r.text('displays')) {
    case 'distance':
      return distance
    case 'percent':
      return end === 4 ? 0 : 100
    case 'current':
      return end
    case 'volume':
      return g.bottomBelowFace === undefined ? undefined : volumeIn(g.vessel, g.bottomBelowFace - distance)
    default:
      return sure(g.empty) - distance
  }
}
function displayFigures(r: Reader, g: ProbeGeometry): Figure[] {
  const shows = r.text('displays')
  const terms = DISPLAYS[shows] ?? sure(DISPLAYS['level'])
  const volume = shows === 'volume' ? ['tankDepth', ...r.missing()] : []
  return ([4, 20] as const).map((end) => {
    const value = shownAt(r, g, end)
    const lacks = [
      ...r.missing(end === 4 ? 'lrv' : 'urv', 'emptyDistance', ...volume),
      ...(volume.length ? vesselNeeds(r, 'tankDepth') : []),
    ]
    return figure({
      id: `display-${end}`,
      stage: 'range',
      label: `Its display at ${end} mA`,
      ...terms,
      value,
      needs: lacks,
      says: lacks.length ? undefined : 'no volume is known at that level',
      formula: 'what the display is set to, at that end of the current',
      numbers: () => `${shows} = ${show(sure(value), terms.unit, { decimals: terms.decimals })}`,
      source: 'What the display is set to',
    })
  })
}

/** Where the ends lie on the probe, and what is left below and above. */
function placeFigures(r: Reader, g: ProbeGeometry): Figure[] {
  const at = (end: 4 | 20, value: number | undefined): Figure =>
    figure({
      id: `distance-${end}`,
      stage: 'range',
      label: `Distance from the face at ${end} mA`,
      value,
      needs: r.missing(end === 4 ? 'lrv' : 'urv', 'emptyDistance'),
      formula: 'distance = distance wanted at 0 % − level',
      numbers: () => `${mm(sure(g.empty))} − ${mm(sure(g.empty) - sure(value))} = ${mm(sure(value))}`,
    })
  const below = g.bottomBelowFace === undefined || g.length === undefined ? undefined : g.bottomBelowFace - g.length
  return [
    at(4, g.at4),
    at(20, g.at20),
    figure({
      id: 'below-end',
      label: 'Bottom below the probe’s end',
      value: below,
      needs: r.missing('tankDepth', 'probeLength'),
      formula: 'vessel’s height + face above it − length of the probe',
      numbers: () => `${mm(sure(g.depth))} + ${mm(g.faceAbove)} − ${mm(sure(g.length))} = ${mm(sure(below))}`,
    }),
    figure({
      id: 'empty-above',
      label: '0 % above the bottom: dead level',
      value: g.emptyAbove,
      needs: r.missing('tankDepth', 'emptyDistance'),
      formula: 'vessel’s height + face above it − distance at 0 %',
      numbers: () => `${mm(sure(g.depth))} + ${mm(g.faceAbove)} − ${mm(sure(g.empty))} = ${mm(sure(g.emptyAbove))}`,
    }),
  ]
}

export function figuresOf(r: Reader, g: ProbeGeometry): Figure[] {
  const volumes = volumeFigures(r, g.vessel, vesselNeeds(r, 'tankDepth'), [
    { id: 'volume-dead', label: 'Volume below 0 %', level_mm: g.emptyAbove, needs: r.missing('tankDepth') },
    {
      id: 'volume-full',
      label: 'Volume at 100 %',
      level_mm: g.bottomBelowFace === undefined || g.full === undefined ? undefined : g.bottomBelowFace - g.full,
      needs: r.missing('tankDepth', 'fullDistance'),
    },
    { id: 'volume-overflow', label: 'Volume at the top', level_mm: g.depth, needs: r.missing('tankDepth') },
  ])
  if (!g.make) return volumes
  return [...leftFigures(r, g), ...liquidFigures(r, g), ...placeFigures(r, g), ...volumes, ...displayFigures(r, g)]
}
