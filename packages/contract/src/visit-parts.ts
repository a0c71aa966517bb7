// The parts of a visit: each piece of work on record in words, with its figures and what of it is still open.
import { errorOfSpan, LOOP_SPAN_mA } from '@calm-loop/core/check'
import { heldAgrees } from '@calm-loop/core/flow'
import type { CurrentStudy, Study } from '@calm-loop/core/loop'
import { entryWords } from '@calm-loop/core/kinds'
import { PROCEDURE_NAMES, replay, type RunState } from '@calm-loop/core/procedure'
import { convertUnit, formatNumber, formatQuantity, totalLabel, unitOf } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { markedWords, stepAfter } from '@calm-loop/core/sheet'
import { sure } from '@calm-loop/core/sure'
import { spread } from '@calm-loop/core/thread'
import { isPractice, verdictWords } from './check-words.ts'
import { standingByPoint, type CheckVerdict } from './judge-check.ts'
import type { Fitness } from './loop-standing.ts'
import type { Check, Version } from './loops.ts'
import type { WireEntry } from './wire-log.ts'
import { judgedWords, type Verification } from './verifications.ts'
import { runsOf, workOf, type WorkEntry, type WorkOf } from './work-log.ts'

export const PART_SORTS = [
  'wiring',
  'entries',
  'sheet',
  'survey',
  'zero',
  'health',
  'sound-speed',
  'read-back',
  'points',
  'procedure',
  'check',
  'count',
  'word',
] as const
export type PartSort = (typeof PART_SORTS)[number]

