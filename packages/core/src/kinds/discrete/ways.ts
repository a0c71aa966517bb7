// The ways to make a discrete point work, as a person chooses among them: what each is, what it costs, and what it
// changes in the entries.
import {
  fixesOf,
  INPUT_TYPES,
  USUAL_CONTACTOR,
  USUAL_RELAY,
  type After,
  type Fix,
  type Pole,
} from '../../discrete/index.ts'
import { entryFrom, formatQuantity as show } from '../../quantity/index.ts'
import type { Entries } from '../kind.ts'
import { readEntries } from '../reader.ts'
import { discreteFields } from './fields.ts'
import { setupOf } from './setup.ts'
import { sure } from '../../sure/index.ts'

export interface Way {
  readonly id: string
  readonly title: string
  /** What is done, in a sentence or two. */
  readonly says: string
  /** What it costs; empty when nothing. */
  readonly price: string
  /** Entries that it changes, as typed. */
  readonly changes: Readonly<Record<string, string>>
  readonly after: After
}
export interface Ways {
  readonly possible: readonly Way[]
  readonly ruledOut: readonly { readonly title: string; readonly why: string }[]
}

const TITLES: Record<Fix['way'], string> = {
  'other-common': 'Another channel of the card',
  'other-pole': 'Load on the other pole',
  'other-input': 'Another input type',
  'other-sensor': 'Another sensor',
  'bias-resistor': 'Bias resistor',
  bleeder: 'Bleeder resistor',
  relay: 'Interposing relay',
}
const pole = (p: Pole) => `${p} pole`
const ohm = (v: number) => show(v, 'Ohm', { decimals: 0 })
/** Wattages that resistors are made in, W. */
const RATINGS = [0.25, 0.5, 1, 2, 3, 5, 10]
/** A resistor is chosen for twice the heat it gets. */
const rating = (watts: number) => RATINGS.find((w) => w >= 2 * watts)

const BARE = { between: 'nothing' }

/** Entries that a fix changes, as a person would type them. */
export function changesOf(fix: Fix): Record<string, string> {
  switch (fix.way) {
    case 'other-common':
    case 'other-pole':
      return { ...BARE, common: fix.common }
    case 'other-input':
      return { ...BARE, inputType: fix.inputType }
    case 'other-sensor':
      return { ...BARE, output: fix.output, contact: fix.contact, residual: '2 V', leakage: '0.1 mA' }
    case 'bias-resistor':
    case 'bleeder':
      return { between: fix.way === 'bleeder' ? 'bleeder' : 'bias resistor', extraOhm: `${fix.ohm} Ω`, extraTo: fix.to }
    case 'relay':
      return {
        between: `relay, ${fix.relay.contact} contact`,
        coilVolts: `${fix.relay.coilV} V`,
        coilCurrent: `${fix.relay.coil_mA} mA`,
        contactMost: `${fix.relay.contactMax_mA} mA`,
      }
  }
}

