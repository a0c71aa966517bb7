// Run sheets: steps in their order, what each needs before the next may begin, and how far a run of one has come.
import type { QuantityName } from '../quantity/index.ts'

export interface SheetStep {
  readonly id: string
  readonly title: string
  readonly says: string
  /** Where it can hurt; shown with the step, confirmed with it. */
  readonly caution?: string
  /** A figure that the step gives, kept with it. */
  readonly ask?: { readonly label: string; readonly quantity: QuantityName; readonly unit: string }
  /** Words that the step asks for, as who was told. */
  readonly askWords?: string
}
export interface Sheet {
  readonly id: string
  readonly title: string
  readonly steps: readonly SheetStep[]
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

/** How far the last run of a sheet has come. A run is finished when each of its steps is done. */
export function sheetState(sheet: Sheet, log: readonly StepDone[]): SheetState {
  const own = log.filter((e) => e.sheet === sheet.id)
  const run = own.at(-1)?.run
  const done = new Set(own.filter((e) => e.run === run).map((e) => e.step))
  const next = sheet.steps.find((s) => !done.has(s.id))
  return { run, done, next, finished: run !== undefined && next === undefined }
}

/** Whether a step may be put on record now: it is the next one, or the first of a new run. */
export function mayDo(sheet: Sheet, log: readonly StepDone[], run: string, stepId: string): boolean {
  const state = sheetState(sheet, log)
  if (state.run === run) return state.next?.id === stepId
  return sheet.steps[0]?.id === stepId && !log.some((e) => e.run === run)
}
