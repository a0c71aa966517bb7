// Schools of practice: what one site settles in one way and the next in another, and how often each kind is checked.
// A loop begins with what its site has settled; from then on its own entries stand.
import type { Entries, Field, PointKind } from './kind.ts'
import { KINDS } from './registry.ts'

export interface Practice {
  /** Key of the entry that it settles. */
  readonly key: string
  readonly label: string
  readonly help: string
  /** Why practices differ. */
  readonly why: string
  readonly options: readonly { readonly value: string; readonly label: string }[]
  /** What is taken where a site has settled nothing; undefined where each loop is asked. */
  readonly usual: string | undefined
  /** Names of the kinds that it is asked of; empty: of all that have a current. */
  readonly kinds: readonly string[]
}

const settled = ({ fields }: PointKind) => fields.flatMap((f) => (f.practice && f.type === 'choice' ? [f] : []))
const hasKey = (kind: PointKind, field: Field) => settled(kind).some((f) => f.key === field.key)

/** Each practice that a site may settle, once, in the order in which a loop is entered. */
export const PRACTICES: readonly Practice[] = KINDS.flatMap(settled)
  .filter((f, i, all) => all.findIndex((other) => other.key === f.key) === i)
  .map((f) => {
    const kinds = KINDS.filter((kind) => hasKey(kind, f))
    const ofAll = kinds.length >= KINDS.filter((k) => k.family === 'current').length
    return {
      ...{ key: f.key, label: f.label, help: f.help, why: f.practice ?? '', options: f.options, usual: f.default },
      kinds: ofAll ? [] : kinds.map((k) => k.name),
    }
  })

const INTERVAL = 'interval'
const intervalField = (kind: PointKind) => kind.fields.find((f) => f.key === INTERVAL)

/** How often a kind may be said to be checked, and is while nothing is said. */
export function intervalsOf(kind: PointKind): Pick<Practice, 'options' | 'usual'> {
  const field = intervalField(kind)
  return field?.type === 'choice' ? { options: field.options, usual: field.default } : { options: [], usual: undefined }
}

/** What a site has settled: options by key of the practice, and how often a kind is checked, by its id. */
export interface Settled {
  readonly schools: Readonly<Record<string, string>>
  readonly intervals: Readonly<Record<string, string>>
}

const offered = (options: Practice['options'], value: string | undefined) => options.some((o) => o.value === value)

/** Whether each that is settled is a practice, and one of its options. */
export const isSettled = ({ schools, intervals }: Settled): boolean =>
  Object.entries(schools).every(([key, value]) => PRACTICES.some((p) => p.key === key && offered(p.options, value))) &&
  Object.entries(intervals).every(([id, value]) =>
    KINDS.some((kind) => kind.id === id && offered(intervalsOf(kind).options, value)),
  )

/** What a new loop of a kind begins with at a site; what is the usual anyway, or not asked of the kind, is left out. */
export function settledEntries(kind: PointKind, { schools, intervals }: Settled): Entries {
  const own: Readonly<Record<string, string | undefined>> = {
    ...schools,
    ...(intervals[kind.id] === undefined ? {} : { [INTERVAL]: intervals[kind.id] }),
  }
  const fields = [...settled(kind), ...[intervalField(kind)].flatMap((f) => (f?.type === 'choice' ? [f] : []))]
  return Object.fromEntries(
    fields.flatMap((f) => {
      const value = own[f.key]
      return value !== undefined && value !== f.default && offered(f.options, value) ? [[f.key, { typed: value }]] : []
    }),
  )
}
