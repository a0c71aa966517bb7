// A kind of point: flow by two transducers clamped on the outside of a pipe, liquid or gas.
import { TRANSDUCERS } from '../../flow/index.ts'
import { entryFrom, formatQuantity as show } from '../../quantity/index.ts'
import { MANUAL } from '../flow/shared.ts'
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import type { Entries, SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import type { Reader } from '../reader.ts'
import { clampOnMeter } from './bench.ts'
import { bringsOf } from './brings.ts'
import { cutoffOf, withItsCutoff } from './cutoff.ts'
import { fields } from './fields.ts'
import { clampOnFindings } from './findings.ts'
import { clampOnModel } from './doubt.ts'
import { beamOf, clampOnOf, knownFluid, spacingOf, type ClampOn } from './setup.ts'
import { clampOnSheets } from './sheets.ts'
import { figuresOf } from './figures.ts'
import { insteadOf } from '../flow/carried.ts'
import { CARRIED, reportedOf, USUAL } from './carried.ts'
import { volumeFlow } from './meter.ts'
import { midFlow, threadOf } from './thread.ts'
export { midFlow } from './thread.ts'
export { runOf } from './place.ts'
export { advice, judgeSoundSpeed } from './advice.ts'
export { beamPoints } from './figures.ts'

export { clampOnOf, beamOf, knownFluid, spacingOf, type ClampOn } from './setup.ts'
export { normalisedWords } from './findings.ts'

/** What flows in most pipes at the most, m/s. */
const USUAL_mps = { liquid: 3, gas: 20 }

function withTempDoubt(entries: Entries): Entries {
  const typed = entries['tempDoubt']?.typed
  return typed
    ? { ...entries, tempDoubt: entryFrom(typed, { quantity: 'temperature-difference', unit: 'delta_degC' }) }
    : entries
}

function setupOf(r: Reader, c: ClampOn): SetupLine[] {
  const fluid = knownFluid(c)
  const figureLine = (
    [group, key, label]: readonly [string, string, string],
    value: number | undefined,
    unit: string,
    decimals: number,
  ): SetupLine => ({
    key,
    group,
    label,
    text: value === undefined ? '' : show(value, unit, { decimals, trim: true }),
  })
  return [
    ...linesOf(r, ['Pipe:', 'material']),
    figureLine(['Pipe', 'od', 'Outside diameter'], c.od_mm, 'mm', 2),
    figureLine(['Pipe', 'wall', 'Wall thickness'], c.wall_mm, 'mm', 2),
    figureLine(['Pipe', 'wallSpeed', 'Wave speed in the wall'], c.wallSpeed_mps, 'm/s', 0),
    ...linesOf(r, ['Pipe:', 'liner', 'linerThickness']),
    ...(c.lined ? [figureLine(['Pipe', 'linerSpeed', 'Wave speed in the liner'], c.linerSpeed_mps, 'm/s', 0)] : []),
    ...linesOf(r, ['Fluid:', 'liquid', 'salinity', 'gas', 'composition', 'fluidTemp', 'fluidPressure']),
    figureLine(['Fluid', 'soundSpeed', 'Sound speed'], fluid?.soundSpeed_mps, 'm/s', 1),
    figureLine(['Fluid', 'density', 'Density'], fluid?.density_kgm3, 'kg/m3', 2),
    figureLine(['Fluid', 'kinematic', 'Kinematic viscosity'], fluid?.kinematic_cSt, 'cSt', 4),
    ...linesOf(r, [
      'Pair:',
      'transducer',
      'serialA',
      'serialB',
      'serialA2',
      'serialB2',
      'traverses',
      'paths',
      'leadLength',
    ]),
    ...linesOf(
      r,
      ['Output:', 'carries', ...OUTPUT_KEYS.slice(1)].map((key) => insteadOf(CARRIED, r)[key] ?? key),
    ).map((line) =>
      line.key === 'cutoff' && !line.text
        ? figureLine(['Output', 'cutoff', line.label], cutoffOf(c, r), USUAL, 6)
        : line,
    ),
  ]
}

export const clampOn = flowKind({
  id: 'clamp-on',
  name: 'Flow, clamp-on',
  listed: ['clamp on', 'clamp on flow', 'ultrasonic flow'],
  summary: 'Two ultrasonic transducers outside a pipe; liquid or gas; 4–20 mA.',
  // Before 2 a cutoff stood there of itself; before 3 the doubt of the temperature was one of five choices.
  version: 3,
  migrate: (entries, from) => withTempDoubt(from < 2 ? withItsCutoff(entries) : entries),
  fields,
  usual: USUAL,
  carried: CARRIED,
  check: {
    brings: bringsOf,
    works: ({ medium }) => ['loop-check', medium?.typed === 'gas' ? 'clamp-on-gas' : 'clamp-on-liquid'],
    trueInput: 'True flow reached',
    reference: 'reference meter or the meter’s own simulation',
    process: 'Flow',
    cautions: [
      MANUAL,
      'Hot or pressurised pipe, hazardous area, work at height: certified equipment, permit, and hands off ' +
        'what is hot.',
    ],
  },
  known: clampOnOf,
  thread: threadOf,
  figures: figuresOf,
  findings: (r, c) => clampOnFindings(c, r),
  sheets: clampOnSheets,
  doubt(r, c) {
    const flow = midFlow(r, c)
    return flow === undefined ? undefined : clampOnModel(c, r, flow)
  },
  without(c) {
    const beam = beamOf(c)
    return beam && volumeFlow(knownFluid(c)?.medium === 'gas' ? USUAL_mps.gas : USUAL_mps.liquid, beam.id_mm)
  },
  setup: setupOf,
  meter(r, c, keyed) {
    const [beam, fluid, spacing] = [beamOf(c), knownFluid(c), spacingOf(c, r)]
    const reported = reportedOf(r, c)
    if (!beam || !fluid || !c.input || !spacing || reported.factor === undefined) return undefined
    const frequency_MHz = TRANSDUCERS.find((t) => t.id === r.text('transducer'))?.frequency_MHz ?? 1
    const cutoff_m3ph = cutoffOf(c, r) ?? 0
    return clampOnMeter({
      entered: c.input,
      fluid,
      keyed,
      spacing_mm: spacing.spacing_mm,
      reported,
      cutoff_m3ph,
      frequency_MHz,
    })
  },
})
