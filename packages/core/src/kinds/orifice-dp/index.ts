// A kind of point: mass flow by an orifice plate and a differential pressure transmitter.
import { type Finding } from '../../findings/index.ts'
import {
  GAS_MODEL,
  GAS_PRESETS,
  gasProperties,
  saturationTemperature_C,
  steamProperties,
  waterProperties,
} from '../../fluid/index.ts'
import {
  orificeDp,
  orificeFlow,
  type FlowModel,
  type OrificeInput,
  type OrificeResult,
  type Taps,
} from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Sheet } from '../../sheet/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import { amount, ATMOSPHERE_kPa, choice, figure, finding, flowKnot, loopUnit, MANUAL } from '../flow/shared.ts'
import type { Field, Figure, SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import type { Reader } from '../reader.ts'
import {
  currentTail,
  cutoffIn,
  identifyFields,
  rangeFields,
  stageOr,
  tripFields,
  wireFields,
} from '../two-wire/index.ts'
import { dpMeter } from './bench.ts'

const USUAL = 'kg/h'
const FLUIDS = [
  { value: 'steam', label: 'steam' },
  { value: 'water', label: 'water' },
  ...GAS_PRESETS.map(({ id, name }) => ({ value: id, label: name })),
  { value: 'own', label: 'own liquid' },
]
const only = (key: string, ...is: string[]) => ({ key, is })
const ROOTS = ['transmitter', 'receiver', 'both', 'neither'] as const

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  amount(
    'pipeBore',
    'Plate',
    'Inside diameter of the pipe',
    'length',
    'mm',
    'At working temperature, upstream of the plate.',
  ),
  amount('bore', 'Plate', 'Bore of the plate', 'length', 'mm', 'Stamped on its tab.'),
  choice('taps', 'Plate', 'Pressure taps', ['flange', 'corner', 'D-D/2'], 'Where the differential pressure is taken.', {
    default: 'flange',
  }),
  choice('fluid', 'Fluid', 'Fluid', FLUIDS, 'Steam and water come from their international equations.', {
    required: true,
  }),
  amount('fluidTemp', 'Fluid', 'Temperature', 'temperature', 'degC', 'Upstream of the plate.'),
  amount(
    'fluidPressure',
    'Fluid',
    'Pressure upstream, gauge',
    'pressure',
    'bar',
    'Above the atmosphere, whose 1.013 bar are added.',
    { required: true, reference: 'gauge' },
  ),
  amount('ownDensity', 'Fluid', 'Density', 'density', 'kg/m3', 'At the working temperature.', {
    required: true,
    when: only('fluid', 'own'),
  }),
  amount('ownViscosity', 'Fluid', 'Viscosity', 'dynamic-viscosity', 'mPa.s', 'At the working temperature.', {
    required: true,
    when: only('fluid', 'own'),
  }),
  amount(
    'sensorHigh',
    'Transmitter',
    'Upper sensor limit',
    'pressure',
    'mbar',
    'Largest differential pressure that the cell measures.',
  ),
  amount('boreDoubt', 'Doubt', 'Bore of the plate, ±', 'length', 'mm', 'How far it may be off.', {
    default: '0.02 mm',
  }),
  amount('pipeDoubt', 'Doubt', 'Pipe, ±', 'length', 'mm', 'How far it may be off.', { default: '0.4 mm' }),
  amount('densityDoubt', 'Doubt', 'Density, ±', 'ratio', '%', 'Of its value: pressure and temperature as they vary.', {
    default: '2 %',
  }),
  amount('dpDoubt', 'Doubt', 'Differential pressure, ±', 'ratio', '%', 'Of its value at mid range.', {
    default: '0.5 %',
  }),
  ...rangeFields('mass-flow', 'kg/h'),
  {
    ...choice(
      'rootAt',
      'Transmitter',
      'Square root taken at',
      ROOTS.map((value) => ({
        value,
        label: { transmitter: 'the transmitter', receiver: 'the receiver', both: 'both', neither: 'neither' }[value],
      })),
      'Linear at one end, square root at the other: exactly one.',
      { required: true },
    ),
    stage: 'range',
    resets: ['cutoff', 'receiverLow', 'receiverHigh'],
  },
  {
    ...amount(
      'cutoff',
      'Transmitter',
      'Low-flow cutoff',
      'mass-flow',
      'kg/h',
      'Near no flow a root is all noise. Above 0, always.',
    ),
    stage: 'range',
  },
  ...tripFields('mass-flow', 'kg/h'),
]

