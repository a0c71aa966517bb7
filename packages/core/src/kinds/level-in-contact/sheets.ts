// The quick set-up of a probe: keyed in order, stored, proved by a power cycle, read back.
import { formatQuantity as show } from '../../quantity/index.ts'
import type { Sheet } from '../../sheet/index.ts'
import { linesOf } from '../flow/setup-lines.ts'
import type { SetupLine } from '../kind.ts'
import type { Reader } from '../reader.ts'
import type { ProbeGeometry } from './geometry.ts'

const PROBE_KEYS = ['Probe:', 'probeType', 'probeLength', 'topDeadZone', 'bottomDeadZone'] as const
const RANGE_KEYS = ['Range:', 'emptyDistance', 'fullDistance', 'lrv', 'urv', 'displays', 'damping'] as const
const FAULT_KEYS = ['faultAction', 'faultCurrent'] as const

/** What is keyed into a probe, in the order of keying. */
export const setupOf = (r: Reader, g: ProbeGeometry): SetupLine[] =>
  g.make ? linesOf(r, [...PROBE_KEYS, 'Liquid:', 'liquid', ...RANGE_KEYS, ...FAULT_KEYS]) : []

const MANUAL = 'Whatever this level controls or trips is held by the operator; by-passes only with a permit.'

export function sheetsOf(g: ProbeGeometry, lines: readonly SetupLine[]): Sheet[] {
  if (!g.make) return []
  const keys = lines.filter((l) => l.text).map((l) => l.key)
  const mm = (v: number | undefined, otherwise: string) =>
    v === undefined ? otherwise : show(v, 'mm', { decimals: 0, trim: true })
  const upright = g.make === 'cable' ? 'stretched by its weight, clear of the wall' : 'straight, clear of the wall'
  return [
    {
      id: 'quick-set-up',
      title: 'Quick set-up of the probe',
      steps: [
        { id: 'told', title: 'Operations told, loop in manual', says: MANUAL, askWords: 'Who was told' },
        {
          id: 'length',
          title: 'Length measured along the probe',
          says: `From the reference face to its end; ${mm(g.length, 'the length')} is entered.`,
          caution: 'Vessel open: no spark, no fall of the cable; permit and gas test by the site’s procedure.',
          ask: {
            label: 'Length as it hangs',
            quantity: 'length',
            unit: 'mm',
            plan:
              g.length === undefined
                ? undefined
                : {
                    against: `Length entered ${mm(g.length, '')}`,
                    low: g.length - 5,
                    high: g.length + 5,
                    floor: 0,
                    else: 'The empty end is off by as much: enter the length as measured.',
                  },
            entry: 'probeLength',
          },
        },
        {
          id: 'mounted',
          title: 'Head on the process',
          says: `The probe hangs ${upright}; sealed. What it read before is void.`,
        },
        {
          id: 'keyed',
          title: 'Keyed in, top to bottom',
          says: 'Line by line, as under Set up and read back.',
        },
        {
          id: 'stored',
          title: 'Stored with its last confirmation',
          says: 'After the quick set-up the values are not kept until the last question is answered: answer it.',
        },
        {
          id: 'cycled',
          title: 'Power off, ten seconds, on again',
          says: 'What was not stored is gone now.',
          caution: 'The current falls to nothing: operations must expect it.',
        },
        {
          id: 'read',
          title: 'Read back, every line',
          says: 'Each line under Set up and read back is as entered.',
          readBack: keys,
        },
        {
          id: 'shown',
          title: 'Level shown against the dip',
          says: 'A reading that is believed: what the display shows beside what dip or sight glass says.',
          askWords: 'Shown, and dipped',
        },
        {
          id: 'back',
          title: 'Operations told, loop back in automatic',
          says: 'Reading plausible.',
          askWords: 'Who was told',
        },
      ],
    },
  ]
}
