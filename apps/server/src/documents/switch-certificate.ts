// The certificate of a discrete check: both states with what was expected, the witnesses point by point, the
// distances, names and times.
import { study } from '@calm-loop/core/loop'
import type { Check, FolderView } from '@calm-loop/contract'
import { standOfCheck, entriesOfCheck, judgeSwitchCheck } from '@calm-loop/contract/judging'
import { targetWords, withTarget } from '@calm-loop/core/check'
import { FAULT_PLACES, WITNESSES } from '@calm-loop/core/discrete'
import { readEntries, STATE_WORDS, switchKindOf, VERDICT_WORDS, type Lane } from '@calm-loop/core/kinds'
import { formatNumber, formatQuantity as show } from '@calm-loop/core/quantity'
import { switchDrawing, toSvg } from '@calm-loop/drawing'
import {
  confirmedAndSigned,
  fingerprint,
  type Paper,
  correctedRows,
  DRAWN,
  gearUsed,
  signedSoFar,
  titleRows,
  whatFollows,
  WIDTH,
} from './certificate-parts.ts'
import { figure, hairlines, heading, pairs, SECOND, text, when, type Node } from './page.ts'
import { drawingFont } from './pdf.ts'
import { sure } from '@calm-loop/core/sure'

const lit = (on: boolean | undefined, yes: string, no: string) => (on === undefined ? 'not there' : on ? yes : no)
const mm = (v: number) => show(v, 'mm', { decimals: 2, trim: true })

function expectedRow(words: string, l: Lane): Node[] {
  return [
    text(words, { fontSize: 9 }),
    figure(lit(l.sensorLamp, 'lit', 'dark')),
    figure(show(l.signalV, 'V', { decimals: 1 })),
    figure(`${show(l.inputV, 'V', { decimals: 1 })}, ${show(l.input_mA, 'mA', { decimals: 1 })}`),
    figure(STATE_WORDS[l.state]),
    figure(lit(l.controller, 'true', 'false')),
  ]
}

