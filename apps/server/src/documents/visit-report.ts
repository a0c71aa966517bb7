// The report of a visit: everything that was done at a loop in its order, each with its own figures; what changed, what
// is still open, who was told.
import type { Check, FolderView, SiteJudging } from '@calm-loop/contract'
import {
  certificateNumber,
  isPractice,
  judgeCheck,
  openOf,
  PRACTICE,
  toldOf,
  visitsOf,
  type Visit,
  type VisitPart,
} from '@calm-loop/contract/judging'
import { Refusal } from '@calm-loop/core/refusal'
import { studyOf } from '../services/studies.ts'
import { loopStanding, verdictIn } from '../services/summary-of.ts'
import { plotOf } from './certificate.ts'
import { photographs, type PaperPicture } from './photographs.ts'
import { placesTable } from './loop-tables.ts'
import {
  day,
  documentPdf,
  figure,
  hairlines,
  heading,
  LOOK,
  pairs,
  SECOND,
  STOP,
  text,
  when,
  type Node,
  type PaperHead,
} from './page.ts'

/** The visits of a folder in its world, oldest first. */
export const visitsIn = (folder: FolderView): Visit[] =>
  visitsOf(
    folder,
    { studyOf: (version) => studyOf(folder.loop.kind, version), verdictOf: verdictIn(folder) },
    !!folder.bench,
  )

/** The visit that holds an instant; the newest without one. @throws Refusal `no-such-visit` */
export function visitAt(folder: FolderView, at: string | undefined): Visit {
  const visits = visitsIn(folder)
  const found = at === undefined ? visits.at(-1) : visits.find((v) => v.from <= at && at <= v.to)
  if (!found) throw new Refusal('no-such-visit', 'Nothing was done at this loop then.')
  return found
}

/** What a check has besides its lines: its plot and the verdict at every place. */
function ofCheck(folder: FolderView, check: Check): Node[] {
  const known = studyOf(
    folder.loop.kind,
    folder.versions.find((v) => v.id === check.versionId),
  )
  if (known.family !== 'current') return []
  const judged = judgeCheck(check, known.thread)
  return [...(judged ? [plotOf(check, judged, 170)] : []), ...(judged?.loop ? [placesTable(check, judged.loop)] : [])]
}

function partNodes(folder: FolderView, part: VisitPart, n: number): Node[] {
  const check = part.sort === 'check' ? folder.checks.find((c) => c.id === part.id) : undefined
  const number = check && !isPractice(check) ? certificateNumber(folder.loop.tag, folder.checks, check.id) : ''
  return [
    {
      stack: [
        heading(`${n}. ${part.title}`),
        text(
          `${when(part.from)}${part.to.slice(0, 16) > part.from.slice(0, 16) ? ` to ${part.to.slice(11, 16)}` : ''}, ` +
            `${part.by.join(', ')}${number ? `. Certificate ${number}` : ''}`,
          { fontSize: 9, color: SECOND },
        ),
        text(part.came, { bold: true, margin: [0, 2, 0, 2] }),
        ...(part.lines.length ? [pairs(part.lines)] : []),
      ],
      unbreakable: part.lines.length < 20,
    },
    ...(check ? ofCheck(folder, check) : []),
  ]
}

const list = (words: readonly string[], none: string): Node =>
  words.length ? { ul: words.map((w) => text(w, { fontSize: 9 })) } : text(none, { fontSize: 9, color: SECOND })

/** What the visit changed: before and after, from its parts. */
const changesOf = (visit: Visit): (readonly [string, string])[] =>
  visit.parts.flatMap((p) =>
    p.sort === 'entries' || p.sort === 'zero' ? (p.sort === 'zero' ? [[p.title, p.came] as const] : p.lines) : [],
  )

export interface VisitAsked {
  readonly folder: FolderView
  /** An instant of the visit; the newest without one. */
  readonly at?: string | undefined
  /** By which it is due again, as on the page. */
  readonly judging: SiteJudging
  readonly site?: PaperHead | undefined
  readonly pictures?: readonly PaperPicture[] | undefined
}

/** What the report says of a visit. */
export function visitContent(visit: Visit, { folder, judging }: Pick<VisitAsked, 'folder' | 'judging'>): Node[] {
  const { tag, service, area } = folder.loop
  const practising = !!folder.bench
  const standing = loopStanding(folder, judging)
  const changes = changesOf(visit)
  const until = day(visit.to) === day(visit.from) ? '' : ` to ${day(visit.to)}`
  return [
    text(`${tag}  ${service}`, { fontSize: 18, bold: true }),
    text(`Report of the visit of ${day(visit.from)}${until}. ${area}. By ${visit.by.join(', ')}.`, {
      color: SECOND,
      margin: [0, 0, 0, 6],
    }),
    ...(practising ? [text(PRACTICE, { bold: true, color: LOOK })] : []),
    ...(standing.notFit && !practising
      ? [text('NOT FIT FOR USE: left out of tolerance.', { bold: true, fontSize: 13, color: STOP })]
      : []),
    {
      table: {
        headerRows: 1,
        widths: [16, until ? 110 : 54, 150, '*'],
        body: [
          ['', 'When', 'What was done', 'What it came to'].map((t) => text(t, { fontSize: 8, color: SECOND })),
          ...visit.parts.map((p, i) => [
            figure(`${i + 1}`),
            text(until ? when(p.from) : `${p.from.slice(11, 16)} UTC`, { fontSize: 9 }),
            text(p.title, { fontSize: 9 }),
            text(p.came, { fontSize: 9 }),
          ]),
        ],
      },
      layout: hairlines,
    },
    heading('Changed: before → after'),
    changes.length ? pairs(changes) : text('Nothing was changed.', { fontSize: 9, color: SECOND }),
    heading('Still open'),
    list(openOf(visit), 'Nothing.'),
    heading('Told'),
    list(toldOf(visit), 'Nobody is on record.'),
    ...(standing.nextDue && !practising
      ? [heading('Due again'), text(`${day(standing.nextDue)}. ${standing.due.why.join(' ')}`, { fontSize: 9 })]
      : []),
    ...visit.parts.flatMap((p, i) => partNodes(folder, p, i + 1)),
  ]
}

/** The report as PDF. @throws Refusal `no-such-visit` */
export async function visitPdf({ folder, at, judging, site, pictures }: VisitAsked): Promise<Buffer> {
  const visit = visitAt(folder, at)
  const { tag } = folder.loop
  return documentPdf(
    `${tag} report of a visit`,
    `${tag}, visit of ${day(visit.from)}`,
    [...visitContent(visit, { folder, judging }), ...photographs(pictures)],
    { over: folder.bench ? 'PRACTICE' : undefined, site },
  )
}
