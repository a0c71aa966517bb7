// The entries of a discrete sensor: its nameplate, what it is to switch, what stands between, where it switches, and what is counted.
import { CONNECTOR_PINS, INPUT_TYPES, TARGET_METALS } from '../../discrete/index.ts'
import type { Field } from '../kind.ts'
import { identifyFields } from '../two-wire/index.ts'

const same = (...values: string[]) => values.map((value) => ({ value, label: value }))
const sensor = { stage: 'wire', group: 'Sensor, from its nameplate' } as const
const load = { stage: 'wire', group: 'What it switches' } as const
const between = { stage: 'wire', group: 'Between them' } as const
const point = { stage: 'switch-point', group: 'Operating distance' } as const
const name = { stage: 'count', group: 'The point’s name' } as const
const count = { stage: 'count', group: 'Counting' } as const
const volt = { type: 'quantity', quantity: 'voltage', unit: 'V' } as const
const milliamp = { type: 'quantity', quantity: 'current', unit: 'mA' } as const
const ohm = { type: 'quantity', quantity: 'resistance', unit: 'Ohm' } as const
const mm = { type: 'quantity', quantity: 'length', unit: 'mm' } as const
const seconds = { type: 'quantity', quantity: 'time', unit: 's' } as const
const ELECTRONIC = { key: 'output', is: ['PNP', 'NPN', 'push-pull', 'two-wire'] }
const ON_INPUT = { key: 'drives', is: ['controller input'] }
const RELAY = { key: 'between', is: ['relay, NO contact', 'relay, NC contact'] }
const RESISTOR = { key: 'between', is: ['bias resistor', 'bleeder'] }
const INDUCTIVE = { key: 'sensing', is: ['inductive, metal target'] }

