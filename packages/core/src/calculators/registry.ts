// The registry of calculators: name → input schema → function. One door for the reference runner and for the HTTP
// interface.
import { Refusal } from '../refusal/index.ts'
import type { Calculator } from './calculator.ts'
import { discreteCalculators } from './discrete.ts'
import { electricalCalculators } from './electrical.ts'
import { flowCalculators } from './flow.ts'
import { fluidCalculators } from './fluids.ts'
import { levelCalculators } from './level.ts'
import { sensorCalculators } from './sensors.ts'
import { linkCalculators } from './link.ts'
import { signalCalculators } from './signal.ts'
import { verdictCalculators } from './verdict.ts'

export type { Calculator } from './calculator.ts'

export const CALCULATORS: readonly Calculator[] = [
  ...signalCalculators,
  ...electricalCalculators,
  ...discreteCalculators,
  ...fluidCalculators,
  ...flowCalculators,
  ...levelCalculators,
  ...sensorCalculators,
  ...verdictCalculators,
  ...linkCalculators,
]

/**
 * Runs a calculator on unchecked input. @throws Refusal `unknown-calculator`, `invalid-input`, and the calculator's
 * own codes
 */
export function runCalculator(name: string, input: unknown): unknown {
  const found = CALCULATORS.find((c) => c.name === name)
  if (!found) throw new Refusal('unknown-calculator', `No calculator is called “${name}”.`)
  const parsed = found.input.safeParse(input)
  if (!parsed.success)
    throw new Refusal(
      'invalid-input',
      parsed.error.issues.map((i) => `${i.path.join('.') || 'input'}: ${i.message}`).join('; '),
    )
  return found.compute(parsed.data)
}
