// The loop drawing: the whole chain on one sheet in standard symbols, with its figures and a title block.
import type { FolderView } from '@calm-loop/contract'
import { kindOf, linesOf } from '@calm-loop/core/kinds'
import { layoutWiring, loopDrawing, toSvg } from '@calm-loop/drawing'
import Elk from 'elkjs/lib/elk.bundled.js'
import { studyOf } from '../services/studies.ts'
import { deskOfFolder } from '../services/wire-log.ts'
import { documentPdf, HAIRLINE, SECOND, text, when, type Node, type PaperHead } from './page.ts'
import { drawingFont } from './pdf.ts'

const elk = new Elk()
export interface DrawingAsked {
  readonly folder: FolderView
  readonly paper: 'A4' | 'A3'
  readonly site?: PaperHead
}
/** Room for the drawing between head and title block, pt, and by how much it may be enlarged. */
const ROOM = {
  A4: { width: 762, height: 330, most: 1 },
  A3: { width: 1110, height: 570, most: 1.5 },
} as const

/** Entries that the title block repeats, in its order. */
const TITLE_ENTRIES = ['lrv', 'urv', 'supply', 'liftOff', 'shunt', 'conductor', 'cableLength', 'pointName'] as const

function titleBlock({ folder }: DrawingAsked): Node {
  const { tag, service, area } = folder.loop
  const kind = kindOf(folder.loop.kind)
  const version = folder.versions.at(-1)
  const { reader } = studyOf(folder.loop.kind, version)
  const instead = kind.family === 'current' ? (kind.instead?.(reader) ?? {}) : {}
  const keys = TITLE_ENTRIES.map((key) => instead[key] ?? key).filter((key) => reader.has(key))
  const entered = linesOf(reader, keys).flatMap(({ label, text }) => (text ? [`${label}: ${text}`] : []))
  const cell = (head: string, words: string) => ({
    stack: [text(head, { fontSize: 7, color: SECOND }), text(words || 'not entered', { fontSize: 9 })],
  })
  return {
    table: {
      widths: [90, '*', 120, 150, 130],
      body: [
        [
          cell('Loop', tag),
          cell('Service', service),
          cell('Area', area),
          cell('Kind', kind.name),
          cell('Entries', version ? `version ${version.number}, ${when(version.savedAt)}` : 'none saved'),
        ],
        [{ ...cell('As entered', entered.join('   ·   ')), colSpan: 5 }, '', '', '', ''],
      ],
    },
    layout: {
      hLineWidth: () => 0.8,
      vLineWidth: () => 0.8,
      hLineColor: () => HAIRLINE,
      vLineColor: () => HAIRLINE,
      paddingTop: () => 4,
      paddingBottom: () => 4,
    },
    margin: [0, 8, 0, 0],
  }
}

/** The loop drawing as PDF, on one sheet whatever its size. */
export async function loopDrawingPdf(asked: DrawingAsked): Promise<Buffer> {
  const { folder, paper, site } = asked
  const desk = deskOfFolder(folder)
  const { tag, service } = folder.loop
  const scene = loopDrawing(tag, desk.wiring, await layoutWiring(desk.wiring, elk))
  const { width, height, most } = ROOM[paper]
  const scale = Math.min(width / scene.width, height / scene.height, most)
  return documentPdf(
    `${tag} loop drawing`,
    `${tag} loop drawing. Symbols after IEC 60617 and ISO 14617; balloons after IEC 62424.`,
    [
      text(`${tag}  ${service}`, { fontSize: paper === 'A3' ? 20 : 16, bold: true }),
      text(
        `Loop drawing. ${desk.own ? 'As drawn.' : 'As proposed for the arrangement entered.'} ` +
          'Conductors carry their number, cable and core.',
        { color: SECOND, fontSize: 9, margin: [0, 0, 0, 8] },
      ),
      { svg: toSvg(scene, drawingFont), width: scene.width * scale, alignment: 'center' },
      titleBlock(asked),
    ],
    { landscape: true, paper, site },
  )
}
