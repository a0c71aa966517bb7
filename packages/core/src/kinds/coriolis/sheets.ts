// Work at a Coriolis point, step by step: alerts first, a lost memory, the zero, the health check, the density.
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import {
  figureOf,
  judgeLines,
  type RunGiven,
  type RunJudged,
  type Sheet,
  type SheetStep,
  type StepMark,
} from '../../sheet/index.ts'
import type { SetupLine } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { ALERTS, ALERTS_OF_LOST_MEMORY } from './alerts.ts'
import { referenceDensity } from './figures.ts'

const readAlerts = (marks: readonly StepMark[] = ALERTS): SheetStep => ({
  id: 'alerts',
  title: 'Read the active alerts',
  says:
    'Before anything else, at its display or over its link. Those that call for action or spoil accuracy come ' +
    'first: work on top of them is worth little.',
  marks,
})
const told = {
  id: 'told',
  title: 'Operations told, loop in manual',
  says: 'Whatever this flow controls or trips is held by the operator; by-passes only with a permit.',
  askWords: 'Who was told',
}
const back = {
  id: 'back',
  title: 'Operations told, loop back in automatic',
  says: 'Reading plausible again, valves as they were, by-passes removed.',
  askWords: 'Who was told',
}
const BLOCKED =
  'Blocked-in liquid expands when it warms and can burst a fitting: leave it a relief, and never block in a ' +
  'caustic or hot liquid longer than needed.'

/** How far the density of clean water or dry air may be shown off, kg/m³. */
export const DENSITY_LIMIT_kgm3 = 2
/** What is denser than this is water, what is lighter is air: nothing between is either. */
const NO_GAS_kgm3 = 100

function judgeDensity(given: RunGiven): RunJudged | undefined {
  const [temp, shown] = [figureOf(given, 'temperature', 'degC'), figureOf(given, 'density', 'kg/m3')]
  if (temp === undefined) return undefined
  const of = shown !== undefined && shown < NO_GAS_kgm3 ? 'air' : 'water'
  const known = attempt(() => referenceDensity(of, temp))
  if (known instanceof Refusal) return undefined
  const name = of === 'water' ? 'Clean water' : 'Dry air'
  return judgeLines(
    [
      {
        name: `Density, ${name.toLowerCase()}`,
        at: `${show(temp, 'degC', { decimals: 1 })}, atmospheric pressure`,
        expected: known.density_kgm3,
        unit: 'kg/m3',
        decimals: 2,
        limit: DENSITY_LIMIT_kgm3,
        offUnit: 'kg/m3',
        read: shown,
      },
    ],
    {
      rule:
        `${name} by ${known.model} at the tube’s temperature; the meter may be ` +
        `±${show(DENSITY_LIMIT_kgm3, 'kg/m3', { decimals: 1, trim: true })} off.`,
      notChecked:
        'Not checked: the density at other temperatures and of other liquids, the mass flow, the output current and ' +
        'what the controller makes of it.',
    },
  )
}

function judgeHealth(r: Reader, { health }: RunGiven): RunJudged | undefined {
  if (!health) return undefined
  const limit = r.in('healthLimit', '%') ?? 4
  const side = (name: string, key: 'left_pct' | 'right_pct') => ({
    name: `Stiffness, ${name} side`,
    at: '',
    expected: health.reference[key],
    unit: '%',
    decimals: 1,
    limit,
    offUnit: '%',
    read: health.found[key],
  })
  return judgeLines([side('inlet', 'left_pct'), side('outlet', 'right_pct')], {
    rule:
      'Each side must be as stiff as at the reference on record, within ' +
      `±${show(limit, '%', { decimals: 1, trim: true })} of it.`,
    notChecked:
      'That the tube is as stiff as it was is shown, not the error of the flow. Not checked: the zero, the density, ' +
      'the output current and what the controller makes of it.',
  })
}

/** Longest that a total is taken to have run between its reset and its reading. */
const SINCE_RESET_h = 0.25

/** A total before and after it is set back: what is kept is the figure that was there. */
function totalSteps(r: Reader, n: 1 | 2, when: 'before' | 'after'): SheetStep[] {
  const variable = r.text(`total${n}`)
  if (variable !== 'mass flow' && variable !== 'volume flow') return []
  const name = n === 1 ? 'First total' : 'Second total'
  const urv = r.in('urv', 'kg/h')
  const [quantity, unit] = variable === 'mass flow' ? (['mass', 'kg'] as const) : (['volume', 'm3'] as const)
  const most = variable === 'mass flow' && urv !== undefined && urv > 0 ? urv * SINCE_RESET_h : undefined
  return [
    {
      id: `total-${n}-${when}`,
      title: `${name}, ${when}`,
      says:
        when === 'before'
          ? `As the device shows it, every digit: the ${variable} counted since the last reset.`
          : 'As the device shows it now, and the controller where it keeps its own.',
      ask: {
        label: `${name} shown`,
        quantity,
        unit,
        ...(when === 'after' && most !== undefined
          ? {
              plan: {
                against: 'A total that was set back begins at 0',
                ...{ low: -most, high: most },
                else: 'See whether it was this one that was set back.',
              },
            }
          : {}),
      },
    },
  ]
}

