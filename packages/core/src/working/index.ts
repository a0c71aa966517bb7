// The working behind a figure: the formula, the same formula with its numbers in it, and where it comes from.

/** What a person may ask of any computed figure. All fields are ready to be read aloud. */
export interface Working {
  /** What the figure is. */
  readonly title: string
  /** The formula in symbols. */
  readonly formula: string
  /** The formula with the numbers in it, each with its unit, and the result. */
  readonly numbers: string
  /** Standard and clause, published formula, or the certificate it was copied from. */
  readonly source: string
}
