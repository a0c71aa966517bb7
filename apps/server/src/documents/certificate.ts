// The certificate of a check: figures, error plot, thread, tolerance, gear, names and times on one or two pages.
import { judgeCheck, midReading, standingByPoint, type Check, type FolderView, type Reading } from '@calm-loop/contract'
import { pointWords } from '@calm-loop/core/check'
import { kindOf, readEntries } from '@calm-loop/core/kinds'
import { formatNumber, formatQuantity } from '@calm-loop/core/quantity'
import { convertUnit } from '@calm-loop/core/quantity'
import { knotScales, spread } from '@calm-loop/core/thread'
import { errorPlot, threadStrip, toSvg } from '@calm-loop/drawing'
import { day, documentPdf, figure, hairlines, heading, INK, pairs, SECOND, text, when, type Node } from './page.ts'
import { drawingFont } from './pdf.ts'

const WIDTH = 515
/** Drawings are made larger than they are printed, so that their letters match the text. */
const DRAWN = 680

function gearRows(check: Check): Node[] {
  const on = check.startedAt.slice(0, 10)
  if (!check.gear.length) return [text('No test equipment was named.', { fontSize: 9, color: SECOND })]
  return [
    pairs(
      check.gear.map(
        (g) =>
          [
            g.name,
            `serial ${g.serial}; uncertainty ${g.uncertainty || 'not stated'}; due ${day(g.due)}${g.due < on ? ' — EXPIRED when used' : ''}`,
          ] as const,
      ),
    ),
  ]
}

function otherReads(reading: Reading): string {
  return Object.entries(reading.reads)
    .filter(([knot]) => knot !== 'current')
    .map(([knot, e]) => `${knot} ${formatQuantity(e.value, e.unit, { trim: true })}`)
    .join('; ')
}

