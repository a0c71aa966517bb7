// A round: what is due and what was asked for, in walking order, with its minutes, who must be told, and one list of
// what to bring for all of it. The same input gives the same plan, in whatever order it comes.
import { packFor, type MissingKit, type Need, type Packed, type Piece } from './kit.ts'
import { minutesFor, together, type Expected } from './minutes.ts'
import { USUAL, type Thing, type Work } from './works.ts'

/** What a check of a loop takes: its works, and what is measured there how well. */
export interface LoopRound {
  readonly works: readonly Work[]
  readonly needs: readonly Omit<Need, 'tag'>[]
  readonly brings: readonly Thing[]
}
/** A loop as a round meets it. Days are YYYY-MM-DD. */
export interface RoundLoop {
  readonly id: string
  readonly tag: string
  readonly area: string
  readonly kind: string
  /** Works of its check. */
  readonly works: readonly Work[]
  /** When its check is due; null where none is. */
  readonly due: string | null
  /** What is measured at its check. */
  readonly needs: LoopRound['needs']
  /** What is brought to it by its entries. */
  readonly brings?: readonly Thing[]
  /** Who must be told, in the words of the loop. */
  readonly told?: string | undefined
}
/** Something that was asked for: made from a finding, a failed check, a call, a stop. */
export interface Job {
  readonly id: string
  readonly loopId: string
  readonly what: string
  readonly why: string
  /** By when; null where nobody said. */
  readonly by: string | null
  /** Who asked. */
  readonly from: string
  readonly made: string
  /** What it takes besides a check; a plain loop check where nobody said. */
  readonly works?: readonly Work[] | undefined
}
export interface RoundInput {
  readonly day: string
  /** The round takes what is due up to this day. */
  readonly until: string
  readonly loops: readonly RoundLoop[]
  /** Open jobs. */
  readonly jobs: readonly Job[]
  readonly kit: readonly Piece[]
  /** Areas in the order in which one walks; those that have no place come after, by their names. */
  readonly areas: readonly string[]
  /** Loops in the order in which a person has put them; empty where nobody has. */
  readonly byHand: readonly string[]
  /** Minutes of this site's past visits, by kind of point and works. */
  readonly past: Readonly<Record<string, readonly number[]>>
  /** Least ratio of tolerance to uncertainty that the site asks for. */
  readonly wanted: number
}

export interface Stop {
  readonly loop: RoundLoop
  /** Where its check is due in this round. */
  readonly check: { readonly due: string; readonly overdue: boolean } | undefined
  readonly jobs: readonly Job[]
  readonly works: readonly Work[]
  readonly expected: Expected
  readonly people: readonly string[]
  /** Its area has no place in the walking order. */
  readonly unplaced: boolean
}
export interface Bring {
  readonly what: string
  readonly count: number
  readonly tags: readonly string[]
}
export interface RoundPlan {
  readonly stops: readonly Stop[]
  readonly minutes: Pick<Expected, 'minutes' | 'low' | 'high'>
  readonly bring: readonly Bring[]
  readonly kit: readonly Packed[]
  readonly missing: readonly MissingKit[]
  /** Jobs whose loop is not on record any more. */
  readonly lost: readonly Job[]
  /** Jobs that were due before they were made: by is the earlier. */
  readonly lateMade: readonly Job[]
}

/** Key under which minutes of past visits are kept. */
export const pastKey = (kind: string, works: readonly Work[]): string => `${kind}: ${[...works].sort().join(' + ')}`

/** Due before it was made: whoever asked was late already. */
export const isLateMade = ({ by, made }: Pick<Job, 'by' | 'made'>): boolean => by !== null && by < made.slice(0, 10)

/** LT-9 before LT-10. */
const natural = new Intl.Collator('en', { numeric: true, sensitivity: 'base' })
const byId = <T extends { readonly id: string }>(a: T, b: T): number => (a.id < b.id ? -1 : 1)
const byDay = (a: Job, b: Job): number =>
  a.by === b.by ? byId(a, b) : a.by === null ? 1 : b.by === null ? -1 : a.by < b.by ? -1 : 1

