// The pressure that a level makes at the cell: a line over the level, by what the low side is joined to.
import {
  dpLevelRange,
  legFluidDensity,
  WATER_OF_mmH2O,
  type DpLevelRange,
  type LegArrangement,
} from '../../level/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { sure } from '../../sure/index.ts'
import type { Reader } from '../reader.ts'

export const KEYS = [
  'arrangement',
  'emptyHeight',
  'fullHeight',
  'belowTap',
  'sealsApart',
  'sg',
  'legSg',
  'legHeight',
] as const

/** Specific gravity of a fluid by its entries, 1 being 1000 kg/m³. @throws Refusal `not-positive`, `out-of-range` */
function gravityOf(r: Reader, of: { fluid: string; sg: string; temp: string }): number {
  const id = r.text(of.fluid)
  if (id && id !== 'own') return legFluidDensity(id, r.in(of.temp, 'degC') ?? 20) / WATER_OF_mmH2O
  const sg = r.in(of.sg, '1')
  if (sg === undefined) throw new Refusal('leg-missing', 'The specific gravity is not entered.')
  if (!(sg > 0)) throw new Refusal('not-positive', 'A specific gravity is above 0.')
  return sg
}
const LIQUID = { fluid: 'liquid', sg: 'sg', temp: 'liquidTemp' }
const FILL = { fluid: 'legFill', sg: 'legSg', temp: 'legTemp' }

/** What presses on the cell: per mm of liquid above the lower tap, and at none. */
export interface Hydrostatics extends DpLevelRange {
  readonly sg: number
  /** Of leg or capillaries; undefined where nothing is filled. */
  readonly fillSg: number | undefined
  /** At no liquid above the lower tap, mmH2O, and how it comes about. */
  readonly offset_mmH2O: number
  readonly offsetWords: string
}

const mm = (r: Reader, key: string) => sure(r.in(key, 'mm'))
const words = (v: number) => show(v, 'mm', { trim: true })

/** @throws Refusal */
function offsetOf(r: Reader, sg: number): { fillSg?: number; offset: number; offsetWords: string } {
  const arrangement = r.text('arrangement')
  if (arrangement === 'submersible') return { offset: 0, offsetWords: '0' }
  if (arrangement === 'seals') {
    const fillSg = gravityOf(r, FILL)
    const apart = mm(r, 'sealsApart')
    return { fillSg, offset: -fillSg * apart, offsetWords: `−${fillSg.toFixed(4)} × ${words(apart)}` }
  }
  const below = mm(r, 'belowTap')
  if (arrangement === 'one-seal') {
    const fillSg = gravityOf(r, FILL)
    return { fillSg, offset: fillSg * below, offsetWords: `${fillSg.toFixed(4)} × ${words(below)}` }
  }
  const line = `${sg.toFixed(4)} × ${words(below)}`
  if (arrangement !== 'wet-leg') return { offset: sg * below, offsetWords: line }
  const [fillSg, leg] = [gravityOf(r, FILL), mm(r, 'legHeight')]
  return {
    fillSg,
    offset: sg * below - fillSg * leg,
    offsetWords: `${line} − ${fillSg.toFixed(4)} × ${words(leg)}`,
  }
}

/** What the vessel makes of empty and full, or why it makes nothing; undefined while entries are missing. */
export function dpLevelOf(r: Reader): Hydrostatics | Refusal | undefined {
  if (r.missing(...KEYS).length) return undefined
  return attempt(() => {
    const sg = gravityOf(r, LIQUID)
    const { fillSg, offset, offsetWords } = offsetOf(r, sg)
    const [emptyHeight_mm, fullHeight_mm] = [mm(r, 'emptyHeight'), mm(r, 'fullHeight')]
    // An open vessel with nothing below the tap: what presses besides is the offset.
    const plain = dpLevelRange({
      arrangement: 'open' satisfies LegArrangement,
      sg,
      emptyHeight_mm,
      fullHeight_mm,
      transmitterBelowTap_mm: 0,
    })
    return {
      sg,
      fillSg,
      offset_mmH2O: offset,
      offsetWords,
      lrv_mmH2O: plain.lrv_mmH2O + offset,
      urv_mmH2O: plain.urv_mmH2O + offset,
      span_mmH2O: plain.span_mmH2O,
    }
  })
}

/** Pressures, in a unit of the quantity’s, that the calibrator must show at points in % of the level’s range. */
export const gaugeAt = (range: Pick<DpLevelRange, 'lrv_mmH2O' | 'span_mmH2O'>, percent: number): number =>
  range.lrv_mmH2O + (percent / 100) * range.span_mmH2O
