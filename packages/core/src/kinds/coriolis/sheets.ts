// Work at a Coriolis point, step by step: alerts first, a lost memory, the zero, the health check, the density.
import type { Sheet } from '../../sheet/index.ts'
import type { SetupLine } from '../kind.ts'
import type { Reader } from '../reader.ts'

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

export function coriolisSheets(r: Reader, lines: readonly SetupLine[]): Sheet[] {
  const setup = lines.filter((l) => l.text).map((l) => l.key)
  const constants = lines.filter((l) => l.text && l.group === 'Constants').map((l) => l.key)
  const output = r.text('healthOutput') || 'holds its last value'
  return [
    {
      id: 'memory',
      title: 'The sensor’s memory was lost',
      steps: [
        told,
        {
          id: 'alerts',
          title: 'Read the active alerts',
          says: 'Those that call for action or spoil accuracy come first. Write down which.',
          askWords: 'Alerts that are active',
        },
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
      steps: [
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
      steps: [
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
  ]
}
