// Reading a device step by step: with what is left, stopped between two requests, kept as far as it came.
import type { LinkState } from '@calm-loop/contract'
import { isOther, valuesIn, type ReadStep, type Values } from '@calm-loop/core/description'
import { isWarning } from '@calm-loop/core/hart'
import { sure } from '@calm-loop/core/sure'
import { HttpProblem } from '../http/problems.ts'
import { answered, codeOf, type Exchange } from './hart-line.ts'

/** A late answer to another number is passed over so often. */
const TRIES = 3

export interface Reading {
  ask(command: number, data: Uint8Array): Promise<Exchange>
  /** Whether it is to go on: nobody has stopped it, and the line is the same. */
  goesOn(): boolean
  /** Null when it is over. */
  progress(upload: LinkState['upload']): void
  took(values: Values, step: ReadStep): void
}

/** @returns whether all steps were read @throws HttpProblem `device-silent` */
export async function readSteps({ ask, goesOn, progress, took }: Reading, plan: readonly ReadStep[]): Promise<boolean> {
  const begun = performance.now()
  for (const [done, step] of plan.entries()) {
    if (!goesOn()) return false
    const { label } = sure(step.parameters[0])
    const left_s = done ? Math.round(((performance.now() - begun) / done) * (plan.length - done)) / 1000 : null
    progress({ done, of: plan.length, left_s, now: label })
    for (let again = 0; again < TRIES; again++) {
      const got = await ask(step.command, step.data)
      if (!answered(got)) {
        progress(null)
        if (got.why === 'lost') return false
        throw new HttpProblem(
          504,
          'device-silent',
          `The device stopped answering (${got.why}) at “${label}”. What was read is kept; read on when it answers ` +
            'again.',
        )
      }
      if (isOther(step, got.frame.data)) continue
      const code = codeOf(got.frame)
      if (!code || isWarning(code)) took(valuesIn(step, got.frame.data), step)
      break
    }
  }
  progress(null)
  return true
}
