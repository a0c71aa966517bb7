// One study of a loop: everything that can be known from its entries, worked out once per change. The core keeps
// nothing; who wants an
// answer again hands in the study before, and what has not changed is taken from it.
import { gravestFirst, type Finding } from '../findings/index.ts'
import {
  figuresWithoutCurrent,
  linesWithoutCurrent,
  missingByStage,
  rangeFindings,
  spokenOf,
  readEntries,
  readInstead,
  studyWiring,
  tripFindings,
  type CurrentKind,
  type CurrentLook,
  type Desk,
  type Entries,
  type Figure,
  type Keep,
  type PointKind,
  type Reader,
  type StageId,
  type SwitchKind,
  type SwitchRun,
  type WiringStudy,
} from '../kinds/index.ts'
import { decimalsOfSpan, speaking, spokenNow, type Spoken } from '../quantity/index.ts'
import { spokenAnswers, spokenFigures, spokenThread } from './spoken.ts'
import { knotScales, spread, type KnotValue, type Thread } from '../thread/index.ts'

/** Parts of an answer by name, each with the key that it was made from. */
type Kept = ReadonlyMap<string, { readonly key: string; readonly value: unknown }>

interface StudyBase {
  readonly kind: PointKind
  readonly entries: Entries
  readonly reader: Reader
  readonly figures: readonly Figure[]
  readonly findings: readonly Finding[]
  /** Required entries still missing, by stage. */
  readonly missing: Readonly<Record<StageId, readonly string[]>>
  /** The loop as drawn: its wiring, what is wrong with it, what it is energised under. */
  readonly desk: Desk
  /** The units that it is spoken of in; undefined for those that its figures are computed in. */
  readonly spoken: Spoken | undefined
  readonly kept: Kept
}

/** Ends of a knot’s scale, in its unit; undefined where they cannot be known. */
export interface KnotScale {
  readonly low: number | undefined
  readonly high: number | undefined
}

/** All that is known of a point with a current. */
export interface CurrentStudy extends StudyBase, Omit<CurrentLook, 'figures' | 'findings'> {
  readonly family: 'current'
  readonly kind: CurrentKind
  readonly thread: Thread
  /** Each knot’s value at the range’s low and high end. */
  readonly scales: readonly KnotScale[]
  /** What the drawn circuit leaves for the transmitter, and what it was reckoned for. */
  readonly electrical: Pick<WiringStudy, 'budget' | 'cheapest' | 'maxmA' | 'liftOffV' | 'cableOhm' | 'supplied'>
  /** What every knot should read when one has a value: the only expectation there is. */
  expect(knotId: string, value: number): KnotValue[]
}

/** All that is known of a switch. */
export interface SwitchStudy extends StudyBase {
  readonly family: 'switch'
  readonly kind: SwitchKind
  readonly run: SwitchRun
}

export type Study = CurrentStudy | SwitchStudy

function keeping(before: Kept | undefined): { keep: Keep; kept: Map<string, { key: string; value: unknown }> } {
  const kept = new Map<string, { key: string; value: unknown }>()
  const keep: Keep = (part, key, make) => {
    const known = kept.get(part) ?? before?.get(part)
    const entry = known?.key === key ? known : { key, value: make() }
    kept.set(part, entry)
    return entry.value as ReturnType<typeof make>
  }
  return { keep, kept }
}

/** Knots shown with decimals enough for their range: 1.5 ft is not 2 ft. */
function byRange(thread: Thread, scales: readonly KnotScale[]): Thread {
  const knots = thread.knots.map((knot, i) => {
    const { low, high } = scales[i] ?? {}
    const decimals = decimalsOfSpan(low === undefined || high === undefined ? undefined : high - low, knot.decimals)
    return decimals === knot.decimals ? knot : { ...knot, decimals }
  })
  return { ...thread, knots }
}