/** The definition's content for a check of a folder. */
function contentOf(folder: FolderView, check: Check): Node[] {
  const kind = kindOf(folder.loop.kind)
  const version = folder.versions.find((v) => v.id === check.versionId)!
  const r = readEntries(kind.fields, version.entries)
  const { thread } = kind.study(version.entries)
  const judged = judgeCheck(check)
  const performed = check.signatures.find((s) => s.role === 'performed')
  const reviewed = check.signatures.find((s) => s.role === 'reviewed')
  const pass = judged?.result.pass
  const byId = new Map(check.readings.map((x) => [x.id, x]))
  const pct = (v: number) => `${formatNumber(v, { decimals: 3, sign: true })} %`
  const unit = check.range.unit

  const rows = (judged?.judged ?? []).map(({ reading, expected_mA, errorPct }) => {
    const full = byId.get(reading.id)!
    return [
      text(pointWords(reading), { fontSize: 9 }),
      figure(`${formatQuantity(full.applied.value, full.applied.unit, { trim: true })}`),
      figure(formatNumber(expected_mA, { decimals: 3 })),
      figure(formatNumber(reading.mA, { decimals: 3 })),
      figure(pct(errorPct), { bold: Math.abs(errorPct) > check.tolerancePct }),
      text(otherReads(full), { fontSize: 8 }),
      text(`${full.takenAt.slice(11, 19)} ${full.source}, ${full.by.name}`, { fontSize: 8 }),
    ]
  })
  const middle = midReading(check)
  const scales = knotScales(thread)
  const appliedAt = (reading: Reading, to: string) => convertUnit(reading.applied.value, reading.applied.unit, to)
  const strip =
    middle &&
    threadStrip(
      spread(thread, thread.knots[0]!.id, appliedAt(middle, unit)).map((expected, i) => {
        const knot = thread.knots[i]!
        const read = i === 0 ? middle.applied : middle.reads[knot.id]
        return { knot, ...scales[i]!, expected, read: read && convertUnit(read.value, read.unit, knot.unit) }
      }),
      DRAWN,
      190,
    )
  const standing = new Set([...standingByPoint(check).values()].map((x) => x.id))
  const corrected = check.readings.filter((x) => !standing.has(x.id))
  const lastBut = (id: string) => check.readings.find((x) => x.supersedes === id)

  return [
    {
      columns: [
        text(folder.loop.tag, { fontSize: 22, bold: true, width: 'auto' }),
        text(folder.loop.service, { fontSize: 13, margin: [12, 8, 0, 0] }),
        text('Certificate of check', { alignment: 'right', color: SECOND, margin: [0, 10, 0, 0] }),
      ],
    },
    { canvas: [{ type: 'line', x1: 0, y1: 4, x2: WIDTH, y2: 4, lineWidth: 1, lineColor: INK }], margin: [0, 0, 0, 8] },
    text(pass === undefined ? 'No reading was taken.' : pass ? 'Within tolerance' : 'Out of tolerance', {
      fontSize: 16,
      bold: true,
      color: pass ? '#24524A' : '#9B1C31',
    }),
    ...(judged
      ? [
          text(
            `Largest error ${pct(judged.result.maxErrorPct)} of span; tolerance ±${formatNumber(check.tolerancePct, { decimals: 3, trim: true })} % of span; hysteresis ${judged.result.hysteresisPct === null ? 'not met both ways' : `${formatNumber(judged.result.hysteresisPct, { decimals: 3 })} %`}; linearity ${formatNumber(judged.result.linearityPct, { decimals: 3 })} %.`,
            { fontSize: 10, margin: [0, 2, 0, 0] },
          ),
        ]
      : []),
    ...(performed
      ? []
      : [
          text('NOT SIGNED: this is a working copy, not a certificate.', {
            bold: true,
            color: '#9B1C31',
            margin: [0, 4, 0, 0],
          }),
        ]),
    ...(performed && !reviewed
      ? [text('Not yet countersigned.', { bold: true, color: '#8A5A00', margin: [0, 4, 0, 0] })]
      : []),
    heading('Error plot'),
    {
      svg: toSvg(
        errorPlot({
          readings: (judged?.judged ?? []).map((j) => ({
            percent: j.reading.percent,
            direction: j.reading.direction,
            errorPct: j.errorPct,
          })),
          tolerancePct: check.tolerancePct,
          filled: check.phase === 'as-left',
          planned: check.points.map((p) => p.percent),
          width: DRAWN,
          height: 240,
        }),
        drawingFont,
      ),
      width: WIDTH,
    },
    heading('Readings'),
    {
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: [52, 66, 52, 46, 52, '*', 105],
        body: [
          [
            'Point',
            kind.check.trueInput.replace(' reached', ''),
            'Expected mA',
            'Read mA',
            'Error of span',
            'Also read',
            'Time UTC, how, by',
          ].map((t) => text(t, { fontSize: 8, color: SECOND })),
          ...rows,
        ],
      },
      layout: hairlines,
    },
    ...(corrected.length
      ? [
          heading('Readings that were corrected'),
          ...corrected.map((x) =>
            text(
              `${pointWords(x)}: ${formatQuantity(x.reads['current']!.value, x.reads['current']!.unit)} at ${when(x.takenAt)}; ${lastBut(x.id)?.reason || 'taken again'}.`,
              { fontSize: 9 },
            ),
          ),
        ]
      : []),
    ...(strip
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
            `${formatQuantity(check.range.lrv, unit, { trim: true })} at 4 mA to ${formatQuantity(check.range.urv, unit, { trim: true })} at 20 mA`,
          ],
          ['State', check.phase === 'as-found' ? 'as found, before any adjustment' : 'as left, after adjustment'],
          ['Entries', `version ${version.number}, ${version.author.name}, ${when(version.startedAt)}`],
          ['Surroundings', check.ambient],
        ]),
      ],
      unbreakable: true,
    },
    { stack: [heading('Test equipment'), ...gearRows(check)], unbreakable: true },
    heading('Rule and uncertainty'),
    text(
      `Simple acceptance: within tolerance when no error is larger than ±${formatNumber(check.tolerancePct, { decimals: 3, trim: true })} % of span. The expected current is computed for the true input of each reading, not for its nominal point. The uncertainty of the test equipment is stated above as its certificates give it; it is not taken off the tolerance.`,
      { fontSize: 9 },
    ),
    {
      stack: [
        heading('Confirmed and signed'),
        pairs([
          ...check.gates.map(
            (g) =>
              [
                g.gate === 'loop-in-manual' ? 'Before' : 'Afterwards',
                `${g.words} Told: ${g.told}. ${g.by.name}, ${when(g.at)}`,
              ] as const,
          ),
          ...check.signatures.map(
            (s) =>
              [
                s.role === 'performed' ? 'Performed by' : 'Reviewed by',
                `${s.by.name}, ${when(s.at)}. ${s.statement}`,
              ] as const,
          ),
          ...(performed ? [['Fingerprint', `SHA-256 ${performed.digest}`] as const] : []),
        ]),
      ],
      unbreakable: true,
    },
  ]
}

/** The certificate of a check as PDF. */
export function certificatePdf(folder: FolderView, check: Check): Promise<Buffer> {
  return documentPdf(
    `${folder.loop.tag} certificate of check`,
    `${folder.loop.tag}, check of ${day(check.startedAt)}`,
    contentOf(folder, check),
  )
}