const positive = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v > 0

export interface Plate {
  readonly plate: Omit<OrificeInput, 'dp_kPa'> | undefined
  readonly fluid:
    | {
        readonly density_kgm3: number
        readonly viscosity_mPas: number
        readonly model: string
        readonly exponent?: number
      }
    | Refusal
    | undefined
  readonly pressure_kPa: number | undefined
  /** What stands at the upper range value, and at mid range. */
  readonly full: (OrificeResult & { dp_kPa: number }) | Refusal | undefined
  readonly needs: readonly string[]
}

function fluidOf(r: Reader, temp: number, pressure: number): Plate['fluid'] {
  const id = r.text('fluid')
  if (id === 'steam')
    return attempt(() => {
      const s = steamProperties(temp, pressure)
      return {
        density_kgm3: s.density_kgm3,
        viscosity_mPas: s.viscosity_mPas,
        exponent: s.isentropicExponent,
        model: 'IAPWS-95, viscosity IAPWS 2008',
      }
    })
  if (id === 'water')
    return attempt(() => ({
      ...waterProperties(Math.max(0.01, temp), pressure),
      model: 'IAPWS-95, viscosity IAPWS 2008',
    }))
  if (id === 'own') {
    const [density_kgm3, viscosity_mPas] = [r.in('ownDensity', 'kg/m3'), r.in('ownViscosity', 'mPa.s')]
    if (density_kgm3 === undefined || viscosity_mPas === undefined) return undefined
    if (!(density_kgm3 > 0 && viscosity_mPas > 0))
      return new Refusal('not-positive', 'Density and viscosity are above 0.')
    return { density_kgm3, viscosity_mPas, model: 'own figures' }
  }
  const gas = GAS_PRESETS.find((p) => p.id === id)
  return (
    gas &&
    attempt(() => {
      const g = gasProperties(gas.composition, temp, pressure)
      return {
        density_kgm3: g.density_kgm3,
        viscosity_mPas: g.viscosity_mPas,
        exponent: g.isentropicExponent,
        model: GAS_MODEL,
      }
    })
  )
}

/** Entries that plate and fluid hang on. */
const OF_THE_PLATE = [
  'pipeBore',
  'bore',
  'taps',
  'fluid',
  'fluidTemp',
  'fluidPressure',
  'ownDensity',
  'ownViscosity',
  'urv',
] as const

export function plateOf(r: Reader): Plate {
  const needs = r.missing('pipeBore', 'bore', 'fluid', 'fluidTemp', 'fluidPressure', 'ownDensity', 'ownViscosity')
  const [pipe_mm, bore_mm, temp, gauge] = [
    r.in('pipeBore', 'mm'),
    r.in('bore', 'mm'),
    r.in('fluidTemp', 'degC'),
    r.in('fluidPressure', 'kPa'),
  ]
  const pressure_kPa = gauge === undefined ? undefined : gauge + ATMOSPHERE_kPa
  const fluid = temp === undefined || !positive(pressure_kPa) ? undefined : fluidOf(r, temp, pressure_kPa)
  if (!positive(pipe_mm) || !positive(bore_mm) || !fluid || fluid instanceof Refusal || !pressure_kPa)
    return { plate: undefined, fluid, pressure_kPa, full: undefined, needs }
  const plate: Omit<OrificeInput, 'dp_kPa'> = {
    pipe_mm,
    bore_mm,
    taps: (r.text('taps') || 'flange') as Taps,
    density_kgm3: fluid.density_kgm3,
    viscosity_mPas: fluid.viscosity_mPas,
    ...(fluid.exponent ? { compressible: { pressure_kPa, isentropicExponent: fluid.exponent } } : {}),
  }
  const urv = r.in('urv', 'kg/s')
  return { plate, fluid, pressure_kPa, needs, full: positive(urv) ? attempt(() => orificeDp(plate, urv)) : undefined }
}

