// A rod or cable probe: which part of it measures, and what that leaves of the range that is wanted.
import type { Finding } from '../../findings/index.ts'
import { probeRange, type ProbeRange } from '../../level/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Field, Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { sure } from '../../sure/index.ts'

const onProbe = { key: 'sensing', is: ['rod or cable probe'] }
const length = (key: string, label: string, help: string): Field => ({
  key,
  stage: 'point',
  group: 'Probe',
  type: 'quantity',
  quantity: 'length',
  unit: 'mm',
  label,
  help,
  required: true,
  when: onProbe,
})
const KEYS = ['probeLength', 'topDeadZone', 'bottomDeadZone', 'emptyDistance', 'fullDistance'] as const

const fields: readonly Field[] = [
  {
    key: 'sensing',
    stage: 'point',
    group: 'Probe',
    type: 'choice',
    label: 'Measured by',
    help: 'A probe loses a piece at either end; a pressure does not.',
    options: [
      { value: 'hydrostatic pressure', label: 'hydrostatic pressure' },
      { value: 'rod or cable probe', label: 'rod or cable probe' },
    ],
    default: 'hydrostatic pressure',
  },
  length('probeLength', 'Length of the probe', 'From the reference face to its end.'),
  length('topDeadZone', 'Upper dead zone', 'From the reference face down: no echo is told apart there.'),
  length('bottomDeadZone', 'Lower dead zone', 'From the end of the probe up; a cable’s weight belongs to it.'),
  length('emptyDistance', 'Distance wanted at 0 %', 'From the reference face down to the empty level.'),
  length('fullDistance', 'Distance wanted at 100 %', 'From the reference face down to the full level.'),
]

function rangeOf(r: Reader): ProbeRange | Refusal | undefined {
  const [probeLength_mm, topDeadZone_mm, bottomDeadZone_mm, emptyDistance_mm, fullDistance_mm] = KEYS.map((k) =>
    r.in(k, 'mm'),
  )
  if (
    probeLength_mm === undefined ||
    topDeadZone_mm === undefined ||
    bottomDeadZone_mm === undefined ||
    emptyDistance_mm === undefined ||
    fullDistance_mm === undefined
  )
    return undefined
  return attempt(() =>
    probeRange({ probeLength_mm, topDeadZone_mm, bottomDeadZone_mm, emptyDistance_mm, fullDistance_mm }),
  )
}

const isProbe = (r: Reader) => r.text('sensing') === onProbe.is[0]
const mm = (v: number) => show(v, 'mm', { trim: true })

export const probe = {
  fields,
  figures(r: Reader): readonly Figure[] {
    if (!isProbe(r)) return []
    const range = rangeOf(r)
    const needs = r.missing(...KEYS)
    const says = range instanceof Refusal ? range.message : undefined
    const known = range instanceof Refusal ? undefined : range
    const line = (id: string, label: string, value: number | undefined, numbers: () => string): Figure => ({
      id,
      stage: 'point',
      label,
      unit: 'mm',
      decimals: 0,
      ...(value === undefined
        ? { needs, ...(says ? { says } : {}) }
        : {
            value,
            working: () => ({
              title: label,
              formula: 'wanted distance, held between the upper dead zone and the probe’s length less the lower one',
              numbers: numbers(),
              source: 'Geometry of the probe as entered',
            }),
          }),
    })
    const between = () =>
      `${mm(sure(r.in('topDeadZone', 'mm')))} … ${mm(sure(r.in('probeLength', 'mm')))} − ` +
      mm(sure(r.in('bottomDeadZone', 'mm')))
    return [
      line(
        'probe-4',
        'Distance at 4 mA',
        known?.distance4mA_mm,
        () => `${mm(sure(r.in('emptyDistance', 'mm')))} within ${between()} = ${mm(sure(known).distance4mA_mm)}`,
      ),
      line(
        'probe-20',
        'Distance at 20 mA',
        known?.distance20mA_mm,
        () => `${mm(sure(r.in('fullDistance', 'mm')))} within ${between()} = ${mm(sure(known).distance20mA_mm)}`,
      ),
      line(
        'probe-span',
        'Span the probe leaves',
        known?.span_mm,
        () => `${mm(sure(known).distance4mA_mm)} − ${mm(sure(known).distance20mA_mm)} = ${mm(sure(known).span_mm)}`,
      ),
    ]
  },
  findings(r: Reader): readonly Finding[] {
    if (!isProbe(r)) return []
    const range = rangeOf(r)
    if (range instanceof Refusal)
      return [
        {
          code: 'probe-no-span',
          grade: 'stop',
          fields: ['probeLength'],
          what: range.message,
          why: 'Nothing between the dead zones could be measured.',
          sure: 'Certain, if the lengths are right.',
          action: 'Check the lengths, or take a longer probe.',
        },
      ]
    if (!range) return []
    const found: Finding[] = []
    const span = Math.abs((r.in('urv', 'mm') ?? 0) - (r.in('lrv', 'mm') ?? 0))
    if (range.limited.length)
      found.push({
        code: 'probe-dead-zone',
        grade: 'note',
        fields: range.limited.includes('top') ? ['fullDistance'] : ['emptyDistance'],
        what:
          `The ${range.limited.map((end) => (end === 'top' ? 'upper' : 'lower')).join(' and the ')} ` +
          `dead zone eats into the range: ${mm(range.span_mm)} are left.`,
        why: range.limited.includes('top')
          ? 'Near full the reading stands still: an overfill alarm must lie below it, or come from another device.'
          : 'Near empty the reading stands still: a pump may run dry below it.',
        sure: 'Certain, if the dead zones are right.',
        action: 'Set 4 and 20 mA within what the probe can measure.',
      })
    if (span > range.span_mm * (1 + 1e-9))
      found.push({
        code: 'range-beyond-probe',
        grade: 'look',
        fields: ['lrv', 'urv'],
        what: `The range spans ${mm(span)}, the probe can measure ${mm(range.span_mm)}.`,
        why: 'At one end the current stands while the level goes on.',
        sure: 'Certain, if the dead zones are right.',
        action: 'Range no more than the probe leaves.',
      })
    return found
  },
}
