// The wiring sheet: one line for each conductor, as it is landed, rung out and measured.
import { mainsOf, type Energised } from './energise.ts'
import { FUNCTIONS, type Wiring } from './record.ts'
import { conventionOf, hasVolts, terminalsOf } from './types.ts'

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

type Mains = ReturnType<typeof mainsOf>
type Conductor = Wiring['conductors'][number]
type Spots = ReturnType<typeof terminalsOf>
type Spot = ReturnType<Spots['get']>

function mainsWords(ends: readonly string[], { live, neutral }: Mains): string {
  if (ends.some((ref) => live.has(ref))) return 'live, mains'
  return ends.some((ref) => neutral.has(ref)) ? 'neutral, mains' : ''
}

/** What a core's colour means by the convention of its cable. */
function conventionWords(wiring: Wiring, c: Conductor): string {
  if (c.core === 'shield') return 'shield'
  const cable = wiring.cables.find((k) => k.id === c.cable)
  if (!cable) return c.colour ? 'panel wire, by the site’s practice' : ''
  const convention = conventionOf(cable)
  const means = c.colour ? convention.colours[c.colour] : undefined
  return means ? `${means} (${convention.name})` : `no meaning in ${convention.name}`
}

/** What is said instead of figures. */
function saysOf(c: Conductor, lost: readonly string[], mains: string, named: Spot): string {
  if (lost.length) return `ends at ${lost.join(' and ')}, which is not there`
  if (mains) return mains
  if (c.from === '' || c.to === '') return 'one end insulated'
  return named?.does.startsWith('bus') ? 'data, not computed' : ''
}

interface Drawn {
  readonly wiring: Wiring
  readonly spots: Spots
  readonly mains: Mains
}

/** Volts and current at a conductor's first end, where they are computed. */
function figuresOf({ wiring, spots, mains }: Drawn, c: Conductor, e: Energised | undefined, whole: boolean) {
  const [a, b] = [spots.get(c.from), spots.get(c.to)]
  const [spot, ref] = a ? [a, c.from] : [b, c.to]
  const countedFrom = e?.floatsOn(ref) ?? ''
  if (!e || !spot || !whole || !hasVolts(wiring, mains, ref, spot.does)) return { countedFrom, volts: null, mA: null }
  const carries = a && b && c.core !== 'shield' && a.does !== 'earth'
  return { countedFrom, volts: e.volts(ref) ?? null, mA: carries ? (e.milliamps(c.id) ?? null) : null }
}

/** Lines of the sheet, in the order of the record. `energised` gives the expected volts; without it they stay open. */
export function wiringSheet(wiring: Wiring, energised?: Energised): SheetLine[] {
  const spots = terminalsOf(wiring)
  const mains = mainsOf(wiring)
  return wiring.conductors.map((c) => {
    const cable = wiring.cables.find((k) => k.id === c.cable)
    const ends = [c.from, c.to]
    const found = ends.map((ref) => spots.get(ref))
    const lost = ends.filter((ref) => ref !== '' && !spots.has(ref))
    const named = found.find((s) => s && s.does !== 'through') ?? found.find(Boolean)
    return {
      id: c.id,
      from: c.from || 'cut back, insulated',
      to: c.to || 'cut back, insulated',
      cable: cable ? `${cable.id} ${cable.name}` : 'panel wire',
      core: c.core ?? '',
      colour: c.colour ?? '',
      convention: conventionWords(wiring, c),
      ferrule: c.ferrule || (c.to ? `${c.from}/${c.to}` : c.from),
      function: c.core === 'shield' ? 'cable shield' : named ? FUNCTIONS[named.does].words : '',
      ...figuresOf({ wiring, spots, mains }, c, energised, !lost.length),
      says: saysOf(c, lost, mainsWords(ends, mains), named),
    }
  })
}
