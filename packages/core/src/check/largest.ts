/** Two magnitudes that differ by less are one. */
const SAME = 1e-9

/** The largest magnitude, with its sign; the first of equals (within 1e-9). @param errors one or more */
export const largestSigned = (errors: readonly number[]): number =>
  errors.reduce((worst, e) => (Math.abs(e) > Math.abs(worst) + SAME ? e : worst))
