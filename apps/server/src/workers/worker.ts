// A worker thread: does one job at a time and brings its refusals back whole.
import type { ProblemCode } from '@calm-loop/contract'
import type { FindingCode } from '@calm-loop/core/findings'
import { Refusal } from '@calm-loop/core/refusal'
import { z } from 'zod'
import { HttpProblem, invalidInput } from '../http/problems.ts'
import { jobs, type Jobs } from './jobs.ts'

export type Outcome =
  | { done: unknown }
  | { problem: { status: number; code: ProblemCode; says: string; extra: HttpProblem['extra'] } }
  | { refusal: { code: FindingCode; says: string } }

export default async function work({ name, input }: { name: keyof Jobs; input: unknown }): Promise<Outcome> {
  try {
    return { done: await (jobs[name] as (given: unknown) => unknown)(input) }
  } catch (error) {
    if (error instanceof HttpProblem)
      return { problem: { status: error.status, code: error.code, says: error.message, extra: error.extra } }
    if (error instanceof z.ZodError) {
      const { status, code, message, extra } = invalidInput(error)
      return { problem: { status, code, says: message, extra } }
    }
    if (error instanceof Refusal) return { refusal: { code: error.code, says: error.message } }
    throw error
  }
}
