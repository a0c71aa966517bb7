// PDF with the shipped fonts; characters they lack are set in a second shipped font.
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import pdfmake from 'pdfmake'

const require = createRequire(import.meta.url)
const fontFolder = (name: string) => dirname(require.resolve(`${name}/package.json`))
const atkinson = (face: 'Next' | 'Mono', weight: '400Regular' | '700Bold') =>
  join(
    fontFolder(`@expo-google-fonts/atkinson-hyperlegible-${face.toLowerCase()}`),
    weight,
    `AtkinsonHyperlegible${face}_${weight}.ttf`,
  )
const dejavu = (name: string) => join(fontFolder('dejavu-fonts-ttf'), 'ttf', `${name}.ttf`)
const face = (normal: string, bold: string) => ({ normal, bold, italics: normal, bolditalics: bold })

const FONTS = {
  words: face(atkinson('Next', '400Regular'), atkinson('Next', '700Bold')),
  figures: face(atkinson('Mono', '400Regular'), atkinson('Mono', '700Bold')),
  symbols: face(dejavu('DejaVuSans'), dejavu('DejaVuSans-Bold')),
}
const allowed = new Set(Object.values(FONTS).flatMap((f) => Object.values(f)))
pdfmake.addFonts(FONTS)
pdfmake.setUrlAccessPolicy(() => false)
pdfmake.setLocalAccessPolicy((path) => allowed.has(path))

/** Latin-1 and the typographic marks that the hyperlegible fonts hold; everything else goes to the symbols font. */
const COVERED = /^[\n -~\u00a0-\u00b4\u00b6-\u00ff–—‘’“”…−]$/

export interface Run {
  readonly text: string
  readonly font: string
}

/** Text cut into runs of one font each. */
export function runs(text: string, font: 'words' | 'figures' = 'words'): Run[] {
  const cut: { text: string; font: string }[] = []
  for (const character of text) {
    const wanted = COVERED.test(character) ? font : 'symbols'
    const last = cut.at(-1)
    if (last?.font === wanted) last.text += character
    else cut.push({ text: character, font: wanted })
  }
  return cut.length ? cut : [{ text: '', font }]
}

/** Font family for a text inside a drawing, which cannot be cut into runs. */
export const drawingFont = (text: string, mono: boolean): string =>
  [...text].every((c) => COVERED.test(c)) ? (mono ? 'figures' : 'words') : 'symbols'

/** The printer: what it is given can be looked at in its place. */
export const printer = {
  print: (definition: Record<string, unknown>): Promise<Buffer> => pdfmake.createPdf(definition).getBuffer(),
}
/** Renders a pdfmake document definition. */
export const renderPdf = (definition: Record<string, unknown>): Promise<Buffer> => printer.print(definition)
