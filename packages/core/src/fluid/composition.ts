// A gas's composition as typed: read, summed, and brought to one when asked.
import { Refusal } from '../refusal/index.ts'
import { GAS_COMPONENTS, type Composition } from './gas.ts'
import { sure } from '../sure/index.ts'

/** Names people write, besides the component's own. */
const ALSO: Readonly<Record<string, string>> = {
  ch4: 'methane',
  n2: 'nitrogen',
  co2: 'carbonDioxide',
  'carbon dioxide': 'carbonDioxide',
  c2h6: 'ethane',
  c3h8: 'propane',
  'i-butane': 'isoButane',
  'n-butane': 'nButane',
  'i-pentane': 'isoPentane',
  'n-pentane': 'nPentane',
  'n-hexane': 'nHexane',
  'n-heptane': 'nHeptane',
  'n-octane': 'nOctane',
  'n-nonane': 'nNonane',
  'n-decane': 'nDecane',
  h2: 'hydrogen',
  o2: 'oxygen',
  co: 'carbonMonoxide',
  'carbon monoxide': 'carbonMonoxide',
  h2o: 'water',
  h2s: 'hydrogenSulfide',
  'hydrogen sulfide': 'hydrogenSulfide',
  he: 'helium',
  ar: 'argon',
  ic4: 'isoButane',
  nc4: 'nButane',
  ic5: 'isoPentane',
  nc5: 'nPentane',
  'c6+': 'nHexane',
  isobutane: 'isoButane',
  isopentane: 'isoPentane',
  butane: 'nButane',
  pentane: 'nPentane',
  hexane: 'nHexane',
  heptane: 'nHeptane',
  octane: 'nOctane',
  nonane: 'nNonane',
  decane: 'nDecane',
  'hydrogen sulphide': 'hydrogenSulfide',
  'iso-butane': 'isoButane',
  'iso-pentane': 'isoPentane',
  'i-c4h10': 'isoButane',
  'n-c4h10': 'nButane',
  'i-c5h12': 'isoPentane',
  'n-c5h12': 'nPentane',
}
/** Chemists’ short names by the number of carbon atoms. */
const BY_CARBON = [
  'methane',
  'ethane',
  'propane',
  'nButane',
  'nPentane',
  'nHexane',
  'nHeptane',
  'nOctane',
  'nNonane',
  'nDecane',
]
const BY_FORMULA = BY_CARBON.flatMap((name, i): [string, string][] => [
  [`c${i + 1}`, name],
  [`nc${i + 1}`, name],
  [`n-c${i + 1}`, name],
  [`c${i + 1}h${2 * i + 4}`, name],
])
/** Lowered figures, as in CO₂, make no other gas. */
const plain = (name: string) => name.normalize('NFKC').toLowerCase()
const NAMES = new Map([
  ...GAS_COMPONENTS.map((name) => [name.toLowerCase(), name] as const),
  ...BY_FORMULA,
  ...Object.entries(ALSO),
])

/**
 * Reads "methane 97.2 %, nitrogen 0.7 %, …" or the same as fractions; comma, semicolon or new line between, a decimal
 * comma where
 * semicolons part the components.
 * @returns fractions as typed, not brought to one, and their sum
 * @throws Refusal `composition-unreadable`
 */
export function readComposition(text: string): { composition: Composition; sum: number } {
  const parts = text
    .split(/[;\n]|,(?!\d)/)
    .map((part) => part.trim())
    .filter(Boolean)
  if (!parts.length) throw new Refusal('composition-unreadable', 'No component is entered.')
  const composition: Record<string, number> = {}
  for (const part of parts) {
    const found = /^(.+?)[\s:=]+([\d.,]+(?:e-?\d+)?)\s*(%|mol%|mol %)?$/i.exec(part)
    const name = found && NAMES.get(plain(sure(found[1])))
    const value = found ? Number(sure(found[2]).replace(',', '.')) : Number.NaN
    if (!name || !Number.isFinite(value))
      throw new Refusal('composition-unreadable', `“${part}” is not a component with its share, like “methane 97.2 %”.`)
    if (composition[name] !== undefined) throw new Refusal('composition-unreadable', `${name} stands there twice.`)
    composition[name] = found?.[3] ? value / 100 : value
  }
  return { composition, sum: Object.values(composition).reduce((a, b) => a + b, 0) }
}

/** The composition in words, in per cent. */
export function compositionWords(composition: Composition): string {
  return Object.entries(composition)
    .map(([name, x = 0]) => `${name} ${Number((100 * x).toPrecision(6))} %`)
    .join(', ')
}

/** The same shares, adding up to one. @throws Refusal `composition-sum` where nothing is left to share */
export function normalised(composition: Composition): Composition {
  const sum = Object.values(composition).reduce<number>((a, b = 0) => a + b, 0)
  if (!(sum > 0)) throw new Refusal('composition-sum', 'The shares add up to nothing.')
  return Object.fromEntries(Object.entries(composition).map(([name, x = 0]) => [name, x / sum]))
}
