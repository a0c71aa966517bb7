// Labels of loops: the code that opens the folder, the tag large, what it is beneath; single, or 24 on a sheet of A4.
import { LABELS_A_SHEET } from '@calm-loop/contract'
import { labelText } from '@calm-loop/contract/label'
import { INK, SECOND, type Node } from './page.ts'
import { renderPdf, runs } from './pdf.ts'

export interface LabelsAsked {
  readonly installation: string
  /** Whose loops they are; empty where the site has entered no name. */
  readonly site: string
  readonly loops: readonly {
    readonly id: string
    readonly tag: string
    readonly service: string
    readonly area: string
  }[]
  readonly sheet: 'single' | '24'
  /** Place on the first sheet at which it begins, 1 to 24. */
  readonly from: number
}

const MM = 72 / 25.4
const [A4_WIDTH, A4_HEIGHT] = [210 * MM, 297 * MM]
const [ACROSS, DOWN] = [3, 8]
const LABEL = { width: A4_WIDTH / ACROSS, height: A4_HEIGHT / DOWN }
/** Clear of the edges, where printers do not print, and of the neighbour. */
const EDGE = 5 * MM
const CODE = 24 * MM
const WORDS_AT = EDGE + CODE + 3 * MM
const LONGEST = { tag: 14, line: 24 }

/** The words of a service in at most two lines that fit beside the code. */
function twoLines(words: string): string {
  const lines = ['']
  for (const word of words.split(/\s+/).filter(Boolean)) {
    const now = lines.at(-1) ?? ''
    if (now && now.length + word.length + 1 > LONGEST.line) lines.push(word)
    else lines[lines.length - 1] = now ? `${now} ${word}` : word
  }
  const [first = '', second = '', ...more] = lines.map((l) => cut(l, LONGEST.line))
  return [first, more.length ? cut(`${second} …`, LONGEST.line) : second].filter(Boolean).join('\n')
}
const cut = (words: string, most: number) => (words.length > most ? `${words.slice(0, most - 1)}…` : words)
/** A long tag is set smaller, so that it stands in one line. */
const sizeOf = (tag: string) => Math.max(7, Math.min(15, (15 * LONGEST.tag) / Math.max(tag.length, 1)))

function label({ installation, site }: LabelsAsked, loop: LabelsAsked['loops'][number], at: { x: number; y: number }) {
  const words = (text: string, y: number, more: Node): Node => ({
    ...{ text: runs(text), absolutePosition: { x: at.x + WORDS_AT, y: at.y + y }, ...more },
  })
  const top = (LABEL.height - CODE) / 2
  return [
    {
      ...{ qr: labelText(installation, loop.id), fit: CODE, eccLevel: 'M', foreground: INK },
      absolutePosition: { x: at.x + EDGE, y: at.y + top },
    },
    words(loop.tag, top, { bold: true, fontSize: sizeOf(loop.tag), text: runs(loop.tag, 'figures') }),
    words(twoLines(loop.service), top + 22, { fontSize: 8, lineHeight: 1.1 }),
    words(cut(loop.area, LONGEST.line), top + 47, { fontSize: 7.5, color: SECOND }),
    words(cut(site, LONGEST.line + 4), top + 58, { fontSize: 6.5, color: SECOND }),
  ]
}

/** Where each label stands: its page, and its corner there, points. */
export function places(count: number, { sheet, from }: Pick<LabelsAsked, 'sheet' | 'from'>) {
  return Array.from({ length: count }, (_, i) => {
    if (sheet === 'single') return { page: i, x: 0, y: 0 }
    const n = from - 1 + i
    const on = n % LABELS_A_SHEET
    return {
      page: Math.floor(n / LABELS_A_SHEET),
      x: (on % ACROSS) * LABEL.width,
      y: Math.floor(on / ACROSS) * LABEL.height,
    }
  })
}

export function labelsPdf(asked: LabelsAsked): Promise<Buffer> {
  const content: Node[] = []
  let page = 0
  places(asked.loops.length, asked).forEach((place, i) => {
    const loop = asked.loops[i]
    if (!loop) return
    if (place.page !== page) content.push({ text: '', pageBreak: 'before' })
    page = place.page
    content.push(...label(asked, loop, place))
  })
  return renderPdf({
    pageSize: asked.sheet === 'single' ? LABEL : 'A4',
    pageMargins: [0, 0, 0, 0],
    info: { title: 'Labels', creator: 'Calm Loop' },
    defaultStyle: { font: 'words', fontSize: 8, color: INK },
    content,
  })
}
