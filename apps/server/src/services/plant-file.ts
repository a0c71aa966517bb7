// The file of an instrument list, read away from the event loop: each loop as it says, or every reason why not.
import { PlantFile, type PlantLoop, type ProblemCode } from '@calm-loop/contract'
import { falseEntries, kindOf } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { Refusal } from '@calm-loop/core/refusal'
import { HttpProblem } from '../http/problems.ts'
import { refuseUnstorable } from '../http/storable.ts'
import { readJson } from './text.ts'

/** Reasons that are told; of more only how many. */
const TOLD = 20

/** The loops of a file, each as it says. @throws HttpProblem, z.ZodError */
export function plantIn(bytes: Uint8Array): readonly PlantLoop[] {
  const value = readJson(bytes)
  refuseUnstorable(value)
  const found = PlantFile.parse(value).loops
  const wrong = found.flatMap(({ tag, kind, entries }) => {
    const { fields } = kindOf(kind)
    const strange = Object.keys(entries).filter((key) => !fields.some((f) => f.key === key))
    const untrue = falseEntries(fields, entries)
    return [...strange, ...untrue].map((key) => `${tag}: ${key}`)
  })
  if (wrong.length) throw refused('entry-mismatch', 'What was typed and what was understood do not agree', wrong)
  const seen = new Set<string>()
  const twice = found.map((l) => l.tag).filter((tag) => seen.size === seen.add(tag).size)
  if (twice.length) throw refused('tag-taken', 'These tags stand there twice', twice)
  return found
}

export function refused(code: ProblemCode, what: string, which: readonly string[]): HttpProblem {
  const more = which.length > TOLD ? ` and ${which.length - TOLD} more` : ''
  return new HttpProblem(422, code, `${what}: ${which.slice(0, TOLD).join(', ')}${more}. Nothing was stored.`)
}

/** How the register shows loops that were never checked. */
export function plantStates(some: readonly Pick<PlantLoop, 'kind' | 'entries'>[]): readonly string[] {
  return some.map(({ kind, entries }) => {
    try {
      const known = study(kindOf(kind), entries)
      if (!Object.values(known.missing).every((m) => m.length === 0)) return 'half-entered'
      return known.findings.some((f) => f.grade === 'stop') ? 'stopped' : 'ready'
    } catch (error) {
      // One that cannot be worked out is entered all the same; its folder says why.
      if (error instanceof Refusal) return 'half-entered'
      throw error
    }
  })
}
