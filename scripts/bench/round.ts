// A round of two hundred jobs on as many loops, half of them due, with sixty pieces of kit.
import { KINDS, worksOf } from '@calm-loop/core/kinds'
import { planRound, type RoundInput } from '@calm-loop/core/round'
import { row, sample, type Row } from './measure.ts'

const [JOBS, KIT] = [200, 60]
const input: RoundInput = {
  ...{ day: '2026-12-01', until: '2026-12-07', byHand: [], past: {}, wanted: 4 },
  areas: Array.from({ length: 20 }, (_, i) => `Area ${i}`),
  loops: Array.from({ length: JOBS }, (_, i) => ({
    id: `${i}`,
    tag: `LT-${i}`,
    area: `Area ${i % 25}`,
    kind: KINDS[i % KINDS.length]!.id,
    works: worksOf(KINDS[i % KINDS.length]!, {}),
    due: i % 2 ? '2026-12-03' : null,
    needs: [
      { tag: `LT-${i}`, what: 'loop current', unit: 'mA', low: 4, high: 20, tolerance: 0.02 * (1 + (i % 5)) },
      { tag: `LT-${i}`, what: 'pressure', unit: 'bar', low: 0, high: 1 + (i % 30), tolerance: 0.01 * (1 + (i % 7)) },
    ],
  })),
  jobs: Array.from({ length: JOBS }, (_, i) => ({
    ...{ id: `j${i}`, loopId: `${i}`, what: 'Look at it', why: 'It reads high', by: null, from: 'Bree' },
    made: '2026-11-30T06:00:00.000Z',
  })),
  kit: Array.from({ length: KIT }, (_, i) => ({
    ...{ id: `k${i}`, name: `Piece ${i}`, serial: `${i}`, due: '2027-06-01', holder: null },
    ranges: [
      i % 2
        ? { quantity: 'current', unit: 'mA', low: 0, high: 24, fixed: 0.001 * (1 + (i % 9)) }
        : { quantity: 'pressure', unit: 'bar', low: 0, high: 2 + i, pctOfRange: 0.02 * (1 + (i % 5)) },
    ],
  })),
}

export const round = async (): Promise<Row> =>
  row({
    ...{ what: `a round of ${JOBS} jobs planned`, unit: 'ms', target: 100, judged: 'p95' },
    times_ms: await sample(() => planRound(input), { samples: 40, warm: 5 }),
  })
