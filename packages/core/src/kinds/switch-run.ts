// What is known of a switch: for the target present and absent, the state of everything between it and the controller.
import type {
  InputReading,
  LogicState,
  OperateLimits,
  Pole,
  SwitchCase,
  SwitchPlan,
  Verdict,
} from '../discrete/index.ts'

/** One state of the target, followed to the controller. */
export interface Lane extends InputReading {
  readonly target: boolean
  /** The sensor's own lamp; undefined where it has none. */
  readonly sensorLamp: boolean | undefined
  /** Whether the relay between is picked up; undefined without one, or while it is not sure. */
  readonly pickedUp: boolean | undefined
  /** The input's lamp, or the load itself; undefined while the input is not sure. */
  readonly inputLamp: boolean | undefined
  /** What the program sees; undefined while the input is not sure. */
  readonly controller: boolean | undefined
}

export type Between = 'nothing' | 'bias resistor' | 'bleeder' | 'relay, NO contact' | 'relay, NC contact'

export interface SwitchRun {
  /** The sensor on its input or load as entered; undefined while something is missing or impossible. */
  readonly entered: SwitchCase | undefined
  readonly between: Between
  /** Resistor from the signal wire, where there is one. */
  readonly extra: { readonly to: Pole; readonly ohm: number } | undefined
  readonly lanes: { readonly present: Lane; readonly absent: Lane } | undefined
  readonly verdict: Verdict | 'overloaded' | undefined
  /** Labels of the entries still missing for it. */
  readonly needs: readonly string[]
  readonly distance: OperateLimits | undefined
  /** What a check is judged by; undefined while the lanes are. */
  readonly plan: SwitchPlan | undefined
}

export const STATE_WORDS: Record<LogicState, string> = { on: 'on', off: 'off', undefined: 'not sure' }
export const VERDICT_WORDS: Record<Verdict | 'overloaded', string> = {
  works: 'Works',
  'works-inverted': 'Works, inverted',
  undefined: 'Undefined',
  'cannot-work': 'Cannot work',
  overloaded: 'Too heavy for the sensor',
}
