// What can be wrong with the pair of a clamp-on point.
import type { Finding } from '../../findings/index.ts'
import { bodiesMeet, isMatchedPair, TRANSDUCERS, transducersFor } from '../../flow/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { finding } from '../../findings/index.ts'
import type { Reader } from '../reader.ts'
import { meanVelocity } from './meter.ts'
import { offPlan } from '../off-plan.ts'
import { beamOf, pairsOf, sameSideOf, spacingOf, spacingPlan, type ClampOn } from './setup.ts'
import { sure } from '../../sure/index.ts'

const mm = (v: number) => show(v, 'mm', { decimals: 1, trim: true })
/** Numbers of the pairs: each one pair, and two paths two of them. */
function serialFindings(r: Reader): Finding[] {
  const found: Finding[] = []
  const pairs = pairsOf(r)
  for (const { keys, a, b } of pairs)
    if (a && b && !isMatchedPair(a, b))
      found.push(
        finding({
          grade: 'stop',
          code: 'not-a-pair',
          fields: keys,
          what: `${a} and ${b} are not one matched pair.`,
          why:
            'Transducers are matched in pairs; two that do not belong together have a zero of their own and a ' +
            'weak signal.',
          action: 'Mount the two with the same number, one ending in A, the other in B.',
          sure: 'Certain, if the numbers were copied right.',
        }),
      )
  const [first, second] = pairs
  if (first && second && first.a && (first.a === second.a || first.a === second.b))
    found.push(
      finding({
        grade: 'stop',
        code: 'same-pair-twice',
        fields: second.keys,
        what: `${first.a} stands on both paths.`,
        why: 'One transducer sits in one place.',
        action: 'Copy the numbers of the second pair from its own plates.',
        sure: 'Certain.',
      }),
    )
  if (r.text('paths') === '2' && !second)
    found.push(
      finding({
        grade: 'note',
        code: 'second-pair-unknown',
        fields: ['serialA2', 'serialB2'],
        what: 'The second path has no serial numbers yet.',
        why: 'Two pairs hang on the pipe; exchanged by one transducer, both are weak.',
        action: 'Enter the numbers of the second pair.',
        sure: 'Certain.',
      }),
    )
  return found
}

/** Two bodies on one side need room for each other. */
function bodyFindings(c: ClampOn, r: Reader): Finding[] {
  const [spacing, pair] = [spacingOf(c, r)?.spacing_mm, sameSideOf(c, r)]
  if (spacing === undefined || !pair || c.traverses % 2 === 1 || !bodiesMeet(spacing, pair.body_mm)) return []
  return [
    finding({
      grade: 'stop',
      code: 'bodies-meet',
      fields: ['traverses', 'transducer'],
      what: `The pair sits ${mm(spacing)} apart on one side; a body is ${mm(pair.body_mm)} long.`,
      why: 'Two bodies cannot be where one is.',
      action:
        c.traverses === 2 && !bodiesMeet(pair.four_mm, pair.body_mm)
          ? 'Take four traverses, or mount the pair on opposite sides.'
          : 'Mount the pair on opposite sides, or take a smaller pair.',
      sure: 'Certain, by the length of the body.',
    }),
  ]
}

export function pairFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  found.push(...serialFindings(r), ...bodyFindings(c, r))
  const [spacing, set] = [spacingOf(c, r), r.in('setSpacing', 'mm')]
  if (spacing && set !== undefined)
    found.push(
      ...offPlan(spacingPlan(spacing.spacing_mm), set, {
        code: 'spacing-off',
        fields: ['setSpacing'],
        why: 'Pipe, wall, liner, fluid and pair give the spacing; one of them may have changed since it was set.',
        action: 'Set the pair anew, and enter how it sits.',
      }),
    )
  const chosen = TRANSDUCERS.find((t) => t.id === r.text('transducer'))
  if (chosen && c.od_mm !== undefined && c.wall_mm !== undefined) {
    const temp = r.in('fluidTemp', 'degC') ?? 20
    const suits = transducersFor({
      od_mm: c.od_mm,
      wall_mm: c.wall_mm,
      metal: c.metal,
      lined: c.lined,
      temp_C: temp,
      medium: r.text('medium') === 'gas' ? 'gas' : 'liquid',
    })
    const own = sure(suits.find((s) => s.transducer.id === chosen.id))
    if (own.against.length)
      found.push(
        finding({
          grade: 'look',
          code: 'transducer-unsuited',
          fields: ['transducer'],
          what: `${chosen.name} does not suit this pipe: ${own.against.join('; ')}.`,
          why: 'The signal will be weak or none.',
          action: sure(suits[0]).against.length
            ? 'Ask the maker for another size.'
            : `Take ${sure(suits[0]).transducer.name}.`,
          sure: 'Likely; the maker’s data come first.',
        }),
      )
  }
  const beam = beamOf(c)
  const [lrv, urv] = [r.in('lrv', 'm3/h'), r.in('urv', 'm3/h')]
  if (beam && lrv !== undefined && urv !== undefined) {
    const fastest = Math.max(Math.abs(meanVelocity(lrv, beam.id_mm)), Math.abs(meanVelocity(urv, beam.id_mm)))
    const most = r.text('medium') === 'gas' ? 35 : 12
    if (fastest > most)
      found.push(
        finding({
          grade: 'look',
          code: 'velocity-high',
          fields: ['lrv', 'urv'],
          what: `The range reaches a velocity of ${show(fastest, 'm/s')}.`,
          why: `Above about ${most} m/s the beam is blown off the other transducer.`,
          action: 'Check the range and its unit, or the diameter.',
          sure: 'Usual limit.',
        }),
      )
  }
  return found
}