/** One piece of work: what it was, what it came to, its figures, who was told, and what of it is still open. */
export interface VisitPart {
  /** Of the check, run, survey or entry that it is. */
  readonly id: string
  readonly sort: PartSort
  readonly from: string
  readonly to: string
  readonly by: readonly string[]
  readonly title: string
  readonly came: string
  /** Name, and figure or word with its unit. */
  readonly lines: readonly (readonly [string, string])[]
  readonly told: readonly string[]
  readonly open: readonly string[]
}
export const once = (words: readonly string[]) => [...new Set(words.map((w) => w.trim()).filter(Boolean))]
const many = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`
const read = ({ value, unit }: { value: number; unit: string }) => formatQuantity(value, unit, { trim: true })
const pct = (v: number) => `${formatNumber(v, { decimals: 3, sign: true })} % of span`

type JudgedRun = Pick<Verification, 'run' | 'judged' | 'signatures'>
type Entry = WorkEntry | WireEntry
/** From the entries that a part is made of. */
const over = (entries: readonly (Pick<Entry, 'at' | 'by'> & { readonly doneAt?: string | undefined })[]) => {
  // What waited out of coverage was done before it came.
  const times = entries.map((e) => e.doneAt ?? e.at).sort()
  return { from: sure(times[0]), to: sure(times.at(-1)), by: once(entries.map((e) => e.by.name)) }
}
/** Without figures of its own, nobody told, nothing open. */
export const plain = { lines: [], told: [], open: [] } as const

/** What a check that is out of tolerance still asks for, by how the loop stands today. */
const openAfter = ({ id }: Check, { notFit, unanswered }: Fitness): string[] => [
  ...(unanswered.some((c) => c.id === id) ? ['what was measured with it since is not answered'] : []),
  ...(notFit?.id === id ? ['not fit for use'] : []),
]

export function checkPart(check: Check, verdict: CheckVerdict | null, fitness: Fitness): VisitPart {
  const performed = check.signatures.find((s) => s.role === 'performed')
  const last = [...check.readings.map((r) => r.takenAt), ...check.gates.map((g) => g.at), performed?.at ?? ''].sort()
  const left = check.points.length - standingByPoint(check).size
  const reviewed = check.signatures.some((s) => s.role === 'reviewed' || s.role === 'accepted')
  const words = !verdict
    ? 'Nothing read'
    : verdict.verdict
      ? verdictWords[verdict.verdict]
      : verdict.pass
        ? 'Within tolerance'
        : 'Out of tolerance'
  return {
    id: check.id,
    sort: 'check',
    from: check.startedAt,
    to: sure(last.at(-1)),
    by: once([check.startedBy.name, ...check.readings.map((r) => r.by.name)]),
    title: `Check, ${check.phase === 'as-found' ? 'as found' : 'as left'}`,
    came:
      words +
      (verdict?.errorPct === undefined || verdict.errorPct === null ? '' : `: ${pct(verdict.errorPct)} at most`),
    lines: [
      ['Points read', `${check.points.length - left} of ${check.points.length}`],
      ['Tolerance', `±${formatNumber(verdict?.tolerancePct ?? check.tolerancePct, { trim: true })} %`],
      ...check.gear.map((g): [string, string] => ['With', `${g.name}, ${g.serial}`]),
    ],
    told: check.gates.map((g) => g.told),
    open: isPractice(check)
      ? []
      : [
          ...(left ? [`${many(left, 'point')} not read`] : []),
          ...(performed ? (reviewed ? [] : ['not countersigned']) : ['not signed']),
          ...(check.gates.some((g) => g.gate === 'loop-released') ? [] : ['operations do not have the loop back']),
          ...openAfter(check, fitness),
        ],
  }
}

/** What a version changed, before and after; of the first only how much it holds. */
export function entriesPart(version: Version, before: Version | undefined, known: Study): VisitPart | undefined {
  const keys = [...new Set([...Object.keys(before?.entries ?? {}), ...Object.keys(version.entries)])]
  const typed = (v: Version | undefined, key: string) => v?.entries[key]?.typed ?? ''
  const changed = keys.filter((key) => typed(before, key) !== typed(version, key))
  if (!changed.length) return undefined
  const { fields } = known.reader
  const ofRange = changed.some((key) => key === 'lrv' || key === 'urv')
  const words = (v: Version | undefined, key: string) =>
    entryWords(
      fields.find((f) => f.key === key),
      typed(v, key),
    )
  return {
    ...plain,
    id: version.id,
    sort: 'entries',
    from: version.startedAt,
    to: version.savedAt,
    by: [version.author.name],
    title: before ? (ofRange ? 'Range changed' : 'Entries changed') : 'First entries',
    came: version.reason || 'still being typed',
    lines: before
      ? changed.map((key) => [
          fields.find((f) => f.key === key)?.label ?? key,
          `${words(before, key)} → ${words(version, key)}`,
        ])
      : [['Entered', changed.length === 1 ? 'one entry' : `${changed.length} entries`]],
    open: version.sealedAt ? [] : ['these entries are not recorded as a version'],
  }
}

const STATUS = {
  running: 'under way',
  cancelled: 'cancelled, to be put back',
  ended: 'cancelled, put back',
  done: 'done',
}

function procedurePart(run: string, entries: readonly WorkOf<'procedure'>[]): VisitPart | undefined {
  const state = attempt(() => replay(entries.map((e) => e.event)))
  if (state instanceof Refusal) return undefined
  const figure = (id: string): [string, string][] => {
    const step = state.steps.find((s) => s.id === id)
    const value = state.values[id]
    if (!step || value === undefined) return []
    const unit = step.reads?.unit ?? state.terms.unit
    return [[step.title, formatQuantity(value, unit, { decimals: step.reads?.decimals ?? state.terms.decimals })]]
  }
  const told = entries.flatMap(({ event: e }) =>
    e.do === 'pass' && state.steps.find((s) => s.id === e.step)?.makes === 'told' && e.words ? [e.words] : [],
  )
  return {
    id: run,
    sort: 'procedure',
    ...over(entries),
    title: PROCEDURE_NAMES[state.procedure],
    came: [STATUS[state.status], ...state.world.written].join('; '),
    lines: [...state.steps.flatMap((s) => figure(s.id)), ...heldWords(state)],
    told,
    open: state.status === 'done' || state.status === 'ended' ? [] : [`${PROCEDURE_NAMES[state.procedure]} not ended`],
  }
}
/** What the device held: as it answered, or as somebody saw it and typed; never what nobody read. */
function heldWords({ held, shown, terms }: RunState): [string, string][] {
  const seen = shown.flatMap(({ words, figures }): [string, string][] => [
    ...figures.map(([name, typed]): [string, string] => [name, typed]),
    ['Seen at the device', words],
  ])
  if (!held) return seen
  const { lrv, urv } = held
  return [
    ...seen,
    ['Device holds', `${lrv} to ${urv} ${terms.unit} for 4 to 20 mA${held.stored ? ', stored' : ', not stored'}`],
  ]
}

/** Points of the chain that were taken one after another: found or left. */
function pointsPart(points: readonly WorkOf<'trim-point'>[], known: CurrentStudy): VisitPart {
  const { knots } = known.thread
  const at = knots.findIndex((k) => k.id === 'current')
  /** What the loop as a whole was off, where the meter gave a current. */
  const error = ({ applied, current }: WorkOf<'trim-point'>) => {
    const read = current && attempt(() => convertUnit(current.value, current.unit, 'mA'))
    const { quantity } = unitOf(applied.unit)
    const stated = knots.slice(0, Math.max(0, at)).find((k) => k.quantity === quantity)
    if (typeof read !== 'number' || !stated) return ''
    const expected = spread(known.thread, stated.id, convertUnit(applied.value, applied.unit, stated.unit))[at]
    return expected?.known ? `, ${pct(errorOfSpan(read, expected.value, LOOP_SPAN_mA))}` : ''
  }
  const phase = sure(points[0]).phase
  return {
    ...plain,
    id: sure(points[0]).set,
    sort: 'points',
    ...over(points),
    title: `Chain ${phase === 'as-found' ? 'as found' : 'as left'}`,
    came: many(points.length, 'point'),
    lines: points.map((p) => [
      read(p.applied),
      [p.digital, p.current, p.receiver].flatMap((r) => (r ? [read(r)] : [])).join(', ') + error(p),
    ]),
  }
}

/** What is still missing of the two signatures under a verification on record. */
function unsigned({ signatures }: Pick<Verification, 'signatures'>): string[] {
  const roles = signatures.map((s) => s.role)
  return !roles.includes('performed') ? ['not signed'] : roles.includes('reviewed') ? [] : ['not countersigned']
}

/** A run of a sheet: its steps with what each gave; of a verification also what it came to. */
function sheetPart(run: string, steps: readonly WorkOf<'step'>[], known: Study, judged?: JudgedRun): VisitPart {
  const sheet = known.family === 'current' ? known.sheets?.().find((s) => s.id === sure(steps[0]).sheet) : undefined
  const done = new Set(steps.map((s) => s.step))
  const next = sheet && stepAfter(sheet, done)
  const marks = (id: string) => sheet?.steps.find((s) => s.id === id)?.marks
  const practice = sure(steps[0]).practice
  return {
    id: run,
    sort: 'sheet',
    ...over(steps),
    title: sheet?.title ?? sure(steps[0]).sheet,
    came: next
      ? `${steps.length} of ${sure(sheet).steps.length} steps`
      : judged?.judged
        ? judgedWords(judged.judged)
        : 'done',
    lines: steps.map((s) => [
      s.title,
      [s.value ? read(s.value) : '', markedWords(marks(s.step), s.marked), s.words].filter(Boolean).join(', ') ||
        'confirmed',
    ]),
    told: steps.filter((s) => s.step === 'told').map((s) => s.words),
    open: next ? [`next: ${next.title}`] : judged?.judged && !practice ? unsigned(judged) : [],
  }
}

function surveyPart(begun: WorkOf<'survey'>, log: readonly WorkEntry[]): VisitPart {
  const end = workOf(log, 'survey-end').find((e) => e.survey === begun.id)
  return {
    ...plain,
    id: begun.id,
    sort: 'survey',
    ...over([begun, ...(end ? [end] : [])]),
    title: 'Flow survey',
    came: end ? many(end.rows, 'row') : 'still logging',
    lines: [
      ['A row every', `${begun.interval_s} s`],
      ...(end
        ? [['Total', `${formatNumber(end.total, { decimals: 2, trim: true })} ${totalLabel(begun.unit)}`] as const]
        : []),
      ...(begun.note ? [['Note', begun.note] as const] : []),
    ],
    open: end ? [] : ['the survey has not ended'],
  }
}

/** Work that is one entry. */
function singlePart(e: WorkEntry): VisitPart | undefined {
  const one = { ...plain, id: e.id, ...over([e]) }
  switch (e.what) {
    case 'zero':
      return {
        ...one,
        sort: 'zero',
        title: 'Zero',
        came: `${e.before} ${e.unit} → ${e.after} ${e.unit}`,
        lines: [
          ['Spread', `${e.spread} ${e.unit}`],
          ...(e.limit === null ? [] : [['Limit', `${e.limit} ${e.unit}`] as const]),
          ...(e.note ? [['Note', e.note] as const] : []),
        ],
      }
    case 'health':
      return {
        ...one,
        sort: 'health',
        title: e.reference ? 'Health check, kept as reference' : 'Health check',
        came: `left ${pct(e.left_pct).replace(' of span', '')}, right ${pct(e.right_pct).replace(' of span', '')}`,
        lines: [
          ['Output meanwhile', e.output === 'hold' ? 'held' : 'at fault'],
          ['Changed since the last', e.changed.join('; ') || 'nothing'],
        ],
      }
    case 'sound-speed':
      return {
        ...one,
        sort: 'sound-speed',
        title: 'Sound speed',
        came: e.grade,
        lines: [
          ['Expected', `${formatNumber(e.expected_mps, { decimals: 1 })} m/s`],
          ['Measured', `${formatNumber(e.measured_mps, { decimals: 1 })} m/s`],
          ...(e.note ? [['Decided', e.note] as const] : []),
        ],
      }
    case 'read-back': {
      const readLines = e.lines.filter((l) => l.text || l.held)
      const differ = readLines.filter((l) => !heldAgrees(l.text, l.held))
      const differs = differ.length === 1 ? 'differs' : 'differ'
      return {
        ...one,
        sort: 'read-back',
        title: 'Read-back of the set-up',
        came: `${many(readLines.length, 'line')}, ${differ.length ? `${differ.length} ${differs}` : 'all as entered'}`,
        lines: differ.map((l) => [l.label, `entered ${l.text || 'nothing'}, device ${l.held || 'nothing'}`]),
        open: differ.length ? [`${many(differ.length, 'line')} of the device ${differs} from the record`] : [],
      }
    }
    case 'device-range':
      return { ...one, sort: 'points', title: 'Range of the device, read', came: `${read(e.lrv)} to ${read(e.urv)}` }
    case 'run-aside':
      return {
        ...one,
        sort: 'procedure',
        title: 'Steps of a guided run that do not stand',
        came: e.words,
        lines: [
          ['Done out of coverage, after others', e.steps.join('; ')],
          ...(e.putRight.length ? [['Put right', e.putRight.join('; ')] as const] : []),
        ],
      }
    case 'measured-since':
      return { ...one, sort: 'word', title: 'What was measured with it since', came: e.answer }
    case 'interval':
      return { ...one, sort: 'word', title: 'Interval accepted', came: `${e.days} days: ${e.reason}` }
    case 'fit':
      return { ...one, sort: 'word', title: 'Use allowed', came: e.reason }
    default:
      return undefined
  }
}

export function wiringParts(log: readonly WireEntry[]): VisitPart[] {
  const days = new Map<string, WireEntry[]>()
  for (const e of log) days.set(e.at.slice(0, 10), [...(days.get(e.at.slice(0, 10)) ?? []), e])
  return [...days.values()].map((entries) => {
    const gates = entries.filter((e) => e.what === 'gate')
    const readings = entries.filter((e) => e.what === 'reading')
    return {
      ...plain,
      id: sure(entries[0]).id,
      sort: 'wiring',
      ...over(entries),
      title: 'Wiring, before power and at the terminals',
      came: `${many(gates.length, 'gate')}, ${many(readings.length, 'reading')}`,
      lines: [
        ...gates.map((g): [string, string] => ['Confirmed', g.words]),
        ...readings.map((r): [string, string] => [
          r.spot.of === 'volts' ? `${r.spot.red} to ${r.spot.black}` : `through ${r.spot.conductor}`,
          read(r.read) +
            (r.expected === null
              ? ''
              : `, expected ${formatQuantity(r.expected, r.read.unit, { decimals: 3, trim: true })}`),
        ]),
      ],
      told: gates.map((g) => g.told),
    }
  })
}

/** @param judged its runs that are verifications, by their own entries */
export function workParts(log: readonly WorkEntry[], known: Study, judged: readonly JudgedRun[]): VisitPart[] {
  const sets = new Map<string, WorkOf<'trim-point'>[]>()
  const gone = new Set(workOf(log, 'trim-point-withdrawn').map((w) => w.point))
  for (const p of workOf(log, 'trim-point'))
    if (!gone.has(p.id)) sets.set(`${p.set} ${p.phase}`, [...(sets.get(`${p.set} ${p.phase}`) ?? []), p])
  const runs = new Map<string, WorkOf<'step'>[]>()
  for (const s of workOf(log, 'step')) runs.set(s.run, [...(runs.get(s.run) ?? []), s])
  return [
    ...(known.family === 'current' ? [...sets.values()].map((points) => pointsPart(points, known)) : []),
    ...[...runs].map(([run, steps]) =>
      sheetPart(
        run,
        steps,
        known,
        judged.find((v) => v.run === run),
      ),
    ),
    ...runsOf(log).flatMap(({ run, entries }) => procedurePart(run, entries) ?? []),
    ...workOf(log, 'survey').map((begun) => surveyPart(begun, log)),
    ...log.flatMap((e) => singlePart(e) ?? []),
  ]
}
