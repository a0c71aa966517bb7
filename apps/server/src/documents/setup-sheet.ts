// The set-up sheet of a point: what is keyed into its device, in the order of keying, with a box to tick and room to
// write what was read back.
import { currentStudyOf } from '../services/studies.ts'
import { inWorld, workOf, type FolderView } from '@calm-loop/contract'
import { currentKindOf, type SetupLine } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { documentPdf, figure, hairlines, heading, SECOND, text, when, type Node, type PaperHead } from './page.ts'

/** A box to tick; a new one each time, for the printer writes its place into it. */
const box = (): Node => ({ canvas: [{ type: 'rect', x: 0, y: 1, w: 10, h: 10, lineWidth: 0.8 }] })

function table(lines: readonly SetupLine[], first: number, held: ReadonlyMap<string, string>): Node {
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: [14, 20, '*', 150, 150],
      body: [
        ['', '', 'What', 'To be keyed', 'Read back'].map((h) => text(h, { fontSize: 9, color: SECOND })),
        ...lines.map((l, i) => [
          box(),
          figure(String(first + i), { fontSize: 9, color: SECOND }),
          text(l.label, { fontSize: 10 }),
          l.text ? figure(l.text, { fontSize: 10 }) : text('still to be entered', { fontSize: 9, color: SECOND }),
          figure(held.get(l.key) ?? '', { fontSize: 10 }),
        ]),
      ],
    },
    layout: hairlines,
  }
}

/** The set-up sheet as PDF. @throws Refusal `no-setup-sheet` */
export async function setupSheetPdf(folder: FolderView, site?: PaperHead): Promise<Buffer> {
  const { tag, service, area, kind: kindId } = folder.loop
  const kind = currentKindOf(kindId)
  const version = folder.versions.at(-1)
  if (!kind.has.setup) throw new Refusal('no-setup-sheet', 'This kind of point has no set-up sheet.')
  const lines = currentStudyOf(kindId, version).setup?.() ?? []
  const readBack = workOf(inWorld(folder.workLog, false), 'read-back').at(-1)
  const held = new Map(readBack?.lines.map((l) => [l.key, l.held]))
  const groups = [...new Set(lines.map((l) => l.group))]
  return documentPdf(
    `${tag} set-up sheet`,
    `${tag} set-up sheet${version ? `, entries of version ${version.number}, ${when(version.savedAt)}` : ''}`,
    [
      text(`${tag}  ${service}`, { fontSize: 18, bold: true }),
      text(
        `Set-up sheet. ${kind.name}. ${area}. Key in from top to bottom, tick each line, read it back and ` +
          'write what stands there.',
        { color: SECOND, margin: [0, 0, 0, 6] },
      ),
      text(readBack ? `Read back ${when(readBack.at)} by ${readBack.by.name}.` : 'Not read back yet.', {
        fontSize: 9,
        color: SECOND,
      }),
      ...groups.flatMap((group): Node[] => [
        heading(group),
        table(
          lines.filter((l) => l.group === group),
          1 + lines.findIndex((l) => l.group === group),
          held,
        ),
      ]),
      text('Keyed by ______________________   Date ______________   Read back by ______________________', {
        margin: [0, 18, 0, 0],
      }),
      text(kind.check.cautions.join(' ') + ' Site procedure, local codes and licensed practice come first.', {
        fontSize: 9,
        margin: [0, 12, 0, 0],
      }),
    ],
    { site },
  )
}
