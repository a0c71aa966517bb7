// The calculators and the description of the whole interface.
import { Refusal } from '@calm-loop/core/refusal'
import { deviceSchema } from '@calm-loop/core/wiring'
import type { Mount } from '../http/mount.ts'
import { HttpProblem } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'

export function mountDescriptions(mount: Mount, workers: Workers): void {
  mount('calc', async ({ params, body, signal }) => {
    try {
      return await workers.run('calc', { name: params.calculator, input: body }, signal)
    } catch (error) {
      if (error instanceof Refusal && error.code === 'unknown-calculator')
        throw new HttpProblem(404, error.code, error.message)
      throw error
    }
  })
  mount('deviceSchema', async ({ res }) => {
    res.type('application/json').send(JSON.stringify(deviceSchema(), null, 2))
  })
  let description: Promise<string> | undefined
  mount('openapi', async ({ res }) => {
    // The same for as long as the program runs.
    description ??= workers.run('openApi', undefined)
    res
      .type('application/json')
      .send(await description.catch((error: unknown) => ((description = undefined), Promise.reject(error as Error))))
  })
}
