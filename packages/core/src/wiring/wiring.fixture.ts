// Every arrangement that can be proposed, and usual conditions, for tests.
import { PLAIN, type Arrangement, type Conditions } from './index.ts'

export const usual: Conditions = {
  mA: 12,
  figures: { supply: 24, liftOff: 12, shunt: 250, maxV: 18, otherSeries: 0 },
  coreOhm: 2.6,
  coreOhmPerM: 0.018,
}
export const withSeries = (otherSeries: number): Conditions => ({
  ...usual,
  figures: { ...usual.figures, otherSeries },
})

export function everyArrangement(): Arrangement[] {
  const all: Arrangement[] = []
  for (const output of [
    'two-wire',
    'three-wire',
    'four-wire active',
    'four-wire passive',
    'isolated, fed by jumper',
    'digital bus',
  ] as const)
    for (const receiver of [
      'card supplies loop',
      'passive card',
      'converter, channel 1',
      'converter, channel 2',
    ] as const)
      for (const power of ['dc', 'mains'] as const)
        for (const between of ['nothing', 'barrier', 'isolator'] as const)
          for (const junction of [true, false])
            for (const second of [true, false])
              for (const otherSeries of [0, 100])
                all.push({ ...PLAIN, output, receiver, power, between, junction, second, otherSeries })
  return all
}
