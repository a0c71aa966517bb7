// A plate of a made-up sensor, read three times over by two readers, from its points to what they agree on.
import { greyOf, PARAMETERS, prepared, readingOf, together, type Blocks } from '@calm-loop/core/plate'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { createWorker, OEM } from 'tesseract.js'
import { drawnPlate, plateLines } from '../../apps/server/test/plates.ts'
import { row, sample, type Row } from './measure.ts'

export async function plate(): Promise<Row> {
  const trained = dirname(createRequire(import.meta.url).resolve('@tesseract.js-data/eng/package.json'))
  const how = { langPath: join(trained, '4.0.0_best_int'), cacheMethod: 'none' }
  const readers = await Promise.all([1, 2].map(() => createWorker('eng', OEM.LSTM_ONLY, how)))
  type Wanted = Parameters<(typeof readers)[0]['setParameters']>[0]
  for (const reader of readers) await reader.setParameters(PARAMETERS as unknown as Wanted)
  const picture = drawnPlate(1, 'good', plateLines(1))
  const read = async () => {
    const { variants, seen } = prepared(greyOf(picture.rgba, picture.width, picture.height))
    const readings = await Promise.all(
      readers.map(async (reader, r) => {
        const own = []
        for (const { file, times } of variants.filter((_, i) => i % 2 === r)) {
          const { data } = await reader.recognize(Buffer.from(file), {}, { blocks: true, text: false })
          own.push(readingOf(data.blocks as unknown as readonly Blocks[], times))
        }
        return own
      }),
    )
    return together(readings.flat(), seen)
  }
  const times_ms = await sample(read, { samples: 8, warm: 1 })
  for (const reader of readers) await reader.terminate()
  return row({
    ...{ what: 'a plate read, three readings by two readers', unit: 'ms', target: 4000 },
    times_ms,
    judged: 'p95',
  })
}
