// A figure on record that is no longer as planned: asked about, or in the way of the work, as in the step that gave it.
import { finding, type Finding } from '../findings/index.ts'
import { formatQuantity } from '../quantity/index.ts'
import { judgeStep, type StepPlan } from '../sheet/index.ts'

/** What is wrong with a length in mm as it was set; nothing where it is as planned. */
export function offPlan(
  plan: StepPlan,
  set_mm: number,
  words: Pick<Finding, 'code' | 'fields' | 'why' | 'action'>,
): Finding[] {
  const { grade } = judgeStep(plan, set_mm, 'mm')
  if (grade === 'good') return []
  const what = `${plan.against}; it is set to ${formatQuantity(set_mm, 'mm', { decimals: 1, trim: true })}.`
  return [finding({ ...words, grade, what, sure: 'Certain, if it was entered right.' })]
}
