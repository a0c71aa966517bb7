import type { Outgoing } from '@calm-loop/contract'

/** A webhook as it is typed; its secret only where another was typed. */
export type Hook = Outgoing['hooks'][number] & { secret: string }
export const ON_OFF = [
  { value: 'off', label: 'off' },
  { value: 'on', label: 'on' },
] as const
