// A redox electrode: a noble metal against a reference. It needs no slope: only its offset is looked at, in a solution
// whose potential is known.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { straightStage, type Knot, type Stage } from '../../thread/index.ts'
import type { Field, Figure } from '../kind.ts'
import type { Reader } from '../reader.ts'

/** Potential of usual reference electrodes against hydrogen at 25 °C, mV. Common electrochemical tables. */
export const REFERENCES = [
  { id: 'agcl-3m', name: 'silver chloride, 3 mol/L KCl', mV: 210 },
  { id: 'agcl-sat', name: 'silver chloride, saturated KCl', mV: 197 },
  { id: 'calomel-sat', name: 'calomel, saturated KCl', mV: 241 },
] as const

/**
 * Potential of the solution of both hexacyanoferrates, 3.3 mmol/L each in 0.1 mol/L KCl, against hydrogen, mV, from 8
 * to 85 °C. Source: Nordstrom 1977.
 */
export const hexacyanoferrate_mV = (temp_C: number): number =>
  430.28 - 2.5157 * (temp_C - 25) - 0.0037979 * (temp_C - 25) ** 2

/** An electrode further off than this is cleaned or replaced, mV. */
const MOST_OFFSET_mV = 30

export interface RedoxElectrode {
  readonly offset_mV: number
  /** Of its reference, against hydrogen at 25 °C. */
  readonly reference_mV: number
  readonly referenceName: string
  /** What it should give in the solution of hexacyanoferrates at 25 °C, mV. */
  readonly solution_mV: number
}
/** A redox electrode as its entries say. */
export function redoxElectrode(r: Reader): RedoxElectrode {
  const { mV, name } = REFERENCES.find((x) => x.id === r.text('reference')) ?? REFERENCES[0]
  const offset = r.in('electrodeOffset', 'mV') ?? 0
  return {
    offset_mV: Number.isFinite(offset) ? offset : 0,
    reference_mV: mV,
    referenceName: name,
    solution_mV: Math.round(hexacyanoferrate_mV(25) - mV),
  }
}

const point = { stage: 'point', group: 'Electrode' } as const
const fields: readonly Field[] = [
  {
    ...point,
    type: 'choice',
    key: 'reference',
    label: 'Reference of the electrode',
    help: 'Every reading is against it; against hydrogen it would be higher by the figure beside.',
    options: REFERENCES.map(({ id, name }) => ({ value: id, label: name })),
    default: 'agcl-3m',
  },
  {
    ...point,
    type: 'quantity',
    key: 'electrodeOffset',
    quantity: 'voltage',
    unit: 'mV',
    label: 'Offset of the electrode',
    help: 'What it gave too much in a solution of known potential, from its last check.',
    default: '0 mV',
  },
  {
    ...point,
    type: 'text',
    key: 'electrodeSerial',
    label: 'Serial number of the electrode',
    help: 'Of the electrode itself, not of its transmitter: its history goes with it.',
  },
]

type By = Omit<ReturnType<NonNullable<Figure['working']>>, 'title'>
const figure = (id: string, label: string, value: number, by: By): Figure => ({
  id,
  stage: 'point',
  label,
  unit: 'mV',
  decimals: 0,
  value,
  working: () => ({ title: label, ...by }),
})

export const redox = {
  fields,
  sensor(r: Reader): { knot: Knot; stages: readonly [Stage, Stage] } {
    const { offset_mV: offset } = redoxElectrode(r)
    const mV = (v: number) => show(v, 'mV', { decimals: 1 })
    const knot: Knot = {
      id: 'electrode',
      role: 'sensor',
      name: 'Electrode',
      explains: 'Voltage of the metal against its reference.',
      quantity: 'voltage',
      unit: 'mV',
      decimals: 1,
    }
    const by = { causes: ['metal coated', 'reference poisoned or empty'], source: 'Offset of its last check' }
    return {
      knot,
      stages: [
        straightStage({
          title: 'Electrode',
          causes: by.causes,
          from: [0, 1],
          to: [offset, offset + 1],
          working: (v) => ({
            title: 'Electrode voltage',
            formula: 'E = potential + offset',
            numbers: `${mV(v)} + ${mV(offset)} = ${mV(v + offset)}`,
            source: by.source,
          }),
        }),
        straightStage({
          title: 'Offset in the device',
          causes: ['solution old or of another kind', 'offset taken with the wrong reference'],
          from: [offset, offset + 1],
          to: [0, 1],
          working: (v) => ({
            title: 'Reported potential',
            formula: 'potential = E − offset',
            numbers: `${mV(v)} − ${mV(offset)} = ${mV(v - offset)}`,
            source: by.source,
          }),
        }),
      ],
    }
  },
  figures(r: Reader): readonly Figure[] {
    const { reference_mV, referenceName, solution_mV } = redoxElectrode(r)
    return [
      figure('against-hydrogen', 'To be added to speak against hydrogen', reference_mV, {
        formula: 'E against hydrogen = E + E of the reference',
        numbers: `${referenceName}: ${reference_mV} mV at 25 °C`,
        source: 'Common electrochemical tables',
      }),
      figure('in-solution', 'In hexacyanoferrate solution at 25 °C it gives', solution_mV, {
        formula: 'E = 430.28 mV − 2.5157 · (t − 25) − 0.0038 · (t − 25)² − E of the reference',
        numbers: `430 mV − ${reference_mV} mV = ${solution_mV} mV`,
        source: 'Nordstrom 1977',
      }),
    ]
  },
  findings(r: Reader): readonly Finding[] {
    const { offset_mV } = redoxElectrode(r)
    if (Math.abs(offset_mV) <= MOST_OFFSET_mV) return []
    return [
      {
        code: 'redox-electrode-off',
        grade: 'look',
        fields: ['electrodeOffset'],
        what: `The electrode is ${show(offset_mV, 'mV')} off, more than ${MOST_OFFSET_mV} mV.`,
        why: 'A clean metal with a sound reference is a few millivolts off: it is coated, or its reference is spent.',
        sure: 'Nearly certain, if the solution was fresh.',
        action: 'Clean the metal and try again; else replace the electrode.',
      },
    ]
  },
}
