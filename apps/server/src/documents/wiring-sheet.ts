// The wiring sheet: the drawing, one line for each conductor, what is wrong, who confirmed what; as PDF, SVG and CSV.
import { inWorld, standingReadings, type FolderView } from '@calm-loop/contract'
import { kindOf } from '@calm-loop/core/kinds'
import { formatQuantity } from '@calm-loop/core/quantity'
import {
  energise,
  LISTS,
  wiringList,
  wiringSheet,
  type Energised,
  type List,
  type ListName,
  type SheetLine,
  type Wiring,
} from '@calm-loop/core/wiring'
import { layoutWiring, toSvg, wiringDrawing, type Scene } from '@calm-loop/drawing'
import Elk from 'elkjs/lib/elk.bundled.js'
import { deskOfFolder } from '../services/wire-log.ts'
import { csvText } from '../services/register-text.ts'
import {
  documentPdf,
  figure,
  hairlines,
  heading,
  pairs,
  SECOND,
  text,
  when,
  type Node,
  type PaperHead,
} from './page.ts'
import { drawingFont } from './pdf.ts'

const elk = new Elk()
/** Width of the text on a landscape page, pt. */
const WIDTH = 762
const TALLEST = 400

/** For what the volts of the sheet are: a loop current, or a discrete sensor with its target or without. */
export interface Signal {
  readonly mA: number
  readonly target: boolean
}

interface Sheet {
  readonly wiring: Wiring
  readonly scene: Scene
  readonly lines: readonly SheetLine[]
  readonly energised: Energised | undefined
}

async function sheetOf(folder: FolderView, signal: Signal): Promise<Sheet> {
  const desk = deskOfFolder(folder)
  // Volts are only given where every figure they rest on has been entered.
  const energised = desk.needs.length
    ? undefined
    : energise({ wiring: desk.wiring, conditions: { ...desk.conditions, ...signal } })
  const layout = await layoutWiring(desk.wiring, elk)
  return {
    wiring: desk.wiring,
    scene: wiringDrawing(folder.loop.tag, desk.wiring, layout, energised),
    lines: wiringSheet(desk.wiring, energised),
    energised,
  }
}

export async function wiringSvg(folder: FolderView, signal: Signal): Promise<string> {
  const { scene } = await sheetOf(folder, signal)
  return toSvg(scene, (_, mono) => (mono ? 'monospace' : 'sans-serif'))
}

/** Volts of a terminal, and what they are counted from where that is not earth. */
const terminalVolts = (volts: number, countedFrom: string | undefined) =>
  `${Number(round(volts, 2))} V${countedFrom ? ` to ${countedFrom}` : ''}`

/** One of the lists of the wiring as CSV. */
export async function listCsv(folder: FolderView, name: ListName, signal: Signal): Promise<string> {
  const { wiring, energised } = await sheetOf(folder, signal)
  const { heads, rows } = wiringList(name, wiring, energised, terminalVolts)
  return csvText(heads, rows)
}

const LIST_WIDTHS: Record<ListName, readonly (number | '*')[]> = {
  terminals: [110, 60, 120, 90, '*', 110],
  cables: [36, 90, '*', 120, 80, 110, 120],
  ferrules: [150, 90, 70, 70, '*'],
  legend: [120, 80, 110, 150, '*'],
}
function listTable(name: ListName, { title, heads, rows }: List): Node[] {
  const cell = (words: string) => text(words, { fontSize: 8 })
  return [
    heading(title),
    {
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: LIST_WIDTHS[name],
        body: [heads.map((h) => text(h, { fontSize: 8, color: SECOND })), ...rows.map((r) => r.map(cell))],
      },
      layout: hairlines,
    },
  ]
}

const round = (value: number | null, decimals: number) =>
  value === null ? '' : Number((Math.abs(value) < 0.5 * 10 ** -decimals ? 0 : value).toFixed(decimals))

export async function wiringCsv(folder: FolderView, signal: Signal): Promise<string> {
  const { lines } = await sheetOf(folder, signal)
  return csvText(
    [
      'conductor',
      'from',
      'to',
      'cable',
      'core',
      'colour',
      'convention',
      'ferrule',
      'function',
      'expected_V',
      'counted_from',
      'expected_mA',
      'remark',
    ],
    lines.map((l) => [
      l.id,
      l.from,
      l.to,
      l.cable,
      l.core,
      l.colour,
      l.convention,
      l.ferrule,
      l.function,
      round(l.volts, 3),
      l.volts === null ? '' : l.countedFrom || 'earth',
      round(l.mA, 3),
      l.says,
    ]),
  )
}