/** Findings that name the entries which stand in place of others. */
const asEntered = (findings: readonly Finding[], instead: Readonly<Record<string, string>> = {}): Finding[] =>
  findings.map((f) => ({ ...f, fields: f.fields.map((key) => instead[key] ?? key) }))

/** Figures and lines without a current, where none carries the value. */
const onlyWhatIs = ({ figures, setup }: Pick<CurrentLook, 'figures' | 'setup'>, onBus: boolean) => ({
  figures: onBus ? figuresWithoutCurrent(figures) : figures,
  ...(setup ? { setup: onBus ? () => linesWithoutCurrent(setup()) : setup } : {}),
})

function studyCurrent(kind: CurrentKind, entries: Entries, before: Study | undefined): CurrentStudy {
  const plain = readEntries(kind.fields, entries)
  const instead = kind.instead?.(plain)
  const reader = instead ? readInstead(plain, instead) : plain
  const { keep, kept } = keeping(before?.kept)
  const look = kind.look(plain, keep)
  const wiring = studyWiring(reader, keep)
  const figures = [...wiring.figures, ...look.figures]
  const onBus = !look.thread.knots.some((k) => k.role === 'current')
  const scales = knotScales(look.thread)
  const ranged = byRange(look.thread, scales)
  const spoken = spokenNow()
  const thread = spoken ? spokenThread(ranged, spoken) : ranged
  const words = spoken ? spokenAnswers(look, spoken) : {}
  return {
    ...look,
    ...words,
    spoken,
    thread,
    family: 'current',
    kind,
    entries,
    reader,
    kept,
    scales: spoken ? knotScales(thread) : scales,
    desk: wiring.desk,
    electrical: wiring,
    ...onlyWhatIs({ ...look, ...words, figures: spoken ? spokenFigures(figures, spoken) : figures }, onBus),
    findings: gravestFirst([
      ...wiring.findings,
      ...look.findings,
      ...asEntered(
        [...rangeFindings(reader, look.rangeUnit, look.shownUnit), ...tripFindings(reader, look.tripUnit)],
        instead,
      ),
    ]),
    missing: missingByStage(reader),
    expect: (knotId, value) => speaking(spoken, () => spread(thread, knotId, value)),
  }
}

function studySwitch(kind: SwitchKind, entries: Entries, before: Study | undefined): SwitchStudy {
  const reader = readEntries(kind.fields, entries)
  const { keep, kept } = keeping(before?.kept)
  const { run, desk, figures, findings } = kind.look(reader, keep)
  const spoken = spokenNow()
  return {
    family: 'switch',
    kind,
    entries,
    reader,
    kept,
    run,
    desk,
    spoken,
    figures: spoken ? spokenFigures(figures, spoken) : figures,
    findings: gravestFirst(findings),
    missing: missingByStage(reader),
  }
}

const canonical = (spoken: Spoken | undefined) => JSON.stringify(spoken ?? null)
/** The units that the entries of a loop say it is spoken of in. */
export const spokenIn = (kind: PointKind, entries: Entries): Spoken | undefined =>
  entries['units'] ? spokenOf(readEntries(kind.fields, entries)) : undefined

/**
 * Studies a loop. `entries` hold the wiring as drawn, too; without one the arrangement entered proposes it.
 * @param before an earlier study of the same loop, from which unchanged parts are taken; the answer is the same
 * without it
 */
export function study(kind: CurrentKind, entries: Entries, before?: Study): CurrentStudy
export function study(kind: SwitchKind, entries: Entries, before?: Study): SwitchStudy
export function study(kind: PointKind, entries: Entries, before?: Study): Study
export function study(kind: PointKind, entries: Entries, before?: Study): Study {
  const spoken = spokenIn(kind, entries)
  // What was kept was worded in the units of then.
  const alike = before?.kind === kind && canonical(before.spoken) === canonical(spoken)
  const own = alike ? before : undefined
  return speaking(spoken, () =>
    kind.family === 'current' ? studyCurrent(kind, entries, own) : studySwitch(kind, entries, own),
  )
}
