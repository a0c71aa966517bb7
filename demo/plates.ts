// Makes the photographs of plates in `demo/plates`: drawn, of made-up devices. `node --import tsx demo/plates.ts`
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { drawnPlate, type Quality } from '../apps/server/test/plates.ts'

const PLATES: readonly { tag: string; seed: number; quality: Quality; words: string; lines: readonly string[] }[] = [
  {
    ...{ tag: 'FT-214', seed: 3, quality: 'good', words: 'On the sensor, under the lagging' },
    lines: [
      'METER  C2  SEPARATE',
      'SERIAL NO  C2-S-20893',
      'Kf  2.31750',
      'ct  4.31',
      'T-lo  5211.048',
      'T-hi  5983.310',
      'ρ-lo  1.20',
      'ρ-hi  998.1',
      'cp  4.37',
    ],
  },
  {
    ...{ tag: 'FT-101', seed: 2, quality: 'fair', words: 'Both shoes, before they were strapped on' },
    lines: ['CLAMP PAIR M', 'SERIAL NO  M-11806A', 'TO 120 C', 'CLAMP PAIR M', 'SERIAL NO  M-11806B', 'TO 120 C'],
  },
  {
    ...{ tag: 'ZS-502', seed: 45, quality: 'fair', words: 'On its cable' },
    lines: ['CYLINDER SENSOR C4', 'SERIAL NO  C4-20931', 'SUPPLY  10-30 V DC', 'OUTPUT  PNP 200 mA', 'IP 67'],
  },
]
const folder = join(import.meta.dirname, 'plates')
mkdirSync(folder, { recursive: true })
for (const { tag, seed, quality, lines } of PLATES)
  writeFileSync(join(folder, `${tag}.jpg`), drawnPlate(seed, quality, lines).canvas.toBuffer('image/jpeg', 80))
writeFileSync(
  join(folder, 'plates.json'),
  `${JSON.stringify(
    PLATES.map(({ tag, words }) => ({ tag, words, by: 'ailsa', name: `${tag} plate.jpg` })),
    null,
    2,
  )}\n`,
)