function linesTable(lines: readonly SheetLine[], energised: boolean): Node {
  const cell = (words: string) => text(words, { fontSize: 8 })
  const mono = (words: string) => figure(words, { fontSize: 8 })
  const volts = (l: SheetLine) =>
    l.volts === null
      ? l.says || (energised ? '' : 'entries missing')
      : formatQuantity(Number(round(l.volts, 2)), 'V', { decimals: 2 }) + (l.countedFrom ? ` to ${l.countedFrom}` : '')
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [24, 62, 62, 70, 34, 52, 112, 82, 92, '*'],
      body: [
        [
          '',
          'From',
          'To',
          'Cable',
          'Core',
          'Colour',
          'What the colour means',
          'Ferrule',
          'Function',
          'Expected, to earth',
        ].map((h) => text(h, { fontSize: 8, color: SECOND })),
        ...lines.map((l) => [
          mono(l.id),
          mono(l.from),
          mono(l.to),
          cell(l.cable),
          cell(l.core),
          cell(l.colour),
          cell(l.convention),
          mono(l.ferrule),
          cell(l.function),
          mono(volts(l)),
        ]),
      ],
    },
    layout: hairlines,
  }
}

/** The wiring sheet as PDF. */
export async function wiringPdf(folder: FolderView, signal: Signal, site?: PaperHead): Promise<Buffer> {
  const { scene, lines, energised } = await sheetOf(folder, signal)
  const desk = deskOfFolder(folder)
  const { tag, service, area } = folder.loop
  const scale = Math.min(WIDTH / scene.width, TALLEST / scene.height, 0.9)
  const log = inWorld(folder.wireLog, !!folder.bench)
  const gates = log.flatMap((e) => (e.what === 'gate' ? [e] : []))
  const readings = standingReadings(log)
  const version = folder.versions.at(-1)
  const stand =
    kindOf(folder.loop.kind).family === 'switch'
      ? `the target ${signal.target ? 'present' : 'absent'}`
      : `${formatQuantity(signal.mA, 'mA', { trim: true })} in the loop`
  const expectedWords = (r: (typeof readings)[number]) =>
    r.expected === null
      ? ''
      : `, expected ${formatQuantity(r.expected, r.spot.of === 'volts' ? 'V' : 'mA', { decimals: 2 })}`
  return documentPdf(
    `${tag} wiring sheet`,
    `${tag} wiring sheet${version ? `, entries of version ${version.number}, ${when(version.savedAt)}` : ''}`,
    [
      text(`${tag}  ${service}`, { fontSize: 18, bold: true }),
      text(
        `Wiring sheet. ${area}. ${desk.own ? 'As drawn.' : 'As proposed for the arrangement entered.'} ` +
          (energised
            ? `Volts to earth with power on and ${stand}.`
            : `Volts not computed: still to be entered ${desk.needs.join(', ')}.`),
        { color: SECOND, margin: [0, 0, 0, 10] },
      ),
      { svg: toSvg(scene, drawingFont), width: scene.width * scale },
      { ...heading('Conductors'), pageBreak: 'before' },
      linesTable(lines, energised !== undefined),
      ...LISTS.flatMap((name) => listTable(name, wiringList(name, desk.wiring, energised, terminalVolts))),
      {
        stack: [
          heading('Before power'),
          ...(desk.findings.length
            ? [pairs(desk.findings.map((f) => [f.grade, `${f.what} ${f.action}`] as const))]
            : [text('Nothing found against this wiring.', { fontSize: 9 })]),
        ],
        unbreakable: desk.findings.length < 8,
      },
      ...(gates.length
        ? [
            {
              stack: [
                heading('Confirmed'),
                pairs(
                  gates.map(
                    (g) =>
                      [
                        g.gate === 'power-off' ? 'Power off' : 'Safe to energise',
                        `${g.words} Told: ${g.told}. ${g.by.name}, ${when(g.at)}`,
                      ] as const,
                  ),
                ),
              ],
              unbreakable: gates.length < 6,
            },
          ]
        : []),
      ...(readings.length
        ? [
            {
              stack: [
                heading('Read at the terminals'),
                pairs(
                  readings.map(
                    (r) =>
                      [
                        r.spot.of === 'volts' ? `${r.spot.red} to ${r.spot.black}` : `along ${r.spot.conductor}`,
                        `${formatQuantity(r.read.value, r.read.unit)}${expectedWords(r)}. ` +
                          `${r.by.name}, ${when(r.at)}`,
                      ] as const,
                  ),
                ),
              ],
              unbreakable: readings.length < 6,
            },
          ]
        : []),
      text(
        'Isolate, lock off and prove dead before a conductor is moved. In a hazardous area nothing is opened ' +
          'or connected without a permit. Mains is work for a licensed person. Site procedure and local codes ' +
          'come first.',
        { fontSize: 9, margin: [0, 12, 0, 0] },
      ),
    ],
    { landscape: true, over: folder.bench && (gates.length || readings.length) ? 'PRACTICE' : undefined, site },
  )
}
