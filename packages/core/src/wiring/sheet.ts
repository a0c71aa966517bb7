// The wiring sheet: one line for each conductor, as it is landed, rung out and measured.
import { mainsOf, type Energised } from './energise.ts'
import { FUNCTIONS, type Wiring } from './record.ts'
import { conventionOf, hasVolts, terminalsOf } from './types.ts'
import { sure } from '../sure/index.ts'

export interface SheetLine {
  readonly id: string
  readonly from: string
  readonly to: string
  readonly cable: string
  readonly core: string
  readonly colour: string
  /** What that colour means, and by which convention; never the one without the other. */
  readonly convention: string
  readonly ferrule: string
  readonly function: string
  /** Volts to earth with power on, at the first end; null where they are not known. */
  readonly volts: number | null
  /** The terminal that the volts are counted from, where the circuit is not joined to earth. */
  readonly countedFrom: string
  readonly mA: number | null
  /** In place of volts: mains, insulated, loose. */
  readonly says: string
}

/** Lines of the sheet, in the order of the record. `energised` gives the expected volts; without it they stay open. */
export function wiringSheet(wiring: Wiring, energised?: Energised): SheetLine[] {
  const spots = terminalsOf(wiring)
  const mainsNets = mainsOf(wiring)
  const { live, neutral } = mainsNets
  return wiring.conductors.map((c) => {
    const cable = wiring.cables.find((k) => k.id === c.cable)
    const convention = cable ? conventionOf(cable.legend) : undefined
    const means = c.colour ? convention?.colours[c.colour] : undefined
    const [a, b] = [spots.get(c.from), spots.get(c.to)]
    const lost = [c.from, c.to].filter((ref) => ref !== '' && !spots.has(ref))
    const mains = [c.from, c.to].some((ref) => live.has(ref))
      ? 'live, mains'
      : [c.from, c.to].some((ref) => neutral.has(ref))
        ? 'neutral, mains'
        : ''
    const cut = c.from === '' || c.to === ''
    const ref = a ? c.from : c.to
    const shown = (a ?? b) && !lost.length && hasVolts(wiring, mainsNets, ref, sure(a ?? b).does)
    const named = [a, b].find((s) => s && s.does !== 'through') ?? a ?? b
    return {
      id: c.id,
      from: c.from || 'cut back, insulated',
      to: c.to || 'cut back, insulated',
      cable: cable ? `${cable.id} ${cable.name}` : 'panel wire',
      core: c.core ?? '',
      colour: c.colour ?? '',
      convention:
        c.core === 'shield'
          ? 'shield'
          : means
            ? `${means} (${sure(convention).name})`
            : cable
              ? `no meaning in ${sure(convention).name}`
              : c.colour
                ? 'panel wire, by the site’s practice'
                : '',
      ferrule: c.ferrule || (c.to ? `${c.from}/${c.to}` : c.from),
      function: c.core === 'shield' ? 'cable shield' : named ? FUNCTIONS[named.does].words : '',
      countedFrom: energised?.floatsOn(ref) ?? '',
      volts: energised && shown ? (energised.volts(ref) ?? null) : null,
      mA:
        energised && shown && a && b && c.core !== 'shield' && a.does !== 'earth'
          ? (energised.milliamps(c.id) ?? null)
          : null,
      says: lost.length
        ? `ends at ${lost.join(' and ')}, which is not there`
        : mains || (cut ? 'one end insulated' : named?.does.startsWith('bus') ? 'data, not computed' : ''),
    }
  })
}
