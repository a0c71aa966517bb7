// The plan of a round, from what the server told and as its person has put it: the same on the page and on paper.
import { planRound, type RoundPlan } from '@calm-loop/core/round'
import { MOST_PACKED } from './limits.ts'
import type { PutRound, Round, RoundState } from './round.ts'

/** When one sets out where nobody has said. */
const USUAL_BEGIN = '07:30'
/** A day that nobody has put yet. */
export const usualState = (day: string): RoundState => ({
  until: day,
  begins: USUAL_BEGIN,
  areas: [],
  byHand: [],
  packed: [],
})

/** A day as it stands once some of it is put otherwise. */
export function roundPut(state: RoundState, { pack, ...more }: PutRound): RoundState {
  const given = Object.fromEntries(Object.entries(more).filter(([, v]) => v !== undefined))
  const next: RoundState = { ...state, ...given }
  if (!pack) return next
  const others = next.packed.filter((k) => k !== pack.key)
  return { ...next, packed: pack.on ? [...others, pack.key].slice(-MOST_PACKED) : others }
}

/** The plan of a round as its person has put it. */
export function planOfRound(round: Round, state: Pick<RoundState, 'until' | 'areas' | 'byHand'>): RoundPlan {
  const { day, loops: all, jobs, kit, walking, past, wanted } = round
  const here = all.filter((l) => !state.areas.length || state.areas.includes(l.area))
  const elsewhere = new Set(all.filter((l) => !here.includes(l)).map((l) => l.id))
  const told = new Map(walking.areas.map((a) => [a.area, a.told]))
  return planRound({
    ...{ day, until: state.until, past, wanted, byHand: state.byHand },
    loops: here.map((l) => ({ ...l, told: told.get(l.area) || undefined })),
    jobs: jobs.filter((j) => !elsewhere.has(j.loopId)),
    kit: kit.map(({ move, ...piece }) => ({ ...piece, holder: move?.holder?.name ?? null })),
    areas: walking.areas.map((a) => a.area),
  })
}
