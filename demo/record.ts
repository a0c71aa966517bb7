// Small parts of every record in the demo: who, when, and what was typed.
export interface Author {
  readonly id: string
  readonly name: string
}
export const later = (at: string, seconds: number) => new Date(new Date(at).getTime() + seconds * 1000).toISOString()
export const entryOf = (typed: string, unit: string) => ({ typed, value: Number.parseFloat(typed), unit })
