// What is worked out away from the server's event loop: drawings, documents, large texts, the judging of imports and
// of whole loops.
import {
  Bundle,
  OutMessage,
  endpoints,
  openApi,
  type AddEdges,
  type AuditEntry,
  type Check,
  type EndpointName,
  type FolderView,
  type WholeFolder,
} from '@calm-loop/contract'
import { runCalculator } from '@calm-loop/core/calculators'
import type { Entries } from '@calm-loop/core/kinds'
import type { ListName } from '@calm-loop/core/wiring'
import type { Pair } from '../services/watch-points.ts'
import { pointOf } from '../services/watch-points.ts'
import { certificatePdf, type Paper } from '../documents/certificate.ts'
import { instrumentList, type ListedLoop } from '../documents/instrument-list.ts'
import { labelsPdf, type LabelsAsked } from '../documents/labels.ts'
import type { PaperHead } from '../documents/page.ts'
import { renderPdf, runs } from '../documents/pdf.ts'
import { readingsCsv } from '../documents/readings-csv.ts'
import { runCertificatePdf } from '../documents/run-certificate.ts'
import { surveyCsv, surveyPdf, type SurveyAsked } from '../documents/survey-report.ts'
import type { SurveyText } from '../services/surveys.ts'
import { roundPdf, type RoundAsked } from '../documents/round-sheet.ts'
import { shiftPdf, type ShiftAsked } from '../documents/shift-sheet.ts'
import { setupSheetPdf } from '../documents/setup-sheet.ts'
import { weekCalendar, type CalendarAsked } from '../documents/week-calendar.ts'
import { visitPdf, type VisitAsked } from '../documents/visit-report.ts'
import { loopDrawingPdf, type DrawingAsked } from '../documents/loop-drawing.ts'
import { listCsv, wiringCsv, wiringPdf, wiringSvg, type Signal } from '../documents/wiring-sheet.ts'
import { bundleText, parseBundle } from '../services/bundle-text.ts'
import { z } from 'zod'
import { refuseUnstorable } from '../http/storable.ts'
import { plantIn, plantStates } from '../services/plant-file.ts'
import { csvText, parseRegister, registerText, type RegisterRow } from '../services/register-text.ts'
import { withoutErrors } from '../services/kit-uses.ts'
import { runsOpen } from '../services/shift-words.ts'
import { summaryOf } from '../services/summary-of.ts'
import { spokenBy } from '../services/studies.ts'
import { readJson } from '../services/text.ts'
import { markingUntil, speakingUntil } from '@calm-loop/core/quantity'
import { tableMoves, type MovesAsked } from '../services/table-moves.ts'
import { trainRow } from '../services/train-row.ts'

/** Text of a file as it was sent: UTF-8, or it is not taken. */
type Bytes = Uint8Array

/** A paper of the site, with its decimal mark. */
const withMark = <T>(site: PaperHead | undefined, write: () => T | Promise<T>): Promise<T> =>
  markingUntil(site?.decimalMark, write)

interface Written {
  readonly folder: FolderView
  readonly site?: PaperHead | undefined
  readonly versionId?: string
}
/** A paper of a loop in the units that it is spoken of in: by the entries of its check, else by the newest. */
const inItsUnits = <T>({ folder, site, versionId }: Written, write: () => T | Promise<T>): Promise<T> => {
  const version = folder.versions.find((v) => v.id === versionId) ?? folder.versions.at(-1)
  return withMark(site, () => speakingUntil(spokenBy(folder.loop.kind, version), write))
}

