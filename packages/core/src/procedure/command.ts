// What a device is told to do in a guided procedure, and how a step says so before its figures are known.

/** What a device is told to do. Values are in the unit of its digital value, currents in mA. */
export type Command =
  | { readonly do: 'zero-trim' }
  | { readonly do: 'sensor-trim'; readonly end: 'lower' | 'upper'; readonly value: number }
  | { readonly do: 'drive'; readonly mA: number }
  | { readonly do: 'release' }
  | { readonly do: 'current-trim'; readonly at: 4 | 20; readonly reading: number }
  | { readonly do: 'set-range'; readonly lrv: number; readonly urv: number }
  | { readonly do: 'receiver'; readonly low: number; readonly high: number }
  | { readonly do: 'ph-calibrate'; readonly slope_mVperPh: number; readonly offset_mV: number }
  | { readonly do: 'flow-zero' }
  | { readonly do: 'damping'; readonly seconds: number }
  | { readonly do: 'self-test' }
  | { readonly do: 'store' }

/** A figure that a command takes from what the run has read by then. */
export interface Taken {
  readonly taken: string
}
type Planned<C> = C extends unknown ? { readonly [K in keyof C]: C[K] extends number ? C[K] | Taken : C[K] } : never
/** A command as a step holds it: plain data, with the figures that are only read on the way named. */
export type CommandPlan = Planned<Command>

const isTaken = (value: unknown): value is Taken => typeof value === 'object' && value !== null && 'taken' in value

/** The command that a plan makes from the figures read so far. */
export function commandFrom(plan: CommandPlan, values: Readonly<Record<string, number>>): Command {
  const filled = Object.entries(plan).map(
    ([key, value]) => [key, isTaken(value) ? values[value.taken] : value] as const,
  )
  return Object.fromEntries(filled) as unknown as Command
}
