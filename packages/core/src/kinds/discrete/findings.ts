// What is wrong, or worth knowing, with a discrete point: the verdict in both manners of speaking, the supply, the
// distance, the counting.
import {
  actsAs,
  coilPole,
  isMismatch,
  parseDays,
  parseShifts,
  TARGET_METALS,
  type OperateLimits,
} from '../../discrete/index.ts'
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { STATE_WORDS, type SwitchRun } from '../switch-run.ts'
import { relayContact, type SwitchSetup } from './setup.ts'

const V = (v: number) => show(v, 'V', { decimals: 1 })
const mA = (v: number) => show(v, 'mA', { decimals: 1 })
const mm = (v: number) => show(v, 'mm', { decimals: 1, trim: true })

/** The pair in both manners of speaking, so that nobody is misled. */
export function bothManners(
  output: string,
  common: 'positive' | 'negative',
  load: boolean,
): { sensor: string; card: string } {
  const acts = output === 'push-pull' || output === 'dry contact' ? output : actsAs(output as 'PNP', common)
  const sensor =
    output === 'dry contact'
      ? 'A dry contact only joins its two leads: it neither sinks nor sources.'
      : output === 'push-pull'
        ? 'The sensor does both: it sources while it conducts and sinks while it does not.'
        : output === 'two-wire'
          ? 'A two-wire sensor takes the place of a switch: here it ' +
            `${acts === 'PNP' ? 'sources, as a PNP' : 'sinks, as an NPN'}.`
          : acts === 'PNP'
            ? 'The sensor sources: current comes out of its signal wire.'
            : 'The sensor sinks: current goes into its signal wire.'
  const what = load ? 'load' : 'card'
  const card =
    common === 'negative'
      ? `The ${what} sinks: current goes in at its terminal and on to the negative pole.`
      : `The ${what} sources: current comes from the positive pole and out of its terminal.`
  return { sensor, card }
}

const POLE_WORDS = {
  NPN: 'An NPN can only join its signal wire to the negative',
  PNP: 'A PNP can only join its signal wire to the positive',
}
function verdictFinding(
  r: Reader,
  setup: SwitchSetup,
  run: Pick<SwitchRun, 'lanes' | 'verdict'>,
  drawn: boolean,
): Finding | undefined {
  const { lanes, verdict } = run
  if (!lanes || !verdict || !setup.entered) return undefined
  const { circuit, maxOut_mA, load_mA } = setup.entered
  const output = r.text('output')
  const what = load_mA === undefined ? 'input' : 'load'
  const told = (l: typeof lanes.present) => `${V(l.inputV)} across the ${what} (${STATE_WORDS[l.state]})`
  const both = `With a target ${told(lanes.present)}, without one ${told(lanes.absent)}.`
  const by = relayContact(setup.between)
  const sure = drawn ? 'Certain, for the wiring as drawn.' : 'Certain, if nameplate and data sheet were copied right.'
  const base = { fields: ['output', 'common', 'between'], sure }
  switch (verdict) {
    case 'works':
      return undefined
    case 'overloaded':
      return {
        ...base,
        code: 'switch-overloaded',
        grade: 'stop',
        fields: ['maxOut', 'between', 'drives'],
        what:
          `The output would carry ${mA(Math.max(lanes.present.sensor_mA, lanes.absent.sensor_mA))}; it may ` +
          `switch ${mA(maxOut_mA)}.`,
        why: 'The output stage cuts out or burns, and a cold lamp or a coil takes more still.',
        action: 'Put a relay or a contactor between: see “Make it work”.',
      }
    case 'works-inverted':
      return {
        ...base,
        code: 'switch-inverted',
        grade: r.text('logic') === 'inverts the input' ? 'note' : 'look',
        fields: ['between', 'logic'],
        what: `The ${what} is on while the sensor does not conduct. ${both}`,
        why: 'The logic is turned round: a broken wire then reads like a conducting sensor.',
        action:
          r.text('logic') === 'inverts the input'
            ? 'The program turns it round again; say so in the point’s name.'
            : 'Turn it round in the program, or use another way that keeps it.',
      }
    case 'undefined':
      return {
        ...base,
        code: 'switch-undefined',
        grade: 'stop',
        what: `The ${what} is not sure in every state. ${both}`,
        why:
          circuit.sensor.leakage_mA > 0.5 || circuit.sensor.residualV > 3
            ? 'Leakage or residual voltage of the sensor leaves the input between its thresholds: it will ' +
              'flicker with supply and temperature.'
            : 'Between the thresholds an input may read either; it will flicker.',
        action: 'Choose another way: see “Make it work”.',
      }
    case 'cannot-work': {
      const { common } = circuit.input
      const mismatch = isMismatch(circuit.sensor, circuit.input) && !by
      return {
        ...base,
        code: 'switch-cannot-work',
        grade: 'stop',
        what: `The ${what} reads ${STATE_WORDS[lanes.present.state]} with a target and without one. ${both}`,
        why: mismatch
          ? `${POLE_WORDS[output === 'NPN' ? 'NPN' : 'PNP']} pole, ` +
            `and that is where the ${what} already ends: no current can flow. NO or NC makes no difference to ` +
            'that.'
          : by && coilPole(circuit.sensor.output) === common
            ? 'The relay does not change between its two states.'
            : 'The two states cannot be told apart.',
        action: 'Choose another channel, a resistor or a relay: see “Make it work”.',
      }
    }
  }
}

