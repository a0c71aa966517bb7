// The calculators and the description of the whole interface.
import { openApi } from '@calm-loop/contract'
import { runCalculator } from '@calm-loop/core/calculators'
import { Refusal } from '@calm-loop/core/refusal'
import type { Mount } from '../http/mount.ts'
import { HttpProblem } from '../http/problems.ts'

export function mountDescriptions(mount: Mount): void {
  mount('calc', async ({ params, body }) => {
    try {
      return runCalculator(params.calculator, body)
    } catch (error) {
      if (error instanceof Refusal && error.code === 'unknown-calculator')
        throw new HttpProblem(404, error.code, error.message)
      throw error
    }
  })
  mount('openapi', async ({ res }) => void res.json(openApi()))
}
