// The field's words, each in a sentence or two for whoever meets it for the first time.
import rows from './glossary.json' with { type: 'json' }

export interface Term {
  readonly term: string
  readonly means: string
  /** Other words for it. */
  readonly also: readonly string[]
}
export const GLOSSARY: readonly Term[] = rows

/** Without accents, capitals and dashes, so that a word is found however it is typed. */
const plain = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[–—-]/g, ' ')

/** Terms that a search finds: first those that begin with it, then those that hold it, then those explained by it. */
export function findTerms(search: string): readonly Term[] {
  const wanted = plain(search.trim())
  if (wanted === '') return GLOSSARY
  const rank = (t: Term): number => {
    const names = [t.term, ...t.also].map(plain)
    if (names.some((n) => n.startsWith(wanted))) return 0
    if (names.some((n) => n.includes(wanted))) return 1
    return plain(t.means).includes(wanted) ? 2 : 3
  }
  return GLOSSARY.map((t) => ({ t, rank: rank(t) }))
    .filter((x) => x.rank < 3)
    .sort((a, b) => a.rank - b.rank)
    .map((x) => x.t)
}
