// Plates read by the machine: each digit is right, or marked to be looked at.
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { greyOf, PARAMETERS, prepared, readingOf, together, type ReadLine, type Variant } from '@calm-loop/core/plate'
import { createWorker, OEM } from 'tesseract.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drawnPlate, plateLines, QUALITIES } from './plates.ts'

/** Plates of each quality, and how many are read in one test. */
const [PLATES, AT_ONCE] = [20, 5]
const trained = dirname(createRequire(import.meta.url).resolve('@tesseract.js-data/eng/package.json'))
/** One: other tests go on beside it. */
let reader: Awaited<ReturnType<typeof createWorker>>
beforeAll(async () => {
  const how = { langPath: join(trained, '4.0.0_best_int'), cacheMethod: 'none' }
  reader = await createWorker('eng', OEM.LSTM_ONLY, how)
  await reader.setParameters(PARAMETERS as unknown as Parameters<typeof reader.setParameters>[0])
})
afterAll(() => reader.terminate())

async function readOnce({ file, times }: Variant) {
  const { data } = await reader.recognize(Buffer.from(file), {}, { blocks: true, text: false })
  return readingOf(data.blocks, times)
}
async function read(plate: ReturnType<typeof drawnPlate>): Promise<readonly ReadLine[]> {
  const { variants, seen } = prepared(greyOf(plate.rgba, plate.width, plate.height))
  const readings = []
  for (const variant of variants) readings.push(await readOnce(variant))
  return together(readings, seen)
}
/** What stands on a plate between two gaps, or over some of them: a gap that is not seen is no wrong digit. */
function pieces(lines: readonly string[]): ReadonlySet<string> {
  return new Set(
    lines.flatMap((line) => {
      const words = line.split(/\s+/)
      return words.flatMap((_, i) => words.slice(i).map((__, n) => words.slice(i, i + n + 1).join('')))
    }),
  )
}
/** Words with digits of which none is marked, and whether one beside them is: then they may be a part of a value. */
const sureOf = (lines: readonly ReadLine[]) =>
  lines.flatMap(({ words }) =>
    words.flatMap(({ text, doubt }, i) => {
      if (!/\d/.test(text) || doubt.some(Boolean)) return []
      return [{ text, part: (words[i - 1]?.doubt.at(-1) ?? false) || (words[i + 1]?.doubt[0] ?? false) }]
    }),
  )
const stands = (there: ReadonlySet<string>, { text, part }: { text: string; part: boolean }) =>
  there.has(text) || (part && [...there].some((piece) => piece.startsWith(text) || piece.endsWith(text)))

describe.each(QUALITIES)('plates of %s quality', (quality) => {
  const begin = 1 + PLATES * QUALITIES.indexOf(quality)
  const seeds = Array.from({ length: PLATES }, (_, i) => begin + i)
  let sure = 0
  it.each(Array.from({ length: PLATES / AT_ONCE }, (_, n) => seeds.slice(n * AT_ONCE, (n + 1) * AT_ONCE)))(
    'have no wrong digit that is not marked: %i, %i, %i, %i, %i',
    async (...some) => {
      const wrong: string[] = []
      for (const seed of some) {
        const lines = plateLines(seed)
        const found = sureOf(await read(drawnPlate(seed, quality, lines)))
        const there = pieces(lines)
        sure += found.length
        wrong.push(...found.filter((w) => !stands(there, w)).map((w) => `plate ${seed}: ${w.text}`))
      }
      expect(wrong).toEqual([])
    },
  )
  it('have a good part of their values sure: were all marked, nothing would be gained', () => {
    expect(sure / PLATES).toBeGreaterThan({ good: 3.5, fair: 1.5, poor: 0.5 }[quality])
  })
})
