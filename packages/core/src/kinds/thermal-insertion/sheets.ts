// The work at a thermal insertion meter, step by step.
import { formatQuantity as show } from '../../quantity/index.ts'
import { figureOf, judgeLines, type RunGiven, type RunJudged, type Sheet } from '../../sheet/index.ts'
import type { Reader } from '../reader.ts'
import { BASELINE_POINTS, USUAL } from './fields.ts'
import { depthPlan, insertionOf, verification, rodLimit_bar } from './meter.ts'

const JUDGED_BY = [
  ...['throat', 'discharge', 'testGas', 'baseTemp', 'repeat'],
  ...BASELINE_POINTS.flatMap((n) => [`base${n}Pressure`, `base${n}Reading`]),
]
/** The papers that a verification rests on, as far as they are entered: a sentence behind the rule. */
function papersOf(r: Reader): string {
  const named = [
    ['baseline', r.text('baseline')],
    ['nozzle', r.text('nozzleCertificate')],
    ['meter', r.text('certificate')],
  ].flatMap(([what, text]) => (text ? [`${what} ${text}`] : []))
  return named.length ? ` By their certificates: ${named.join(', ')}.` : ''
}

/** Each step of the baseline, corrected for the gas temperature of the day, against what the meter showed. */
function judgeVerification(r: Reader, given: RunGiven): RunJudged | undefined {
  const temp = figureOf(given, 'temp', 'degC')
  const limit = r.in('repeat', '%') ?? 2
  return judgeLines(
    verification(r, temp, {}).map(({ n, pressure_bar, nozzle_kgph, expected_kgph }) => ({
      name: `Step ${n}`,
      at:
        `${show(pressure_bar, 'bar', { decimals: 2, trim: true })} gauge, the nozzle passes ` +
        show(nozzle_kgph, USUAL, { decimals: 2 }),
      expected: expected_kgph,
      unit: USUAL,
      decimals: 1,
      limit,
      offUnit: '%',
      read: figureOf(given, `point-${n}`, USUAL),
    })),
    {
      rule:
        'Each step must show what it showed when the baseline was taken, corrected for the flow that the nozzle ' +
        `passes at ${temp === undefined ? 'the gas temperature of that day' : show(temp, 'degC', { decimals: 1 })}, ` +
        `within ±${show(limit, '%', { decimals: 1, trim: true })}.${papersOf(r)}`,
      notChecked:
        'That the meter repeats its own baseline is shown, not its error against a standard. Not checked: the ' +
        'velocity profile in the duct, the depth of insertion, the composition of the process gas, the output ' +
        'current and what the controller makes of it.',
    },
  )
}

/** Work at the point: putting it in, verifying it in its place, taking it back. */
const mm = (v: number | undefined) =>
  v === undefined ? 'the length that the drawing gives' : show(v, 'mm', { decimals: 0, trim: true })
/** How the stem goes in, wherever the work asks for it. */
const toCentre = (insert_mm: number | undefined): string =>
  `Gland loose enough to move, stem in to ${mm(insert_mm)}, arrow along the flow, gland tight to run.`

export function thermalSheets(r: Reader): Sheet[] {
  const insertion = insertionOf(r)
  const bar = r.in('fluidPressure', 'bar') ?? 0
  const rods = bar > rodLimit_bar(r)
  const piston =
    'The pressure pushes the stem ' +
    `out${bar > 0 ? ` (${show(bar, 'bar', { decimals: 1, trim: true })} gauge here)` : ''}. ` +
    `${rods ? 'Restraining rods on, both, before the gland is touched.' : 'Hold it; never stand in line with it.'} ` +
    'Hazardous area: certified tools, gas detector on.'
  const steps = verification(r, undefined, {})
  const depth = insertion && depthPlan(insertion.insert_mm)
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
          says: toCentre(insertion?.insert_mm),
          caution: piston,
          ask: { label: 'Inserted to', quantity: 'length', unit: 'mm', entry: 'depth', plan: depth },
        },
        back,
      ],
    },
    {
      id: 'verify',
      title: 'Verify in its place, with test gas',
      judge: (given) => judgeVerification(r, given),
      judgedBy: JUDGED_BY,
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
            opens: 'gas' as const,
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
          says: toCentre(insertion?.insert_mm),
          caution: piston,
          ask: { label: 'Inserted to', quantity: 'length' as const, unit: 'mm', entry: 'depth', plan: depth },
        },
        back,
      ],
    },
  ]
}