export const jobs = {
  /** Loads fonts and code before someone waits for them. */
  warm: () => renderPdf({ content: [{ text: runs('Ω 0'), font: 'figures' }] }).then(() => undefined),
  certificate: (a: { folder: FolderView; check: Check; paper: Paper }) =>
    inItsUnits({ folder: a.folder, site: a.paper.site, versionId: a.check.versionId }, () =>
      certificatePdf(a.folder, a.check, a.paper),
    ),
  readingsCsv: (a: { kind: string; entries: Entries; check: Check }) => readingsCsv(a.kind, a.entries, a.check),
  runCertificate: (a: { folder: FolderView; run: string; paper: Paper }) =>
    inItsUnits({ folder: a.folder, site: a.paper.site }, () => runCertificatePdf(a.folder, a.run, a.paper)),
  visitPdf: (a: VisitAsked) => inItsUnits(a, () => visitPdf(a)),
  surveyCsv: (a: SurveyText) => surveyCsv(a),
  surveyPdf: (a: SurveyAsked) => inItsUnits(a, () => surveyPdf(a)),
  setupPdf: (a: { folder: FolderView; site?: PaperHead }) => inItsUnits(a, () => setupSheetPdf(a.folder, a.site)),
  roundPdf: (a: RoundAsked) => withMark(a.site, () => roundPdf(a)),
  labelsPdf: (a: LabelsAsked) => labelsPdf(a),
  weekCalendar: (a: CalendarAsked) => weekCalendar(a),
  shiftPdf: (a: ShiftAsked) => withMark(a.site, () => shiftPdf(a)),
  wiringPdf: (a: { folder: FolderView; signal: Signal; site?: PaperHead }) =>
    inItsUnits(a, () => wiringPdf(a.folder, a.signal, a.site)),
  wiringSvg: (a: { folder: FolderView; signal: Signal }) => inItsUnits(a, () => wiringSvg(a.folder, a.signal)),
  wiringCsv: (a: { folder: FolderView; signal: Signal }) => wiringCsv(a.folder, a.signal),
  loopDrawing: (a: DrawingAsked) => inItsUnits(a, () => loopDrawingPdf(a)),
  wiringList: (a: { folder: FolderView; list: ListName; signal: Signal }) => listCsv(a.folder, a.list, a.signal),
  csv: (a: { header: readonly string[]; rows: readonly (readonly unknown[])[] }) => csvText(a.header, a.rows),
  auditCsv: (entries: readonly AuditEntry[]) =>
    csvText(
      ['place', 'at', 'by', 'action', 'loop', 'details', 'hash', 'whole'],
      entries.map((e) => [
        e.place,
        e.at,
        e.by?.name ?? '',
        e.action,
        e.loop?.tag ?? '',
        e.details,
        e.hash,
        e.whole ? 'yes' : 'NO',
      ]),
    ),
  registerText: (a: { rows: readonly RegisterRow[]; first: boolean }) => registerText(a.rows, a.first),
  instrumentList: (loops: readonly ListedLoop[]) => instrumentList(loops),
  plantIn: (bytes: Bytes) => plantIn(bytes),
  plantStates: (some: Parameters<typeof plantStates>[0]) => plantStates(some),
  parseRegister: (bytes: Bytes) => parseRegister(bytes),
  bundleText: (folder: WholeFolder) => bundleText(folder),
  parseBundle: (bytes: Bytes) => parseBundle(bytes),
  summary: (a: Parameters<typeof summaryOf>[0]) => summaryOf(a),
  /** A body that is too large to be read where everyone is served. */
  parseBody: ({ name, bytes }: { name: EndpointName; bytes: Bytes }) => {
    const value = readJson(bytes)
    refuseUnstorable(value)
    return endpoints[name].body.parse(value)
  },
  tableMoves: (a: MovesAsked) => tableMoves(a),
  trainRow: (train: AddEdges) => trainRow(train),
  json: (value: unknown) => JSON.stringify(value),
  openApi: () => JSON.stringify(openApi()),
  outSchema: () => JSON.stringify(z.toJSONSchema(OutMessage, { unrepresentable: 'any' })),
  bundleSchema: () => JSON.stringify(z.toJSONSchema(Bundle, { unrepresentable: 'any' })),
  calc: ({ name, input }: { name: string; input: unknown }) => runCalculator(name, input),
  withoutError: (a: Parameters<typeof withoutErrors>[0]) => withoutErrors(a),
  runsOpen: (a: Parameters<typeof runsOpen>[0]) => runsOpen(a),
  watched: (rows: readonly Pair[]) => rows.map(pointOf),
}
export type Jobs = typeof jobs
