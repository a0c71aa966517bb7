// Mains, protective earth and shields: what must not touch, and what must be earthed where.
import { mainsOf, netOf } from './energise.ts'
import { finding, type WiringFinding } from './finding.ts'
import { FUNCTIONS, type Wiring } from './record.ts'

import { terminalsOf } from './types.ts'
import { sure } from '../sure/index.ts'

type Spots = ReturnType<typeof terminalsOf>
type Mains = ReturnType<typeof mainsOf>

/** Where mains stands that it has no business. */
function misplaced(spots: Spots, { live, neutral }: Mains): WiringFinding[] {
  const found: WiringFinding[] = []
  for (const [ref, spot] of spots) {
    const domain = FUNCTIONS[spot.does].domain
    const on = live.has(ref) ? 'live' : neutral.has(ref) ? 'neutral' : undefined
    // Mains may pass a junction box or a fuse; it has no business at a barrier or at a resistor of the loop.
    const passes = domain === 'any' && (spot.type.role === 'joint' || spot.type.role === 'fuse')
    if (on && domain !== 'ac' && !passes)
      found.push(
        finding({
          code: domain === 'earth' ? 'mains-on-earth' : 'mains-on-dc',
          grade: 'stop',
          where: [ref, spot.device.id],
          what:
            `Mains ${on} is on terminal ${ref} of ${spot.device.name}, which is made for ` +
            `${domain === 'earth' ? 'earth' : 'low voltage'}.`,
          why: 'It destroys the electronics and puts mains on everything the loop touches. It can kill.',
          action: 'Do not switch on. Isolate, prove dead, and have the licensed person land it where it belongs.',
        }),
      )
  }
  const both = [...live].filter((ref) => neutral.has(ref))
  if (both.length)
    found.push(
      finding({
        code: 'mains-shorted',
        grade: 'stop',
        where: both,
        what: 'Live and neutral are joined.',
        why: 'A mains short circuit at switch-on.',
        action: 'Take out the conductor that joins them.',
      }),
    )
  return found
}

/** At each device that mains feeds: the two conductors exchanged, no protective earth. */
function atDevices(wiring: Wiring, spots: Spots, { live, neutral }: Mains): WiringFinding[] {
  const found: WiringFinding[] = []
  for (const device of wiring.devices) {
    const own = [...spots.values()].filter((s) => s.device === device)
    if (own[0]?.type.role === 'mains') continue
    const [l, n, e] = ['live', 'neutral', 'earth'].map((does) => own.find((s) => s.does === does)?.terminal)
    if (l === undefined || n === undefined) continue
    const [lRef, nRef] = [`${device.id}:${l}`, `${device.id}:${n}`]
    if (live.has(nRef) && neutral.has(lRef))
      found.push(
        finding({
          code: 'live-neutral-exchanged',
          grade: 'stop',
          where: [lRef, nRef, device.id],
          what: `Live and neutral are exchanged at ${device.name}.`,
          why: 'It works, and its fuse and switch then stand in the neutral: switched off it is still live inside.',
          action: 'Exchange the two conductors, by a licensed person.',
        }),
      )
    if (e === undefined || (!live.has(lRef) && !live.has(nRef))) continue
    const eRef = `${device.id}:${e}`
    const net = netOf(wiring, [eRef])
    if (![...net].some((ref) => ref !== eRef && spots.get(ref)?.does === 'earth'))
      found.push(
        finding({
          code: 'no-protective-earth',
          grade: 'stop',
          where: [eRef, device.id],
          what: `${device.name} has mains but no protective earth.`,
          why: 'A fault inside would make its case live.',
          action: 'Land the earth conductor first, and prove it.',
        }),
      )
  }
  return found
}

export function mainsFindings(wiring: Wiring): WiringFinding[] {
  const [spots, mains] = [terminalsOf(wiring), mainsOf(wiring)]
  return [...misplaced(spots, mains), ...atDevices(wiring, spots, mains)]
}

/** Shields earthed at both ends, or at none. */
export function shieldFindings(wiring: Wiring): WiringFinding[] {
  const spots = terminalsOf(wiring)
  const shields = wiring.conductors.filter((c) => c.core === 'shield')
  const seen = new Set<string>()
  return shields.flatMap((shield) => {
    if (seen.has(shield.id)) return []
    const net = netOf({ ...wiring, conductors: shields }, [shield.from, shield.to].filter(Boolean))
    const mine = shields.filter((c) => net.has(c.from) || net.has(c.to))
    for (const c of mine) seen.add(c.id)
    const refs = [...net].filter((ref) => spots.get(ref)?.does === 'earth')
    const places = new Set(refs.map((ref) => (sure(spots.get(ref)).type.place === 'field' ? 'field' : 'cabinet')))
    const cables = [...new Set(mine.map((c) => c.cable ?? c.id))].join(' and ')
    const where = [...mine.map((c) => c.id), ...refs]
    if (places.size > 1)
      return [
        finding({
          code: 'shield-earthed-twice',
          grade: 'look',
          where,
          what: `The shield of ${cables} is earthed at both ends.`,
          why: 'Different earth potentials drive a current along it, which appears in the signal as hum and drift.',
          action:
            'Cut it back and insulate it at the field end, unless the site’s practice for interference says otherwise.',
          sure: 'Likely; some sites earth both ends on purpose, over a potential-equalising conductor.',
        }),
      ]
    if (refs.length === 0)
      return [
        finding({
          code: 'shield-not-earthed',
          grade: 'look',
          where,
          what: `The shield of ${cables} is earthed nowhere.`,
          why: 'It then collects interference instead of leading it away.',
          action: 'Earth it at the cabinet.',
          sure: 'Likely.',
        }),
      ]
    return []
  })
}
