// What every document shares: paper, ink, headings, tables of names and values.
import { NO_HEAD, type DecimalMark, type SiteHead } from '@calm-loop/contract'
import { renderPdf, runs } from './pdf.ts'

export const INK = '#1C2321'
export const SECOND = '#55605B'
export const HAIRLINE = '#D9D3C4'
export const STOP = '#9B1C31'
export const LOOK = '#8A5A00'
export const GOOD = '#24524A'
export type Node = Record<string, unknown>
export const text = (words: string, more: Node = {}): Node => ({ text: runs(words), ...more })
export const figure = (words: string, more: Node = {}): Node => ({ text: runs(words, 'figures'), fontSize: 9, ...more })
export const heading = (words: string): Node => text(words, { bold: true, fontSize: 11, margin: [0, 12, 0, 4] })

/** `12 Mar 2027, 14:02 UTC` */
export function when(instant: string): string {
  return `${day(instant)}, ${instant.slice(11, 16)} UTC`
}
/** `12 Mar 2027` */
export function day(date: string): string {
  const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
  return `${Number(date.slice(8, 10))} ${months[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`
}

export const hairlines = {
  hLineWidth: () => 0.5,
  vLineWidth: () => 0,
  hLineColor: () => HAIRLINE,
  paddingTop: () => 3,
  paddingBottom: () => 3,
  paddingLeft: (i: number) => (i === 0 ? 0 : 6),
  paddingRight: () => 6,
}

export function pairs(rows: readonly (readonly [string, string])[]): Node {
  return {
    table: {
      widths: [110, '*'],
      body: rows.map(([name, value]) => [
        text(name, { color: SECOND, fontSize: 9 }),
        text(value || 'not entered', { fontSize: 9 }),
      ]),
    },
    layout: hairlines,
  }
}

/** Whose papers these are, and how they write figures. */
export interface PaperHead extends SiteHead {
  readonly decimalMark?: DecimalMark
  /** A PNG as a data address. */
  readonly logo?: string
}
/** Fits into this on paper, points. */
const LOGO_FIT = [130, 40]

/** Whose paper it is, in a line; nothing where the site has entered nothing. */
const headRows = ({ name, address, procedure, logo }: PaperHead): Node[] => {
  const rest = [address, procedure && `procedure ${procedure}`].filter(Boolean).join(' · ')
  return name || rest || logo
    ? [
        {
          columns: [
            ...(logo ? [{ image: logo, fit: LOGO_FIT, width: 'auto' }] : []),
            text(name, { bold: true, width: 'auto' }),
            text(rest, { color: SECOND, alignment: 'right' }),
          ],
          columnGap: 12,
          margin: [0, 0, 0, 8],
        },
      ]
    : []
}

/**
 * A document, on A4 unless said, with the site's head, its name and page number at the foot.
 * @param over written large across every page, as where it is no record
 */
export function documentPdf(
  title: string,
  foot: string,
  content: Node[],
  {
    landscape = false,
    paper = 'A4',
    over,
    site = NO_HEAD,
  }: {
    readonly landscape?: boolean
    readonly paper?: 'A4' | 'A3'
    readonly over?: string | undefined
    readonly site?: PaperHead | undefined
  } = {},
): Promise<Buffer> {
  return renderPdf({
    ...(over ? { watermark: { text: over, color: SECOND, opacity: 0.16, bold: true } } : {}),
    pageSize: paper,
    ...(landscape ? { pageOrientation: 'landscape' } : {}),
    pageMargins: [40, 40, 40, 44],
    info: { title, creator: 'Calm Loop' },
    defaultStyle: { font: 'words', fontSize: 10, color: INK, lineHeight: 1.15 },
    content: [...headRows(site), ...content],
    footer: (page: number, pages: number) => ({
      columns: [
        { text: runs(foot), color: SECOND, fontSize: 8, margin: [40, 12, 0, 0] },
        { text: `page ${page} of ${pages}`, alignment: 'right', color: SECOND, fontSize: 8, margin: [0, 12, 40, 0] },
      ],
    }),
  })
}
