// What other figures in a row of a table would move in the loops that use it, worked out away from the event loop.
import { kindOf, type Entries } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { entryFrom, formatQuantity as show } from '@calm-loop/core/quantity'

export interface MovesAsked {
  readonly loops: readonly { readonly kind: string; readonly entries: Entries }[]
  readonly fills: Readonly<Record<string, string>>
}
/** Figures that are told of a loop: those that move most. */
const MOST = 8
/** Less than that share of a figure is no move. */
const LEAST = 1e-6

/** Entries with a row filled in. */
function filled(kind: string, entries: Entries, fills: MovesAsked['fills']): Entries {
  const { fields } = kindOf(kind)
  const set = Object.entries(fills).flatMap(([key, typed]) => {
    const field = fields.find((f) => f.key === key)
    return field ? [[key, field.type === 'quantity' ? entryFrom(typed, field) : { typed }] as const] : []
  })
  return { ...entries, ...Object.fromEntries(set) }
}

export const tableMoves = ({ loops, fills }: MovesAsked) =>
  loops.map(({ kind, entries }) => {
    const [before, after] = [study(kindOf(kind), entries), study(kindOf(kind), filled(kind, entries, fills))]
    const then = new Map(after.figures.map((f) => [f.id, f]))
    const moved = before.figures
      .flatMap((f) => {
        const other = then.get(f.id)
        if (f.value === undefined || other?.value === undefined) return []
        const share = Math.abs(other.value - f.value) / Math.max(Math.abs(f.value), Math.abs(other.value), 1e-12)
        const words = (value: number) => show(value, f.unit, f.decimals === undefined ? {} : { decimals: f.decimals })
        return share > LEAST ? [{ share, label: f.label, before: words(f.value), after: words(other.value) }] : []
      })
      .sort((a, b) => b.share - a.share)
      .slice(0, MOST)
      .map(({ label, before: was, after: is }) => ({ label, before: was, after: is }))
    const codes = (of: typeof before) => new Set(of.findings.map((f) => f.code))
    const [had, has] = [codes(before), codes(after)]
    return { moved, come: [...has].filter((c) => !had.has(c)), gone: [...had].filter((c) => !has.has(c)) }
  })
