// How often each thing breaks, as a weight against the others: the beginning of a belief, before anything is read.
import type { FaultKind } from './fault.ts'

/**
 * Weights of single faults; 1 is usual. A loose core, an opened disconnect, water, a meter set wrong come before a hard
 * short, a failed card or a failed output, which are seldom met. A site's own record is better, and may take their
 * place.
 */
export const PRIORS: Readonly<Record<FaultKind, number>> = {
  none: 4,
  open: 3,
  'fuse-blown': 2.5,
  'meter-fuse': 2,
  'meter-ac': 1.5,
  'meter-jack': 1.5,
  'leads-exchanged': 1,
  'meter-across': 0.8,
  'meter-range': 0.7,
  'meter-burden': 0.5,
  reversed: 1.5,
  'supply-missing': 2,
  'supply-low': 1,
  'leak-earth': 1.5,
  'leak-pair': 1,
  'cable-long': 0.8,
  'transmitter-low': 0.8,
  'transmitter-high': 0.8,
  'shunt-wrong': 0.5,
  'shunt-doubled': 0.4,
  'shunt-missing': 0.4,
  'short-earth': 0.5,
  'supply-second': 0.3,
  'transmitter-dead': 0.3,
  'short-pair': 0.3,
}

/** What each kind is called where its weight is set. */
export const FAULT_WORDS: Readonly<Record<FaultKind, string>> = {
  none: 'nothing is wrong',
  open: 'a core open or loose',
  'fuse-blown': 'a fuse or disconnect open',
  'meter-fuse': 'the meter’s mA fuse blown',
  'meter-ac': 'the meter on AC',
  'meter-jack': 'the meter’s lead in another jack',
  'meter-across': 'the meter on mA across a supply',
  'meter-range': 'the meter on its 10 A range',
  'meter-burden': 'the meter itself loads the loop',
  'leads-exchanged': 'the meter’s leads exchanged',
  reversed: 'plus and minus exchanged',
  'supply-missing': 'no supply',
  'supply-low': 'supply too low',
  'supply-second': 'a second supply in the loop',
  'leak-earth': 'water: a leak to earth',
  'leak-pair': 'water: a leak between cores',
  'cable-long': 'a bad joint or a longer cable',
  'transmitter-low': 'the transmitter signals a fault, low',
  'transmitter-high': 'the transmitter signals a fault, high',
  'transmitter-dead': 'the transmitter is dead',
  'shunt-wrong': 'a shunt of another value',
  'shunt-doubled': 'a second shunt beside it',
  'shunt-missing': 'the shunt missing or open',
  'short-earth': 'a core touches earth',
  'short-pair': 'two cores touch',
}
export const FAULT_KINDS = Object.keys(PRIORS) as readonly FaultKind[]
