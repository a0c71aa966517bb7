// The report of a survey: where, with what set-up, how long, what flowed, and what the meter heard meanwhile.
import { workOf, type FolderView } from '@calm-loop/contract'
import { isPractice, PRACTICE } from '@calm-loop/contract/judging'
import { surveyFigures, type LoggedRow } from '@calm-loop/core/flow'
import { currentKindOf } from '@calm-loop/core/kinds'
import { decimalsOfSpan, formatNumber, formatQuantity, totalLabel } from '@calm-loop/core/quantity'
import { toSvg, tracePlot } from '@calm-loop/drawing'
import { csvText } from '../services/register-text.ts'
import { currentStudyOf } from '../services/studies.ts'
import type { SurveyText } from '../services/surveys.ts'
import { DRAWN, WIDTH } from './certificate-parts.ts'
import { documentPdf, heading, pairs, SECOND, text, when, type Node, type PaperHead } from './page.ts'
import { drawingFont } from './pdf.ts'

export interface SurveyAsked extends SurveyText {
  readonly folder: FolderView
  readonly site?: PaperHead
}

/** `7 h 58 min`, `42 s` */
const lasting = (s: number): string =>
  s < 60
    ? formatQuantity(s, 's', { decimals: 0 })
    : [Math.floor(s / 3600) ? `${Math.floor(s / 3600)} h` : '', `${Math.round((s % 3600) / 60)} min`]
        .filter(Boolean)
        .join(' ')

const rowsIn = (chunks: readonly string[]): LoggedRow[] => chunks.flatMap((rows) => JSON.parse(rows) as LoggedRow[])

/** The rows of a survey as CSV, each head with its unit. */
export function surveyCsv({ begun, chunks }: SurveyText): string {
  const world = begun.practice ? ['PRACTICE'] : []
  const head = csvText(undefined, [
    [
      ...['time_UTC', `flow_${begun.unit}`, `total_${totalLabel(begun.unit)}`, 'sound_speed_m/s', 'signal_%'],
      ...world.map(() => 'world'),
    ],
  ])
  // Times and figures hold nothing that would have to be quoted.
  const lines = rowsIn(chunks).map(([t, ...rest]) =>
    [new Date(t).toISOString(), ...rest.map((v) => v ?? ''), ...world].join(','),
  )
  return head + lines.map((line) => `${line}\r\n`).join('')
}

export function surveyPdf({ folder, begun, chunks, site }: SurveyAsked): Promise<Buffer> {
  const rows = rowsIn(chunks)
  const end = workOf(folder.workLog, 'survey-end').find((e) => e.survey === begun.id)
  const { tag, service, area, kind: kindId } = folder.loop
  const kind = currentKindOf(kindId)
  const version = folder.versions.findLast((v) => v.savedAt <= begun.at) ?? folder.versions.at(-1)
  const figures = surveyFigures(rows, begun.interval_s)
  const decimals = decimalsOfSpan((figures.most ?? 0) - (figures.least ?? 0), 0)
  const flow = (v: number | undefined) =>
    v === undefined ? 'none was seen' : formatQuantity(v, begun.unit, { decimals })
  const total = formatNumber(rows.at(-1)?.[2] ?? 0, { decimals: 3, trim: true })
  const lines = version ? (currentStudyOf(kindId, version).setup?.() ?? []) : []
  const groups = [...new Set(lines.map((l) => l.group))].filter((g) => g !== 'Output')
  const practice = isPractice(begun)
  const trace = tracePlot({
    ...{ rows, interval_s: begun.interval_s, unit: begun.unit, width: DRAWN, height: 260 },
    clock: (ms) => when(new Date(ms).toISOString()),
  })
  const content: Node[] = [
    text(`${tag}  ${service}`, { fontSize: 18, bold: true }),
    text(`Report of a flow survey. ${kind.name}. ${area}.`, { color: SECOND, margin: [0, 0, 0, 6] }),
    { svg: toSvg(trace, drawingFont), width: WIDTH },
    heading('What flowed'),
    pairs([
      ['Total', `${total} ${totalLabel(begun.unit)}`],
      ['Mean while seen', flow(figures.mean)],
      ['Least and most', `${flow(figures.least)} and ${flow(figures.most)}`],
      ['Standing still', lasting(figures.still_s)],
    ]),
    heading('How it was logged'),
    pairs([
      ['Begun', `${when(begun.at)} by ${begun.by.name}`],
      ['Ended', end ? `${when(end.at)}${end.why ? `: ${end.why}` : ` by ${end.by.name}`}` : 'still logging'],
      ['Lasts', `${lasting(figures.lasts_s)}; a row every ${begun.interval_s} s, ${rows.length} rows`],
      ['Not logged', figures.unseen_s < 1 ? 'nothing' : `${lasting(figures.unseen_s)}, not in the total`],
      ['What for', begun.note || 'not said'],
    ]),
    heading('What the meter heard'),
    pairs([
      [
        'Sound speed',
        figures.soundSpeed
          ? `${formatQuantity(figures.soundSpeed.low, 'm/s', { decimals: 1 })} to ` +
            formatQuantity(figures.soundSpeed.high, 'm/s', { decimals: 1 })
          : 'not told by this meter',
      ],
      [
        'Weakest signal',
        figures.leastSignal === undefined
          ? 'not told by this meter'
          : formatQuantity(figures.leastSignal, '%', { decimals: 0 }),
      ],
    ]),
    ...groups.flatMap((group): Node[] => [
      heading(group),
      pairs(lines.filter((l) => l.group === group).map((l) => [l.label, l.text] as const)),
    ]),
    text(
      version
        ? `Set up by the entries of version ${version.number}, ${when(version.savedAt)}. Flow by the meter itself; ` +
            'how sure it is stands under Doubt of this point.'
        : 'Nothing was entered for this point when the survey was begun.',
      { fontSize: 9, color: SECOND, margin: [0, 10, 0, 0] },
    ),
  ]
  return documentPdf(`${tag} survey`, `${tag} survey of ${when(begun.at)}`, content, {
    site,
    over: practice ? PRACTICE : undefined,
  })
}