/** Flow in kg/h at a differential pressure in mbar, and back. @throws Refusal */
export const flowAt = (plate: Omit<OrificeInput, 'dp_kPa'>, dp_mbar: number): number =>
  dp_mbar <= 0 ? 0 : orificeFlow({ ...plate, dp_kPa: dp_mbar / 10 }).massFlow_kgps * 3600
export const dpAt = (plate: Omit<OrificeInput, 'dp_kPa'>, flow_kgph: number): number =>
  flow_kgph <= 0 ? 0 : orificeDp(plate, flow_kgph / 3600).dp_kPa * 10

function threadOf(r: Reader, p: Plate) {
  const unit = loopUnit(r, USUAL)
  const rootAt = r.text('rootAt')
  const atTransmitter = rootAt !== 'receiver' && rootAt !== 'neither'
  const usual = (v: number) => convertUnit(v, unit, USUAL)
  const own = (v: number) => convertUnit(v, USUAL, unit)
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  const digital = atTransmitter
    ? flowKnot(
        'digital',
        'digital',
        'Reported flow',
        'The transmitter’s own digital value, after its square root.',
        'mass-flow',
        unit,
        1,
      )
    : flowKnot(
        'digital',
        'digital',
        'Reported pressure',
        'The transmitter’s own digital value, no square root taken.',
        'pressure',
        'mbar',
        2,
      )
  const knots = [
    flowKnot('flow', 'process', 'Mass flow', 'True mass flow through the plate.', 'mass-flow', unit, 1),
    flowKnot('dp', 'sensor', 'Differential pressure', 'Across the plate.', 'pressure', 'mbar', 2),
    digital,
  ]
  const plateCauses = [
    'plate worn, dirty or the wrong way round',
    'density other than entered',
    'straight run too short',
  ]
  const cellCauses = [
    'zero shifted by mounting',
    'impulse lines not equally full',
    'manifold’s equalizing valve not tight',
  ]
  const entered = [...p.needs, ...r.missing('urv')]
  const needs = entered.length || (p.plate && full) ? entered : ['a fluid, plate and range that go together']
  const forward = (v: number) => dpAt(p.plate!, usual(v))
  const inverse = (d: number) => own(flowAt(p.plate!, d))
  const stages: Stage[] = [
    stageOr('Orifice plate', plateCauses, needs, () => ({
      title: 'Orifice plate',
      causes: plateCauses,
      ready: true,
      forward,
      inverse,
      working: (v) => {
        const at = usual(v) > 0 ? orificeDp(p.plate!, usual(v) / 3600) : undefined
        return {
          title: 'Differential pressure',
          formula: 'ṁ = C/√(1 − β⁴) · ε · π/4·d² · √(2·Δp·ρ)',
          numbers: at
            ? `C ${at.dischargeCoefficient.toFixed(5)}, β ${at.beta.toFixed(4)}, ε ` +
              `${at.expansibility.toFixed(5)}, ρ ${show(p.plate!.density_kgm3, 'kg/m3', { decimals: 3 })}, Re ` +
              `${Math.round(at.reynolds)}: Δp = ${show(at.dp_kPa * 10, 'mbar')}`
            : 'no flow, no differential pressure',
          source: 'ISO 5167-2:2003',
        }
      },
    })),
    withCutoff(
      stageOr('Cell', cellCauses, needs, () => ({
        title: 'Cell',
        causes: cellCauses,
        ready: true,
        // A square-root transmitter reckons with one constant, that at the upper range value.
        forward: atTransmitter ? (d) => own(rootFlow(d, full!, usual(r.in('urv', unit)!))) : (d) => d,
        inverse: atTransmitter
          ? (v) => (usual(v) / usual(r.in('urv', unit)!)) ** 2 * full!.dp_kPa * 10 * Math.sign(usual(v))
          : (d) => d,
        working: (d) => ({
          title: digital.name,
          formula: atTransmitter ? 'reported = full flow · √(Δp / full Δp)' : 'reported = Δp',
          numbers: atTransmitter
            ? `${show(r.in('urv', unit)!, unit)} × √(${show(d, 'mbar')} / ${show(full!.dp_kPa * 10, 'mbar')}) = ` +
              `${show(own(rootFlow(d, full!, usual(r.in('urv', unit)!))), unit)}`
            : show(d, 'mbar'),
          source: 'Square root in the transmitter as entered',
        }),
      })),
      cutoffIn(r, unit),
      (d) => Math.abs(own(rootFlow(d, full!, usual(r.in('urv', unit)!)))) < cutoffIn(r, unit)!,
    ),
  ]
  const dpUrv = full ? full.dp_kPa * 10 : 0
  const tail = currentTail(r, digital, {
    ...(atTransmitter ? {} : { ends: [0, dpUrv] as const, shows: { quantity: 'mass-flow' as const, unit } }),
    root: rootAt === 'receiver' || rootAt === 'both',
  })
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

const rootFlow = (dp_mbar: number, full: { dp_kPa: number }, urv_kgph: number): number =>
  Math.sign(dp_mbar) * urv_kgph * Math.sqrt(Math.abs(dp_mbar) / (full.dp_kPa * 10))

function figuresOf(r: Reader, p: Plate): Figure[] {
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  const says =
    p.full instanceof Refusal
      ? p.full.message
      : p.fluid instanceof Refusal
        ? p.fluid.message
        : 'a figure is not above 0'
  const needs = [...p.needs, ...r.missing('urv')]
  const fluid = p.fluid && !(p.fluid instanceof Refusal) ? p.fluid : undefined
  const steam = r.text('fluid') === 'steam' && positive(p.pressure_kPa) && p.pressure_kPa < 22_000
  const source = 'ISO 5167-2:2003'
  const from = (formula: string, numbers: () => string, of = source) => ({
    needs,
    says,
    working: () => ({ formula, numbers: numbers(), source: of }),
  })
  const fluidFrom = (formula: string) => ({
    needs: r.missing('fluid', 'fluidTemp', 'fluidPressure', 'ownDensity', 'ownViscosity'),
    says,
    working: () => ({
      formula,
      numbers:
        `at ${show(r.in('fluidTemp', 'degC')!, 'degC', { trim: true })} and ` +
        `${show(p.pressure_kPa!, 'kPa', { decimals: 0 })} absolute`,
      source: fluid!.model,
    }),
  })
  const cutoff = r.in('cutoff', USUAL)
  const cutoffDp = p.plate && positive(cutoff) ? attempt(() => dpAt(p.plate!, cutoff)) : undefined
  return [
    figure(
      'dp-full',
      'Differential pressure at the upper range value',
      'mbar',
      2,
      full && full.dp_kPa * 10,
      from(
        'ṁ = C/√(1 − β⁴)·ε·π/4·d²·√(2·Δp·ρ), solved for Δp',
        () =>
          `${show(r.in('urv', USUAL)!, USUAL)}: C ${full!.dischargeCoefficient.toFixed(5)}, ε ` +
          `${full!.expansibility.toFixed(5)}`,
      ),
    ),
    figure(
      'beta',
      'β, bore over pipe',
      '1',
      4,
      positive(r.in('bore', 'mm')) && positive(r.in('pipeBore', 'mm'))
        ? r.in('bore', 'mm')! / r.in('pipeBore', 'mm')!
        : undefined,
      {
        needs: r.missing('bore', 'pipeBore'),
        says,
        working: () => ({
          formula: 'β = d / D',
          numbers: `${show(r.in('bore', 'mm')!, 'mm')} / ${show(r.in('pipeBore', 'mm')!, 'mm')}`,
          source,
        }),
      },
    ),
    figure(
      'coefficient',
      'Discharge coefficient at full flow',
      '1',
      5,
      full?.dischargeCoefficient,
      from(
        'C by Reader-Harris/Gallagher',
        () => `β ${full!.beta.toFixed(4)}, Re ${Math.round(full!.reynolds)}, ${r.text('taps')} taps`,
      ),
    ),
    figure(
      'expansibility',
      'Expansibility at full flow',
      '1',
      5,
      full?.expansibility,
      from('ε = 1 − (0.351 + 0.256β⁴ + 0.93β⁸)·(1 − (p₂/p₁)^(1/κ))', () =>
        fluid!.exponent ? `κ ${fluid!.exponent.toFixed(3)}` : 'a liquid does not expand',
      ),
    ),
    figure(
      'reynolds',
      'Reynolds number at full flow',
      '1',
      0,
      full?.reynolds,
      from('Re = 4·ṁ / (π·η·D)', () => `viscosity ${show(fluid!.viscosity_mPas, 'mPa.s', { decimals: 5 })}`),
    ),
    figure('density', 'Density', 'kg/m3', 3, fluid?.density_kgm3, fluidFrom('ρ of the fluid')),
    ...(steam
      ? [
          figure(
            'superheat',
            'Above the boiling point by',
            'K',
            1,
            r.in('fluidTemp', 'degC') === undefined
              ? undefined
              : r.in('fluidTemp', 'degC')! - saturationTemperature_C(p.pressure_kPa),
            {
              needs: r.missing('fluidTemp'),
              working: () => ({
                formula: 't − t(sat)',
                numbers:
                  `${show(r.in('fluidTemp', 'degC')!, 'degC', { trim: true })} − ` +
                  `${show(saturationTemperature_C(p.pressure_kPa!), 'degC', { decimals: 1 })}`,
                source: 'IAPWS SR1-86',
              }),
            },
          ),
        ]
      : []),
    figure(
      'dp-cutoff',
      'Differential pressure at the cutoff',
      'mbar',
      3,
      typeof cutoffDp === 'number' ? cutoffDp : undefined,
      {
        needs: [...p.needs, ...r.missing('cutoff')],
        says: cutoffDp instanceof Refusal ? cutoffDp.message : says,
        working: () => ({ formula: 'Δp at the cutoff flow', numbers: show(cutoff!, USUAL), source }),
      },
    ),
  ]
}

function findingsOf(r: Reader, p: Plate): Finding[] {
  const found: Finding[] = []
  const rootAt = r.text('rootAt')
  if (rootAt === 'both')
    found.push(
      finding(
        'stop',
        'root-twice',
        ['rootAt'],
        'The square root is taken at both ends.',
        'At half flow the controller would show 71 %: everything between the ends reads too high.',
        'Take it at the transmitter or at the receiver, and set the other to linear.',
        'Certain.',
      ),
    )
  if (rootAt === 'neither')
    found.push(
      finding(
        'stop',
        'root-never',
        ['rootAt'],
        'The square root is taken at neither end.',
        'At half flow the controller would show 25 %: everything between the ends reads too low.',
        'Take it at exactly one end.',
        'Certain.',
      ),
    )
  for (const key of ['bore', 'pipeBore'])
    if ((r.in(key, 'mm') ?? 1) <= 0)
      found.push(
        finding(
          'stop',
          `not-positive-${key}`,
          [key],
          `The ${r.label(key)} is not above 0.`,
          'No plate has such a one.',
          'Correct the figure.',
          'Certain.',
        ),
      )
  const [bore, pipe] = [r.in('bore', 'mm'), r.in('pipeBore', 'mm')]
  if (positive(bore) && positive(pipe) && !(bore / pipe >= 0.1 && bore / pipe <= 0.75))
    found.push(
      finding(
        'stop',
        'beta-out-of-range',
        ['bore', 'pipeBore'],
        `β is ${(bore / pipe).toFixed(3)}, outside 0.1 to 0.75.`,
        'The standard’s coefficient does not hold there: no flow can be computed.',
        'Check both diameters and their units; the plate may be for another pipe.',
        'Certain.',
      ),
    )
  else if (p.full instanceof Refusal)
    found.push(
      finding(
        'stop',
        'beyond-plate',
        ['urv', 'bore'],
        p.full.message,
        'The range cannot be reached with this plate.',
        'Lower the range, or take a plate with a larger bore.',
        'Certain, if the entries are right.',
      ),
    )
  if (p.fluid instanceof Refusal)
    found.push(
      finding(
        'stop',
        p.fluid.code,
        ['fluid', 'fluidTemp', 'fluidPressure'],
        p.fluid.message,
        'A plate needs one density: two phases have none.',
        'Check temperature and pressure; dry the steam before the plate.',
        'Certain by the fluid’s equation.',
      ),
    )
  else if (
    r.text('fluid') === 'steam' &&
    positive(p.pressure_kPa) &&
    r.in('fluidTemp', 'degC') !== undefined &&
    p.pressure_kPa < 22_000
  ) {
    const over = r.in('fluidTemp', 'degC')! - saturationTemperature_C(p.pressure_kPa)
    if (over < 5)
      found.push(
        finding(
          'look',
          'steam-nearly-wet',
          ['fluidTemp', 'fluidPressure'],
          `The steam is only ${over.toFixed(1)} °C above its boiling point.`,
          'Drops in it pass the plate unmetered and wear its edge.',
          'Check the trap before the plate, or the temperature.',
          'Likely.',
        ),
      )
  }
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  const limit = r.in('sensorHigh', 'mbar')
  if (full && limit !== undefined && full.dp_kPa * 10 > limit)
    found.push(
      finding(
        'stop',
        'beyond-cell',
        ['sensorHigh', 'urv'],
        `Full flow makes ${show(full.dp_kPa * 10, 'mbar')}, beyond the cell’s ${show(limit, 'mbar', { trim: true })}.`,
        'The current stands while the flow goes on rising.',
        'Take another cell, a larger bore or a smaller range.',
        'Certain, if the entries are right.',
      ),
    )
  const cutoff = r.in('cutoff', USUAL)
  const urv = r.in('urv', USUAL)
  if (cutoff !== undefined && cutoff <= 0)
    found.push(
      finding(
        'stop',
        'cutoff-not-positive',
        ['cutoff'],
        'The low-flow cutoff is not above 0.',
        'Near no flow the root turns the smallest zero error into a flow: the total creeps.',
        'Enter about 5 % of the range.',
        'Certain.',
      ),
    )
  else if (cutoff !== undefined && positive(urv) && cutoff < 0.02 * urv)
    found.push(
      finding(
        'look',
        'cutoff-low',
        ['cutoff'],
        `The cutoff lies at ${((100 * cutoff) / urv).toFixed(1)} % of the range.`,
        `There the differential pressure is ${((100 * cutoff * cutoff) / urv / urv).toFixed(3)} % of its ` +
          'range, less than a usual zero shift.',
        'Raise it to 3 to 8 % of the range.',
        'Likely.',
      ),
    )
  const lrv = r.in('lrv', USUAL)
  if (lrv !== undefined && lrv !== 0)
    found.push(
      finding(
        'look',
        'range-not-from-zero',
        ['lrv'],
        'The range does not begin at no flow.',
        'A square root begins at none; 4 mA would not be none.',
        'Begin the range at 0.',
        'Nearly certain.',
      ),
    )
  return found
}

function sheetsOf(r: Reader): Sheet[] {
  const steam = r.text('fluid') === 'steam'
  return [
    {
      id: 'zero',
      title: 'Take the zero',
      steps: [
        {
          id: 'told',
          title: 'Operations told, loop in manual',
          says: 'Whatever follows this flow is held by the operator; by-passes only with a permit.',
          askWords: 'Who was told',
        },
        {
          id: 'low',
          title: 'Low side closed at the manifold',
          says: 'First the low side, so that the cell sees no more than it is made for.',
          caution:
            `${steam ? 'Hot condensate in the lines: gloves, face shield; never drain the seal. ' : ''}Pressure ` +
            'on both sides: by the site’s procedure only.',
        },
        {
          id: 'equal',
          title: 'Equalized',
          says: 'Equalizing valve opened, then the high side closed. No flow through the manifold now.',
        },
        {
          id: 'found',
          title: 'Zero as found',
          says: 'What the transmitter shows with both sides equal.',
          ask: { label: 'Shown, equalized', quantity: 'pressure', unit: 'mbar' },
        },
        {
          id: 'left',
          title: 'Zero as left',
          says: 'After the zero trim; within its limit it may be left as found.',
          ask: { label: 'Shown, equalized', quantity: 'pressure', unit: 'mbar' },
        },
        {
          id: 'restored',
          title: 'High side opened, equalizing valve closed, low side opened',
          says: 'In this order.',
          caution: 'Opened the wrong way round the cell sees full pressure on one side.',
        },
        {
          id: 'back',
          title: 'Operations told, loop back in automatic',
          says: 'Reading plausible again.',
          askWords: 'Who was told',
        },
      ],
    },
  ]
}

function setupOf(r: Reader, p: Plate): SetupLine[] {
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  return [
    ...linesOf(r, ['Transmitter:', 'sensorHigh', 'rootAt']),
    {
      key: 'dpFull',
      group: 'Transmitter',
      label: 'Differential pressure at 20 mA',
      text: full ? show(full.dp_kPa * 10, 'mbar', { decimals: 2 }) : '',
    },
    ...linesOf(r, OUTPUT_KEYS),
    ...linesOf(r, ['Receiver:', 'receiverLow', 'receiverHigh', 'countsLow', 'countsHigh']),
  ]
}

function modelOf(r: Reader, p: Plate): FlowModel | undefined {
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  if (!p.plate || !full) return undefined
  const plate = p.plate
  // Mid range of the flow is a quarter of the differential pressure.
  const dp = full.dp_kPa / 4
  const share = (key: string) => (r.in(key, '%') ?? 0) / 100
  return {
    inputs: [
      {
        key: 'bore',
        label: 'Bore of the plate',
        unit: 'mm',
        value: plate.bore_mm,
        tolerance: r.in('boreDoubt', 'mm') ?? 0,
        distribution: 'rectangular',
      },
      {
        key: 'pipeBore',
        label: 'Inside diameter of the pipe',
        unit: 'mm',
        value: plate.pipe_mm,
        tolerance: r.in('pipeDoubt', 'mm') ?? 0,
        distribution: 'rectangular',
      },
      {
        key: 'density',
        label: 'Density',
        unit: 'kg/m3',
        value: plate.density_kgm3,
        tolerance: plate.density_kgm3 * share('densityDoubt'),
        distribution: 'rectangular',
      },
      {
        key: 'dp',
        label: 'Differential pressure',
        unit: 'mbar',
        value: dp * 10,
        tolerance: dp * 10 * share('dpDoubt'),
        distribution: 'normal',
      },
      {
        key: 'coefficient',
        label: 'Discharge coefficient, the standard’s own doubt',
        unit: '%',
        value: 0,
        tolerance: 0.5,
        distribution: 'normal',
      },
    ],
    outputs: [{ id: 'flow', label: 'Mass flow', unit: USUAL, decimals: 2 }],
    compute: (v) => [
      orificeFlow({ ...plate, bore_mm: v[0]!, pipe_mm: v[1]!, density_kgm3: v[2]!, dp_kPa: v[3]! / 10 }).massFlow_kgps *
        3600 *
        (1 + v[4]! / 100),
    ],
  }
}

export const orificeDpKind = flowKind({
  id: 'orifice-dp',
  name: 'Flow, orifice and differential pressure',
  summary: 'An orifice plate and a differential pressure transmitter: mass flow by the square root; 4–20 mA.',
  fields,
  usual: USUAL,
  check: {
    trueInput: 'True mass flow, from the differential pressure applied',
    reference: 'pressure calibrator at the manifold',
    process: 'Mass flow',
    cautions: [
      MANUAL,
      'Pressure and hot lines: isolate, equalize and vent in the order of the site’s procedure; hot condensate scalds.',
    ],
  },
  known: (r, keep) =>
    keep('plate', OF_THE_PLATE.map((k) => `${r.text(k)} ${r.unit(k)}`).join('\u0001'), () => plateOf(r)),
  thread: threadOf,
  figures: figuresOf,
  findings: findingsOf,
  sheets: sheetsOf,
  doubt: modelOf,
  setup: setupOf,
  procedures: ['zero-trim'],
  rootAtReceiver: (r) => ['receiver', 'both'].includes(r.text('rootAt')),
  meter(r, p, keyed, unit) {
    const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
    const urv_kgph = r.in('urv', USUAL)
    if (!p.plate || !full || !positive(urv_kgph)) return undefined
    const root = r.text('rootAt') !== 'receiver' && r.text('rootAt') !== 'neither'
    const cutoff_kgph = r.in('cutoff', USUAL) ?? 0
    return dpMeter({ plate: p.plate, fullDp_mbar: full.dp_kPa * 10, urv_kgph, root, cutoff_kgph, unit, keyed })
  },
})
