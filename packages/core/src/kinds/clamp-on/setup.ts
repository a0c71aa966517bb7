// A clamp-on point as far as it has been entered: pipe, fluid, pair, and the beam that they make.
import type { Keep } from '../kind.ts'
import { formatQuantity } from '../../quantity/index.ts'
import { near, type StepPlan } from '../../sheet/index.ts'
import { clampOnGeometry, TRANSDUCERS, type Beam, type BeamInput } from '../../flow/index.ts'
import {
  pipeSize,
  LINERS,
  MATERIALS,
  PIPE_TABLES,
  pipeDimensions,
  waveSpeedAt,
  type PipeStandard,
} from '../../pipe/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { fluidNeeds, fluidOf, type Fluid } from './fluid.ts'
import { sure } from '../../sure/index.ts'

export interface ClampOn {
  readonly od_mm: number | undefined
  readonly wall_mm: number | undefined
  /** Whether the wall is the table’s. */
  readonly wallFromTable: boolean
  /** The wall that the table gives for the schedule, where one is chosen. */
  readonly tableWall_mm: number | undefined
  readonly wallSpeed_mps: number | undefined
  readonly liner_mm: number
  readonly linerSpeed_mps: number | undefined
  readonly lined: boolean
  readonly metal: boolean
  readonly fluid: Fluid | Refusal | undefined
  readonly wedge: { readonly speed_mps: number; readonly angle_deg: number } | undefined
  readonly traverses: 1 | 2 | 3 | 4
  readonly input: BeamInput | undefined
  readonly beam: Beam | Refusal | undefined
  /** What the pipe table says against the size asked for. */
  readonly tableSays: string
  /** What the beam, and what of that the fluid alone still needs. */
  readonly needs: readonly string[]
  readonly fluidNeeds: readonly string[]
}

const METALS = [
  'carbon-steel',
  'stainless-steel',
  'ductile-iron',
  'grey-iron',
  'copper',
  'aluminium',
  'brass',
  'titanium',
]

function tablePipe(r: Reader): { od_mm?: number; wall_mm?: number; says: string } {
  const [standard, size, schedule] = ['pipeStandard', 'pipeSize', 'pipeSchedule'].map((k) => r.text(k))
  if (!standard || !size) return { says: '' }
  const table = PIPE_TABLES.find((t) => t.standard === standard)
  const row = pipeSize(table, size)
  if (!table || !row) {
    const near = Object.keys(table?.sizes ?? {})
      .slice(0, 6)
      .join(', ')
    return { says: `${standard} has no size “${size}”. Its sizes are written like ${near}.` }
  }
  const od_mm = row.od * table.unit_mm
  if (!schedule) return { od_mm, says: '' }
  const found = attempt(() => pipeDimensions(standard as PipeStandard, size, schedule))
  if (found instanceof Refusal)
    return { od_mm, says: `${standard} ${size} has the walls ${Object.keys(row.walls).join(', ')}; not “${schedule}”.` }
  return { od_mm: found.od_mm, wall_mm: found.wall_mm, says: '' }
}

const positive = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v > 0

/** Entries that the beam hangs on. */
const OF_THE_BEAM = [
  'diameterBy',
  'od',
  'circumference',
  'pipeStandard',
  'pipeSize',
  'pipeSchedule',
  'wall',
  'material',
  'wallSpeed',
  'liner',
  'linerThickness',
  'linerSpeed',
  'medium',
  'liquid',
  'salinity',
  'gas',
  'composition',
  'fluidTemp',
  'fluidPressure',
  'ownSpeed',
  'ownDensity',
  'ownViscosity',
  'transducer',
  'wedgeSpeed',
  'wedgeAngle',
  'traverses',
]
/** The point as far as it has been entered. `keep` holds it while nothing that the beam hangs on has changed. */
export function clampOnOf(r: Reader, keep?: Keep): ClampOn {
  if (!keep) return setUp(r)
  return keep('clamp-on', OF_THE_BEAM.map((k) => `${r.text(k)} ${r.unit(k)}`).join('\u0001'), () => setUp(r))
}