/** The definition's content for a check of a discrete point. */
export function switchContent(folder: FolderView, check: Check, paper: Paper): Node[] {
  const kind = switchKindOf(folder.loop.kind)
  const entries = entriesOfCheck(kind.id, folder.versions, check)
  const version = sure(folder.versions.find((v) => v.id === check.versionId))
  const r = readEntries(kind.fields, entries)
  const { run } = study(kind, entries)
  const judged = judgeSwitchCheck(check, run)
  const byId = new Map(check.readings.map((x) => [x.id, x]))
  const d = judged?.distances
  const drawing =
    run.lanes &&
    switchDrawing(
      run,
      { output: r.text('output'), meansTrue: r.text('meansTrue'), meansFalse: r.text('meansFalse') },
      DRAWN,
    )
  const state = (v: number | undefined) => (v === undefined ? 'not seen' : v >= 0.5 ? '1' : '0')
  const rows = (judged?.readings ?? []).map(({ reading, disagrees, volts }) => {
    const full = sure(byId.get(reading.id))
    return [
      text(targetWords({ index: full.pointIndex, percent: full.percent }), { fontSize: 9 }),
      figure(
        full.applied.unit === 'state'
          ? 'as placed'
          : show(full.applied.value, full.applied.unit, { decimals: full.applied.unit === 'mm' ? 2 : 3 }),
      ),
      figure(state(full.reads['sensorLamp']?.value)),
      figure(state(full.reads['inputLamp']?.value)),
      figure(state(full.reads['controller']?.value)),
      figure(
        full.reads['signal']
          ? show(full.reads['signal'].value, full.reads['signal'].unit, { decimals: 1 })
          : 'not metered',
      ),
      text(
        disagrees
          ? `disagrees ${FAULT_PLACES[disagrees].where}`
          : volts && volts !== 'agrees'
            ? volts.replace(/-/g, ' ')
            : 'as expected',
        { fontSize: 8, bold: !!disagrees },
      ),
      text(`${full.takenAt.slice(11, 19)} ${full.source}, ${full.by.name}`, { fontSize: 8 }),
    ]
  })
  const error = judged?.distanceErrorPct ?? null
  const distanceWords =
    d && d.operate_mm !== null
      ? ` Operate distance ${mm(d.operate_mm)}` +
        (error === null
          ? '.'
          : `, ${formatNumber(error, { decimals: 1, sign: true })} % of the expected ` +
            `${mm(run.distance?.expected_mm ?? 0)}.`)
      : ''

  return [
    ...titleRows(folder, check, judged ? judged.pass && standOfCheck(check) !== 'broken' : undefined, [
      'Every witness agrees',
      'Does not agree',
    ]),
    ...(judged
      ? [
          text(
            judged.faults.length
              ? judged.faults.join(' ')
              : `All witnesses agree at ${judged.readings.length} ` +
                  `${judged.readings.length === 1 ? 'point' : 'points'}.${distanceWords}`,
            { fontSize: 10, margin: [0, 2, 0, 0] },
          ),
        ]
      : []),
    ...signedSoFar(check),
    ...whatFollows(folder, check),
    heading('Expected'),
    ...(drawing ? [{ svg: toSvg(drawing, drawingFont), width: WIDTH }] : []),
    ...(run.lanes
      ? [
          {
            table: {
              widths: ['*', 70, 70, 100, 60, 60],
              body: [
                ['', 'Sensor’s lamp', 'Signal to −', 'Across the input', 'Input', 'Controller'].map((t) =>
                  text(t, { fontSize: 8, color: SECOND }),
                ),
                expectedRow('target present', run.lanes.present),
                expectedRow('target absent', run.lanes.absent),
              ],
            },
            layout: hairlines,
          },
        ]
      : []),
    heading('Readings'),
    {
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: [78, 58, 36, 34, 48, 46, '*', 92],
        body: [
          ['Target', 'Changed at', 'Sensor', 'Input', 'Controller', 'Signal', '', 'Time UTC, how, by'].map((t) =>
            text(t, { fontSize: 8, color: SECOND }),
          ),
          ...rows,
        ],
      },
      layout: hairlines,
    },
    ...correctedRows(
      check,
      (x) =>
        `${targetWords({ index: x.pointIndex, percent: x.percent })}: ` +
        `${WITNESSES.map((w) => state(x.reads[w.id]?.value)).join(', ')}`,
    ),
    {
      stack: [
        heading('Distances'),
        pairs([
          ['Operate', d?.operate_mm === undefined || d.operate_mm === null ? 'not measured' : mm(d.operate_mm)],
          ['Release', d?.release_mm === undefined || d.release_mm === null ? 'not measured' : mm(d.release_mm)],
          [
            'Differential',
            d?.differentialPct === undefined || d.differentialPct === null
              ? 'not measured'
              : `${formatNumber(d.differentialPct, { decimals: 1 })} % of operate; at most ` +
                `${r.text('differentialMost') || '20 %'}`,
          ],
          [
            'Repeats within',
            d?.repeatPct === undefined || d.repeatPct === null
              ? 'taken once'
              : `${formatNumber(d.repeatPct, { decimals: 1 })} %`,
          ],
          [
            'Expected',
            run.distance
              ? `${mm(run.distance.expected_mm)} ± ${formatNumber(check.tolerancePct, { decimals: 1, trim: true })} %`
              : 'this sensor has no operating distance',
          ],
        ]),
      ],
      unbreakable: true,
    },
    {
      stack: [
        heading('What was checked'),
        pairs([
          ['Point', `${folder.loop.tag}, ${folder.loop.service}, ${folder.loop.area}`],
          [
            'Name in the controller',
            `${r.text('pointName')}: true means ${r.text('meansTrue') || 'not entered'}; false means ` +
              `${r.text('meansFalse') || 'not entered'}`,
          ],
          ['Sensor', `${r.text('device')}, serial ${r.text('serial')}; ${r.text('output')} ${r.text('contact')}`],
          ['Fit', `${run.verdict ? VERDICT_WORDS[run.verdict] : 'not known'}; between them: ${run.between}`],
          ['State', check.phase === 'as-found' ? 'as found, before any adjustment' : 'as left, after adjustment'],
          ['Entries', `version ${version.number}, ${version.author.name}, ${when(version.startedAt)}`],
          ['Surroundings', check.ambient],
        ]),
      ],
      unbreakable: true,
    },
    gearUsed(check.gear, check.startedAt.slice(0, 10)),
    heading('Rule'),
    text(
      'Passes when every witness shows, at every point, what the circuit makes it show; when metered volts ' +
        'are within a tenth of the supply of the expected ones (a minus sign alone says that the leads were ' +
        'exchanged); and, for a sensor with an operating distance, when the mean operate distance is within ± ' +
        `${formatNumber(check.tolerancePct, { decimals: 1, trim: true })} % of the expected one and the ` +
        'differential within its limit. Not a proof of a safety function.',
      { fontSize: 9 },
    ),
    confirmedAndSigned(check),
    ...fingerprint(check, paper),
  ]
}

/** Columns of the readings as CSV. */
export const SWITCH_COLUMNS = [...WITNESSES.map((w) => w.id), 'signal'] as const
export const targetColumn = (percent: number): string => (withTarget({ percent }) ? 'present' : 'absent')
