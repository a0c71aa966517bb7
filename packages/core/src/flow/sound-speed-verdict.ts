// The first reading challenged: is the sound speed that the meter measures the one that the entries call for, and if
// not, why.
import { attempt, Refusal } from '../refusal/index.ts'
import { clampOnGeometry, type Beam, type BeamInput } from './clamp-on-geometry.ts'
import { wallDelay_us } from './transit-times.ts'

/** Per cent within which pipe and fluid data are believed, and beyond which they are not. */
export const SOUND_SPEED_GOOD_PCT = 1
export const SOUND_SPEED_DOUBTFUL_PCT = 2

export interface Cause {
  readonly id: string
  readonly title: string
  /** The size it would have to have to explain the whole difference, in words with units. */
  readonly size: string
  /** That size over what is usual for it: 1 is just usual, 10 is far-fetched. */
  readonly strain: number
  readonly check: string
}
export interface SoundSpeedVerdict {
  readonly expected_mps: number
  readonly measured_mps: number
  readonly differencePct: number
  readonly grade: 'good' | 'doubtful' | 'wrong'
  /** The likeliest first. */
  readonly causes: readonly Cause[]
}

export interface VerdictTerms {
  readonly beam: BeamInput
  readonly medium: 'liquid' | 'gas'
  readonly fluidName: string
  readonly density_kgm3: number
  /** Sound speed of the entered fluid at a temperature, m/s; may refuse. */
  readonly speedAt: (temp_C: number) => number
  readonly temp_C: number
  /** Usual doubt of the entries, for the ranking. */
  readonly usual: {
    readonly temp_C: number
    readonly wall_mm: number
    readonly od_mm: number
    readonly liner_mm: number
  }
  /** Other fluids it could be. */
  readonly others: readonly {
    readonly name: string
    readonly speed_mps: number
    /** Often found where the entered one is. */ readonly near?: boolean
  }[]
}

/** Where `f` crosses zero between `low` and `high`, if it does. */
function crossing(f: (x: number) => number, low: number, high: number): number | undefined {
  const at = (x: number) => {
    const y = attempt(() => f(x))
    return y instanceof Refusal ? Number.NaN : y
  }
  let [a, b] = [low, high]
  let [fa, fb] = [at(a), at(b)]
  // An end beyond the bore or the fluid’s range has no value: come in until it has.
  for (let i = 0; i < 40 && !Number.isFinite(fa); i++) fa = at((a += (b - a) * 0.05))
  for (let i = 0; i < 40 && !Number.isFinite(fb); i++) fb = at((b -= (b - a) * 0.05))
  if (!Number.isFinite(fa) || !Number.isFinite(fb) || fa * fb > 0) return undefined
  for (let i = 0; i < 80; i++) {
    const middle = (a + b) / 2
    const fm = at(middle)
    if (!Number.isFinite(fm)) return undefined
    if (fa * fm <= 0) b = middle
    else [a, fa] = [middle, fm]
  }
  return (a + b) / 2
}

/** What a meter with the entered beam would measure if the real pipe were `real` and the fluid’s speed `speed`. */
export function measuredWith(entered: BeamInput, real: BeamInput, speed_mps: number): number {
  const asEntered = clampOnGeometry(entered)
  const truth = { ...real, fluidSpeed_mps: speed_mps }
  const asIs: Beam = clampOnGeometry(truth)
  const inFluid = (1000 * asIs.fluidPath_mm) / speed_mps
  const taken = inFluid + wallDelay_us(truth, asIs) - wallDelay_us(entered, asEntered)
  if (!(taken > 0)) throw new Refusal('no-bore', 'The time left for the fluid is none.')
  return (1000 * asEntered.fluidPath_mm) / taken
}

/** Share of gas that slows a liquid’s sound to `speed`. Source: Wood’s equation, gas bubbles at line pressure */
function gasShare(
  speed_mps: number,
  liquidSpeed_mps: number,
  density: number,
  pressure_Pa: number,
): number | undefined {
  const liquidStiff = density * liquidSpeed_mps ** 2
  const gasStiff = 1.3 * pressure_Pa
  return crossing(
    (x) => {
      const mixed = (1 - x) * density
      return 1 / Math.sqrt(mixed * ((1 - x) / liquidStiff + x / gasStiff)) - speed_mps
    },
    0,
    0.3,
  )
}

const n = (value: number, decimals: number) => {
  const text = Math.abs(value).toFixed(decimals)
  return `${value < 0 && Number(text) ? '−' : ''}${text}`
}
const signed = (value: number, decimals: number) => `${value > 0 ? '+' : ''}${n(value, decimals)}`

/** Another fluid, or the same at another temperature. */
function fluidCauses(t: VerdictTerms, measured_mps: number): Cause[] {
  const causes: Cause[] = []
  const temp = nearestTemperature(t, measured_mps)
  if (temp !== undefined)
    causes.push({
      id: 'temperature',
      title: `${t.fluidName} at another temperature`,
      size: `${n(temp, 1)} °C instead of ${n(t.temp_C, 1)} °C`,
      strain: Math.abs(temp - t.temp_C) / t.usual.temp_C,
      check: 'Measure the wall under insulation, or take the process thermometer.',
    })
  for (const other of t.others) {
    const apart = Math.abs(100 * (other.speed_mps / measured_mps - 1))
    if (apart < 1.5)
      causes.push({
        id: 'other-fluid',
        title: `not ${t.fluidName} but ${other.name}`,
        size: `its sound speed is ${n(other.speed_mps, 0)} m/s, ${n(apart, 1)} % from the measured`,
        strain: other.near ? 2 + apart : 6 + 3 * apart,
        check: 'Ask operations what runs in the pipe now.',
      })
  }
  return causes
}

