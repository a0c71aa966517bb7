// A finding of the wiring: besides what, why, how sure and what to do, the place it is about.
import type { Finding } from '../findings/index.ts'

/** A finding of the wiring: besides the rest, the terminals, conductors and devices it is about. */
export interface WiringFinding extends Finding {
  readonly where: readonly string[]
}

export const finding = (f: Omit<WiringFinding, 'sure' | 'fields'> & { readonly sure?: string }): WiringFinding => ({
  fields: ['wiring'],
  sure: 'Certain, for the wiring as drawn.',
  ...f,
})
