// What a site may have rows of its own for: the choice that such a row makes, and the entries that it fills.
import { KINDS, type Entries } from '../kinds/index.ts'

export const OWN_TABLES = ['material', 'liner', 'liquid', 'gas', 'pair', 'dielectric', 'fill'] as const
export type OwnTable = (typeof OWN_TABLES)[number]

export interface OwnRow {
  /** What a row of it is called. */
  readonly name: string
  /** Entry that says which row is taken; `own` where its figures are entered. */
  readonly choice: string
  /** Entries that a row fills, each with what it is called and the unit that it is usually given in. */
  readonly figures: readonly { readonly key: string; readonly label: string; readonly unit: string }[]
}
const speed = (key: string, label: string) => ({ key, label, unit: 'm/s' })
export const OWN_ROWS: Readonly<Record<OwnTable, OwnRow>> = {
  material: {
    ...{ name: 'pipe material', choice: 'material' },
    figures: [speed('wallSpeed', 'Wave speed in the wall')],
  },
  liner: {
    ...{ name: 'liner', choice: 'liner' },
    figures: [speed('linerSpeed', 'Wave speed in the liner')],
  },
  liquid: {
    ...{ name: 'liquid', choice: 'liquid' },
    figures: [
      speed('ownSpeed', 'Sound speed'),
      { key: 'ownDensity', label: 'Density', unit: 'kg/m³' },
      { key: 'ownViscosity', label: 'Viscosity', unit: 'mPa·s' },
    ],
  },
  gas: {
    ...{ name: 'gas', choice: 'gas' },
    figures: [{ key: 'composition', label: 'Composition, mole shares', unit: '' }],
  },
  pair: {
    ...{ name: 'transducer pair', choice: 'transducer' },
    figures: [
      speed('wedgeSpeed', 'Sound speed in the wedge'),
      { key: 'wedgeAngle', label: 'Angle in the wedge', unit: '°' },
    ],
  },
  dielectric: {
    ...{ name: 'liquid at a probe', choice: 'liquid' },
    figures: [{ key: 'dielectric', label: 'Dielectric constant', unit: '' }],
  },
  fill: {
    ...{ name: 'fill of a leg', choice: 'legFill' },
    figures: [{ key: 'legSg', label: 'Specific gravity', unit: '' }],
  },
}

/** Kinds of point that have such a choice, with `own` among it, and all of its entries. */
export const kindsOfRow = ({ choice, figures }: OwnRow): readonly string[] =>
  KINDS.filter(({ fields }) => {
    const found = fields.find((f) => f.key === choice)
    const hasOwn = found?.type === 'choice' && found.options.some((o) => o.value === 'own')
    return hasOwn && figures.every(({ key }) => fields.some((f) => f.key === key))
  }).map((k) => k.id)
/** Kinds of point that have a choice with this value. */
export const kindsChoosing = (choice: string, value: string): readonly string[] =>
  KINDS.filter(({ fields }) =>
    fields.some((f) => f.key === choice && f.type === 'choice' && f.options.some((o) => o.value === value)),
  ).map((k) => k.id)

/** A row of the site's own as it is kept. */
export interface KeptRow {
  readonly id: string
  readonly table: string
  readonly name: string
  readonly fills: Readonly<Record<string, string>>
  /** The row that it stands in place of. */
  readonly follows?: string | undefined
}
/** Rows of which none stands in the place of another, each with those before it, the newest first. */
export function standingRows<R extends KeptRow>(
  rows: readonly R[],
): readonly { readonly row: R; readonly before: readonly R[] }[] {
  const byId = new Map(rows.map((r) => [r.id, r]))
  const followed = new Set(rows.map((r) => r.follows))
  return rows
    .filter((r) => !followed.has(r.id))
    .map((row) => {
      const before: R[] = []
      for (let at = byId.get(row.follows ?? ''); at && !before.includes(at); at = byId.get(at.follows ?? ''))
        before.push(at)
      return { row, before }
    })
}

/** Whether a loop's entries are those that a row fills in, sign by sign. */
export const usesRow = (entries: Entries, fills: Readonly<Record<string, string>>): boolean =>
  Object.keys(fills).length > 0 && Object.entries(fills).every(([key, typed]) => entries[key]?.typed === typed)