function supplyFindings(r: Reader): Finding[] {
  const [supply, least, most] = [r.in('supply', 'V'), r.in('supplyLeast', 'V'), r.in('supplyMost', 'V')]
  if (supply === undefined || r.text('output') === 'dry contact') return []
  if (least !== undefined && most !== undefined && least <= most && (supply < least || supply > most))
    return [
      {
        code: 'supply-outside',
        grade: 'stop',
        fields: ['supply', 'supplyLeast', 'supplyMost'],
        what: `The supply gives ${V(supply)}; the sensor is for ${V(least)} to ${V(most)}.`,
        why: supply < least ? 'It will not switch reliably, or not at all.' : 'It will be destroyed.',
        sure: 'Certain, if the nameplate was copied right.',
        action: 'Use another supply or another sensor.',
      },
    ]
  return []
}

/** What differs by less than this is the same figure typed in another unit. */
const SURELY_MORE = 1 + 1e-6

function distanceFindings(r: Reader, distance: OperateLimits | undefined): Finding[] {
  const found: Finding[] = []
  const at = r.in('mountedAt', 'mm')
  const metal = TARGET_METALS.find((m) => m.id === r.text('metal'))
  if (distance && at !== undefined && at > distance.assured_mm * SURELY_MORE)
    found.push({
      code: 'beyond-assured',
      grade: at > distance.usable_mm[1] ? 'stop' : 'look',
      fields: ['mountedAt', 'rated', 'metal'],
      what: `The target passes at ${mm(at)}; every such sensor surely sees it only up to ${mm(distance.assured_mm)}.`,
      why:
        `Expected is ${mm(distance.expected_mm)}` +
        (metal && metal.typical !== 1
          ? `, the rated distance shortened by ${metal.name} (factor ${metal.typical})`
          : '') +
        '; ' +
        'parts differ, and so do temperature and supply.',
      sure:
        at > distance.usable_mm[1]
          ? 'Certain after IEC 60947-5-2.'
          : 'Probable: this one may see it, its replacement may not.',
      action: `Mount it at ${mm(distance.assured_mm)} or nearer, or take a sensor with a longer distance.`,
    })
  if (at !== undefined && at < 0)
    found.push({
      code: 'mounted-inside',
      grade: 'stop',
      fields: ['mountedAt'],
      what: 'The target would pass behind the sensing face.',
      why: 'A distance is counted from the face outwards.',
      sure: 'Certain.',
      action: 'Enter none or more.',
    })
  const side = r.in('targetSide', 'mm')
  if (distance?.standardSide_mm && side !== undefined && side > 0 && side * SURELY_MORE < distance.standardSide_mm)
    found.push({
      code: 'target-small',
      grade: 'look',
      fields: ['targetSide', 'face', 'rated'],
      what: `The target’s smallest side is ${mm(side)}; the standard target has ${mm(distance.standardSide_mm)}.`,
      why: 'A smaller target is seen only nearer; how much the data sheet tells.',
      sure: 'Certain that it shortens; not by how much.',
      action: 'Measure the operate distance in the check, and leave room.',
    })
  return found
}

function countFindings(r: Reader): Finding[] {
  const found: Finding[] = []
  for (const [key, parse] of [
    ['shifts', parseShifts],
    ['days', parseDays],
  ] as const) {
    const text = r.text(key)
    const read = text === '' ? undefined : attempt(() => parse(text))
    if (read instanceof Refusal)
      found.push({
        code: `${key}-unreadable`,
        grade: 'look',
        fields: [key],
        what: read.message,
        why: 'Without it nothing is counted by shift.',
        sure: 'Certain.',
        action: 'Write it as in the help under the entry.',
      })
  }
  const [ideal, long] = [r.in('idealCycle', 's'), r.in('longCycle', 's')]
  if (ideal !== undefined && long !== undefined && long <= ideal)
    found.push({
      code: 'long-not-longer',
      grade: 'look',
      fields: ['longCycle', 'idealCycle'],
      what: 'A long cycle would begin at or below the ideal one.',
      why: 'Every cycle would be marked as long.',
      sure: 'Certain.',
      action: 'Enter a longer time.',
    })
  return found
}

