// A kind of point: mass flow of a gas by two thermometers, one heated, pushed into the pipe through a valve.
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import { MANUAL } from '../flow/shared.ts'
import type { SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import { asDifferences, type Reader } from '../reader.ts'
import { thermalMeter } from './bench.ts'
import { USUAL, fields } from './fields.ts'
import { figuresOf, modelOf } from './figures.ts'
import { findingsOf } from './findings.ts'
import { lawOf, nozzleOf, verification } from './meter.ts'
import { thermalSheets } from './sheets.ts'
import { threadOf } from './thread.ts'
export { ROD_PRESSURE_bar, BASELINE_POINTS, fields } from './fields.ts'
export { insertionOf, lawOf, type VerificationStep, verification } from './meter.ts'
export { thermalSheets } from './sheets.ts'

const setupOf = (r: Reader): SetupLine[] =>
  linesOf(r, [
    'Gas:',
    'gas',
    'composition',
    'Pipe:',
    'od',
    'wall',
    'Certificate:',
    'dtZero',
    'dtFull',
    'fullFlow',
    ...OUTPUT_KEYS,
  ])

export const thermalInsertion = flowKind({
  id: 'thermal-insertion',
  name: 'Flow, thermal insertion',
  version: 2,
  // Differences were taken for temperatures once: 60 °C stood for 333 K.
  migrate: (entries) => asDifferences(entries, ['dtZero', 'dtFull']),
  listed: ['thermal', 'thermal flow', 'thermal mass flow', 'thermal insertion'],
  summary: 'Two thermometers through a valve into a gas pipe, one heated: mass flow; 4–20 mA.',
  fields,
  usual: USUAL,
  check: {
    works: ['loop-check', 'insertion-in-place'],
    trueInput: 'True mass flow reached',
    reference: 'nozzle, or reference meter',
    process: 'Mass flow',
    cautions: [
      MANUAL,
      'Insertion under pressure drives the stem out: rods above the limit entered, gland by the sheet, nobody in ' +
        'line with the stem. Nitrogen and biogas are vented outside, never into a closed room. Hazardous area: ' +
        'certified equipment.',
    ],
  },
  known: lawOf,
  thread: (r) => threadOf(r),
  figures: (r) => figuresOf(r),
  findings: (r) => findingsOf(r),
  sheets: thermalSheets,
  doubt: (r) => modelOf(r),
  setup: (r) => setupOf(r),
  meter(r, law, keyed, unit) {
    if (!law) return undefined
    const cutoff_kgph = r.in('cutoff', USUAL) ?? 0
    return thermalMeter({
      law,
      nozzle: nozzleOf(r),
      keyed,
      unit,
      cutoff_kgph,
      baseline: verification(r, undefined, {}),
    })
  },
})
