// Cores that are joined where they should not be: side by side in a box, or on a terminal that is there to measure.
import { formatQuantity as show } from '../quantity/index.ts'
import { energise, type Conditions } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import type { Conductor, Wiring } from './record.ts'
import { terminalsOf } from './types.ts'
import { inSentence } from '../words/index.ts'

/** Volts that stand between two cores of different nets; below it they may well belong together. */
const APART_V = 1

/** Conductors between two terminals of one joint, each of which has another core too. */
function bridges(wiring: Wiring): Conductor[] {
  const spots = terminalsOf(wiring)
  const others = (ref: string, but: Conductor) =>
    wiring.conductors.some((c) => c !== but && (c.from === ref || c.to === ref))
  return wiring.conductors.filter((c) => {
    const [a, b] = [spots.get(c.from), spots.get(c.to)]
    return a && a.device === b?.device && a.type.role === 'joint' && others(c.from, c) && others(c.to, c)
  })
}

/** Two cores joined in a box, between which volts would stand without that. */
export function bridgeFindings(wiring: Wiring, conditions: Conditions): WiringFinding[] {
  return bridges(wiring).flatMap((c) => {
    const without = energise({
      wiring: { ...wiring, conductors: wiring.conductors.filter((x) => x !== c) },
      conditions,
    })
    const volts = Math.abs(without.between(c.from, c.to))
    if (volts < APART_V) return []
    return [
      finding({
        code: 'cores-joined',
        grade: 'stop',
        where: [c.id, c.from, c.to],
        what:
          `${c.id} joins two cores in the box, ${c.from} and ${c.to}: ` +
          `${show(volts, 'V', { decimals: 1 })} belong between them.`,
        why: 'The current takes the short way, and what lies behind the box gets none or all of the supply.',
        action: `Take ${c.id} out.`,
      }),
    ]
  })
}

/** Cores on a test terminal: it reads right, and nobody can measure there any more. */
export function testTerminalFindings(wiring: Wiring): WiringFinding[] {
  const spots = terminalsOf(wiring)
  return wiring.conductors.flatMap((c) =>
    [c.from, c.to].flatMap((ref) => {
      const spot = spots.get(ref)
      if (spot?.does !== 'test+') return []
      return [
        finding({
          code: 'on-test-terminal',
          grade: 'look',
          where: [c.id, ref, spot.device.id],
          what: `${c.id} lands on the test terminal of the ${inSentence(spot.device.name)}.`,
          why:
            'The loop may read right, but its diode is passed by: a meter at the test terminals shows nothing, or ' +
            'breaks the loop when it is taken off.',
          action: 'Land it on the loop terminal beside it.',
        }),
      ]
    }),
  )
}
