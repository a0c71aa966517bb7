// What the controller makes of the level that it is sent: the volume of its table, the mass of that volume.
import { vesselLevel_m, vesselVolume_m3, type Vessel } from '../../level/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { sure } from '../../sure/index.ts'
import { straightStage, type Knot, type Stage, type Thread } from '../../thread/index.ts'
import type { Reader } from '../reader.ts'
import { entryOf, stageOr } from '../two-wire/index.ts'
import { shapeWords } from './vessel.ts'

const SOURCES: Partial<Record<Vessel['shape'], string>> = {
  strapped: 'The strapping table as entered, linear between its rows',
}
const GEOMETRY = 'Solid geometry of the vessel as entered'

interface VesselAt {
  readonly vessel: Vessel | Refusal | undefined
  /** Labels of what it still needs. */
  readonly needs: readonly string[]
  /** Height of the level's 0 above the vessel’s lowest point, mm. */
  readonly zero_mm: number
}

/** The controller's table of the vessel: from the level that it was sent to the volume. */
function volumeStage(r: Reader, from: Knot, { vessel, needs, zero_mm }: VesselAt): Stage {
  const causes = ['volume table made for another vessel', 'level counted from another bottom']
  const lacks = needs.length || (vessel && !(vessel instanceof Refusal)) ? needs : ['the vessel’s shape']
  return stageOr('Volume table', causes, lacks, () => {
    const known = sure(vessel) as Vessel
    const up = (v: number) => (convertUnit(v, from.unit, 'mm') + zero_mm) / 1000
    return {
      title: 'Volume table',
      causes,
      ready: true,
      forward: (v) => vesselVolume_m3(known, up(v)),
      inverse: (v) => convertUnit(vesselLevel_m(known, v) * 1000 - zero_mm, 'mm', from.unit),
      working: (v) => ({
        title: 'Volume',
        formula: zero_mm ? 'V(level + height of its 0) of the vessel' : 'V(level) of the vessel',
        numbers:
          `${shapeWords(r)} at ${show(v, from.unit, { trim: true })}` +
          `${zero_mm ? ` + ${show(zero_mm, 'mm', { trim: true })}` : ''} = ` +
          show(vesselVolume_m3(known, up(v)), 'm3', { decimals: 2 }),
        source: SOURCES[known.shape] ?? GEOMETRY,
      }),
    }
  })
}

function massStage(r: Reader): Stage {
  const causes = ['density of another temperature', 'another liquid in the vessel']
  return stageOr('Mass', causes, r.missing('massDensity'), () => {
    const density = entryOf(r, 'massDensity', 'kg/m3')
    return straightStage({
      title: 'Mass',
      causes,
      from: [0, 1],
      to: [0, density],
      working: (v) => ({
        title: 'Mass shown',
        formula: 'm = V · ρ',
        numbers:
          `${show(v, 'm3', { decimals: 2 })} × ${show(density, 'kg/m3', { trim: true })} = ` +
          show(v * density, 'kg', { decimals: 0 }),
        source: 'Density that the controller reckons with',
      }),
    })
  })
}

interface Tail {
  readonly knots: Knot[]
  readonly stages: Stage[]
  readonly ends?: Thread['ends']
}
/** A tail whose controller shows what `shownAs` says: the level as it was, the volume of its table, or the mass. */
export function shownTail(r: Reader, tail: Tail, at: VesselAt): Tail {
  const shownAs = r.text('shownAs')
  const level = sure(tail.knots.at(-1))
  if (shownAs === 'level' || level.quantity !== 'length') return tail
  const knot = (more: Partial<Knot>): Knot => ({
    id: 'controller',
    role: 'controller',
    name: 'Controller shows',
    explains: 'What the operator trusts: the volume of its table.',
    quantity: 'volume',
    unit: 'm3',
    decimals: 2,
    ...more,
  })
  const mass: Partial<Knot> = {
    explains: 'What the operator trusts: the mass of that volume.',
    quantity: 'mass',
    unit: 'kg',
    decimals: 0,
  }
  const volume: Partial<Knot> = {
    id: 'shown-volume',
    role: 'counts',
    name: 'Volume in the controller',
    explains: 'What its table gives.',
  }
  const ends = shownAs === 'mass' ? [knot(volume), knot(mass)] : [knot({})]
  const sent: Knot = { ...level, id: 'shown-level', role: 'counts', name: 'Level in the controller' }
  return {
    ...tail,
    knots: [...tail.knots.slice(0, -1), sent, ...ends],
    stages: [...tail.stages, volumeStage(r, level, at), ...(shownAs === 'mass' ? [massStage(r)] : [])],
  }
}
