// What a plan of the demo is made of, and what many loops share.
import type { Wiring } from '@calm-loop/core/wiring'

export interface History {
  readonly at: string
  /** Errors of the loop on that day, % of span. */
  readonly zero: number
  readonly span: number
  readonly phase?: 'as-left'
  /** Judged with a guard band. */
  readonly rule?: 'guarded'
  /** Why kit past its due date was used. */
  readonly expired?: string
  /** How many times too much the controller shows. */
  readonly scaled?: number
  /** Done at the bench: nobody signs it. */
  readonly practice?: boolean
  /** What was measured with it since the last good check. */
  readonly answer?: string
  /** By the entries as they were changed. */
  readonly changed?: boolean
  /** Two points only, far apart. */
  readonly wide?: boolean
}

export interface Plan {
  readonly tag: string
  readonly service: string
  readonly area: string
  readonly kind: string
  readonly created: string
  readonly typed: Readonly<Record<string, string>>
  readonly gear: readonly string[]
  readonly history: readonly History[]
  /** How the wiring was found, where it is not as proposed. */
  readonly wrong?: (wiring: Wiring) => Wiring
  readonly note?: string
  /** Practice case that its device at the bench begins with. */
  readonly bench?: string
  /** Points of the chain as found: applied, digital, meter, receiver, each as typed. */
  readonly found?: readonly (readonly [string, string, string, string])[]
  /** Whether a month of its cycles is on record. */
  readonly counts?: boolean
}

export const wired = {
  supply: '24 V',
  liftOff: '12 V',
  shunt: '250 Ω',
  conductor: '1 mm2',
  countsLow: '13107',
  countsHigh: '65535',
}

export const standard = (unit: string, low: number, high: number) => ({
  lrv: `${low} ${unit}`,
  urv: `${high} ${unit}`,
  receiverLow: `${low} ${unit}`,
  receiverHigh: `${high} ${unit}`,
  damping: '2 s',
  faultAction: 'high',
  faultCurrent: '21.5 mA',
  highestCurrent: '22 mA',
  tolerance: '0.5 %',
})
export const commissioned = (plan: Omit<Plan, 'created' | 'gear' | 'history'> & Partial<Plan>): Plan => ({
  created: '2024-05-06T09:00:00.000Z',
  gear: [],
  history: [],
  ...plan,
})
