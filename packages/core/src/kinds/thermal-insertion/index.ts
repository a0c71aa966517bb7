// A kind of point: mass flow of a gas by two thermometers, one heated, pushed into the pipe through a valve.
import { type Finding } from '../../findings/index.ts'
import { GAS_PRESETS, gasProperties, readComposition } from '../../fluid/index.ts'
import {
  insertionDepth,
  sonicNozzle,
  thermalDifference,
  thermalFlow,
  type FlowModel,
  type Insertion,
  type NozzleGas,
  type ThermalLaw,
} from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Sheet } from '../../sheet/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { linesOf, OUTPUT_KEYS } from '../flow/setup-lines.ts'
import { amount, ATMOSPHERE_kPa, choice, figure, finding, flowKnot, loopUnit, MANUAL, words } from '../flow/shared.ts'
import type { Field, Figure, SetupLine } from '../kind.ts'
import { flowKind } from '../flow/flow-kind.ts'
import { asDifferences, type Reader } from '../reader.ts'
import {
  currentTail,
  cutoffIn,
  identifyFields,
  rangeFields,
  stageOr,
  tripFields,
  wireFields,
} from '../two-wire/index.ts'
import { thermalMeter } from './bench.ts'

const USUAL = 'kg/h'
/** Gauge pressure above which the stem must be held by rods while it moves, bar. */
export const ROD_PRESSURE_bar = 3.5
export const BASELINE_POINTS = [1, 2, 3, 4] as const
const NOZZLE_GASES_NAMED = [
  { value: 'nitrogen', label: 'nitrogen' },
  { value: 'air', label: 'air' },
  { value: 'carbonDioxide', label: 'carbon dioxide' },
]

export const fields: readonly Field[] = [
  ...identifyFields,
  ...wireFields,
  amount('od', 'Mounting', 'Outside diameter of the pipe', 'length', 'mm', 'Outside.'),
  amount('wall', 'Mounting', 'Wall thickness', 'length', 'mm', 'Gauged or from the pipe’s class.'),
  amount('branch', 'Mounting', 'Branch', 'length', 'mm', 'From the pipe’s outside to the valve’s near face.'),
  amount('valve', 'Mounting', 'Valve', 'length', 'mm', 'Face to face, a full-bore ball valve or double block.'),
  amount(
    'fitting',
    'Mounting',
    'Gland and fittings',
    'length',
    'mm',
    'From the valve’s far face to the face that the stem is measured from.',
  ),
  amount('tip', 'Mounting', 'Thermometers to the stem’s end', 'length', 'mm', 'From the middle of the thermometers.', {
    default: '15 mm',
  }),
  amount('stem', 'Mounting', 'Length of the stem', 'length', 'mm', 'From its end to the head.'),
  choice(
    'rods',
    'Mounting',
    'Restraining rods',
    ['none', 'a pair'],
    'Hold the stem against the pressure while the gland is loose.',
    { required: true },
  ),
  choice(
    'gas',
    'Gas',
    'Gas',
    [...GAS_PRESETS.map(({ id, name }) => ({ value: id, label: name })), { value: 'own', label: 'own composition' }],
    'The meter is calibrated for it.',
    { required: true },
  ),
  words('composition', 'Gas', 'Composition', 'Mole shares: methane 60 %, carbonDioxide 40 %.', {
    required: true,
    when: { key: 'gas', is: ['own'] },
  }),
  amount('fluidTemp', 'Gas', 'Gas temperature', 'temperature', 'degC', 'As it runs.'),
  amount('fluidPressure', 'Gas', 'Pressure, gauge', 'pressure', 'bar', 'As it runs.', {
    required: true,
    reference: 'gauge',
  }),
  amount(
    'dtZero',
    'Certificate',
    'Difference at no flow',
    'temperature-difference',
    'delta_K',
    'Between the two thermometers, from the meter’s certificate.',
  ),
  amount(
    'dtFull',
    'Certificate',
    'Difference at the flow below',
    'temperature-difference',
    'delta_K',
    'From the meter’s certificate.',
  ),
  amount('fullFlow', 'Certificate', 'Flow of that point', 'mass-flow', 'kg/h', 'From the meter’s certificate.'),
  amount('throat', 'Baseline', 'Nozzle throat', 'length', 'mm', 'Bore of the sonic nozzle.'),
  words('discharge', 'Baseline', 'Nozzle’s discharge coefficient', 'From its certificate: 0.992.', { required: true }),
  choice('testGas', 'Baseline', 'Test gas', NOZZLE_GASES_NAMED, 'From a bottle, through regulator and nozzle.', {
    default: 'nitrogen',
  }),
  amount(
    'baseTemp',
    'Baseline',
    'Gas temperature on that day',
    'temperature',
    'degC',
    'Before the nozzle, when the baseline was taken.',
  ),
  amount('repeat', 'Baseline', 'Must repeat within, ±', 'ratio', '%', 'Of the baseline reading.', { default: '2 %' }),
  ...BASELINE_POINTS.flatMap((n) => [
    amount(
      `base${n}Pressure`,
      'Baseline',
      `Step ${n}: pressure before the nozzle, gauge`,
      'pressure',
      'bar',
      'From the baseline certificate.',
      { required: true, reference: 'gauge' },
    ),
    amount(
      `base${n}Reading`,
      'Baseline',
      `Step ${n}: the meter read`,
      'mass-flow',
      'kg/h',
      'From the baseline certificate.',
    ),
  ]),
  ...rangeFields('mass-flow', 'kg/h'),
  {
    ...amount(
      'cutoff',
      'Transmitter',
      'Low-flow cutoff',
      'mass-flow',
      'kg/h',
      'Below it the meter reports no flow. Above 0, always.',
      { default: '1 kg/h' },
    ),
    stage: 'range',
  },
  ...tripFields('mass-flow', 'kg/h'),
]

