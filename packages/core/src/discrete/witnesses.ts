// Proving a discrete point: three witnesses in order, and a meter with its sign.

export const WITNESSES = [
  { id: 'sensorLamp', name: 'Sensor’s own lamp' },
  { id: 'inputLamp', name: 'Input’s lamp' },
  { id: 'controller', name: 'Controller’s state' },
] as const
export type WitnessId = (typeof WITNESSES)[number]['id']

/** What each witness should show with or without a target. */
export interface Expected {
  readonly sensorLamp: boolean
  readonly inputLamp: boolean
  readonly controller: boolean
  /** Signal wire to the negative pole, V; undefined while it cannot be computed. */
  readonly signalV: number | undefined
}

export const FAULT_PLACES: Record<WitnessId, { where: string; causes: readonly string[] }> = {
  sensorLamp: {
    where: 'at the sensor: target, distance or supply',
    causes: [
      'target too far away, too small or of another metal',
      'sensor without supply, or plus and minus exchanged',
      'NO taken for NC',
      'face dirty or sensor damaged',
    ],
  },
  inputLamp: {
    where: 'between the sensor and the input: signal wire or common',
    causes: [
      'signal wire on the wrong terminal or broken',
      'input’s common on the wrong pole',
      'residual voltage or leakage that the input takes the wrong way',
      'output overloaded',
    ],
  },
  controller: {
    where: 'in the controller: address, inversion or filter',
    causes: [
      'another address looked at',
      'logic inverted in the program',
      'input filter longer than the pulse',
      'program not running or point forced',
    ],
  },
}

export type Seen = Readonly<Partial<Record<WitnessId, boolean>>>

/** The first witness, in their order, that does not show what it should; undefined when all that were seen agree. */
export function firstToDisagree(expected: Expected, seen: Seen): WitnessId | undefined {
  return WITNESSES.find(({ id }) => seen[id] !== undefined && seen[id] !== expected[id])?.id
}

export type VoltsSaid = 'agrees' | 'leads-exchanged' | 'floating' | 'other-state' | 'differs'

/**
 * What volts between signal wire (red lead) and negative pole (black lead) say.
 * @param otherV what the other state of the target would give, V
 * @param spare_V how far off still agrees; 10 % of the supply, as lamps, cable and supply are not exact
 */
export function judgeVolts(read_V: number, expected_V: number, otherV: number, spare_V: number): VoltsSaid {
  if (Math.abs(read_V - expected_V) <= spare_V) return 'agrees'
  if (expected_V > spare_V && Math.abs(read_V + expected_V) <= spare_V) return 'leads-exchanged'
  if (Math.abs(read_V - otherV) <= spare_V) return 'other-state'
  if (Math.abs(read_V) < spare_V) return 'floating'
  return 'differs'
}

/** What a meter between signal wire (red) and negative pole (black) may show, and what each means. */
export function voltsMeanings(expected_V: number, otherV: number): { shows: VoltsSaid; volts: number | undefined }[] {
  return [
    { shows: 'agrees', volts: expected_V },
    ...(Math.abs(expected_V) > 1 ? [{ shows: 'leads-exchanged' as const, volts: -expected_V }] : []),
    ...(Math.abs(otherV - expected_V) > 1 ? [{ shows: 'other-state' as const, volts: otherV }] : []),
    ...(Math.min(Math.abs(expected_V), Math.abs(otherV)) > 1 ? [{ shows: 'floating' as const, volts: 0 }] : []),
    { shows: 'differs', volts: undefined },
  ]
}

export const VOLTS_WORDS: Record<VoltsSaid, string> = {
  agrees: 'As expected.',
  'leads-exchanged':
    'The minus sign says that the leads are exchanged: red belongs on the signal wire, black on the negative ' +
    'pole. The amount is right.',
  'other-state': 'This is what the other state of the target gives: the sensor does not see what you think it sees.',
  floating: 'Nothing drives the signal wire: broken wire, dead sensor, or a stage of the other kind.',
  differs: 'Neither state gives this: look for a bad contact, another load on the wire, or a wrong supply.',
}
