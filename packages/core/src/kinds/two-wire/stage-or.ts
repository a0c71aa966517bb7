// A stage of the thread that stands on entries: the stage itself, or what it still needs.
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Stage } from '../../thread/index.ts'
import { inSentence } from '../../words/index.ts'
import type { Reader } from '../reader.ts'

const notReady = (title: string, causes: readonly string[], needs: readonly string[]): Stage => ({
  title,
  causes,
  ready: false,
  needs,
})

/** A stage when all it needs is there and it has a span, else one that says what it needs. */
export function stageOr(title: string, causes: readonly string[], needs: readonly string[], make: () => Stage): Stage {
  if (needs.length) return notReady(title, causes, needs)
  const stage = attempt(make)
  return stage instanceof Refusal ? notReady(title, causes, [`${inSentence(title)} with a span`]) : stage
}

/**
 * An entry that a stage stands on.
 * @throws Refusal `no-span` where a choice that is none leaves its field out, so that nobody asks for it
 */
export function entryOf(r: Reader, key: string, unit: string): number {
  const value = r.in(key, unit)
  if (value === undefined) throw new Refusal('no-span', 'There is no such field while a choice before it is open.')
  return value
}
