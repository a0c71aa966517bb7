// Colours: a core whose colour says one thing and whose terminal another, and a colour that changes its meaning across
// a joint.
import { finding, type WiringFinding } from './finding.ts'
import { netOf } from './energise.ts'
import type { Conductor, TerminalFunction, Wiring } from './record.ts'
import { conventionOf, terminalsOf } from './types.ts'

/** What a terminal’s function makes of the conductor on it, in the words of the colour conventions. */
const MEANS: Partial<Record<TerminalFunction, string>> = {
  'feeds+': 'plus',
  'supply+': 'plus',
  'feeds-': 'minus',
  'supply-': 'minus',
  live: 'live',
  neutral: 'neutral',
  earth: 'protective earth',
  'bus+': 'bus high',
  'bus-': 'bus low',
  'bus-common': 'bus common',
}
const AGAINST: Readonly<Record<string, readonly string[]>> = {
  plus: ['minus', 'neutral', 'live', 'protective earth', 'bus low'],
  minus: ['plus', 'live', 'neutral', 'protective earth', 'bus high'],
  live: ['neutral', 'protective earth', 'minus', 'plus'],
  neutral: ['live', 'protective earth', 'plus', 'minus'],
  'protective earth': ['live', 'neutral', 'plus', 'minus', 'output'],
  'bus high': ['bus low', 'minus', 'plus'],
  'bus low': ['bus high', 'plus', 'minus'],
}

const meaningOf = (wiring: Wiring, c: Conductor): { means: string; convention: string } | undefined => {
  const cable = wiring.cables.find((k) => k.id === c.cable)
  if (!cable || !c.colour) return undefined
  const convention = conventionOf(cable)
  const means = convention.colours[c.colour]
  return means ? { means, convention: convention.name } : undefined
}

export function colourFindings(wiring: Wiring): WiringFinding[] {
  const spots = terminalsOf(wiring)
  const found: WiringFinding[] = []
  for (const c of wiring.conductors) {
    const meaning = meaningOf(wiring, c)
    if (!meaning) continue
    const net = netOf(wiring, [c.from, c.to].filter(Boolean))
    const used = new Set([...net].flatMap((ref) => MEANS[spots.get(ref)?.does ?? 'through'] ?? []))
    const clash = (AGAINST[meaning.means] ?? []).find((m) => used.has(m) && !used.has(meaning.means))
    if (clash)
      found.push(
        finding({
          code: 'colour-against-function',
          grade: 'look',
          where: [c.id],
          what:
            `The ${c.colour} core of ${c.cable} means ${meaning.means} (${meaning.convention}), and carries ` +
            `${clash}.`,
          why: 'The next person trusts the colour.',
          action: 'Land it by its colour, or sleeve both ends and say so on the sheet.',
          sure: 'Likely; right only where the cores were chosen so on purpose.',
        }),
      )
  }
  const warned = new Set<string>()
  for (const a of wiring.conductors)
    for (const b of wiring.conductors) {
      if (a.id >= b.id || a.cable === b.cable || !a.colour || a.colour !== b.colour || a.colour === 'shield') continue
      const [one, two] = [meaningOf(wiring, a), meaningOf(wiring, b)]
      if (!one || !two || one.means === two.means) continue
      const joint = [a.from, a.to]
        .map((r) => r.split(':')[0])
        .find((d) => d && [b.from, b.to].some((r) => r.split(':')[0] === d))
      const key = `${joint} ${a.colour} ${a.cable} ${b.cable}`
      if (!joint || warned.has(key)) continue
      warned.add(key)
      found.push(
        finding({
          code: 'colour-changes-meaning',
          grade: 'look',
          where: [a.id, b.id, joint],
          what:
            `At ${joint}, ${a.colour} means ${one.means} in ${a.cable} (${one.convention}) and ${two.means} in ` +
            `${b.cable} (${two.convention}).`,
          why: 'Whoever follows the colour across this joint lands on the wrong terminal.',
          action: 'Go by the ferrules here, and put the legend of each cable inside the cover.',
          sure: 'Certain, by the legends of the two cables.',
        }),
      )
    }
  return found
}
