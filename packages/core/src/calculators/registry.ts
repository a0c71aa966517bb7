// The registry of calculators: name → input schema → function. One door for the reference runner and for the HTTP interface.
import { z } from 'zod'
import { analogHookup, loopBudget, solveCircuit, wireResistance } from '../circuit/index.ts'
import { circuitInput } from './circuit-input.ts'
import { BUFFER_SETS, phBuffer, phCalibration } from '../analysis/index.ts'
import { multiPointCheck } from '../check/index.ts'
import { biasResistor, cycleMetrics, discreteInput, TRIP_KINDS, tripPoint } from '../discrete/index.ts'
import { clampOnFlow, clampOnGeometry, coriolisDensity, coriolisMassFlow, NOZZLE_GASES, orificeFlow, profileFactor, pulseOutput, sonicNozzle } from '../flow/index.ts' // prettier-ignore
import { GAS_COMPONENTS, gasProperties, seawaterProperties, waterProperties } from '../fluid/index.ts'
import { airSoundSpeed, dpLevelRange, probeRange, tankVolume } from '../level/index.ts'
import { PIPE_STANDARDS, pipeDimensions } from '../pipe/index.ts'
import { convertUnit } from '../quantity/index.ts'
import { Refusal } from '../refusal/index.ts'
import { scaleSignal } from '../signal/index.ts'
import { rtdResistance, rtdTemperature } from '../temperature/index.ts'
import { chainDiagnosis } from '../trim/index.ts'

export interface Calculator<Input = unknown, Output = unknown> {
  readonly name: string
  readonly summary: string
  readonly input: z.ZodType<Input>
  readonly compute: (input: Input) => Output
}

const calculator = <Input, Output>(
  name: string,
  summary: string,
  input: z.ZodType<Input>,
  compute: (input: Input) => Output,
): Calculator => ({ name, summary, input, compute: compute as (input: unknown) => Output }) as Calculator

const number = z.number()
const size = z.number().positive()
const notNegative = z.number().nonnegative()
const pole = z.enum(['positive', 'negative'])
const switchInput = z.strictObject({ common: pole, ohm: size, onMinV: size, offMaxV: notNegative })
const stage = z.enum(['PNP', 'NPN', 'push-pull', 'two-wire'])

const beam = z.strictObject({
  od_mm: size,
  wall_mm: size,
  wallSpeed_mps: size,
  liner_mm: notNegative.optional(),
  linerSpeed_mps: size.optional(),
  fluidSpeed_mps: size,
  wedgeSpeed_mps: size,
  wedgeAngle_deg: z.number().positive().max(90),
  traverses: z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]),
})
const linerHasSpeed = (b: { liner_mm?: number | undefined; linerSpeed_mps?: number | undefined }) =>
  !b.liner_mm || b.linerSpeed_mps !== undefined

