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