function stopOf(loop: RoundLoop, jobs: readonly Job[], input: RoundInput): Stop | undefined {
  const due = loop.due !== null && loop.due <= input.until ? loop.due : undefined
  const mine = jobs.filter((j) => j.by === null || j.by <= input.until).sort(byDay)
  if (due === undefined && !mine.length) return undefined
  const ofCheck = due === undefined ? [] : loop.works
  const works = [
    ...new Set([...ofCheck, ...mine.flatMap((j) => (j.works?.length ? j.works : ['loop-check' as const]))]),
  ]
  return {
    loop,
    check: due === undefined ? undefined : { due, overdue: due < input.day },
    jobs: mine,
    works,
    expected: minutesFor(works, input.past[pastKey(loop.kind, works)]),
    people: [...new Set([...(loop.told ? [loop.told] : []), ...works.flatMap((w) => USUAL[w].people)])],
    unplaced: !input.areas.includes(loop.area),
  }
}

/** As one walks: by area, then by tag. */
function walked(stops: readonly Stop[], areas: readonly string[]): Stop[] {
  const place = ({ loop: { area } }: Stop) => (areas.includes(area) ? areas.indexOf(area) : areas.length)
  return [...stops].sort(
    (a, b) =>
      place(a) - place(b) ||
      natural.compare(a.loop.area, b.loop.area) ||
      natural.compare(a.loop.tag, b.loop.tag) ||
      byId(a.loop, b.loop),
  )
}

/** As a person has put them; what came since stands behind the one before which one walks to it. */
function putByHand(stops: readonly Stop[], byHand: readonly string[]): Stop[] {
  const hand = [...new Set(byHand)]
  const put = hand.flatMap((id) => stops.filter((s) => s.loop.id === id))
  stops.forEach((stop, i) => {
    if (put.includes(stop)) return
    const before = stops[i - 1]
    put.splice(before ? put.indexOf(before) + 1 : 0, 0, stop)
  })
  return put
}

/** What the works at a loop usually need, as far as its entries say nothing more exact; each once. */
function thingsAt({ brings = [], works: its }: RoundLoop, works: readonly Work[]): Thing[] {
  const usual = works.flatMap((w) => USUAL[w].bring)
  // What is known of its check is of no use where something else is done there.
  const own = its.every((w) => works.includes(w))
    ? brings
    : brings.filter((b) => usual.some((u) => u.what === b.instead))
  const left = usual.filter((u) => !own.some((b) => b.instead === u.what))
  return [...new Map([...left, ...own].map((t) => [t.what, t])).values()]
}

function bringFor(stops: readonly Stop[]): Bring[] {
  const lines = new Map<string, { each: boolean; tags: string[] }>()
  for (const { loop, works } of stops)
    for (const thing of thingsAt(loop, works)) {
      const line = lines.get(thing.what) ?? { each: thing.each, tags: [] }
      line.tags.push(loop.tag)
      lines.set(thing.what, line)
    }
  return [...lines].map(([what, { each, tags }]) => ({ what, tags, count: each ? tags.length : 1 }))
}

/** Plans a round; every loop that is due and every open job that is due stands in it, or under `lost`. */
export function planRound(input: RoundInput): RoundPlan {
  const jobs = [...input.jobs].sort(byId)
  const known = new Set(input.loops.map((l) => l.id))
  const byLoop = new Map<string, Job[]>()
  for (const j of jobs) byLoop.set(j.loopId, [...(byLoop.get(j.loopId) ?? []), j])
  const stops = putByHand(
    walked(
      input.loops.flatMap((loop) => stopOf(loop, byLoop.get(loop.id) ?? [], input) ?? []),
      input.areas,
    ),
    input.byHand,
  )
  const needs = stops
    .filter((s) => s.check)
    .flatMap(({ loop: { tag, needs: its } }) => its.map((n): Need => ({ ...n, tag })))
  const { packed, missing } = packFor(needs, [...input.kit].sort(byId), { day: input.day, wanted: input.wanted })
  return {
    stops,
    minutes: together(stops.map((s) => s.expected)),
    bring: bringFor(stops),
    kit: packed,
    missing,
    lost: jobs.filter((j) => !known.has(j.loopId)),
    lateMade: jobs.filter(isLateMade),
  }
}