const positive = (v: number | undefined): v is number => v !== undefined && Number.isFinite(v) && v > 0

export function insertionOf(r: Reader): Insertion | undefined {
  const [od, wall, branch, valve, fitting, tip] = ['od', 'wall', 'branch', 'valve', 'fitting', 'tip'].map((k) =>
    r.in(k, 'mm'),
  )
  if (![od, wall, branch, valve, fitting, tip].every((v) => v !== undefined && v >= 0) || !positive(od))
    return undefined
  return insertionDepth({
    od_mm: od,
    wall_mm: wall!,
    branch_mm: branch!,
    valve_mm: valve!,
    fitting_mm: fitting!,
    tip_mm: tip!,
  })
}

/** The meter's law in kg/h; undefined while it is missing or contradicts itself. */
export function lawOf(r: Reader): ThermalLaw | undefined {
  const [dtZero_K, dtFull_K, fullFlow] = [r.in('dtZero', 'delta_K'), r.in('dtFull', 'delta_K'), r.in('fullFlow', USUAL)]
  return positive(dtZero_K) && positive(dtFull_K) && positive(fullFlow) && dtFull_K < dtZero_K
    ? { dtZero_K, dtFull_K, fullFlow }
    : undefined
}

const nozzleOf = (r: Reader) => {
  const [throat_mm, discharge] = [r.in('throat', 'mm'), Number(r.text('discharge').replace(',', '.') || Number.NaN)]
  return positive(throat_mm) && discharge > 0 && discharge <= 1.1
    ? { throat_mm, dischargeCoefficient: discharge, gas: (r.text('testGas') || 'nitrogen') as NozzleGas }
    : undefined
}

export interface VerificationStep {
  readonly n: number
  readonly pressure_bar: number
  /** Flow that the nozzle passes at today's temperature, kg/h. */
  readonly nozzle_kgph: number
  /** What the meter must show for it: its baseline reading, corrected for the gas temperature. */
  readonly expected_kgph: number
  readonly reading_kgph?: number
  readonly offPct?: number
  readonly inside?: boolean
}

