// The other face of this kind: a head on an arm that watches a target which moves toward it and away, in place of a
// liquid.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import type { Condition, Field } from '../kind.ts'
import type { Reader } from '../reader.ts'
import type { Geometry } from './geometry.ts'
import { beamRadius } from './mounting.ts'

export const ofLiquid: Condition = { key: 'watches', is: ['liquid'] }
const ofTarget: Condition = { key: 'watches', is: ['target'] }

/** Fields that only a liquid has. */
export const onlyOfLiquid = (fields: readonly Field[]): Field[] =>
  fields.map((f) => ({ ...f, when: [ofLiquid, ...(f.when ? [f.when].flat() : [])] }))

export const watchedField: Field = {
  key: 'watches',
  stage: 'point',
  group: 'Vessel',
  type: 'choice',
  label: 'It watches',
  help: 'A target is a gate, a float’s plate, a stack, a boom: whatever moves toward the device and away.',
  options: [
    { value: 'liquid', label: 'a liquid' },
    { value: 'target', label: 'a moving target' },
  ],
  default: 'liquid',
}

const mounted = { stage: 'point', group: 'Mounting', type: 'quantity', when: ofTarget } as const
export const targetFields: readonly Field[] = [
  {
    ...mounted,
    key: 'armLength',
    quantity: 'length',
    unit: 'mm',
    label: 'Arm, from its post to the beam’s axis',
    help: '1.5 to 3 m (5 to 10 ft): shorter, the post stands in the beam; longer, it sways.',
  },
  {
    ...mounted,
    key: 'targetWidth',
    quantity: 'length',
    unit: 'mm',
    label: 'Target, its least width',
    help: 'What is narrower than the beam lets it hear what lies behind.',
  },
  {
    ...mounted,
    key: 'targetTilt',
    quantity: 'angle',
    unit: 'deg',
    label: 'Target, out of square to the beam',
    help: 'A smooth target throws the echo twice that angle aside.',
    default: '0 deg',
  },
]

/** An arm that is usual, mm: 5 to 10 ft. */
const ARM = { least: 1524, most: 3048 }
const mm = (v: number) => show(v, 'mm', { decimals: 0, trim: true })

/** What arm and target do to the echo. */
export function targetFindings(r: Reader, g: Geometry): Finding[] {
  if (!g.target) return []
  const found: Finding[] = []
  const look = (f: Omit<Finding, 'grade'>) => found.push({ grade: 'look', ...f })
  const [arm, width] = [r.in('armLength', 'mm'), r.in('targetWidth', 'mm')]
  const radius = g.empty === undefined ? undefined : beamRadius(r, g.empty)
  if (arm !== undefined && radius !== undefined && radius >= arm)
    look({
      code: 'arm-in-beam',
      fields: ['armLength', 'beamAngle', 'emptyDistance'],
      what: `At the far end the beam is ${mm(radius)} to each side; the post stands ${mm(arm)} from its axis.`,
      why: 'The post is heard in place of the target.',
      sure: 'Likely.',
      action: `An arm of more than ${mm(radius)}, or a narrower beam.`,
    })
  else if (arm !== undefined && (arm < ARM.least || arm > ARM.most))
    look({
      code: 'arm-not-usual',
      fields: ['armLength'],
      what: `The arm is ${mm(arm)} long; ${mm(ARM.least)} to ${mm(ARM.most)} is usual.`,
      why: arm > ARM.most ? 'A long arm sways in the wind, and the reading with it.' : 'The post is near the beam.',
      sure: 'A rule of the trade.',
      action: arm > ARM.most ? 'Brace the arm, or set the post nearer.' : 'A longer arm, or look for the post’s echo.',
    })
  if (width !== undefined && radius !== undefined && width < 2 * radius)
    look({
      code: 'target-narrower-than-beam',
      fields: ['targetWidth', 'beamAngle', 'emptyDistance'],
      what: `At the far end the beam is ${mm(2 * radius)} wide, the target ${mm(width)}.`,
      why: 'What lies behind the target is heard too: the reading jumps between both.',
      sure: 'Likely, where something lies behind it.',
      action: `A plate of ${mm(2 * radius)} on the target, or a narrower beam.`,
    })
  const [tilt, angle] = [r.in('targetTilt', 'deg'), r.in('beamAngle', 'deg')]
  if (tilt !== undefined && angle !== undefined && 2 * Math.abs(tilt) > angle / 2)
    look({
      code: 'target-tilted',
      fields: ['targetTilt', 'beamAngle'],
      what:
        `The echo goes ${show(2 * Math.abs(tilt), 'deg', { trim: true })} aside, ` +
        `half the beam is ${show(angle / 2, 'deg', { trim: true })}.`,
      why: 'The echo passes the device by: it is lost, or comes over a second surface and too late.',
      sure: 'Likely; a rough target sends some back all the same.',
      action: 'Set the device square to the target, or put a rough or rounded plate on it.',
    })
  return found
}
