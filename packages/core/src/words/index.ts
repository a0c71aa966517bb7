// Words inside a sentence: a heading or a label said in the middle of one, with its abbreviations and units left alone.

/** Whether a word is a name or a symbol that keeps its letters: `pH`, `DC`, `LRV`, `4–20`, `mA`, `°C`. */
import { sure } from '../sure/index.ts'

const keepsItsLetters = (word: string): boolean =>
  /\d/.test(word) || /[^\p{L}’'-]/u.test(word[0] ?? '') || /^\p{L}+.*\p{Lu}/u.test(word)

/**
 * A heading as it stands inside a sentence: its first letter small, unless the first word is an abbreviation or a
 * symbol.
 * Nothing else changes, so that units keep their capitals.
 * @example inSentence('Drive 4 mA') // drive 4 mA
 * @example inSentence('pH 7') // pH 7
 */
export function inSentence(heading: string): string {
  const first = /^\S+/.exec(heading)?.[0] ?? ''
  return first === '' || keepsItsLetters(first) ? heading : sure(heading[0]).toLowerCase() + heading.slice(1)
}

/** The first letter large, as a sentence begins; a symbol such as pH or mA stays as it is. */
export function asSentence(words: string): string {
  const first = /^\S+/.exec(words)?.[0] ?? ''
  return first === '' || keepsItsLetters(first) ? words : sure(words[0]).toUpperCase() + words.slice(1)
}

/** `took readings (6), signed a check` */
export const countedWords = (list: readonly { readonly words: string; readonly times: number }[]): string =>
  list.map(({ words, times }) => (times > 1 ? `${words} (${times})` : words)).join(', ')
export * from './glossary.ts'
export * from './tag.ts'
