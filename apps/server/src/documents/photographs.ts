// Photographs at the end of a paper, with their arrows and words: beside the record, no part of what is sealed.
import type { AttachmentNote } from '@calm-loop/contract'
import { heading, SECOND, text, when, type Node } from './page.ts'
import { drawingFont } from './pdf.ts'

export interface PaperPicture extends Pick<AttachmentNote, 'shows' | 'words' | 'marks'> {
  /** A JPEG as a data address. */
  readonly image: string
  /** As it is looked at, points. */
  readonly width: number
  readonly height: number
  readonly by: string
  readonly at: string
}
/** Printed so wide and so high at the most, points of the sheet. */
const FIT = { width: 400, height: 300 }
/** Drawn on a picture a thousand points wide, as on the page. */
const WIDE = 1000
const [LETTERS, STROKE, TIP] = [34, 7, 26]
const MARK = '#c8102e'
const safe = (words: string) => words.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;')

/** An arrow or words over a picture. */
function markSvg(mark: PaperPicture['marks'][number], high: number): string {
  const [x, y] = [mark.x * WIDE, mark.y * high]
  if (mark.draw === 'words') {
    const [anchor, font] = [mark.x < 0.5 ? 'start' : 'end', drawingFont(mark.words, false)]
    return (
      `<text x="${x}" y="${y}" text-anchor="${anchor}" font-family="${font}" ` +
      `font-size="${LETTERS}" fill="${MARK}">${safe(mark.words)}</text>`
    )
  }
  const [toX, toY] = [mark.toX * WIDE, mark.toY * high]
  const turn = Math.atan2(toY - y, toX - x)
  const wing = (by: number) => `${toX - TIP * Math.cos(turn + by)},${toY - TIP * Math.sin(turn + by)}`
  const stroke = `stroke="${MARK}" stroke-width="${STROKE}"`
  return (
    `<line x1="${x}" y1="${y}" x2="${toX}" y2="${toY}" ${stroke}/>` +
    `<polyline points="${wing(0.5)} ${toX},${toY} ${wing(-0.5)}" fill="none" ${stroke}/>`
  )
}
function pictureNode({ image, marks, shows, words, width, height, by, at }: PaperPicture): Node {
  const high = (WIDE * height) / width
  const scale = Math.min(FIT.width / WIDE, FIT.height / high)
  const spaces = 'xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'
  const said = [shows === 'other' ? '' : shows, words].filter(Boolean).join(': ') || 'photograph'
  const svg =
    `<svg ${spaces} viewBox="0 0 ${WIDE} ${high}">` +
    `<image x="0" y="0" width="${WIDE}" height="${high}" xlink:href="${image}"/>` +
    `${marks.map((m) => markSvg(m, high)).join('')}</svg>`
  return {
    unbreakable: true,
    stack: [
      { svg, width: WIDE * scale, height: high * scale, margin: [0, 8, 0, 2] },
      text(`${said}; kept by ${by}, ${when(at)}`, { fontSize: 9, color: SECOND }),
    ],
  }
}

/** Nothing where none was chosen. */
export const photographs = (all: readonly PaperPicture[] = []): Node[] =>
  all.length
    ? [
        heading('Photographs'),
        text('Chosen for the papers of this loop; they are kept beside the record and are no part of what is sealed.', {
          ...{ fontSize: 9, color: SECOND },
        }),
        ...all.map(pictureNode),
      ]
    : []
