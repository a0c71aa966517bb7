// Reads the plate in a photograph, on this machine: what reads letters and what it was trained with come from this
// server, and no byte of the picture goes anywhere.
import { PARAMETERS, readingOf, type ReadLine, type Variant } from '@calm-loop/core/plate'
import { transfer, wrap } from 'comlink'
import { sure } from '@calm-loop/core/sure'
import type { PlateWorker } from '../workers/plate.worker.ts'

/** Where what reads letters is served from: see `vite.config.ts`. */
const READING = '/reading'
/** Points on the longer side of the picture that is read: boxes are in points of it. */
const LONGEST = 2000

export interface ReadPlate {
  readonly lines: readonly ReadLine[]
  /** How many points of the photograph lie on one of those that boxes are in. */
  readonly times: number
}

async function openReader() {
  const { createWorker, OEM } = await import('tesseract.js')
  const reader = await createWorker('eng', OEM.LSTM_ONLY, {
    workerPath: `${READING}/worker.min.js`,
    corePath: READING,
    langPath: READING,
    workerBlobURL: false,
    cacheMethod: 'none',
  })
  await reader.setParameters(PARAMETERS as unknown as Parameters<typeof reader.setParameters>[0])
  return {
    async read({ file, times }: Variant) {
      const { data } = await reader.recognize(new Blob([file]), {}, { blocks: true, text: false })
      return readingOf(data.blocks, times)
    },
    close: () => reader.terminate(),
  }
}

/** Readers side by side: as many as there are cores, two at most. */
const readersWanted = () => Math.min(2, navigator.hardwareConcurrency || 1)

/**
 * What stands on the plate in a photograph.
 * @param tell told how far it is, 0 to 1
 * @throws where what reads letters cannot be fetched
 */
export async function readPlate(picture: ImageBitmap, tell: (share: number) => void): Promise<ReadPlate> {
  const times = Math.max(1, Math.max(picture.width, picture.height) / LONGEST)
  const canvas = new OffscreenCanvas(Math.round(picture.width / times), Math.round(picture.height / times))
  const at = sure(canvas.getContext('2d', { willReadFrequently: true }) ?? undefined)
  at.drawImage(picture, 0, 0, canvas.width, canvas.height)
  const { data } = at.getImageData(0, 0, canvas.width, canvas.height)
  const worker = new Worker(new URL('../workers/plate.worker.ts', import.meta.url), { type: 'module' })
  const preparing = wrap<PlateWorker>(worker)
  const opening = Array.from({ length: readersWanted() }, openReader)
  try {
    const variants = await preparing.prepare(transfer(data, [data.buffer]), canvas.width, canvas.height)
    const readers = await Promise.all(opening)
    tell(0.25)
    let done = 0
    const readings = await Promise.all(
      readers.map(async (reader, r) => {
        const own = []
        for (const variant of variants.filter((_, i) => i % readers.length === r)) {
          own.push(await reader.read(variant))
          tell(0.25 + (0.75 * ++done) / variants.length)
        }
        return own
      }),
    )
    return { lines: await preparing.together(readings.flat()), times }
  } finally {
    worker.terminate()
    for (const open of opening) void open.then((reader) => reader.close()).catch(() => undefined)
  }
}