/** The four steps of an in-place verification at a gas temperature, with what was read so far. */
export function verification(
  r: Reader,
  temp_C: number | undefined,
  readings: Readonly<Record<number, number>>,
): VerificationStep[] {
  const nozzle = nozzleOf(r)
  const base = r.in('baseTemp', 'degC')
  const limit = r.in('repeat', '%') ?? 2
  if (!nozzle || base === undefined) return []
  const today = temp_C ?? base
  return BASELINE_POINTS.flatMap((n) => {
    const [bar, baseline] = [r.in(`base${n}Pressure`, 'bar'), r.in(`base${n}Reading`, USUAL)]
    if (bar === undefined || !(bar > -1) || !positive(baseline) || !(today > -273)) return []
    const at = (t: number) =>
      sonicNozzle({ ...nozzle, pressure_kPa: bar * 100 + ATMOSPHERE_kPa, temp_C: t }).massFlow_kgph
    const nozzle_kgph = at(today)
    const expected_kgph = (baseline * nozzle_kgph) / at(base)
    const reading_kgph = readings[n]
    const head = { n, pressure_bar: bar, nozzle_kgph, expected_kgph }
    if (reading_kgph === undefined) return [head]
    const offPct = 100 * (reading_kgph / expected_kgph - 1)
    return [{ ...head, reading_kgph, offPct, inside: Math.abs(offPct) <= limit + 1e-9 }]
  })
}

