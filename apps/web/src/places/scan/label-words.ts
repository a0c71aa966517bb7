// What a scanned code says, in words that help.
import type { LabelFault } from '@calm-loop/contract/label'

export const FAULT_WORDS: Readonly<Record<LabelFault, string>> = {
  'no-label': 'This is another code, and no label of a loop.',
  damaged: 'This label is damaged: part of its code is another. Type the tag that stands on it instead.',
  newer: 'This label was made by a newer version of Calm Loop. Type the tag that stands on it instead.',
  elsewhere: 'This label is of another installation: its loop is not here. A loop of the same tag here may be another.',
}
export const NOTHING_FOUND = 'No code was found in this picture. Nearer, sharper and without glare it may be.'
/** A session that this device kept from before labels. */
export const UNKNOWN_HERE =
  'This device does not know yet which installation it is of. Open this page once with the server in reach.'