export function coriolisSheets(r: Reader, lines: readonly SetupLine[]): Sheet[] {
  const setup = lines.filter((l) => l.text).map((l) => l.key)
  const constants = lines.filter((l) => l.text && l.group === 'Constants').map((l) => l.key)
  const output = r.text('healthOutput') || 'holds its last value'
  return [
    {
      id: 'memory',
      title: 'The sensor’s memory was lost',
      steps: [
        readAlerts(ALERTS_OF_LOST_MEMORY),
        told,
        {
          id: 'identity',
          title: 'Size and drive frequency class',
          says: 'From the sensor’s nameplate: without them the transmitter does not drive the tube.',
        },
        {
          id: 'constants',
          title: 'Every constant, digit by digit',
          opens: 're-entry',
          readBack: constants,
          says: 'Write them from the tag to the transmitter, read them back, and compare each digit below.',
        },
        {
          id: 'outputs',
          title: 'Range, source, cutoff, pulse, fault',
          opens: 're-entry',
          readBack: setup,
          says:
            'The outputs fell back with the memory. The list of what was lost too stands below: write each of ' +
            'its lines again.',
        },
        {
          id: 'zero',
          title: 'Zero judged',
          says: 'Full, at temperature, blocked in on both sides: a new zero belongs to new constants.',
          caution: BLOCKED,
        },
        {
          id: 'check',
          title: 'One point checked',
          says: 'A known flow, or the density of a known liquid, before the loop is trusted.',
        },
        back,
      ],
    },
    {
      id: 'zero',
      title: 'Take the zero',
      steps: [
        readAlerts(),
        told,
        {
          id: 'full',
          title: 'Full and at temperature',
          says: 'Run until the temperature stands still; no gas in the tube.',
          ask: { label: 'Tube temperature', quantity: 'temperature', unit: 'degC' },
        },
        {
          id: 'blocked',
          title: 'Blocked in on both sides, no flow',
          says: 'Two closed valves, the tube full.',
          caution: BLOCKED,
        },
        {
          id: 'found',
          title: 'Zero as found',
          says: 'What the meter shows at no flow, before anything is changed.',
          ask: { label: 'Flow shown at no flow', quantity: 'mass-flow', unit: 'kg/h' },
        },
        {
          id: 'stable',
          title: 'Stability judged',
          says:
            'Let it average; the scatter decides whether the new zero is worth having. A zero that wanders is ' +
            'gas, vibration or a valve that passes.',
          opens: 'zero',
          ask: { label: 'Scatter of the zero', quantity: 'time', unit: 'ns' },
        },
        {
          id: 'left',
          title: 'Zero as left',
          says: 'What the meter shows at no flow now.',
          ask: { label: 'Flow shown at no flow', quantity: 'mass-flow', unit: 'kg/h' },
        },
        back,
      ],
    },
    {
      id: 'health',
      title: 'Health check',
      judge: (given) => judgeHealth(r, given),
      judgedBy: ['healthLimit'],
      steps: [
        readAlerts(),
        {
          ...told,
          says:
            `For about two minutes nothing is measured; the output ${output}. Operations must know which, and ` +
            'agree.',
        },
        {
          id: 'steady',
          title: 'Steady process',
          says: 'For the first one: blocked in and steady, for it becomes the reference.',
          caution: BLOCKED,
        },
        {
          id: 'compared',
          opens: 'health',
          title: 'Compared with the reference',
          says: 'Stiffness of both sides within the limit; what changed since the last check stands beside it.',
        },
        back,
      ],
    },
    {
      id: 'density',
      title: 'Density check',
      judge: judgeDensity,
      steps: [
        readAlerts(),
        told,
        {
          id: 'filled',
          title: 'Tube filled with what is known',
          says:
            'Clean water, free of gas, or dry air at atmospheric pressure. Wait until the temperature stands ' +
            'still.',
          caution: 'Flush a caustic or hot product by the site’s procedure before a line is opened.',
        },
        {
          id: 'temperature',
          title: 'Temperature',
          says: 'Of the tube, as the meter shows it.',
          ask: { label: 'Tube temperature', quantity: 'temperature', unit: 'degC' },
        },
        {
          id: 'density',
          title: 'Density shown',
          says: 'Compared below with that of the reference at this temperature.',
          ask: { label: 'Density shown', quantity: 'density', unit: 'kg/m3' },
        },
        back,
      ],
    },
    {
      id: 'totals',
      title: 'Totals set back',
      steps: [
        {
          id: 'told',
          title: 'Whoever uses the totals told',
          says: 'A total may be a bill, a batch or a balance: set it back only with their leave.',
          askWords: 'Who was told, and why',
        },
        ...totalSteps(r, 1, 'before'),
        ...totalSteps(r, 2, 'before'),
        {
          id: 'reset',
          title: 'Set back',
          says: 'At the display or over the link; one that is to run on is left alone.',
        },
        ...totalSteps(r, 1, 'after'),
        ...totalSteps(r, 2, 'after'),
      ],
    },
  ]
}