/** Diameter and wall, by whichever way they are known. */
function pipeOf(r: Reader) {
  const by = r.text('diameterBy')
  const table: ReturnType<typeof tablePipe> = by === 'table' ? tablePipe(r) : { says: '' }
  const round = r.in('circumference', 'mm')
  const gauged = r.in('wall', 'mm')
  return {
    by,
    od_mm: by === 'table' ? table.od_mm : by === 'circumference' ? round && round / Math.PI : r.in('od', 'mm'),
    gauged,
    wall_mm: gauged ?? table.wall_mm,
    tableWall_mm: table.wall_mm,
    says: table.says,
  }
}

/** Wave speeds of wall and liner at the fluid's temperature, by table or of one's own. */
function layersOf(r: Reader) {
  const temp = r.in('fluidTemp', 'degC') ?? 20
  const material = MATERIALS.find((m) => m.id === r.text('material'))
  const liner = LINERS.find((l) => l.id === r.text('liner'))
  const lined = r.text('liner') !== 'none'
  return {
    wallSpeed: r.text('material') === 'own' ? r.in('wallSpeed', 'm/s') : material && waveSpeedAt(material, temp),
    lined,
    liner_mm: lined ? r.in('linerThickness', 'mm') : 0,
    linerSpeed: r.text('liner') === 'own' ? r.in('linerSpeed', 'm/s') : liner && waveSpeedAt(liner, temp),
  }
}

function wedgeOf(r: Reader): ClampOn['wedge'] {
  const pair = TRANSDUCERS.find((t) => t.id === r.text('transducer'))
  if (pair) return { speed_mps: pair.wedgeSpeed_mps, angle_deg: pair.wedgeAngle_deg }
  const [speed, angle] = [r.in('wedgeSpeed', 'm/s'), r.in('wedgeAngle', 'deg')]
  return positive(speed) && positive(angle) && angle < 90 ? { speed_mps: speed, angle_deg: angle } : undefined
}

function needsOf(r: Reader, { by, gauged }: Pick<ReturnType<typeof pipeOf>, 'by' | 'gauged'>): string[] {
  const table = gauged === undefined ? ['pipeSchedule'] : []
  return [
    ...(by === 'table'
      ? r.missing('pipeStandard', 'pipeSize', ...table)
      : [...r.missing('od', 'circumference'), ...(gauged === undefined ? [r.label('wall')] : [])]),
    ...r.missing('material', 'wallSpeed', 'linerThickness', 'linerSpeed'),
    ...fluidNeeds(r),
    ...r.missing('transducer', 'wedgeSpeed', 'wedgeAngle'),
  ]
}

function setUp(r: Reader): ClampOn {
  const pipe = pipeOf(r)
  const { od_mm, wall_mm, gauged } = pipe
  const { wallSpeed, lined, liner_mm, linerSpeed } = layersOf(r)
  const fluid = fluidOf(r)
  const wedge = wedgeOf(r)
  const traverses = ([1, 2, 3, 4] as const).find((n) => String(n) === r.text('traverses')) ?? 2
  const linerKnown = !lined || (liner_mm !== undefined && liner_mm >= 0 && positive(linerSpeed))
  const whole = positive(od_mm) && positive(wall_mm) && positive(wallSpeed) && wedge && linerKnown
  const input: BeamInput | undefined =
    whole && fluid && !(fluid instanceof Refusal)
      ? {
          od_mm,
          wall_mm,
          wallSpeed_mps: wallSpeed,
          fluidSpeed_mps: fluid.soundSpeed_mps,
          traverses,
          wedgeSpeed_mps: wedge.speed_mps,
          wedgeAngle_deg: wedge.angle_deg,
          ...(lined && sure(liner_mm) > 0 ? { liner_mm: sure(liner_mm), linerSpeed_mps: sure(linerSpeed) } : {}),
        }
      : undefined
  return {
    od_mm: positive(od_mm) ? od_mm : undefined,
    wall_mm: positive(wall_mm) ? wall_mm : undefined,
    wallFromTable: gauged === undefined && wall_mm !== undefined,
    tableWall_mm: pipe.tableWall_mm,
    wallSpeed_mps: wallSpeed,
    liner_mm: liner_mm ?? 0,
    linerSpeed_mps: linerSpeed,
    lined,
    metal: METALS.includes(r.text('material')),
    fluid,
    wedge,
    traverses,
    input,
    beam: input && attempt(() => clampOnGeometry(input)),
    tableSays: pipe.says,
    needs: needsOf(r, pipe),
    fluidNeeds: fluid instanceof Refusal ? [] : fluidNeeds(r),
  }
}

