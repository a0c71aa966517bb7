// The certificate of a check: figures, error plot, thread, tolerance, gear, names and times on one or two pages.
import { currentStudyOf } from '../services/studies.ts'
import type { Check, FolderView, Reading } from '@calm-loop/contract'
import {
  isPractice,
  judgeCheck,
  midReading,
  readsOnThread,
  standardOf,
  standOfCheck,
  verdictWords,
} from '@calm-loop/contract/judging'
import { pointWords, type WholeJudgement } from '@calm-loop/core/check'
import { currentKindOf, kindOf } from '@calm-loop/core/kinds'
import { formatNumber, formatQuantity, unitOf } from '@calm-loop/core/quantity'
import { spread } from '@calm-loop/core/thread'
import { inSentence } from '@calm-loop/core/words'
import { errorPlot, plottedOf, threadStrip, toSvg } from '@calm-loop/drawing'
import {
  confirmedAndSigned,
  correctedRows,
  DRAWN,
  fingerprint,
  gearUsed,
  signedSoFar,
  titleRows,
  whatFollows,
  WIDTH,
} from './certificate-parts.ts'
import type { Paper } from './certificate-parts.ts'
import { budgetTable, circumstances, departureLine, placesTable, readingsTable, ruleParagraph } from './loop-tables.ts'
import { switchContent } from './switch-certificate.ts'
import { day, documentPdf, figure, hairlines, heading, pairs, SECOND, text, when, type Node } from './page.ts'
import { drawingFont } from './pdf.ts'
import { photographs } from './photographs.ts'
import { sure } from '@calm-loop/core/sure'

const BY_RANGE =
  'The expected current is computed for the true input of each reading, not for its nominal point, on a straight ' +
  'line over the range.'
const BY_THREAD =
  'What each knot should read is computed by the loop’s thread for the true input of each reading; current and ' +
  'controller are judged, each in % of its own span.'

function otherReads(reading: Reading): string {
  return Object.entries(reading.reads)
    .filter(([knot]) => knot !== 'current')
    .map(([knot, e]) => `${knot} ${formatQuantity(e.value, e.unit, { trim: true })}`)
    .join('; ')
}

/** What was done otherwise than planned: equipment past its date, readings taken again. */
function deviations(check: Check): string {
  const expired = check.gear
    .filter((g) => g.expiredReason)
    .map((g) => `${g.name} past its due date: ${g.expiredReason}`)
  const again = check.readings.filter((r) => r.supersedes).length
  return (
    [...expired, ...(again ? [`${again} ${again === 1 ? 'reading' : 'readings'} corrected, see above`] : [])].join(
      '; ',
    ) || 'none'
  )
}

/** The readings of a check of an older rule: one line each, the place that errs most. */
function olderTable(judged: WholeJudgement, byId: ReadonlyMap<string, Reading>, check: Check): Node {
  const rows = judged.judged.map(({ reading, main, worst }) => {
    const full = sure(byId.get(reading.id))
    return [
      text(pointWords(reading), { fontSize: 9 }),
      figure(`${formatQuantity(full.applied.value, full.applied.unit, { trim: true })}`),
      figure(formatNumber(main.expected, { decimals: main.decimals })),
      figure(formatNumber(main.read, { decimals: main.decimals })),
      figure(
        `${formatNumber(worst.errorPct, { decimals: 3, sign: true })} %${worst === main ? '' : ` ${worst.name}`}`,
        {
          bold: Math.abs(worst.errorPct) > check.tolerancePct,
        },
      ),
      text(otherReads(full), { fontSize: 8 }),
      text(`${full.takenAt.slice(11, 19)} ${full.source}, ${full.by.name}`, { fontSize: 8 }),
    ]
  })
  const main = judged.judged[0]?.main
  const where = main ? `${main.name}, ${unitOf(main.unit).label}` : ''
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [52, 66, 52, 46, 52, '*', 105],
      body: [
        [
          'Point',
          'True input',
          `Expected: ${where}`,
          `Read: ${where}`,
          'Error of span',
          'Also read',
          'Time UTC, how, by',
        ].map((t) => text(t, { fontSize: 8, color: SECOND })),
        ...rows,
      ],
    },
    layout: hairlines,
  }
}

/** The words of a verdict that passes, and of one that does not. */
const verdictPair = (loop: WholeJudgement['loop']): readonly [string, string] =>
  loop ? [verdictWords[loop.verdict], verdictWords[loop.verdict]] : ['Within tolerance', 'Out of tolerance']

/** Where the largest error against its own tolerance is, when more than one place was read. */
const worstPlace = ({ loop }: WholeJudgement): string =>
  loop && loop.witnesses.length > 1 ? `, ${inSentence(loop.worst.name)}` : ''

/** Largest error, tolerance, hysteresis and linearity in a line. */
function sums(judged: WholeJudgement, check: Check): Node {
  const pct = (v: number) => `${formatNumber(v, { decimals: 3, sign: true })} %`
  const size = (v: number) => `${formatNumber(v, { decimals: 3 })} %`
  const tolerancePct = judged.loop?.worst.tolerancePct ?? check.tolerancePct
  return text(
    `Largest error ${pct(judged.result.maxErrorPct)} of span${worstPlace(judged)}; tolerance there ` +
      `±${formatNumber(tolerancePct, { decimals: 3, trim: true })} % of span; hysteresis ` +
      `${judged.result.hysteresisPct === null ? 'not met both ways' : size(judged.result.hysteresisPct)}; ` +
      `linearity ${size(judged.result.linearityPct)}.`,
    { fontSize: 10, margin: [0, 2, 0, 0] },
  )
}

