// What can be wrong with a level measured from above.
import { finding, type Finding } from '../../findings/index.ts'
import { vesselEnds_m } from '../../level/index.ts'
import { formatQuantity } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { vesselFindings } from '../vessel/index.ts'
import type { Geometry } from './geometry.ts'

const mm = (v: number) => formatQuantity(v, 'mm', { trim: true })

type Stop = Omit<Finding, 'grade' | 'sure'>
const stopOf = (f: Stop): Finding => finding({ grade: 'stop', ...f })

/** The lengths by themselves and against one another. */
function lengthFindings(g: Geometry): Finding[] {
  const found: Finding[] = []
  const stop = (f: Stop) => found.push(stopOf(f))
  for (const [key, value, name] of [
    ['tankDepth', g.depth, 'tank depth'],
    ['emptyDistance', g.empty, 'empty distance'],
    ['fullDistance', g.full, 'full distance'],
    ['blanking', g.blanking, 'blanking distance'],
  ] as const)
    if (value !== undefined && value < 0)
      stop({
        code: 'length-negative',
        fields: [key],
        what: `The ${name} is below zero.`,
        why: 'A length is measured from the face or the bottom and cannot be negative.',
        action: 'Correct the sign or the figure.',
      })

  if (g.empty !== undefined && g.full !== undefined && g.empty <= g.full)
    stop({
      code: 'full-beyond-empty',
      fields: ['emptyDistance', 'fullDistance'],
      what: `The empty distance (${mm(g.empty)}) is not farther than the full distance (${mm(g.full)}).`,
      why: 'Both are measured down from the device’s face, so empty must be the longer one.',
      action: 'Exchange the two, or measure again from the face.',
    })
  if (g.full !== undefined && g.blanking !== undefined && g.full < g.blanking)
    stop({
      code: 'full-inside-blanking',
      fields: ['fullDistance', 'blanking'],
      what: `Full is ${mm(g.full)} from the face, inside the blanking distance of ${mm(g.blanking)}.`,
      why: 'Near full the echo is lost and the reading freezes or jumps: an overfill would not be seen.',
      action: `Raise the device by ${mm(g.blanking - g.full)} or more, or take a lower level as full.`,
    })

  return found
}

/** Where the ends of the current lie in the tank. */
function currentFindings(g: Geometry): Finding[] {
  const found: Finding[] = []
  const stop = (f: Stop) => found.push(stopOf(f))
  const currents = [
    ['4 mA', 'lrv', g.level4],
    ['20 mA', 'urv', g.level20],
  ] as const
  for (const [name, key, level] of currents) {
    if (level === undefined || g.face === undefined) continue
    const distance = g.face - level
    if (g.blanking !== undefined && distance < g.blanking - 1e-6)
      stop({
        code: 'current-inside-blanking',
        fields: [key, 'blanking'],
        what:
          `The ${name} point lies ${mm(distance)} from the face, inside the blanking distance of ` +
          `${mm(g.blanking)}.`,
        why: 'The device cannot hear an echo there, so that current is never reached.',
        action: 'Choose a range value farther from the face, or raise the device.',
      })
    if (g.depth !== undefined && (level < -1e-6 || level > g.depth + 1e-6))
      stop({
        code: 'range-outside-tank',
        fields: [key, 'tankDepth'],
        what: `The ${name} point is a level of ${mm(level)} above the bottom, outside the tank (0 to ${mm(g.depth)}).`,
        why: 'The controller would scale to a level that cannot occur, or overflow before full scale.',
        action: 'Correct the range value, the distances or the tank depth.',
      })
  }
  return found
}

/** Full and the face against the overflow. */
function overflowFindings(g: Geometry): Finding[] {
  const found: Finding[] = []
  const stop = (f: Stop) => found.push(stopOf(f))
  if (g.face !== undefined && g.full !== undefined && g.depth !== undefined && g.face - g.full > g.depth + 1e-6)
    stop({
      code: 'full-above-overflow',
      fields: ['fullDistance', 'tankDepth'],
      what: `Full is a level of ${mm(g.face - g.full)}, above the overflow edge at ${mm(g.depth)}.`,
      why: 'The tank would overflow before it reads full.',
      action: 'Lengthen the full distance or correct the tank depth.',
    })
  if (g.face !== undefined && g.depth !== undefined && g.face < g.depth)
    found.push({
      code: 'face-below-overflow',
      grade: 'look',
      fields: ['emptyDistance', 'tankDepth'],
      what: `The face is ${mm(g.depth - g.face)} below the overflow edge.`,
      why: 'The liquid can reach the device before it overflows.',
      sure: 'Likely; right only for a device made to be flooded.',
      action: 'Check the empty distance and the tank depth, or raise the device.',
    })
  return found
}

/** Which way the current goes, against what the display says. */
function directionFindings(g: Geometry): Finding[] {
  const found: Finding[] = []
  if (g.level4 !== undefined && g.level20 !== undefined && g.level4 !== g.level20) {
    const rises = g.level20 > g.level4
    if (g.reportsDistance && rises)
      found.push({
        code: 'display-against-current',
        grade: 'look',
        fields: ['reports', 'lrv', 'urv'],
        what: 'The display counts down as the tank fills, while the current rises.',
        why: 'Whoever compares display and controller sees them run opposite ways.',
        sure: 'Certain; harmless if wanted.',
        action: 'Let the device report the level, or note on the tag that the display shows the distance.',
      })
    if (!rises)
      found.push({
        code: 'reverse-acting',
        grade: 'look',
        fields: ['lrv', 'urv'],
        what: 'The current falls as the tank fills: 4 mA is the higher level.',
        why: 'A broken wire then looks like a full tank, and a controller set for a rising signal runs away.',
        sure: 'Certain; right only where reverse action is wanted.',
        action: 'Exchange the range values unless reverse action is written in the loop’s documents.',
      })
  }
  return found
}

export function findingsOf(g: Geometry, compensationFixed: boolean): Finding[] {
  const found = [...lengthFindings(g), ...currentFindings(g), ...overflowFindings(g), ...directionFindings(g)]
  found.push(...vesselFindings(g.tank))
  if (g.tank && !(g.tank instanceof Refusal) && g.depth !== undefined) {
    const height = vesselEnds_m(g.tank)[1] * 1000
    if (g.depth > height + 1)
      found.push(
        stopOf({
          code: 'deeper-than-shape',
          fields: ['tankDepth', 'diameter'],
          what: `The tank depth (${mm(g.depth)}) is more than the height of its shape (${mm(height)}).`,
          why: 'The volume of the upper part cannot be computed.',
          action: 'Correct the depth or the diameter.',
        }),
      )
  }
  if (compensationFixed)
    found.push({
      code: 'fixed-temperature',
      grade: 'note',
      fields: ['compensation', 'airTemp'],
      what: 'The device reckons with a fixed air temperature.',
      why: 'Ten degrees warmer air makes an empty tank read fuller by about 1.7 % of the distance.',
      sure: 'Certain.',
      action: 'Enter the temperature that prevails when the level matters most.',
    })
  return found
}