export const beamOf = (c: ClampOn): Beam | undefined => (c.beam && !(c.beam instanceof Refusal) ? c.beam : undefined)
export const knownFluid = (c: ClampOn): Fluid | undefined =>
  c.fluid && !(c.fluid instanceof Refusal) ? c.fluid : undefined

/** Spacing as set between the marks, mm, and as holes of the index bar. */
export function spacingOf(
  c: ClampOn,
  r: Reader,
): { spacing_mm: number; holes?: number; holeError_mm?: number } | undefined {
  const beam = beamOf(c)
  if (!beam) return undefined
  const spacing_mm = beam.spacing_mm + 2 * (r.in('faceOffset', 'mm') ?? 0)
  const pitch = r.in('barPitch', 'mm')
  if (!positive(pitch)) return { spacing_mm }
  const holes = Math.round(spacing_mm / pitch)
  return { spacing_mm, holes, holeError_mm: holes * pitch - spacing_mm }
}

/** A pair set a millimetre off loses signal and accuracy; far off it finds another path. */
export const spacingPlan = (wanted_mm: number): StepPlan => ({
  against: `The drawing gives ${formatQuantity(wanted_mm, 'mm', { decimals: 1, trim: true })}`,
  ...near(wanted_mm, { good: 1, most: Math.max(3, 0.1 * wanted_mm) }),
  else: 'The pair does not hear itself there. Set it anew, or correct what was typed.',
})

/** Length of a transducer's body along the pipe, mm: the table's, or what was entered of one's own pair. */
export const bodyOf = (r: Reader): number | undefined =>
  TRANSDUCERS.find((t) => t.id === r.text('transducer'))?.body_mm ?? r.in('bodyLength', 'mm')

/** Serial numbers of each path's pair, as far as any are entered; the first pair's always. */
export function pairsOf(
  r: Reader,
): { readonly keys: readonly [string, string]; readonly a: string; readonly b: string }[] {
  const second = r.text('paths') === '2' && (r.text('serialA2') || r.text('serialB2'))
  const keys: [string, string][] = [
    ['serialA', 'serialB'],
    ...(second ? [['serialA2', 'serialB2'] as [string, string]] : []),
  ]
  return keys.map((pair) => ({ keys: pair, a: r.text(pair[0]), b: r.text(pair[1]) }))
}

/** Spacings of the chosen pair on one side, with two and with four traverses; undefined where there is no beam. */
export function sameSideOf(c: ClampOn, r: Reader): { body_mm: number; two_mm: number; four_mm: number } | undefined {
  const [input, body_mm, offset] = [c.input, bodyOf(r), r.in('faceOffset', 'mm') ?? 0]
  if (!input || !body_mm) return undefined
  const made = attempt(() => {
    const [two_mm, four_mm] = ([2, 4] as const).map(
      (traverses) => clampOnGeometry({ ...input, traverses }).spacing_mm + 2 * offset,
    ) as [number, number]
    return { body_mm, two_mm, four_mm }
  })
  return made instanceof Refusal ? undefined : made
}