/** A pipe that is not as entered: wall, diameter, liner. */
function pipeCauses(t: VerdictTerms, measured_mps: number): Cause[] {
  const causes: Cause[] = []
  const expected = t.beam.fluidSpeed_mps
  const solve = (key: 'wall_mm' | 'od_mm' | 'liner_mm', low: number, high: number) =>
    crossing((x) => measuredWith(t.beam, { ...t.beam, [key]: x }, expected) - measured_mps, low, high)
  const { od_mm, wall_mm, liner_mm = 0 } = t.beam
  const wall = solve('wall_mm', wall_mm * 0.2, Math.min(wall_mm * 4, od_mm / 2.2))
  if (wall !== undefined)
    causes.push({
      id: 'wall',
      title: 'the wall has another thickness',
      size: `${n(wall, 2)} mm instead of ${n(wall_mm, 2)} mm (${signed(wall - wall_mm, 2)} mm)`,
      strain: Math.abs(wall - wall_mm) / t.usual.wall_mm,
      check: 'Gauge the wall at the place of the pair; tables give nominal walls.',
    })
  const od = solve('od_mm', od_mm * 0.8, od_mm * 1.2)
  if (od !== undefined)
    causes.push({
      id: 'diameter',
      title: 'the pipe has another diameter',
      size: `${n(od, 1)} mm instead of ${n(od_mm, 1)} mm (${signed(od - od_mm, 1)} mm)`,
      strain: Math.abs(od - od_mm) / t.usual.od_mm,
      check: 'Take the circumference with a tape and divide by π.',
    })
  if (liner_mm > 0) {
    const liner = solve('liner_mm', 0.01, Math.min(liner_mm * 5, od_mm / 4))
    if (liner !== undefined)
      causes.push({
        id: 'liner',
        title: 'the liner has another thickness, or is not there',
        size: `${n(liner, 1)} mm instead of ${n(liner_mm, 1)} mm`,
        strain: Math.abs(liner - liner_mm) / t.usual.liner_mm,
        check: 'Find the pipe’s papers; a worn or swollen liner shows here.',
      })
  }
  return causes
}

/** What travels beside or instead of the beam: gas carried along, other traverses, the wall itself. */
function pathCauses(t: VerdictTerms, measured_mps: number, pressure_kPa: number): Cause[] {
  const causes: Cause[] = []
  const expected = t.beam.fluidSpeed_mps
  const differencePct = 100 * (measured_mps / expected - 1)
  if (t.medium === 'liquid' && differencePct < -0.3) {
    const share = gasShare(measured_mps, expected, t.density_kgm3, pressure_kPa * 1000)
    if (share !== undefined)
      causes.push({
        id: 'gas',
        title: 'gas carried in the liquid',
        size: `about ${n(100 * share, 3)} % of the volume`,
        strain: 3 + 10 * share,
        check: 'Look for a falling signal and a jumping reading; vent, or move to below the gas.',
      })
  }
  for (const traverses of [1, 2, 3, 4] as const)
    if (traverses !== t.beam.traverses) {
      const would = attempt(() => measuredWith(t.beam, { ...t.beam, traverses }, expected))
      if (!(would instanceof Refusal) && Math.abs(would / measured_mps - 1) < 0.06)
        causes.push({
          id: 'traverses',
          title: `the beam crosses ${traverses} times, not ${t.beam.traverses}`,
          size: `that would measure ${n(would, 0)} m/s`,
          strain: 1.2,
          check: 'Compare the sides on which the pair stands with what was entered.',
        })
    }
  if (t.medium === 'gas' && Math.abs(differencePct) > 5)
    causes.push({
      id: 'wall-echo',
      title: 'the meter hears the wall, not the gas',
      size: 'sound round the wall arrives first',
      strain: 2,
      check: 'Look at the damping film, and that the pressure is at its floor or above.',
    })
  return causes
}

/**
 * The verdict on a measured sound speed and what could explain it, each cause with the size it would need.
 * @param measured_mps above 0
 * @param pressure_kPa absolute, for the share of gas
 * @throws Refusal as the geometry does
 */
export function soundSpeedVerdict(t: VerdictTerms, measured_mps: number, pressure_kPa: number): SoundSpeedVerdict {
  const expected = t.beam.fluidSpeed_mps
  const differencePct = 100 * (measured_mps / expected - 1)
  const size = Math.abs(differencePct)
  const grade = size <= SOUND_SPEED_GOOD_PCT ? 'good' : size <= SOUND_SPEED_DOUBTFUL_PCT ? 'doubtful' : 'wrong'
  const causes = [
    ...fluidCauses(t, measured_mps),
    ...pipeCauses(t, measured_mps),
    ...pathCauses(t, measured_mps, pressure_kPa),
  ]
  causes.sort((a, b) => a.strain - b.strain)
  return { expected_mps: expected, measured_mps, differencePct, grade, causes: grade === 'good' ? [] : causes }
}

/** The temperature nearest to the entered one at which the entered fluid has the measured speed. */
function nearestTemperature(t: VerdictTerms, measured_mps: number): number | undefined {
  const f = (x: number) => t.speedAt(x) - measured_mps
  for (const reach of [5, 15, 40, 80]) {
    const found = [crossing(f, t.temp_C, t.temp_C + reach), crossing(f, t.temp_C - reach, t.temp_C)]
      .filter((x): x is number => x !== undefined)
      .sort((a, b) => Math.abs(a - t.temp_C) - Math.abs(b - t.temp_C))
    if (found.length) return found[0]
  }
  return undefined
}
