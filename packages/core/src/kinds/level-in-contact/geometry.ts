// A probe in its vessel from the entries: what hangs where, which part of it measures, all in mm.
import {
  dielectric,
  probeRange,
  usualZones,
  type ProbeMake,
  type ProbeRange,
  type ProbeZones,
  type Vessel,
} from '../../level/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { sure } from '../../sure/index.ts'
import type { Reader } from '../reader.ts'
import { vesselOf } from '../vessel/index.ts'
import { CAPACITANCE, WAVE } from './fields.ts'

export interface ProbeGeometry {
  /** Undefined where the level is measured by a pressure. */
  readonly make: ProbeMake | undefined
  readonly length: number | undefined
  readonly top: number | undefined
  readonly bottom: number | undefined
  readonly weight: number
  readonly empty: number | undefined
  readonly full: number | undefined
  readonly depth: number | undefined
  readonly faceAbove: number
  readonly standpipe: boolean
  readonly nozzleWidth: number | undefined
  /** Inside bottom of the vessel below the reference face. */
  readonly bottomBelowFace: number | undefined
  /** Height of the 0 % level above that bottom. */
  readonly emptyAbove: number | undefined
  /** Distances from the face at which the current is 4 and 20 mA. */
  readonly at4: number | undefined
  readonly at20: number | undefined
  readonly range: ProbeRange | Refusal | undefined
  readonly er: number | Refusal | undefined
  readonly usual: ProbeZones | undefined
  readonly vessel: Vessel | Refusal | undefined
  /** Lifted off: what it reads is void. */
  readonly off: boolean
}

const LENGTHS = ['probeLength', 'topDeadZone', 'bottomDeadZone', 'emptyDistance', 'fullDistance'] as const

const makeOf = (r: Reader): ProbeMake | undefined => {
  const sensing = r.text('sensing')
  if (sensing === CAPACITANCE) return 'capacitance'
  return sensing === WAVE ? (r.text('probeType') as ProbeMake) : undefined
}

function permittivity(r: Reader): number | Refusal | undefined {
  const liquid = r.text('liquid')
  if (!liquid) return undefined
  if (liquid !== 'own') return attempt(() => dielectric(liquid, r.in('liquidTemp', 'degC') ?? 20))
  const own = r.in('dielectric', '1')
  return own !== undefined && own < 1
    ? new Refusal('out-of-range', 'A dielectric constant is 1 or more: 1 is that of vacuum.')
    : own
}

/** What the probe leaves of the distances wanted; undefined while one of its lengths is missing. */
function rangeOf(r: Reader): ProbeRange | Refusal | undefined {
  if (r.missing(...LENGTHS).length) return undefined
  const [probeLength_mm, topDeadZone_mm, bottomDeadZone_mm, emptyDistance_mm, fullDistance_mm] = LENGTHS.map((key) =>
    sure(r.in(key, 'mm')),
  ) as [number, number, number, number, number]
  return attempt(() =>
    probeRange({ probeLength_mm, topDeadZone_mm, bottomDeadZone_mm, emptyDistance_mm, fullDistance_mm }),
  )
}

export function probeGeometry(r: Reader): ProbeGeometry {
  const mm = (key: string) => r.in(key, 'mm')
  const make = makeOf(r)
  const [length, top, bottom] = [mm('probeLength'), mm('topDeadZone'), mm('bottomDeadZone')]
  const [empty, full, depth] = [mm('emptyDistance'), mm('fullDistance'), mm('tankDepth')]
  const faceAbove = mm('faceAbove') ?? 0
  const bottomBelowFace = depth === undefined ? undefined : depth + faceAbove
  const weight = make === 'cable' ? (mm('weightLength') ?? 0) : 0
  const er = permittivity(r)
  const distance = (level: number | undefined) =>
    level === undefined || empty === undefined ? undefined : empty - level
  return {
    make,
    length,
    top,
    bottom,
    weight,
    empty,
    full,
    depth,
    faceAbove,
    standpipe: r.text('mounting') === 'standpipe',
    nozzleWidth: mm('nozzleWidth'),
    bottomBelowFace,
    emptyAbove: bottomBelowFace === undefined || empty === undefined ? undefined : bottomBelowFace - empty,
    at4: distance(mm('lrv')),
    at20: distance(mm('urv')),
    range: make ? rangeOf(r) : undefined,
    er,
    usual: make && typeof er === 'number' ? usualZones(make, er, weight) : undefined,
    vessel: vesselOf(r, depth === undefined ? undefined : depth / 1000),
    off: make !== undefined && r.text('head') === 'off the process',
  }
}
