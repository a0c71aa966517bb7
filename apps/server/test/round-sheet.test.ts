// The round on paper: one sheet, however much of a day stands on it.
import type { Round } from '@calm-loop/contract'
import { NO_HEAD } from '@calm-loop/contract'
import { WORKS } from '@calm-loop/core/round'
import { expect, it } from 'vitest'
import { roundPdf } from '../src/documents/round-sheet.ts'

const DAY = '2026-11-30'
const pages = (pdf: Uint8Array) =>
  Buffer.from(pdf)
    .toString('latin1')
    .match(/\/Type \/Page\b/g)!.length
const roundOf = (count: number): Round => ({
  ...{ day: DAY, more: 0, kit: [], walking: { areas: [] }, past: {}, wanted: 4, mine: null, jobs: [] },
  loops: Array.from({ length: count }, (_, i) => ({
    ...{ id: `${i}`, tag: `LT-${100 + i}`, service: 'Wash tank level', area: `Area ${i % 5}`, kind: 'level', due: DAY },
    ...{ works: ['loop-check', WORKS[i % WORKS.length]!], brings: [] },
    needs: [{ what: 'Loop current', unit: 'mA', low: 4, high: 20, tolerance: 0.08 }],
  })),
})
it.each([0, 1, 7, 12, 20, 30])('with %i loops', async (count) => {
  expect(pages(await roundPdf({ round: roundOf(count), name: 'Ailsa Fenn', site: NO_HEAD }))).toBe(1)
})
