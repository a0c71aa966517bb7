// A paper as a printer would draw it.
import { createCanvas } from '@napi-rs/canvas'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'

/** The pages of a paper as pictures of so many points to the inch, and their words. */
export async function drawn(pdf: Uint8Array, dpi = 300) {
  const paper = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise
  return Promise.all(
    Array.from({ length: paper.numPages }, async (_, i) => {
      const page = await paper.getPage(i + 1)
      const viewport = page.getViewport({ scale: dpi / 72 })
      const canvas = createCanvas(Math.ceil(viewport.width), Math.ceil(viewport.height))
      const at = canvas.getContext('2d')
      await page.render({ canvasContext: at as never, viewport }).promise
      const { items } = await page.getTextContent()
      const words = items.flatMap((item) => ('str' in item ? [item] : []))
      const [width, height] = [viewport.width * (72 / dpi), viewport.height * (72 / dpi)]
      return { canvas, at, scale: dpi / 72, words, width, height }
    }),
  )
}
