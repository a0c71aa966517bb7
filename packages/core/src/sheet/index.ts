// Run sheets: steps in their order, what each needs before the next may begin, and how far a run of one has come.
import type { QuantityName } from '../quantity/index.ts'
import type { RunGiven, RunJudged } from './judged.ts'
import type { StepMark } from './marks.ts'
import type { StepPlan } from './plan.ts'

export * from './judged.ts'
export * from './marks.ts'
export * from './plan.ts'

/** What is done at a device while a step is at hand: not before the steps above it are done. */
export type GuardedAct = 'zero' | 'health' | 'gas' | 're-entry'

export interface SheetStep {
  readonly id: string
  readonly title: string
  readonly says: string
  /** Where it can hurt; shown with the step, confirmed with it. */
  readonly caution?: string
  /** A figure that the step gives, kept with it. */
  readonly ask?: {
    readonly label: string
    readonly quantity: QuantityName
    readonly unit: string
    /** What it should be. */
    readonly plan?: StepPlan | undefined
    /** Entry of the loop that the figure is. */
    readonly entry?: string
  }
  /** Act that belongs to this step. */
  readonly opens?: GuardedAct
  /** Lines of the set-up that must have been read back as entered since the run was begun: by key. */
  readonly readBack?: readonly string[]
  /** Words that the step asks for, as who was told. */
  readonly askWords?: string
  /** What may be the case here, of which the step asks which are; words say what is none of them. */
  readonly marks?: readonly StepMark[]
}
export interface Sheet {
  readonly id: string
  readonly title: string
  readonly steps: readonly SheetStep[]
  /** Of a verification: what a run of it came to; undefined while what it is held against is not entered. */
  readonly judge?: (given: RunGiven) => RunJudged | undefined
  /** Entries that it is judged by, by key. */
  readonly judgedBy?: readonly string[]
}

/** A step as it stands on record. */
export interface StepDone {
  readonly sheet: string
  /** Which run of the sheet. */
  readonly run: string
  readonly step: string
}

export interface SheetState {
  /** The run under way; undefined before the first step, and after a finished run. */
  readonly run: string | undefined
  readonly done: ReadonlySet<string>
  /** The step that is next; undefined when all are done. */
  readonly next: SheetStep | undefined
  readonly finished: boolean
}

/** The step after the last one that is done: a step that was added since, above it, is not asked of an older run. */
export const stepAfter = (sheet: Pick<Sheet, 'steps'>, done: ReadonlySet<string>): SheetStep | undefined =>
  sheet.steps[sheet.steps.findLastIndex((s) => done.has(s.id)) + 1]

/** How far the last run of a sheet has come. A run is finished when its last step is done. */
export function sheetState(sheet: Sheet, log: readonly StepDone[]): SheetState {
  const own = log.filter((e) => e.sheet === sheet.id)
  const run = own.at(-1)?.run
  const done = new Set(own.filter((e) => e.run === run).map((e) => e.step))
  const next = stepAfter(sheet, done)
  return { run, done, next, finished: run !== undefined && next === undefined }
}

/** A step before an act, that is still open. */
export interface GateBefore {
  readonly sheet: string
  readonly step: string
}

/**
 * What stands before an act: the step that is next in the sheet that has a step for it. Undefined where the act may be
 * done, or where no sheet knows it.
 */
export function gateBefore(
  sheets: readonly Sheet[],
  log: readonly StepDone[],
  act: GuardedAct,
  /** What was done may still be put on record after its step. */
  afterwards = false,
): GateBefore | undefined {
  const guards = sheets.filter((s) => s.steps.some((step) => step.opens === act))
  const shut = guards.map((sheet): GateBefore | undefined => {
    const { run, done, next } = sheetState(sheet, log)
    const wanted = run === undefined ? sheet.steps[0] : (next ?? sheet.steps[0])
    const was = afterwards && sheet.steps.some((s) => s.opens === act && done.has(s.id))
    if (run !== undefined && (next?.opens === act || was)) return undefined
    return { sheet: sheet.title, step: wanted?.title ?? '' }
  })
  return shut.includes(undefined) ? undefined : shut[0]
}

/** Whether a step may be put on record now: it is the next one, or the first of a new run. */
export function mayDo(sheet: Sheet, log: readonly StepDone[], run: string, stepId: string): boolean {
  const state = sheetState(sheet, log)
  if (state.run === run) return state.next?.id === stepId
  return sheet.steps[0]?.id === stepId && !log.some((e) => e.run === run)
}
