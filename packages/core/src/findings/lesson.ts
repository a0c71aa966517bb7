// What a lesson is: three lines for whoever asks why.
import type { FindingCode } from './codes.ts'

/** What happens, what would be seen, and what people get wrong. */
export type Lesson = readonly [happens: string, seen: string, wrong: string]
export type Lessons = Partial<Record<FindingCode, Lesson>>
