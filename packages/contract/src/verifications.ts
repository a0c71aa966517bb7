// Verifications: runs of sheets whose figures are held against something, each with a certificate of its own.
import type { Study } from '@calm-loop/core/loop'
import { sheetState, type RunGiven, type RunJudged, type Sheet } from '@calm-loop/core/sheet'
import { sure } from '@calm-loop/core/sure'
import { standOfCheck } from './judge-check.ts'
import type { FolderView, Version } from './loops.ts'
import { workOf, type WorkEntry, type WorkOf } from './work-log.ts'
import { inWorld } from './worlds.ts'

/** All that a run put on record: what is signed, and what it is judged by. */
export interface RunRecord {
  readonly run: string
  readonly sheet: string
  /** In order; the first begins the run. */
  readonly steps: readonly WorkOf<'step'>[]
  /** The health check kept within the run, and the one that it is held against. */
  readonly health: WorkOf<'health'> | undefined
  readonly reference: WorkOf<'health'> | undefined
}

export interface Verification extends RunRecord {
  readonly title: string
  /** `FT-402/2027-V2`: the second verification that was begun at the loop that year. */
  readonly number: string
  readonly from: string
  readonly to: string
  /** Who took its steps, each once. */
  readonly by: readonly string[]
  readonly finished: boolean
  /** The entries that it is judged by: as signed, else those that stood when its last step was taken. */
  readonly version: Version
  /** What the version's entries that it is judged by are, by key. */
  readonly judgedBy: readonly string[]
  /** Undefined where what it is held against is not entered. */
  readonly judged: RunJudged | undefined
  readonly signatures: readonly WorkOf<'run-signed'>[]
}

/** What a run put on record; undefined where the log has no step of it. */
export function runRecord(log: readonly WorkEntry[], run: string): RunRecord | undefined {
  const steps = workOf(log, 'step').filter((s) => s.run === run)
  const [first, last] = [steps[0], steps.at(-1)]
  if (!first || !last) return undefined
  const checks = workOf(log, 'health')
  const health = checks.findLast((h) => h.at >= first.at && h.at <= last.at)
  const before = health && checks.slice(0, checks.indexOf(health))
  return { run, sheet: first.sheet, steps, health, reference: before?.findLast((h) => h.reference) }
}

/** What the steps of a run gave. */
export function runGiven({ steps, health, reference }: RunRecord): RunGiven {
  const figures = steps.flatMap((s) =>
    s.value ? [[s.step, { value: s.value.value, unit: s.value.unit }] as const] : [],
  )
  return {
    figures: new Map(figures),
    ...(health && reference ? { health: { found: health, reference } } : {}),
  }
}

/** What a verification came to, in words. */
export const judgedWords = ({ pass }: RunJudged): string =>
  pass === undefined ? 'not all read' : pass ? 'verified: inside its limits' : 'not verified: outside its limits'

type OnRecord = Pick<FolderView, 'loop' | 'versions' | 'workLog'>
const sheetIn = (known: Study, id: string): Sheet | undefined =>
  known.family === 'current' ? known.sheets?.().find((s) => s.id === id) : undefined

/** What a run came to by a study of its entries; undefined where its sheet judges nothing, or has nothing to go by. */
export const judgeRun = (known: Study, record: RunRecord): RunJudged | undefined =>
  sheetIn(known, record.sheet)?.judge?.(runGiven(record))

/** The runs of a log that are verifications, each judged by its own entries, in the order in which they were begun. */
export function judgedRuns(
  { versions }: Pick<FolderView, 'versions'>,
  log: readonly WorkEntry[],
  studyOf: (version: Version | undefined) => Study,
): Omit<Verification, 'number'>[] {
  const runs = [...new Set(workOf(log, 'step').map((s) => s.run))]
  return runs.flatMap((run) => verification(versions, log, run, studyOf) ?? [])
}

/** The verifications of a loop in one world, in the order in which they were begun. */
export function verificationsOf(
  folder: OnRecord,
  studyOf: (version: Version | undefined) => Study,
  practising = false,
): Verification[] {
  const found = judgedRuns(folder, inWorld(folder.workLog, practising), studyOf)
  return found.map((v) => {
    const year = v.from.slice(0, 4)
    const nth = found.filter((x) => x.from.startsWith(year)).indexOf(v) + 1
    const number = practising ? 'practice, no number' : `${folder.loop.tag}/${year}-V${nth}`
    return { ...v, number }
  })
}

function verification(
  versions: readonly Version[],
  log: readonly WorkEntry[],
  run: string,
  studyOf: (version: Version | undefined) => Study,
): Omit<Verification, 'number'> | undefined {
  const record = sure(runRecord(log, run))
  const { steps } = record
  const [from, to] = [sure(steps[0]).at, sure(steps.at(-1)).at]
  const signatures = workOf(log, 'run-signed').filter((s) => s.run === run)
  const signed = signatures[0]?.version
  const version = versions.find((v) => v.id === signed) ?? versions.findLast((v) => v.startedAt <= to) ?? versions[0]
  const known = version && studyOf(version)
  const sheet = known && sheetIn(known, record.sheet)
  if (!version || !known || !sheet?.judge) return undefined
  return {
    ...record,
    title: sheet.title,
    from,
    to,
    by: [...new Set(steps.map((s) => s.by.name))],
    finished: sheetState(sheet, steps).finished,
    version,
    judgedBy: sheet.judgedBy ?? [],
    judged: judgeRun(known, record),
    signatures,
  }
}

/** Everyone whose work a run is. */
export const handsInRun = ({ steps, health }: RunRecord): string[] =>
  [...steps, ...(health ? [health] : [])].map((e) => e.by.id)

/** How a verification stands: not signed yet, whole, from elsewhere, or broken. */
export function standOfRun({
  signatures,
}: Pick<Verification, 'signatures'>): 'open' | 'broken' | 'elsewhere' | 'counts' {
  if (signatures.some((s) => s.standing === 'broken')) return 'broken'
  if (signatures.some((s) => s.elsewhere)) return 'elsewhere'
  return signatures.some((s) => s.role === 'performed') ? 'counts' : 'open'
}

/** Whether a signature of a loop is not for what stands there. */
export const isBroken = ({ checks, workLog }: Pick<FolderView, 'checks' | 'workLog'>): boolean =>
  checks.some((c) => standOfCheck(c) === 'broken') || workOf(workLog, 'run-signed').some((s) => s.standing === 'broken')