export const CALCULATORS: readonly Calculator[] = [
  calculator(
    'scale-signal',
    'Process value, per cent, mA, shunt volts and counts of a 4–20 mA signal from any one of them',
    z.strictObject({
      lrv: number,
      urv: number,
      transfer: z.enum(['linear', 'square-root']),
      shuntOhm: size.optional(),
      countsLow: number.optional(),
      countsHigh: number.optional(),
      pv: number.optional(),
      mA: number.optional(),
      percent: number.optional(),
      shuntVolts: number.optional(),
      countsRead: number.optional(),
    }),
    scaleSignal,
  ),
  calculator(
    'convert-unit',
    'A reading in another unit of the same quantity',
    z.strictObject({ value: number, from: z.string(), to: z.string() }),
    ({ value, from, to }) => ({ value: convertUnit(value, from, to) }),
  ),
  calculator(
    'wire-resistance',
    'Resistance of a copper pair, there and back',
    z.strictObject({ awg: number.optional(), area_mm2: number.optional(), length_m: number, temp_C: number }),
    wireResistance,
  ),
  calculator(
    'loop-budget',
    'Voltage left for a two-wire transmitter',
    z.strictObject({ supplyV: number, liftOffV: number, seriesOhms: z.array(number), maxmA: number.optional() }),
    loopBudget,
  ),
  calculator('solve-circuit', 'Every voltage and current of a loop’s circuit', circuitInput, solveCircuit),
  calculator(
    'analog-hookup',
    'Whether a loop has one and only one supply',
    z.strictObject({
      transmitter: z.enum(['two-wire', 'three-wire', 'four-wire-active', 'four-wire-passive']),
      card: z.enum(['supplies-loop', 'passive']),
      loopSupply: z.boolean(),
      devicePower: z.boolean(),
    }),
    analogHookup,
  ),
  calculator(
    'multi-point-check',
    'Errors, hysteresis, linearity and verdict of a check',
    z.strictObject({
      lrv: number,
      urv: number,
      outputLow: number.optional(),
      outputHigh: number.optional(),
      points: z
        .array(z.strictObject({ applied: number, output: number, direction: z.enum(['up', 'down']) }))
        .min(1)
        .max(10_000),
      tolerancePct: number,
    }),
    multiPointCheck,
  ),
  calculator(
    'discrete-input',
    'A discrete sensor on an input: volts, current, what the controller reads, and whether the two fit',
    z.strictObject({
      sensor: z.strictObject({
        output: stage,
        contact: z.enum(['NO', 'NC']),
        residualV: notNegative,
        leakage_mA: notNegative,
      }),
      supplyV: size,
      input: switchInput,
      target: z.boolean(),
      extraResistor: z.strictObject({ to: pole, ohm: size }).optional(),
    }),
    discreteInput,
  ),
  calculator(
    'bias-resistor',
    'Resistor from the signal wire that makes a mismatched sensor usable',
    z.strictObject({
      supplyV: size,
      sensor: z.strictObject({ output: stage, residualV: notNegative, maxOut_mA: size }),
      input: switchInput,
    }),
    biasResistor,
  ),
  calculator(
    'trip-point',
    'When a trip on a measured value changes',
    z.strictObject({
      kind: z.enum(TRIP_KINDS),
      set: number,
      band: notNegative,
      readings: z.array(number).max(100_000),
      initial: z.boolean().optional(),
    }),
    tripPoint,
  ),
  calculator(
    'cycle-metrics',
    'Cycles, cycle time and OEE from the edges of a sensor',
    z.strictObject({
      edges: z
        .array(z.strictObject({ t_s: number, state: z.boolean() }))
        .max(200_000)
        .refine((edges) => edges.every((e, i) => i === 0 || e.t_s >= edges[i - 1]!.t_s), 'must be in time order'),
      plannedTime_s: notNegative,
      stops: z
        .array(
          z.strictObject({ from_s: number, to_s: number }).refine((s) => s.to_s >= s.from_s, 'ends before it begins'),
        )
        .max(10_000),
      idealCycle_s: notNegative,
      rejected: notNegative,
      longCycle_s: notNegative.optional(),
    }),
    cycleMetrics,
  ),
  calculator(
    'air-sound-speed',
    'Speed of sound in air at a temperature',
    z.strictObject({ temp_C: number }),
    ({ temp_C }) => ({ soundSpeed_mps: airSoundSpeed(temp_C) }),
  ),
  calculator(
    'tank-volume',
    'Volume of a tank at a level',
    z.strictObject({
      tank: z.discriminatedUnion('shape', [
        z.strictObject({
          shape: z.literal('vertical-cylinder'),
          diameter_m: number,
          height_m: number,
          coneHeight_m: number.optional(),
        }),
        z.strictObject({
          shape: z.literal('horizontal-cylinder'),
          diameter_m: number,
          length_m: number,
          heads: z.enum(['flat', 'ellipsoidal-2:1', 'hemispherical']),
        }),
        z.strictObject({ shape: z.literal('box'), length_m: number, width_m: number, height_m: number }),
        z.strictObject({ shape: z.literal('sphere'), diameter_m: number }),
      ]),
      level_m: number,
    }),
    ({ tank, level_m }) => tankVolume(tank, level_m),
  ),
  calculator(
    'probe-range',
    'Range of a rod or cable probe within its dead zones',
    z.strictObject({
      probeLength_mm: size,
      topDeadZone_mm: notNegative,
      bottomDeadZone_mm: notNegative,
      emptyDistance_mm: number,
      fullDistance_mm: number,
    }),
    probeRange,
  ),
  calculator(
    'dp-level-range',
    'Range of a differential pressure transmitter that measures a level',
    z.strictObject({
      arrangement: z.enum(['open', 'dry-leg', 'wet-leg']),
      sg: size,
      emptyHeight_mm: number,
      fullHeight_mm: number,
      transmitterBelowTap_mm: number,
      legSg: size.optional(),
      legHeight_mm: number.optional(),
    }),
    dpLevelRange,
  ),
  calculator(
    'ph-buffer',
    'pH of a buffer at a temperature',
    z.strictObject({ set: z.enum(BUFFER_SETS), nominal: number, temp_C: number }),
    phBuffer,
  ),
  calculator(
    'ph-calibration',
    'Slope, offset and verdict of a pH electrode from two to five buffers',
    z.strictObject({
      points: z
        .array(z.strictObject({ ph: number, mV: number }))
        .min(2)
        .max(5),
      temp_C: z.number().gt(-273.15),
    }),
    phCalibration,
  ),
  calculator(
    'chain-diagnosis',
    'Error of a chain split by stage, and the least work that mends it',
    z.strictObject({
      lrv: number,
      urv: number,
      points: z
        .array(z.strictObject({ applied: number, digital: number, mA: number, receiver: number.optional() }))
        .min(2)
        .max(10_000),
      tolerancePct: notNegative,
    }),
    chainDiagnosis,
  ),
  calculator(
    'rtd',
    'Platinum thermometer: resistance from temperature or back (IEC 60751)',
    z.strictObject({ r0_Ohm: size.optional(), temp_C: number.optional(), ohm: number.optional() }),
    ({ r0_Ohm = 100, temp_C, ohm }) => {
      if ((temp_C === undefined) === (ohm === undefined))
        throw new Refusal('invalid-input', 'Give exactly one of temp_C and ohm.')
      return temp_C !== undefined
        ? { temp_C, ohm: rtdResistance(temp_C, r0_Ohm) }
        : { temp_C: rtdTemperature(ohm!, r0_Ohm), ohm: ohm! }
    },
  ),
  calculator(
    'pipe-dimensions',
    'Diameter and wall of a pipe from standard, size and schedule',
    z.strictObject({ standard: z.enum(PIPE_STANDARDS), size: z.string().max(20), schedule: z.string().max(10) }),
    ({ standard, size, schedule }) => pipeDimensions(standard, size, schedule),
  ),
  calculator(
    'water-properties',
    'Liquid water: density, sound speed (IAPWS-95), viscosity (IAPWS 2008)',
    z.strictObject({ temp_C: number, pressure_kPa: number }),
    ({ temp_C, pressure_kPa }) => waterProperties(temp_C, pressure_kPa),
  ),
  calculator(
    'seawater-properties',
    'Seawater: density and sound speed (TEOS-10)',
    z.strictObject({ salinity_gkg: number, temp_C: number, pressure_kPa: number }),
    ({ salinity_gkg, temp_C, pressure_kPa }) => seawaterProperties(salinity_gkg, temp_C, pressure_kPa),
  ),
  calculator(
    'gas-properties',
    'Gas mixture: compressibility, density, sound speed (AGA Report No. 8 DETAIL)',
    z.strictObject({
      composition: z.partialRecord(z.enum(GAS_COMPONENTS), notNegative),
      temp_C: number,
      pressure_kPa: size,
    }),
    ({ composition, temp_C, pressure_kPa }) => gasProperties(composition, temp_C, pressure_kPa),
  ),
  calculator(
    'profile-factor',
    'Mean velocity of a pipe over the velocity on a diametric path',
    z.strictObject({ reynolds: notNegative }),
    ({ reynolds }) => ({ factor: profileFactor(reynolds) }),
  ),
  calculator(
    'clamp-on-geometry',
    'Beam of a clamp-on pair: angles, spacing, way in the fluid',
    beam.refine(linerHasSpeed, 'a liner needs its speed'),
    clampOnGeometry,
  ),
  calculator(
    'clamp-on-flow',
    'Flow and sound speed from the two transit times of a clamp-on pair',
    beam
      .extend({ upTime_us: size, downTime_us: size, kinematicViscosity_cSt: size })
      .refine(linerHasSpeed, 'a liner needs its speed'),
    clampOnFlow,
  ),
  calculator(
    'coriolis-density',
    'Density from the period of a Coriolis meter',
    z.strictObject({
      lowPeriod_us: size,
      lowDensity_kgm3: number,
      highPeriod_us: size,
      highDensity_kgm3: number,
      periodTempCoeff: number,
      period_us: size,
      temp_C: number,
    }),
    coriolisDensity,
  ),
  calculator(
    'coriolis-mass-flow',
    'Mass flow from the time delay of a Coriolis meter',
    z.strictObject({
      flowCal_gps_per_us: size,
      timeDelay_us: number,
      zero_us: number,
      flowTempCoeff: number,
      temp_C: number,
      cutoff_gps: number,
    }),
    coriolisMassFlow,
  ),
  calculator(
    'pulse-output',
    'Frequency of a pulse output, scaled in any of three ways',
    z.strictObject({
      scaling: z.discriminatedUnion('method', [
        z.strictObject({ method: z.literal('rate'), atRate: size, frequency_Hz: size }),
        z.strictObject({ method: z.literal('pulses-per-unit'), pulses: size }),
        z.strictObject({ method: z.literal('units-per-pulse'), units: size }),
      ]),
      flow: number,
      maxFrequency_Hz: size.optional(),
    }),
    pulseOutput,
  ),
  calculator(
    'sonic-nozzle',
    'Flow of gas through a sonic nozzle',
    z.strictObject({
      throat_mm: size,
      dischargeCoefficient: size,
      gas: z.enum(NOZZLE_GASES),
      pressure_kPa: size,
      temp_C: z.number().gt(-273.15),
      refTemp_C: z.number().gt(-273.15).optional(),
      refPressure_kPa: size.optional(),
    }),
    sonicNozzle,
  ),
  calculator(
    'orifice-flow',
    'Mass flow through an orifice plate from its differential pressure',
    z.strictObject({
      pipe_mm: size,
      bore_mm: size,
      taps: z.enum(['corner', 'flange', 'D-D/2']),
      density_kgm3: size,
      viscosity_mPas: size,
      dp_kPa: size,
      compressible: z.strictObject({ pressure_kPa: size, isentropicExponent: size }).optional(),
    }),
    orificeFlow,
  ),
]

/** Runs a calculator on unchecked input. @throws Refusal `unknown-calculator`, `invalid-input`, and the calculator's own codes */
export function runCalculator(name: string, input: unknown): unknown {
  const found = CALCULATORS.find((c) => c.name === name)
  if (!found) throw new Refusal('unknown-calculator', `No calculator is called “${name}”.`)
  const parsed = found.input.safeParse(input)
  if (!parsed.success)
    throw new Refusal(
      'invalid-input',
      parsed.error.issues.map((i) => `${i.path.join('.') || 'input'}: ${i.message}`).join('; '),
    )
  return found.compute(parsed.data)
}