export const discreteFields: readonly Field[] = [
  ...identifyFields,
  { key: 'output', ...sensor, type: 'choice', label: 'Output stage', required: true, help: 'PNP sends current out of its signal wire, NPN takes it in.', options: same('PNP', 'NPN', 'push-pull', 'two-wire', 'dry contact') },
  { key: 'contact', ...sensor, type: 'choice', label: 'Contact', required: true, help: 'NO conducts with a target, NC without one.', options: same('NO', 'NC') },
  { key: 'supplyLeast', ...sensor, ...volt, label: 'Supply from', required: true, help: 'Lowest supply on the nameplate.', when: ELECTRONIC },
  { key: 'supplyMost', ...sensor, ...volt, label: 'Supply to', required: true, help: 'Highest supply on the nameplate.', when: ELECTRONIC },
  { key: 'maxOut', ...sensor, ...milliamp, label: 'Highest output current', required: true, help: 'What the output may switch; 100 or 200 mA is common.' },
  { key: 'residual', ...sensor, ...volt, label: 'Residual voltage', help: 'Left across the output while it conducts.', default: '2 V', when: ELECTRONIC },
  { key: 'leakage', ...sensor, ...milliamp, label: 'Leakage', help: 'Flows while the output does not conduct.', default: '0.1 mA', when: ELECTRONIC },
  { key: 'connector', ...sensor, type: 'choice', label: 'Connected by', help: 'Tells its terminals and colours.', options: CONNECTOR_PINS.map((p) => ({ value: p.id, label: p.name })), default: 'leads' },
  { key: 'lamp', ...sensor, type: 'choice', label: 'Its own lamp', help: 'Some show the output, some the target.', options: same('shows the output', 'shows the target', 'none'), default: 'shows the output' },

  { key: 'drives', ...load, type: 'choice', label: 'The signal wire goes to', help: 'A lamp or a solenoid is a load.', options: same('controller input', 'load'), default: 'controller input' },
  { key: 'supply', ...load, ...volt, label: 'Supply', required: true, help: 'What the 24 V supply really gives.' },
  { key: 'common', ...load, type: 'choice', label: 'Its other end is on', required: true, help: 'Common on negative: the card sinks. On positive: it sources.', options: [{ value: 'negative', label: 'negative pole' }, { value: 'positive', label: 'positive pole' }] },
  { key: 'inputType', ...load, type: 'choice', label: 'Input type', help: 'From the card’s data sheet.', options: [...INPUT_TYPES.map((t) => ({ value: t.id, label: t.name })), { value: 'own', label: 'own figures' }], default: 'type-3', when: ON_INPUT },
  { key: 'inputOhm', ...load, ...ohm, label: 'Input resistance', required: true, help: 'Or volts over milliamps from the data sheet.', when: { key: 'inputType', is: ['own'] } },
  { key: 'onMin', ...load, ...volt, label: 'Surely on from', required: true, help: 'Volts across the input.', when: { key: 'inputType', is: ['own'] } },
  { key: 'offMax', ...load, ...volt, label: 'Surely off up to', required: true, help: 'Volts across the input.', when: { key: 'inputType', is: ['own'] } },
  { key: 'loadCurrent', ...load, ...milliamp, label: 'Load takes', required: true, help: 'At the supply’s voltage; a cold lamp takes far more at first.', when: { key: 'drives', is: ['load'] } },

  { key: 'between', ...between, type: 'choice', label: 'Between sensor and input', help: '“Make it work” proposes what fits.', options: same('nothing', 'bias resistor', 'bleeder', 'relay, NO contact', 'relay, NC contact'), default: 'nothing' },
  { key: 'extraOhm', ...between, ...ohm, label: 'Resistor', required: true, help: 'From the signal wire to the pole beside.', when: RESISTOR },
  { key: 'extraTo', ...between, type: 'choice', label: 'Resistor leads to', required: true, help: 'Bias: the far pole. Bleeder: the input’s own.', options: [{ value: 'positive', label: 'positive pole' }, { value: 'negative', label: 'negative pole' }], when: RESISTOR },
  { key: 'coilVolts', ...between, ...volt, label: 'Coil voltage', help: 'As printed on the relay.', default: '24 V', when: RELAY },
  { key: 'coilCurrent', ...between, ...milliamp, label: 'Coil current', help: 'At the coil voltage.', default: '10 mA', when: RELAY },
  { key: 'contactMost', ...between, ...milliamp, label: 'Contact carries', help: 'At DC, for the kind of load.', default: '6000 mA', when: RELAY },
  { key: 'diode', ...between, type: 'choice', label: 'Suppression diode', help: 'Its ring (cathode) at plus.', options: same('fitted', 'none'), default: 'fitted', when: RELAY },
  { key: 'logic', ...between, type: 'choice', label: 'The program', help: 'Whether it turns the input round.', options: same('takes the input as it is', 'inverts the input'), default: 'takes the input as it is', when: ON_INPUT },
  { key: 'wiring', ...between, type: 'wiring', label: 'Wiring', help: 'As drawn at the desk.' },

  { key: 'sensing', ...point, type: 'choice', label: 'How it senses', required: true, help: 'Only metal targets have correction factors.', options: same('inductive, metal target', 'magnet, light or other', 'lever or contact') },
  { key: 'rated', ...point, ...mm, label: 'Rated operating distance', required: true, help: 'For the standard steel target.', when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] } },
  { key: 'metal', ...point, type: 'choice', label: 'Target’s metal', required: true, help: 'Shortens the distance by its factor.', options: TARGET_METALS.map((m) => ({ value: m.id, label: m.name })), when: INDUCTIVE },
  { key: 'face', ...point, ...mm, label: 'Diameter of the sensing face', help: 'Makes the standard target’s size.', when: INDUCTIVE },
  { key: 'targetSide', ...point, ...mm, label: 'Target’s smallest side', help: 'A target smaller than standard is seen later.', when: INDUCTIVE },
  { key: 'mountedAt', ...point, ...mm, label: 'Target passes at', help: 'Distance from the face as it is mounted.', when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] } },
  { key: 'distanceTolerance', ...point, type: 'quantity', quantity: 'ratio', unit: '%', label: 'Tolerance of the distance', help: 'Of the expected distance.', default: '10 %', when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] } },
  { key: 'differentialMost', ...point, type: 'quantity', quantity: 'ratio', unit: '%', label: 'Differential at most', help: 'Of the operate distance.', default: '20 %', when: { key: 'sensing', is: ['inductive, metal target', 'magnet, light or other'] } },

  { key: 'pointName', ...name, type: 'text', label: 'Name in the controller', required: true, help: 'Every other system will see it.' },
  { key: 'meansTrue', ...name, type: 'text', label: 'True means', required: true, help: 'In the operator’s words, such as gate closed.' },
  { key: 'meansFalse', ...name, type: 'text', label: 'False means', required: true, help: 'Such as gate open or on its way.' },
  { key: 'idealCycle', ...count, ...seconds, label: 'Ideal cycle', help: 'The shortest time the machine is built for.' },
  { key: 'longCycle', ...count, ...seconds, label: 'Long cycle above', help: 'What takes longer is marked.' },
  { key: 'shifts', ...count, type: 'text', label: 'Shifts', help: 'Such as Early 06:00–14:00, Late 14:00–22:00.' },
  { key: 'days', ...count, type: 'text', label: 'Days worked', help: 'Such as Mon–Fri, or every day.' },
] // prettier-ignore
