// What a calculator is: a name of the contract, a schema for its input, a function; and the figures that schemas are
// made of.
import { z } from 'zod'

export interface Calculator<Input = unknown, Output = unknown> {
  readonly name: string
  readonly summary: string
  readonly input: z.ZodType<Input>
  readonly compute: (input: Input) => Output
}

export const calculator = <Input, Output>(
  name: string,
  summary: string,
  input: z.ZodType<Input>,
  compute: (input: Input) => Output,
): Calculator => ({ name, summary, input, compute: compute as (input: unknown) => Output })

export const number = z.number()
export const size = z.number().positive()
export const notNegative = z.number().nonnegative()

/** Whether exactly one of these keys is given. */
export const oneOf =
  (...keys: string[]) =>
  (input: object): boolean =>
    keys.filter((key) => (input as Record<string, unknown>)[key] !== undefined).length === 1