function saysOf(fix: Fix, load: boolean): { says: string; price: string } {
  const what = load ? 'load' : 'input'
  switch (fix.way) {
    case 'other-common':
      return {
        says: `Move the signal wire to an input group whose common is on the ${pole(fix.common)}.`,
        price: 'Needs such a channel; all inputs of a group share their common.',
      }
    case 'other-pole':
      return {
        says: `Move the load’s other end to the ${pole(fix.common)}.`,
        price: 'On the positive pole its case side is live while it is off: mark it so.',
      }
    case 'other-input': {
      const row = sure(INPUT_TYPES.find((t) => t.id === fix.inputType))
      return { says: `Use an input of ${row.name} (${row.for}).`, price: 'Needs such a card.' }
    }
    case 'other-sensor':
      return {
        says: `Take a three-wire ${fix.output} ${fix.contact} in its place.`,
        price: 'Needs another sensor, and the spare part changed in the store.',
      }
    case 'bias-resistor': {
      const w = rating(fix.watts)
      return {
        says:
          `${ohm(fix.ohm)} from the signal wire to the ${pole(fix.to)} (E12, ` +
          `${show(fix.watts, 'W', { decimals: 2 })} while the sensor conducts: ` +
          `${w ? `a ${show(w, 'W', { trim: true })} resistor` : 'a power resistor on a heat sink'}). The ` +
          'resistor turns the input on; the conducting sensor turns it off.',
        price: 'The logic is inverted, the resistor is warm, and a broken signal wire reads on.',
      }
    }
    case 'bleeder': {
      const w = rating(fix.watts)
      return {
        says:
          `${ohm(fix.ohm)} beside the input, from the signal wire to the ${pole(fix.to)} (E12, ` +
          `${show(fix.watts, 'W', { decimals: 2 })}: ` +
          `${w ? `a ${show(w, 'W', { trim: true })} resistor` : 'a power resistor'}). It draws the leakage ` +
          'away.',
        price: 'The resistor is warm while the sensor conducts.',
      }
    }
    case 'relay':
      return {
        says:
          `Coil of ${show(fix.relay.coilV, 'V', { trim: true })}, ` +
          `${show(fix.relay.coil_mA, 'mA', { trim: true })}, from the signal wire to the ${pole(fix.coilTo)}, ` +
          `its diode’s ring at plus (A1). Contact ${fix.relay.contact} to the ${what}, its common (11) on the ` +
          `${pole(fix.contactCommon)}.`,
        price: `A part that wears: some hundred thousand switchings under load${load ? '' : ', and 10 ms slower'}.`,
      }
  }
}

/** Every way that works for these entries, as if nothing stood between yet. Undefined while they are incomplete. */
export function waysOf(entries: Entries): Ways | undefined {
  const r = readEntries(discreteFields, entries)
  const setup = setupOf({
    ...r,
    text: (key) => (key === 'between' ? 'nothing' : r.text(key)),
    missing: (...keys) => r.missing(...keys.filter((k) => !k.startsWith('extra'))),
  })
  if (!setup.entered) return undefined
  const load = setup.entered.load_mA !== undefined
  // As entered where one is; else a usual one that carries the load, its coil bought for the supply there is.
  const supply = setup.entered.circuit.supplyV
  const heavy = (setup.entered.load_mA ?? 0) > USUAL_RELAY.contactMax_mA
  const usual = heavy ? USUAL_CONTACTOR : USUAL_RELAY
  const relay = r.text('between').startsWith('relay')
    ? setup.relay
    : { ...usual, coilV: supply >= 19.2 && supply <= 26.4 ? 24 : supply }
  const name = relay.contactMax_mA > USUAL_RELAY.contactMax_mA ? 'Contactor' : TITLES.relay
  const { possible, ruledOut } = fixesOf(setup.entered, relay)
  return {
    possible: possible.map((fix, i) => ({
      id: `${i}-${fix.way}`,
      title:
        fix.way === 'relay'
          ? `${name}, ${fix.relay.contact} contact`
          : fix.way === 'other-input'
            ? `${TITLES['other-input']}: ${fix.inputType.replace('-', ' ')}`
            : TITLES[fix.way],
      ...saysOf(fix, load),
      changes: changesOf(fix),
      after: fix.after,
    })),
    ruledOut: ruledOut.map(({ way, why }) => ({ title: way === 'relay' ? name : TITLES[way], why })),
  }
}

/** The entries with some changed, as if typed. */
export function withChanges(entries: Entries, changes: Readonly<Record<string, string>>): Entries {
  const typed = Object.entries(changes).flatMap(([key, text]) => {
    const field = discreteFields.find((f) => f.key === key)
    if (!field) return []
    return [[key, field.type === 'quantity' ? entryFrom(text, field) : { typed: text }] as const]
  })
  // A wiring drawn for the way before is not one for this.
  const { wiring: _, ...rest } = entries
  return { ...rest, ...Object.fromEntries(typed) }
}