/** What a two-wire sensor lives on, and what the first moment of a load asks of the stage. */
function currentFindings(r: Reader, setup: SwitchSetup, { lanes }: Pick<SwitchRun, 'lanes'>): Finding[] {
  if (!lanes || !setup.entered) return []
  const found: Finding[] = []
  const least = r.text('output') === 'two-wire' ? r.in('leastCurrent', 'mA') : undefined
  const on = [lanes.present, lanes.absent].find((l) => l.conducting)
  if (least !== undefined && on && on.sensor_mA < least)
    found.push({
      code: 'two-wire-starved',
      grade: 'stop',
      fields: ['leastCurrent', 'inputType', 'between'],
      what: `While it conducts the sensor gets ${mA(on.sensor_mA)}; it needs ${mA(least)} to live.`,
      why: 'A two-wire sensor feeds itself from the load’s current: below it the output drops out or flickers.',
      sure: 'Certain, if nameplate and data sheet were copied right.',
      action: 'Put a resistor beside the input that draws the rest, or use an input that takes more.',
    })
  return [...found, ...inrushFindings(r, setup)]
}

/** A filament is ten to fifteen times as conductive cold as hot. */
const COLD_LAMP = 10

function inrushFindings(r: Reader, { entered, between }: SwitchSetup): Finding[] {
  if (!entered || entered.load_mA === undefined || relayContact(between)) return []
  const lamp = r.text('loadKind') === 'filament lamp'
  const given = r.in('inrush', 'mA')
  const first = given ?? (lamp ? COLD_LAMP * entered.load_mA : undefined)
  const fields = ['inrush', 'shortTime', 'loadKind']
  if (first === undefined)
    return r.text('loadKind') === 'electronics with capacitors'
      ? [
          {
            code: 'inrush-unknown',
            grade: 'look',
            fields,
            what: 'The load has capacitors, and its inrush is not entered.',
            why: 'An empty capacitor is a short for a moment: many stages cut out on it.',
            sure: 'Certain that it is more than its running current.',
            action: 'Take the inrush from its data sheet, or put a relay between.',
          },
        ]
      : []
  const rating = r.in('shortTime', 'mA') ?? entered.maxOut_mA
  if (first <= rating) return []
  return [
    {
      code: 'inrush-high',
      grade: 'stop',
      fields,
      what:
        `At first the load takes ${mA(first)}${given === undefined ? ' (a cold filament)' : ''}; the output bears ` +
        `${mA(rating)}.`,
      why: 'A protected stage cuts out and tries again without end; one without is burnt.',
      sure: given === undefined ? 'Probable: a cold filament takes ten to fifteen times its own.' : 'Certain.',
      action: 'Put a relay or a contactor between, or take a lamp with diodes.',
    },
  ]
}

const SIGNS: Readonly<Record<string, RegExp>> = {
  'letters, figures, _': /^[A-Za-z][A-Za-z0-9_]*$/,
  'those and . -': /^[A-Za-z][A-Za-z0-9_.-]*$/,
}

/** The point’s name against what its controller takes. */
function nameFindings(r: Reader): Finding[] {
  const name = r.text('pointName')
  const [most, signs] = [r.in('nameMost', 'counts'), r.text('nameSigns')]
  if (name === '') return []
  const rule = SIGNS[signs]
  const bad = rule && !rule.test(name) ? [...new Set([...name].filter((c) => !rule.test(`a${c}`)))] : []
  const first = rule && !/^[A-Za-z]/.test(name)
  const says = [
    ...(most !== undefined && most > 0 && name.length > most
      ? [`it has ${name.length} characters, and ${most} are allowed`]
      : []),
    ...(bad.length ? [`it has ${bad.map((c) => (c === ' ' ? 'a space' : `“${c}”`)).join(', ')}`] : []),
    ...(first ? ['it does not begin with a letter'] : []),
  ]
  return says.length
    ? [
        {
          code: 'point-name',
          grade: 'look',
          fields: ['pointName', 'nameMost', 'nameSigns'],
          what: `The controller does not take “${name}” as a name: ${says.join('; ')}.`,
          why: 'It refuses it, or cuts it off, and two points may then bear one name.',
          sure: 'Certain, by the rule entered.',
          action: 'Shorten it, or write it with the characters allowed.',
        },
      ]
    : []
}

export function discreteFindings(
  r: Reader,
  setup: SwitchSetup,
  run: Pick<SwitchRun, 'lanes' | 'verdict' | 'distance'>,
  drawn: boolean,
): Finding[] {
  const verdict = verdictFinding(r, setup, run, drawn)
  const { relay, between } = setup
  const supply = r.in('supply', 'V')
  const coil =
    relayContact(between) && supply !== undefined && (supply > 1.1 * relay.coilV || supply < 0.8 * relay.coilV)
      ? [
          {
            code: 'coil-voltage',
            grade: 'stop',
            fields: ['coilVolts', 'supply'],
            what: `A coil of ${V(relay.coilV)} on a supply of ${V(supply)}.`,
            why: supply > relay.coilV ? 'It overheats.' : 'It does not surely pick up.',
            sure: 'Certain: a coil takes 80 to 110 % of its rated voltage (IEC 61810-1).',
            action: 'Take a relay whose coil is for this supply.',
          } as const,
        ]
      : []
  return [
    ...setup.impossible,
    ...(verdict ? [verdict] : []),
    ...supplyFindings(r),
    ...currentFindings(r, setup, run),
    ...nameFindings(r),
    ...coil,
    ...distanceFindings(r, run.distance),
    ...countFindings(r),
  ]
}
