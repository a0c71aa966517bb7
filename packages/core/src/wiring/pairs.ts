// Two faults at once, where no single one explains what was read.
import { inSentence } from '../words/index.ts'
import type { Fault } from './fault.ts'
import { refine, tryFault, type Trial, type Tries } from './try-fault.ts'

/** Two at once are met so much more seldom than one. */
const BOTH = 0.02
/** The faults of which each pair has one: those that come nearest by themselves. */
const FIRSTS = 12
const COARSE = 4
/** Pairs that are worth finding both figures exactly. */
const KEPT = 24

/** One fault at a figure of its own, and another beside it. */
const together = (a: Fault, figure: number, b: Fault): Fault => ({
  id: `${a.id} & ${b.id}`,
  kind: a.kind,
  says: `${a.says}, and ${inSentence(b.says)}`,
  where: [...new Set([...a.where, ...b.where])],
  usual: a.usual * b.usual * BOTH,
  alter: (own) => {
    const [first, second] = [a.alter(figure), b.alter(own)]
    return (parts) => second(first(parts).map((p) => (p.id === 'fault' ? { ...p, id: 'fault:first' } : p)))
  },
  both: [a, b],
  ...(b.figure ? { figure: b.figure } : {}),
})

/** How well a pair fits and how often its two are met; a bad fit that only wants its figures is not yet lost. */
const worth = ({ misfit, fault }: Trial): number => Math.log(1 + misfit) - 0.5 * Math.log(fault.usual)

/** The best pairs of the faults that were tried by themselves, their figures roughly found. */
export function pairsOf(tries: Tries, singles: readonly Trial[]): Trial[] {
  const usable = singles.filter((t) => t.fault.kind !== 'none' && !t.fault.seen)
  const firsts = usable.toSorted((a, b) => a.misfit - b.misfit).slice(0, FIRSTS)
  const seen = new Set<string>()
  const found: Trial[] = []
  for (const first of firsts)
    for (const second of usable) {
      const key = [first.fault.id, second.fault.id].sort().join(' & ')
      if (first === second || seen.has(key)) continue
      seen.add(key)
      const trial = tryFault(tries, together(first.fault, first.figure ?? 0, second.fault), COARSE)
      if (trial) found.push(trial)
    }
  return found
    .sort((a, b) => worth(a) - worth(b))
    .slice(0, KEPT)
    .map((trial) => settle(tries, trial))
}

/** How often each figure is found anew with the other held. */
const TURNS = 3

/** Both figures by turns: the second with the first held, then the first with the second held. */
function settle(tries: Tries, trial: Trial): Trial {
  let best = refine(trial, tries.readings)
  for (let turn = 0; turn < TURNS; turn++) {
    const [held, free] = best.fault.both ?? []
    if (!held?.figure || !free) return best
    const turned = tryFault(tries, together(free, best.figure ?? 0, held), COARSE)
    const back = turned && refine(turned, tries.readings)
    if (!back || back.misfit >= best.misfit) return best
    best = back
  }
  return best
}
