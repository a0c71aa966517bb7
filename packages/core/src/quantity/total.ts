// What adds up when a flow is counted over time.
import { attempt, Refusal } from '../refusal/index.ts'
import { unitOf } from './units.ts'

/** Flows whose label does not say of what and per what they are. */
const IN_FULL: Readonly<Record<string, string>> = { cfm: 'ft³/min', gpm: 'gal/min', SCFM: 'SCF/min' }
const SECONDS: Readonly<Record<string, number>> = { s: 1, min: 60, h: 3600 }

export interface TotalUnit {
  /** As printed, e.g. `m³`, `gal (US)`, `Nm³ (0 °C)`. */
  readonly label: string
  /** How much of it one unit of the flow brings in a second. */
  readonly perSecond: number
}

/**
 * The unit in which a flow is totalled.
 * @param flow symbol of a unit of volume, mass or reference flow
 * @throws Refusal `unknown-unit`, `incommensurable` (not a flow)
 */
export function totalOf(flow: string): TotalUnit {
  const words = unitOf(flow).label.replace(/^\w+/, (name) => IN_FULL[name] ?? name)
  const [whole, time = ''] = /\/(s|min|h)(?= |$)/.exec(words) ?? []
  const seconds = SECONDS[time]
  if (!whole || !seconds) throw new Refusal('incommensurable', `${words} is not a flow: nothing adds up over time.`)
  return { label: words.replace(whole, ''), perSecond: 1 / seconds }
}

/** The unit of a total on record, as printed; of what is no flow, as an older record may say, the words it has. */
export function totalLabel(flow: string): string {
  const found = attempt(() => totalOf(flow))
  return found instanceof Refusal ? `(of ${flow})` : found.label
}
