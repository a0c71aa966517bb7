// A kind of point: mass flow by an orifice plate and a differential pressure transmitter.
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import type { Sheet } from '../../sheet/index.ts'
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import { MANUAL } from '../flow/shared.ts'
import type { SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import type { Reader } from '../reader.ts'
import { dpMeter } from './bench.ts'
import { USUAL, fields } from './fields.ts'
import { figuresOf, modelOf } from './figures.ts'
import { findingsOf } from './findings.ts'
import { OF_THE_PLATE, type Plate, plateOf, positive } from './plate.ts'
import { threadOf } from './thread.ts'
export { fields } from './fields.ts'
export { type Plate, plateOf, flowAt, dpAt } from './plate.ts'

function sheetsOf(r: Reader): Sheet[] {
  const steam = r.text('fluid') === 'steam'
  return [
    {
      id: 'zero',
      title: 'Take the zero',
      steps: [
        {
          id: 'told',
          title: 'Operations told, loop in manual',
          says: 'Whatever follows this flow is held by the operator; by-passes only with a permit.',
          askWords: 'Who was told',
        },
        {
          id: 'low',
          title: 'Low side closed at the manifold',
          says: 'First the low side, so that the cell sees no more than it is made for.',
          caution:
            `${steam ? 'Hot condensate in the lines: gloves, face shield; never drain the seal. ' : ''}Pressure ` +
            'on both sides: by the site’s procedure only.',
        },
        {
          id: 'equal',
          title: 'Equalized',
          says: 'Equalizing valve opened, then the high side closed. No flow through the manifold now.',
        },
        {
          id: 'found',
          title: 'Zero as found',
          says: 'What the transmitter shows with both sides equal.',
          ask: { label: 'Shown, equalized', quantity: 'pressure', unit: 'mbar' },
        },
        {
          id: 'left',
          title: 'Zero as left',
          says: 'After the zero trim; within its limit it may be left as found.',
          ask: { label: 'Shown, equalized', quantity: 'pressure', unit: 'mbar' },
        },
        {
          id: 'restored',
          title: 'High side opened, equalizing valve closed, low side opened',
          says: 'In this order.',
          caution: 'Opened the wrong way round the cell sees full pressure on one side.',
        },
        {
          id: 'back',
          title: 'Operations told, loop back in automatic',
          says: 'Reading plausible again.',
          askWords: 'Who was told',
        },
      ],
    },
  ]
}

function setupOf(r: Reader, p: Plate): SetupLine[] {
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  return [
    ...linesOf(r, ['Transmitter:', 'sensorHigh', 'rootAt']),
    {
      key: 'dpFull',
      group: 'Transmitter',
      label: 'Differential pressure at 20 mA',
      text: full ? show(full.dp_kPa * 10, 'mbar', { decimals: 2 }) : '',
    },
    ...linesOf(r, OUTPUT_KEYS),
    ...linesOf(r, ['Receiver:', 'receiverLow', 'receiverHigh', 'countsLow', 'countsHigh']),
  ]
}

export const orificeDpKind = flowKind({
  id: 'orifice-dp',
  name: 'Flow, orifice and differential pressure',
  listed: ['orifice', 'orifice flow', 'dp flow', 'flow dp'],
  summary: 'An orifice plate and a differential pressure transmitter: mass flow by the square root; 4–20 mA.',
  fields,
  usual: USUAL,
  check: {
    works: ['loop-check', 'pressure'],
    trueInput: 'True mass flow, from the differential pressure applied',
    reference: 'pressure calibrator at the manifold',
    process: 'Mass flow',
    cautions: [
      MANUAL,
      'Pressure and hot lines: isolate, equalize and vent in the order of the site’s procedure; hot condensate scalds.',
    ],
  },
  known: (r, keep) =>
    keep('plate', OF_THE_PLATE.map((k) => `${r.text(k)} ${r.unit(k)}`).join('\u0001'), () => plateOf(r)),
  thread: threadOf,
  figures: figuresOf,
  findings: findingsOf,
  sheets: sheetsOf,
  doubt: modelOf,
  setup: setupOf,
  procedures: ['zero-trim', 'sensor-trim'],
  rootAtReceiver: (r) => ['receiver', 'both'].includes(r.text('rootAt')),
  meter(r, p, keyed, unit) {
    const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
    const urv_kgph = r.in('urv', USUAL)
    if (!p.plate || !full || !positive(urv_kgph)) return undefined
    const root = r.text('rootAt') !== 'receiver' && r.text('rootAt') !== 'neither'
    const cutoff_kgph = r.in('cutoff', USUAL) ?? 0
    return dpMeter({ plate: p.plate, fullDp_mbar: full.dp_kPa * 10, urv_kgph, root, cutoff_kgph, unit, keyed })
  },
})
