// What may be the case at a step, as the alerts of a device: which of them are, what each means, what it is kept for.
import type { Grade } from '../findings/index.ts'
import { inSentence } from '../words/index.ts'

export interface StepMark {
  readonly id: string
  readonly name: string
  /** `stop`: what is measured now is worth nothing; `look`: less than usual; `note`: no less. */
  readonly grade: Grade
  /** What it means for what is measured. */
  readonly means: string
  /** What to do about it. */
  readonly act: string
}

const WORST: readonly Grade[] = ['stop', 'look', 'note']

/** The marks of those ids, the gravest first, each once; ids that are not offered are left out. */
export function marksOf(marks: readonly StepMark[], ids: readonly string[]): StepMark[] {
  const chosen = marks.filter((m) => ids.includes(m.id))
  return WORST.flatMap((grade) => chosen.filter((m) => m.grade === grade))
}

/** Whether a word is needed on the marks: one of them makes what follows worthless. */
export const wantsWord = (marks: readonly StepMark[], ids: readonly string[]): boolean =>
  marksOf(marks, ids).some((m) => m.grade === 'stop')

/** What a step says was marked, in words: none, or each by its name; empty where it offers nothing. */
export function markedWords(marks: readonly StepMark[] | undefined, ids: readonly string[] | undefined): string {
  if (!marks || !ids) return ''
  const names = marksOf(marks, ids).map((m, i) => (i ? inSentence(m.name) : m.name))
  return names.join('; ') || 'None'
}
