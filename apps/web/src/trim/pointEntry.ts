// One point of the chain as it is entered: a row for each witness, and what its text is read as.
import type { LiveReading } from '@calm-loop/contract'
import { appliedEntry, foundPoint, type Chain } from '@calm-loop/core/loop'
import { valueFor } from '@calm-loop/core/procedure'
import { parseQuantity, type QuantityName } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { inSentence } from '@calm-loop/core/words'
import type { Quantity } from './gate.ts'

export type WitnessKey = 'applied' | 'digital' | 'current' | 'receiver'
export type Typed = Readonly<Record<WitnessKey, string>>
export interface WitnessRow {
  readonly key: WitnessKey
  readonly label: string
  readonly quantity: QuantityName
  readonly unit: string
  /** What is live there; empty where nothing is. */
  readonly live: string
  readonly help: string
}

/** The witnesses of a loop, first what is applied; the meter where there is a current. */
export function witnessRows(chain: Chain, reading: LiveReading | undefined, quantity: Quantity): WitnessRow[] {
  const bench = reading?.transmitter?.bench
  const figure = (v: number | undefined, unit: string, decimals: number) =>
    v === undefined ? '' : quantity(v, unit, decimals)
  const of = (side: 'digital' | 'controller') => ({
    quantity: chain[side].quantity,
    unit: chain[side].unit,
    live: figure(reading?.knots[side], chain[side].unit, chain[side].decimals + 1),
  })
  const appliedAs = bench ? chain.digital : chain.applied
  return [
    {
      key: 'applied',
      label: `Applied: ${inSentence(bench ? chain.process.name : chain.applied.name)}`,
      quantity: appliedAs.quantity,
      unit: appliedAs.unit,
      live: figure(reading?.reference, appliedAs.unit, chain.process.decimals + 1),
      help: 'As the standard shows it.',
    },
    { key: 'digital', label: chain.digital.name, ...of('digital'), help: 'On the device’s display.' },
    ...(chain.hasCurrent
      ? [
          {
            key: 'current',
            label: 'Meter in the loop',
            quantity: 'current',
            unit: 'mA',
            live: figure(reading?.knots['current'], 'mA', 3),
            help: 'mA, or volts at the shunt.',
          } as const,
        ]
      : []),
    { key: 'receiver', label: 'Receiver shows', ...of('controller'), help: 'What the operator reads.' },
  ]
}

const meterTerms = ({ shunt_Ohm }: Chain) => (shunt_Ohm === undefined ? {} : { shunt_Ohm })

/** What a witness's text is kept as; null for no text. @throws Refusal as the record itself would refuse it */
export function witnessEntry(chain: Chain, row: WitnessRow, typed: string) {
  const text = typed.trim()
  if (!text) return null
  if (row.key === 'applied') return appliedEntry(chain, text)
  // Judged as the record will judge it, so that nothing is refused after it has been sent.
  valueFor(text, row.quantity, row.unit, meterTerms(chain))
  const own = parseQuantity(text, { quantity: row.quantity, unit: row.unit })
  const volts = own.ok ? own : parseQuantity(text, { quantity: 'voltage', unit: 'V' })
  if (!volts.ok) throw new Refusal('not-a-figure', volts.says)
  return { typed: text, value: volts.value, unit: volts.unit }
}

/** The point as it goes on record, or why it does not. */
export function pointFrom(chain: Chain, rows: readonly WitnessRow[], typed: Typed) {
  return attempt(() => {
    const by = (key: WitnessKey) => {
      const row = rows.find((r) => r.key === key)
      return row ? witnessEntry(chain, row, typed[key]) : null
    }
    const applied = by('applied')
    if (!applied) throw new Refusal('value-missing', 'What is applied is not entered.')
    const entry = { applied, digital: by('digital'), current: by('current'), receiver: by('receiver') }
    if (!entry.digital && !entry.current && !entry.receiver)
      throw new Refusal('no-witness', 'Read at least one witness: digital value, meter or receiver.')
    foundPoint(chain, entry)
    return entry
  })
}

/** As many decimals as a value was given, three at most. */
const decimalsOf = (v: number) => Math.min(3, (String(v).split('.')[1] ?? '').length)

/** What stands under a witness's field: why its text is refused, or which current its volts are. */
export function witnessSays(chain: Chain, row: WitnessRow, typed: string, quantity: Quantity): string {
  if (!typed.trim()) return ''
  const tried = attempt(() => witnessEntry(chain, row, typed))
  if (tried instanceof Refusal) return tried.message
  const { shunt_Ohm } = chain
  if (row.key !== 'current' || !tried || tried.unit === 'mA' || !shunt_Ohm) return ''
  const current = quantity(valueFor(typed, 'current', 'mA', { shunt_Ohm }), 'mA', 3)
  return `= ${current} through ${quantity(shunt_Ohm, 'Ohm', decimalsOf(shunt_Ohm))}`
}
