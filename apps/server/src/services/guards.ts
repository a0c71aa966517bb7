// Gates that stand before an act at a device: the steps of its sheet, on the bench as in the plant.
import { workOf, type CommandMeter, type FolderView, type ReadBackLine, type WorkEntry } from '@calm-loop/contract'
import { heldAgrees } from '@calm-loop/core/flow'
import { convertUnit } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { inSentence } from '@calm-loop/core/words'
import { gateBefore, judgeStep, wantsWord, type GuardedAct, type SheetStep } from '@calm-loop/core/sheet'
import type { Queries } from '../db/database.ts'
import { readFolder } from './folder.ts'
import { studyOf } from './studies.ts'
import { inItsWorld } from './worlds.ts'

type Known = Pick<FolderView, 'loop' | 'versions' | 'workLog'>

const sheetsOf = ({ loop, versions }: Known) => {
  const known = studyOf(loop.kind, versions.at(-1))
  return known.family === 'current' ? (known.sheets?.() ?? []) : []
}

/** An act whose steps before it are still open. @throws Refusal `gate-before` */
export function refuseBeforeGate(folder: Known, act: GuardedAct, afterwards = false): void {
  const gate = gateBefore(sheetsOf(folder), workOf(folder.workLog, 'step'), act, afterwards)
  if (gate) throw new Refusal('gate-before', `First, in the sheet “${gate.sheet}”: ${inSentence(gate.step)}.`)
}

/** Which gate a command to a meter stands behind; undefined where none. */
function actOf(body: CommandMeter, held: Readonly<Record<string, string>> | undefined): GuardedAct | undefined {
  if (body.do === 'zero' || body.do === 'health' || body.do === 'gas') return body.do
  // Written again after a memory was lost: that is led by its sheet.
  const lost = body.do === 'write' && Object.keys(body.values).some((key) => !held?.[key])
  return lost ? 're-entry' : undefined
}

/** A command to a meter while the gates before it are shut. @throws Refusal `gate-before` */
export async function refuseMeterBeforeGate(
  db: Queries,
  loopId: string,
  body: CommandMeter,
  held: () => Promise<Readonly<Record<string, string>> | undefined>,
): Promise<void> {
  const act = actOf(body, body.do === 'write' ? await held() : undefined)
  if (act) refuseBeforeGate(inItsWorld(await readFolder(db, loopId)), act)
}

/** A figure that is not as planned: refused where it is far off, asked about where it is near. @throws Refusal */
export function refuseOffPlan(step: SheetStep, value: { value: number; unit: string } | null, words: string): void {
  if (!step.ask || !value) return
  const { plan, unit } = step.ask
  const { grade, says } = judgeStep(plan, convertUnit(value.value, value.unit, unit), unit)
  if (grade === 'stop') throw new Refusal('step-off-plan', says)
  if (grade === 'look' && !words.trim()) throw new Refusal('step-doubtful', `${says} Say a word, and it is kept.`)
}

/** Marks that a step asks for and does not get, does not offer, or that need a word. @throws Refusal */
export function refuseMarks({ marks }: SheetStep, { marked, words }: { marked?: string[] | undefined; words: string }) {
  if (!marks !== !marked || marked?.some((id) => !marks?.some((m) => m.id === id)))
    throw new Refusal('marks-not-offered', 'This step asks which of its own list are the case, and for nothing else.')
  if (marks && marked && wantsWord(marks, marked) && !words.trim())
    throw new Refusal('words-missing', 'One of these makes the work worthless: say a word on why it goes on.')
}

/** Lines that a step wants read back as entered, since its run was begun. @throws Refusal `not-read-back` */
export function refuseUnread(step: SheetStep, run: string, log: readonly WorkEntry[]): void {
  if (!step.readBack?.length) return
  const begun = workOf(log, 'step').find((s) => s.run === run)?.at
  const read = begun === undefined ? undefined : workOf(log, 'read-back').findLast((r) => r.at >= begun)
  const lines = new Map<string, ReadBackLine>(read?.lines.map((l) => [l.key, l]))
  const wrong = step.readBack.filter((key) => {
    const line = lines.get(key)
    return !line || !heldAgrees(line.text, line.held)
  })
  if (!read) throw new Refusal('not-read-back', 'Read the device back first, and put the read-back on record.')
  if (wrong.length)
    throw new Refusal(
      'not-read-back',
      `${wrong.length} of ${step.readBack.length} lines are not read back as entered: ` +
        `${wrong
          .slice(0, 6)
          .map((key) => lines.get(key)?.label ?? key)
          .join(', ')}${wrong.length > 6 ? ' and others' : ''}.`,
    )
}
