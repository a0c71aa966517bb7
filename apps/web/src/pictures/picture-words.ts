// What photographs and papers show, in words.
import type { Attachment, AttachmentNote } from '@calm-loop/contract'

export const SHOWS_WORDS: Readonly<Record<AttachmentNote['shows'], string>> = {
  plate: 'plate',
  terminals: 'terminals',
  mounting: 'mounting',
  display: 'display',
  'data-sheet': 'data sheet',
  baseline: 'baseline or kit certificate',
  permit: 'permit',
  other: 'other',
}
export const isPaper = (a: Pick<Attachment, 'media'>): boolean => !a.media.startsWith('image/')
/** `plate: terminals of the head`, or the name of its file. */
export const saidOf = ({ name, note: { shows, words } }: Pick<Attachment, 'name' | 'note'>): string =>
  shows === 'other' ? words || name : words ? `${SHOWS_WORDS[shows]}: ${words}` : SHOWS_WORDS[shows]
const MB = 1e6
export const sizeWords = (bytes: number): string =>
  bytes < MB ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / MB).toFixed(1)} MB`