function threadOf(r: Reader) {
  const unit = loopUnit(r, USUAL)
  const law = lawOf(r)
  const digital = flowKnot(
    'digital',
    'digital',
    'Reported mass flow',
    'The meter’s own digital value.',
    'mass-flow',
    unit,
    1,
  )
  const knots = [
    flowKnot('flow', 'process', 'Mass flow', 'True mass flow in the pipe.', 'mass-flow', unit, 1),
    flowKnot(
      'difference',
      'sensor',
      'Temperature difference',
      'Between the heated and the other thermometer.',
      'temperature-difference',
      'delta_K',
      2,
    ),
    digital,
  ]
  const wells = ['not at the centre line', 'deposits on the heated well', 'gas of another composition, or wet']
  const reckons = ['meter calibrated for another gas', 'pipe area entered wrong in the meter']
  const entered = r.missing('dtZero', 'dtFull', 'fullFlow')
  const needs = entered.length ? entered : law ? [] : ['a difference that falls with the flow']
  const usual = (v: number) => convertUnit(v, unit, USUAL)
  const own = (v: number) => convertUnit(v, USUAL, unit)
  const beyond = () => new Refusal('outside', 'A flow below none cools nothing')
  const forward = (v: number) => {
    if (v < 0) throw beyond()
    return thermalDifference(law!, usual(v))
  }
  const inverse = (d: number) => {
    if (!(d > 0)) throw beyond()
    return own(thermalFlow(law!, d))
  }
  const stages: Stage[] = [
    stageOr('Heated well', wells, needs, () => ({
      title: 'Heated well',
      causes: wells,
      ready: true,
      forward,
      inverse,
      working: (v) => ({
        title: 'Temperature difference',
        formula: 'ΔT = ΔT₀ / (1 + k·√ṁ)',
        numbers:
          `${show(law!.dtZero_K, 'K')} / (1 + (${show(law!.dtZero_K, 'K')}/${show(law!.dtFull_K, 'K')} − 1) × ` +
          `√(${show(usual(v), USUAL)} / ${show(law!.fullFlow, USUAL)})) = ${show(forward(v), 'K')}`,
        source: 'King’s law with exponent ½, through the two points of the certificate',
      }),
    })),
    withCutoff(
      stageOr('Meter', reckons, needs, () => ({
        title: 'Meter',
        causes: reckons,
        ready: true,
        forward: inverse,
        inverse: forward,
      })),
      cutoffIn(r, unit),
    ),
  ]
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

function gasDensity(r: Reader): number | Refusal | undefined {
  const preset = GAS_PRESETS.find((p) => p.id === r.text('gas'))
  const [temp, bar] = [r.in('fluidTemp', 'degC'), r.in('fluidPressure', 'bar')]
  if (temp === undefined || bar === undefined || (!preset && !r.text('composition'))) return undefined
  return attempt(
    () =>
      gasProperties(
        preset?.composition ?? readComposition(r.text('composition')).composition,
        temp,
        bar * 100 + ATMOSPHERE_kPa,
      ).density_kgm3,
  )
}

function figuresOf(r: Reader): Figure[] {
  const insertion = insertionOf(r)
  const needs = r.missing('od', 'wall', 'branch', 'valve', 'fitting')
  const mm = (key: string) => show(r.in(key, 'mm') ?? 0, 'mm', { decimals: 1, trim: true })
  const density = gasDensity(r)
  const [od, wall, urv] = [r.in('od', 'm'), r.in('wall', 'm'), r.in('urv', 'kg/s')]
  const bore = od !== undefined && wall !== undefined && od > 2 * wall ? od - 2 * wall : undefined
  const known = typeof density === 'number' ? density : undefined
  const velocity = known && bore && urv !== undefined ? urv / known / ((Math.PI / 4) * bore ** 2) : undefined
  const steps = verification(r, undefined, {})
  const geometry = 'Lengths of the mounting as entered'
  const says = density instanceof Refusal ? density.message : 'a length is below 0'
  return [
    figure('insert', 'Insert to, from the face to the stem’s end', 'mm', 0, insertion?.insert_mm, {
      needs,
      says,
      working: () => ({
        formula: 'fittings + valve + branch + D/2 + tip',
        numbers: `${mm('fitting')} + ${mm('valve')} + ${mm('branch')} + ${mm('od')}/2 + ${mm('tip')}`,
        source: geometry,
      }),
    }),
    figure('clear', 'Clear of the valve at', 'mm', 0, insertion?.clear_mm, {
      needs,
      says,
      working: () => ({ formula: 'fittings', numbers: mm('fitting'), source: geometry }),
    }),
    figure('travel', 'To be drawn back to close the valve', 'mm', 0, insertion?.travel_mm, {
      needs,
      says,
      working: () => ({
        formula: 'insert − clear',
        numbers: `${mm('valve')} + ${mm('branch')} + ${mm('od')}/2 + ${mm('tip')}`,
        source: geometry,
      }),
    }),
    figure('gas-density', 'Gas density', 'kg/m3', 3, known, {
      needs: r.missing('gas', 'composition', 'fluidTemp', 'fluidPressure'),
      says,
      working: () => ({
        formula: 'ρ of the mixture',
        numbers:
          `at ${show(r.in('fluidTemp', 'degC')!, 'degC', { trim: true })} and ` +
          `${show(r.in('fluidPressure', 'bar')!, 'bar', { trim: true })} gauge`,
        source: 'AGA Report No. 8 Part 1, DETAIL',
      }),
    }),
    figure('velocity-full', 'Velocity at the upper range value', 'm/s', 2, velocity, {
      needs: [...r.missing('gas', 'composition', 'fluidTemp', 'fluidPressure', 'od', 'wall', 'urv')],
      says,
      working: () => ({
        formula: 'v = ṁ / (ρ·A)',
        numbers:
          `${show(r.in('urv', USUAL)!, USUAL)} / (${show(known!, 'kg/m3')} × area of ` +
          `${show(bore! * 1000, 'mm', { decimals: 1 })})`,
        source: 'Continuity',
      }),
    }),
    figure(
      'nozzle',
      'Nozzle passes at step 4, as on the baseline day',
      USUAL,
      2,
      steps.find((s) => s.n === 4)?.nozzle_kgph,
      {
        needs: r.missing('throat', 'discharge', 'baseTemp', 'base4Pressure', 'base4Reading'),
        says: 'a figure of the nozzle is not above 0',
        working: () => ({
          formula: 'ṁ = C·A·p·√(γ·M/(R·T))·(2/(γ+1))^((γ+1)/(2(γ−1)))',
          numbers:
            `throat ${show(r.in('throat', 'mm')!, 'mm')}, C ${r.text('discharge')}, ` +
            `${show(r.in('base4Pressure', 'bar')!, 'bar', { trim: true })} gauge, ` +
            `${show(r.in('baseTemp', 'degC')!, 'degC', { trim: true })}`,
          source: 'Choked flow of an ideal gas (as in ISO 9300)',
        }),
      },
    ),
  ]
}

function findingsOf(r: Reader): Finding[] {
  const found: Finding[] = []
  const bar = r.in('fluidPressure', 'bar')
  if (bar !== undefined && bar > ROD_PRESSURE_bar && r.text('rods') === 'none')
    found.push(
      finding(
        'stop',
        'no-rods',
        ['rods', 'fluidPressure'],
        `The gas stands at ${show(bar, 'bar', { decimals: 1, trim: true })} gauge and there are no restraining rods.`,
        'With the gland loose the pressure drives the stem out like a piston.',
        `Above ${ROD_PRESSURE_bar} bar gauge a pair of rods is mandatory; otherwise vent the pipe first.`,
        'Certain.',
      ),
    )
  for (const key of ['od', 'wall', 'branch', 'valve', 'fitting', 'tip', 'stem', 'throat'])
    if ((r.in(key, 'mm') ?? 1) < 0 || (['od', 'throat'].includes(key) && r.in(key, 'mm') === 0))
      found.push(
        finding(
          'stop',
          `length-negative-${key}`,
          [key],
          `The ${r.label(key)} is below 0, or 0.`,
          'No such part exists.',
          'Correct the figure.',
          'Certain.',
        ),
      )
  const [od, wall] = [r.in('od', 'mm'), r.in('wall', 'mm')]
  if (od !== undefined && wall !== undefined && od > 0 && od <= 2 * wall)
    found.push(
      finding(
        'stop',
        'no-bore',
        ['od', 'wall'],
        'The wall leaves no bore.',
        'There is nothing that could flow.',
        'Check the units.',
        'Certain.',
      ),
    )
  const [insertion, stem] = [insertionOf(r), r.in('stem', 'mm')]
  if (insertion && stem !== undefined && stem < insertion.insert_mm)
    found.push(
      finding(
        'stop',
        'stem-short',
        ['stem'],
        `The stem of ${show(stem, 'mm', { trim: true })} does not reach the centre line: ` +
          `${show(insertion.insert_mm, 'mm', { trim: true, decimals: 0 })} are needed.`,
        'Near the wall the flow is slower: the meter would read low.',
        'Take a longer stem or a shorter branch.',
        'Certain, if the lengths are right.',
      ),
    )
  const [zero, full] = [r.in('dtZero', 'delta_K'), r.in('dtFull', 'delta_K')]
  if (zero !== undefined && full !== undefined && !(full < zero && full > 0))
    found.push(
      finding(
        'stop',
        'law-reversed',
        ['dtZero', 'dtFull'],
        'The temperature difference at flow is not below that at no flow.',
        'Flow cools the heated thermometer: the difference falls.',
        'Exchange or correct the two.',
        'Certain.',
      ),
    )
  const density = gasDensity(r)
  if (density instanceof Refusal)
    found.push(
      finding(
        'stop',
        density.code,
        ['gas', 'composition', 'fluidTemp', 'fluidPressure'],
        density.message,
        'The meter is calibrated for a dry gas of known composition.',
        'Check composition, pressure and temperature.',
        'Certain by the gas’s equation.',
      ),
    )
  if ((r.in('cutoff', USUAL) ?? 1) <= 0)
    found.push(
      finding(
        'stop',
        'cutoff-not-positive',
        ['cutoff'],
        'The low-flow cutoff is not above 0.',
        'Without one the total creeps while nothing flows.',
        'Enter the smallest flow that means anything.',
        'Certain.',
      ),
    )
  const text = r.text('discharge')
  if (text && !nozzleOf(r) && r.in('throat', 'mm') !== undefined)
    found.push(
      finding(
        'stop',
        'discharge',
        ['discharge', 'throat'],
        `“${text}” is no discharge coefficient, or the throat is not above 0.`,
        'A nozzle’s coefficient lies a little below 1.',
        'Copy it from the nozzle’s certificate.',
        'Certain.',
      ),
    )
  return found
}

/** Work at the point: putting it in, verifying it in its place, taking it back. */
export function thermalSheets(r: Reader): Sheet[] {
  const insertion = insertionOf(r)
  const mm = (v: number | undefined) =>
    v === undefined ? 'the length that the drawing gives' : show(v, 'mm', { decimals: 0, trim: true })
  const bar = r.in('fluidPressure', 'bar') ?? 0
  const rods = bar > ROD_PRESSURE_bar
  const piston =
    'The pressure pushes the stem ' +
    `out${bar > 0 ? ` (${show(bar, 'bar', { decimals: 1, trim: true })} gauge here)` : ''}. ` +
    `${rods ? 'Restraining rods on, both, before the gland is touched.' : 'Hold it; never stand in line with it.'} ` +
    'Hazardous area: certified tools, gas detector on.'
  const steps = verification(r, undefined, {})
  const told = {
    id: 'told',
    title: 'Operations told, loop in manual',
    says: 'Flare, valve or total that follows this flow is held by the operator.',
    askWords: 'Who was told',
  }
  const back = {
    id: 'back',
    title: 'Operations told, loop back in automatic',
    says: 'Reading plausible again.',
    askWords: 'Who was told',
  }
  return [
    {
      id: 'insert',
      title: 'Insert the meter',
      steps: [
        told,
        {
          id: 'mark',
          title: 'Mark the stem',
          says:
            `Mark it at ${mm(insertion?.insert_mm)} and ${mm(insertion?.clear_mm)} from its end; arrow on the ` +
            'head along the flow.',
        },
        {
          id: 'rods',
          title: rods ? 'Restraining rods on' : 'Stem held',
          says: 'Before anything is opened.',
          caution: piston,
        },
        {
          id: 'seat',
          title: 'Screwed onto the closed valve',
          says: `Stem drawn back to ${mm(insertion?.clear_mm)}, gland just tight.`,
        },
        {
          id: 'open',
          title: 'Valve opened, slowly',
          says: 'Listen and smell at the gland; close again at any leak.',
          caution: piston,
        },
        {
          id: 'in',
          title: 'In to the centre line',
          says:
            `Gland loose enough to move, stem in to ${mm(insertion?.insert_mm)}, arrow along the flow, gland ` +
            'tight to run.',
          ask: { label: 'Inserted to', quantity: 'length', unit: 'mm' },
        },
        back,
      ],
    },
    {
      id: 'verify',
      title: 'Verify in its place, with test gas',
      steps: [
        told,
        {
          id: 'rods',
          title: rods ? 'Restraining rods on' : 'Stem held',
          says: 'Before the gland is loosened.',
          caution: piston,
        },
        {
          id: 'retract',
          title: 'Loosen the gland, retract past the valve',
          says: `Draw back by ${mm(insertion?.travel_mm)}, to ${mm(insertion?.clear_mm)}. Tighten the gland.`,
          caution: piston,
        },
        {
          id: 'close',
          title: 'Close the valve',
          says: 'It must close without touching the stem. If it does not, the stem is not back far enough.',
        },
        {
          id: 'vent',
          title: 'Open the vent',
          says: 'The gas between valve and gland goes outside, away from people and sparks.',
          caution:
            'Vent outside: nitrogen and biogas displace air, and kill without warning in a closed room. ' +
            'Oxygen meter on.',
        },
        {
          id: 'connect',
          title: 'Regulator, gauge, nozzle and bottle connected',
          says:
            `Nozzle with a throat of ${show(r.in('throat', 'mm') ?? 0, 'mm', { decimals: 2 })} on the test ` +
            'port; bottle chained; regulator backed off before it is opened.',
          caution: 'A falling or unchained bottle is a rocket.',
        },
        {
          id: 'temp',
          title: 'Gas temperature',
          says: 'Before the nozzle; the page corrects the expected reading for it.',
          ask: { label: 'Gas temperature', quantity: 'temperature', unit: 'degC' },
        },
        ...BASELINE_POINTS.map((n) => {
          const step = steps.find((s) => s.n === n)
          return {
            id: `point-${n}`,
            title: `Step ${n}${step ? `: ${show(step.pressure_bar, 'bar', { decimals: 2, trim: true })} gauge` : ''}`,
            says: step
              ? 'Set the pressure and let it stand. The nozzle then passes about ' +
                `${show(step.nozzle_kgph, USUAL, { decimals: 1 })}.`
              : 'Set the pressure of the baseline certificate.',
            ask: { label: `Meter reads at step ${n}`, quantity: 'mass-flow' as const, unit: USUAL },
          }
        }),
        {
          id: 'off',
          title: 'Bottle closed, gas vented outside',
          says: 'Regulator backed off, hoses off, port capped.',
          caution: 'Vent outside, never into a closed room.',
        },
        { id: 'unvent', title: 'Vent closed, tight', says: 'Before the valve is opened again.' },
        { id: 'reopen', title: 'Valve opened, slowly', says: 'Check the gland for leaks.', caution: piston },
        {
          id: 'in',
          title: 'In to the centre line again',
          says: `Stem in to ${mm(insertion?.insert_mm)}, arrow along the flow, gland tight to run.`,
          ask: { label: 'Inserted to', quantity: 'length' as const, unit: 'mm' },
        },
        back,
      ],
    },
  ]
}

const setupOf = (r: Reader): SetupLine[] =>
  linesOf(r, [
    'Gas:',
    'gas',
    'composition',
    'Pipe:',
    'od',
    'wall',
    'Certificate:',
    'dtZero',
    'dtFull',
    'fullFlow',
    ...OUTPUT_KEYS,
  ])

function modelOf(r: Reader): FlowModel | undefined {
  const law = lawOf(r)
  const [a, b] = [r.in('lrv', USUAL), r.in('urv', USUAL)]
  if (!law || a === undefined || b === undefined || !((a + b) / 2 > 0)) return undefined
  return {
    inputs: [
      {
        key: 'dtZero',
        label: 'Difference at no flow',
        unit: 'K',
        value: law.dtZero_K,
        tolerance: law.dtZero_K * 0.005,
        distribution: 'normal',
      },
      {
        key: 'dtFull',
        label: 'Difference at the certificate’s flow',
        unit: 'K',
        value: law.dtFull_K,
        tolerance: law.dtFull_K * 0.005,
        distribution: 'normal',
      },
      {
        key: 'fullFlow',
        label: 'Flow of the certificate',
        unit: USUAL,
        value: law.fullFlow,
        tolerance: law.fullFlow * 0.01,
        distribution: 'normal',
      },
      {
        key: 'difference',
        label: 'Difference measured',
        unit: 'K',
        value: thermalDifference(law, (a + b) / 2),
        tolerance: 0.02,
        distribution: 'normal',
      },
    ],
    outputs: [{ id: 'flow', label: 'Mass flow', unit: USUAL, decimals: 2 }],
    compute: (v) => [thermalFlow({ dtZero_K: v[0]!, dtFull_K: v[1]!, fullFlow: v[2]! }, v[3]!)],
  }
}

export const thermalInsertion = flowKind({
  id: 'thermal-insertion',
  name: 'Flow, thermal insertion',
  version: 2,
  // Differences were taken for temperatures once: 60 °C stood for 333 K.
  migrate: (entries) => asDifferences(entries, ['dtZero', 'dtFull']),
  summary: 'Two thermometers through a valve into a gas pipe, one heated: mass flow; 4–20 mA.',
  fields,
  usual: USUAL,
  check: {
    trueInput: 'True mass flow reached',
    reference: 'nozzle, or reference meter',
    process: 'Mass flow',
    cautions: [
      MANUAL,
      'Insertion under pressure drives the stem out: rods above 3.5 bar gauge, gland by the sheet, nobody in ' +
        'line with the stem. Nitrogen and biogas are vented outside, never into a closed room. Hazardous area: ' +
        'certified equipment.',
    ],
  },
  known: lawOf,
  thread: (r) => threadOf(r),
  figures: (r) => figuresOf(r),
  findings: (r) => findingsOf(r),
  sheets: thermalSheets,
  doubt: (r) => modelOf(r),
  setup: (r) => setupOf(r),
  meter(r, law, keyed, unit) {
    if (!law) return undefined
    const cutoff_kgph = r.in('cutoff', USUAL) ?? 0
    return thermalMeter({
      law,
      nozzle: nozzleOf(r),
      keyed,
      unit,
      cutoff_kgph,
      baseline: verification(r, undefined, {}),
    })
  },
})
