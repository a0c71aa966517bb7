// Before power: every wiring that would read wrong is stopped, and none that reads right. What reads wrong is found by
// the solver alone, at every current, against the current that the output means.
import { describe, expect, it } from 'vitest'
import { seedFrom, uniform } from '../device/index.ts'
import {
  addDevice,
  connect,
  energise,
  judgeWiring,
  landConductor,
  propose,
  shuntsOf,
  takeOut,
  terminalsOf,
  type Wiring,
} from './index.ts'
import { everyArrangement, usual } from './wiring.fixture.ts'

const MOST_mA = 21.5
const stops = (wiring: Wiring) => judgeWiring(wiring, usual, MOST_mA).findings.filter((f) => f.grade === 'stop')

/** What each receiver's inputs read, by part, at a current that the output means. */
const readings = (wiring: Wiring, mA: number): Map<string, number> => {
  const { solution } = energise({ wiring, conditions: { ...usual, mA } })
  return new Map(shuntsOf(wiring).map((s) => [s.part, solution.parts[s.part]?.mA ?? 0]))
}
/** How far off, in % of span, any input is that reads the loop where it is wired right. */
function wrongBy(wiring: Wiring, right: Wiring): number {
  let worst = 0
  for (const mA of [4, 12, 20]) {
    const [now, meant] = [readings(wiring, mA), readings(right, mA)]
    for (const [part, value] of meant)
      if (Math.abs(value) > 0.5) worst = Math.max(worst, (100 * Math.abs((now.get(part) ?? 0) - value)) / 16)
  }
  return worst
}
function drawn(seedText: string) {
  let seed = seedFrom(seedText)
  const draw = () => {
    const [u, next] = uniform(seed)
    seed = next
    return u
  }
  return { draw, pick: <T>(of: readonly T[]): T => of[Math.floor(draw() * of.length)]! }
}
/** What was changed, for whoever reads a failure. */
const said = (right: Wiring, wrong: Wiring): string => {
  const ends = (w: Wiring) => w.conductors.map((c) => `${c.from}>${c.to}`)
  const [a, b] = [ends(right), ends(wrong)]
  const only = (of: readonly string[], besides: readonly string[]) => of.filter((e) => !besides.includes(e)).join(' ')
  return `${only(a, b)} => ${only(b, a)} of ${a.join(' ')}`
}
const ANALOGUE = everyArrangement().filter((a) => a.output !== 'digital bus')

const NOT_DC = ['live', 'neutral', 'earth', 'shield']
/** One thing that a hand in a hurry does: lands a core elsewhere, leaves one out, adds one, exchanges two. */
function spoil(wiring: Wiring, { draw, pick }: ReturnType<typeof drawn>): { wiring: Wiring; how: string } {
  const refs = [...terminalsOf(wiring)].flatMap(([ref, { does }]) => (NOT_DC.includes(does) ? [] : [ref]))
  const cores = wiring.conductors.filter((c) => refs.includes(c.from) && refs.includes(c.to))
  const core = pick(cores)
  const how = pick(['land', 'leave out', 'join', 'exchange'] as const)
  try {
    switch (how) {
      case 'land':
        return { how, wiring: landConductor(wiring, core.id, draw() < 0.5 ? 'from' : 'to', pick(refs)) }
      case 'leave out':
        return { how, wiring: takeOut(wiring, core.id) }
      case 'join':
        return { how, wiring: connect(wiring, pick(refs), pick(refs)) }
      case 'exchange': {
        const other = pick(cores)
        return { how, wiring: landConductor(landConductor(wiring, core.id, 'to', other.to), other.id, 'to', core.to) }
      }
    }
  } catch {
    return spoil(wiring, { draw, pick })
  }
}

/** Wired another way, and right all the same: a core doubled, a fused terminal or a joint in its way. */
function varied(wiring: Wiring, { draw, pick }: ReturnType<typeof drawn>): Wiring {
  const dc = wiring.conductors.filter((c) => c.core !== 'shield' && c.from && c.to)
  const spots = terminalsOf(wiring)
  const loop = dc.filter((c) => [c.from, c.to].some((r) => /^(loop|in|out)/.test(spots.get(r)?.does ?? '')))
  const core = pick(loop)
  if (draw() < 0.3) return connect(wiring, core.from, core.to)
  // In series with a core of the loop.
  const type = draw() < 0.7 ? 'fuse' : 'junction'
  const into = addDevice(wiring, type, 'On the way')
  const { id } = into.devices.at(-1)!
  return connect(landConductor(into, core.id, 'to', `${id}:1`), `${id}:${type === 'fuse' ? 2 : 1}`, core.to)
}

describe('before power', () => {
  it('stops nothing of all that can be proposed', () => {
    const refused = everyArrangement().flatMap((a) => {
      const found = stops(propose(a))
      // What cannot work is told so, and it does not: its receiver reads wrong, or its supply is too low.
      return found.length ? [[JSON.stringify(a), found.map((f) => f.code).join()]] : []
    })
    expect(new Set(refused.map(([, codes]) => codes))).toEqual(new Set())
  })
  it('misses none of 1 000 that would read wrong by more than 1 % of span', () => {
    const dice = drawn('before power')
    const missed: string[] = []
    let wrong = 0
    for (let k = 0; wrong < 1000 && k < 4000; k++) {
      const right = propose(dice.pick(ANALOGUE))
      if (stops(right).length) continue
      const { wiring, how } = spoil(right, dice)
      const off = wrongBy(wiring, right)
      if (!(off > 1)) continue
      wrong++
      if (!stops(wiring).length) missed.push(`${how} ${off.toFixed(1)} ${said(right, wiring)}`)
    }
    expect(wrong).toBe(1000)
    expect(missed.slice(0, 20)).toEqual([])
  })
  it('stops none of 500 random right ones', () => {
    const dice = drawn('right ones')
    const refused: string[] = []
    for (let k = 0, right = 0; right < 500 && k < 4000; k++) {
      const proposed = propose(dice.pick(ANALOGUE))
      const wiring = varied(proposed, dice)
      if (wrongBy(wiring, proposed) > 0.2) continue
      right++
      const found = stops(wiring).map((f) => f.code)
      if (found.length) refused.push(`${found.join()} ${said(proposed, wiring)}`)
    }
    expect(refused.slice(0, 10)).toEqual([])
  })
})