/** The error plot of a check. */
export const plotOf = (check: Check, judged: WholeJudgement | null, height: number): Node => ({
  svg: toSvg(
    errorPlot({
      ...plottedOf(judged, check.tolerancePct),
      filled: check.phase === 'as-left',
      planned: check.points.map((p) => p.percent),
      width: DRAWN,
      height,
    }),
    drawingFont,
  ),
  width: WIDTH,
})

/** The definition's content for a check of a folder. */
function contentOf(folder: FolderView, check: Check, paper: Paper): Node[] {
  const kind = currentKindOf(folder.loop.kind)
  const version = sure(folder.versions.find((v) => v.id === check.versionId))
  const known = currentStudyOf(kind.id, version)
  const { thread, reader: r, scales } = known
  const judged = judgeCheck(check, thread)
  const pass = judged ? judged.result.pass && standOfCheck(check) !== 'broken' : undefined
  const byId = new Map(check.readings.map((x) => [x.id, x]))
  const loop = judged?.loop
  const words = verdictPair(loop)
  const unit = check.range.unit

  const readWords = (r: Reading) => {
    const read = r.reads['current'] ?? r.reads['controller'] ?? Object.values(r.reads)[0]
    return read ? formatQuantity(read.value, read.unit) : ''
  }
  const middle = midReading(check)
  const onThread = middle && readsOnThread(check, middle, thread)
  const at = standardOf(check, thread)
  const strip =
    onThread &&
    threadStrip(
      spread(thread, at, sure(onThread[at])).map((expected, i) => {
        const knot = thread.knots[i]!
        return { knot, ...scales[i]!, expected, read: onThread[knot.id] }
      }),
      DRAWN,
      190,
    )

  return [
    ...titleRows(folder, check, pass, words),
    ...(loop ? departureLine(loop) : []),
    ...(judged ? [sums(judged, check)] : []),
    ...signedSoFar(check),
    ...whatFollows(folder, check),
    heading('Error plot'),
    plotOf(check, judged, 240),
    ...(loop ? [heading('Places'), placesTable(check, loop)] : []),
    heading('Readings'),
    ...(judged ? [loop ? readingsTable(loop, byId) : olderTable(judged, byId, check)] : []),
    ...correctedRows(check, (x) => `${pointWords(x)}: ${readWords(x)}`),
    ...(strip && middle
      ? [
          {
            stack: [heading(`Thread at ${pointWords(middle)}`), { svg: toSvg(strip, drawingFont), width: WIDTH }],
            unbreakable: true,
          },
        ]
      : []),
    {
      stack: [
        heading('What was checked'),
        pairs([
          ['Loop', `${folder.loop.tag}, ${folder.loop.service}, ${folder.loop.area}`],
          ['Kind', kind.name],
          ['Device', `${r.text('device')}, serial ${r.text('serial')}`],
          [
            'Range at the process',
            `${formatQuantity(check.range.lrv, unit, { trim: true })} at 4 mA to ` +
              `${formatQuantity(check.range.urv, unit, { trim: true })} at 20 mA`,
          ],
          ['State', check.phase === 'as-found' ? 'as found, before any adjustment' : 'as left, after adjustment'],
          ['Entries', `version ${version.number}, ${version.author.name}, ${when(version.startedAt)}`],
          ['Surroundings', check.ambient],
          ['Deviations', deviations(check)],
        ]),
        ...(check.terms ? [circumstances(check, thread)] : []),
      ],
      unbreakable: true,
    },
    gearUsed(check.gear, check.startedAt.slice(0, 10)),
    heading('Rule and uncertainty'),
    check.terms
      ? ruleParagraph(check, loop)
      : text(
          'Simple acceptance: within tolerance when no error is larger than ' +
            `±${formatNumber(check.tolerancePct, { decimals: 3, trim: true })} % of span. ` +
            `${check.rule === undefined ? BY_RANGE : BY_THREAD} The uncertainty of the test equipment is stated ` +
            'above as its certificates give it; it is not taken off the tolerance.',
          { fontSize: 9 },
        ),
    ...(loop ? budgetTable(loop) : []),
    confirmedAndSigned(check),
    ...fingerprint(check, paper),
  ]
}

export type { Paper }
/** The certificate of a check as PDF. */
export function certificatePdf(folder: FolderView, check: Check, paper: Paper): Promise<Buffer> {
  return documentPdf(
    `${folder.loop.tag} certificate of check`,
    `${folder.loop.tag}, check of ${day(check.startedAt)}`,
    [
      ...(kindOf(folder.loop.kind).family === 'switch'
        ? switchContent(folder, check, paper)
        : contentOf(folder, check, paper)),
      ...photographs(paper.pictures),
    ],
    { over: isPractice(check) ? 'PRACTICE' : undefined, site: paper.site },
  )
}
