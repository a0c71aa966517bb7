// What can be wrong with a probe: its lengths, the places of 4 and 20 mA on it, the liquid, the vessel.
import { finding, type Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import type { Reader } from '../reader.ts'
import { vesselFindings } from '../vessel/index.ts'
import type { ProbeGeometry } from './geometry.ts'

const mm = (v: number) => show(v, 'mm', { decimals: 0, trim: true })
const NEAR = 1e-6
type Part = Omit<Finding, 'grade' | 'sure'> & { readonly sure?: string }
const stop = (f: Part): Finding => finding({ grade: 'stop', ...f })
const look = (f: Part): Finding => finding({ grade: 'look', ...f })

/** Lengths that none can be. */
function lengthFindings(r: Reader, g: ProbeGeometry): Finding[] {
  const found: Finding[] = []
  for (const [key, value] of [
    ['probeLength', g.length],
    ['topDeadZone', g.top],
    ['bottomDeadZone', g.bottom],
    ['weightLength', g.weight],
    ['cutOff', r.in('cutOff', 'mm')],
  ] as const)
    if (value !== undefined && (key === 'probeLength' ? value <= 0 : value < 0))
      found.push(
        stop({
          code: 'length-negative',
          fields: [key],
          what: `${mm(value)} is no ${r.label(key)}.`,
          why: 'Zones and lengths are counted from the face down, or from the end up, and never negative.',
          action: 'Correct the sign or the figure.',
        }),
      )
  const [plate, cut] = [r.in('plateLength', 'mm'), r.in('cutOff', 'mm') ?? 0]
  if (plate !== undefined && g.length !== undefined && Math.abs(plate - cut - g.length) > 2)
    found.push(
      look({
        code: 'probe-length-cut',
        fields: ['probeLength', 'plateLength', 'cutOff'],
        what: `The plate’s ${mm(plate)} less ${mm(cut)} cut off is ${mm(plate - cut)}, not ${mm(g.length)}.`,
        why: 'The device reckons with the length it is told: the empty end is off by as much.',
        action: 'Measure the probe along itself, stretched, and correct the figure that is wrong.',
      }),
    )
  if (g.weight > 0 && g.bottom !== undefined && g.bottom < g.weight)
    found.push(
      look({
        code: 'zone-inside-weight',
        fields: ['bottomDeadZone', 'weightLength'],
        what: `The lower dead zone (${mm(g.bottom)}) is shorter than the weight (${mm(g.weight)}).`,
        why: 'Along the weight no level is told apart.',
        action: 'Enter a zone of the weight’s length or more, by the data sheet.',
      }),
    )
  return found
}

/** Where the ends of the current lie on the probe. */
function placeFindings(g: ProbeGeometry): Finding[] {
  if (g.range instanceof Refusal)
    return [
      stop({
        code: 'probe-no-span',
        fields: ['probeLength'],
        what: g.range.message,
        why: 'Nothing between the dead zones could be measured.',
        sure: 'Certain, if the lengths are right.',
        action: 'Check the lengths, or take a longer probe.',
      }),
    ]
  const { length, top, bottom, empty } = g
  if (length === undefined || top === undefined || bottom === undefined || empty === undefined) return []
  const lowest = length - bottom
  const found: Finding[] = []
  for (const [mA, key, at] of [
    [4, 'lrv', g.at4],
    [20, 'urv', g.at20],
  ] as const) {
    if (at === undefined) continue
    if (at > lowest + NEAR)
      found.push(
        stop({
          code: 'current-in-lower-zone',
          fields: ['bottomDeadZone', 'probeLength', key],
          what:
            `${mA} mA lies ${mm(at)} from the face, ${mm(at - lowest)} inside the lower dead zone` +
            `${at > length + NEAR ? ' and beyond the probe’s end' : ''}: it begins at ${mm(lowest)}.`,
          why: 'The reading stands still before that current is reached: the vessel runs empty unseen.',
          sure: 'Certain, if length and zone are right.',
          action: `A level of ${mm(empty - lowest)} would do at ${mA} mA; or a probe longer by ${mm(at - lowest)}.`,
        }),
      )
    if (at < top - NEAR)
      found.push(
        stop({
          code: 'current-in-upper-zone',
          fields: ['topDeadZone', 'emptyDistance', key],
          what:
            `${mA} mA lies ${mm(at)} from the face, ${mm(top - at)} inside the upper dead zone: it ends at ` +
            `${mm(top)}.`,
          why: 'The reading stands still before that current is reached: an overfill would not be seen.',
          sure: 'Certain, if the zone is right.',
          action:
            `A level of ${mm(empty - top)} would do at ${mA} mA; or the face raised by ${mm(top - at)}, on a column ` +
            'that stands above the vessel.',
        }),
      )
  }
  if (g.range?.limited.length)
    found.push(
      finding({
        code: 'probe-dead-zone',
        grade: 'note',
        fields: g.range.limited.includes('top') ? ['fullDistance'] : ['emptyDistance'],
        what:
          `The ${g.range.limited.map((end) => (end === 'top' ? 'upper' : 'lower')).join(' and the ')} ` +
          `dead zone eats into the range: ${mm(g.range.span_mm)} are left.`,
        why: g.range.limited.includes('top')
          ? 'Near full the reading stands still: an overfill alarm must lie below it, or come from another device.'
          : 'Near empty the reading stands still: a pump may run dry below it.',
        sure: 'Certain, if the dead zones are right.',
        action: 'Set 4 and 20 mA within what the probe can measure.',
      }),
    )
  return found
}

/** What the liquid sends back, and what zones are usual with it. */
function liquidFindings(g: ProbeGeometry): Finding[] {
  if (g.er instanceof Refusal)
    return [
      look({
        code: 'out-of-range',
        fields: ['liquid', 'liquidTemp', 'dielectric'],
        what: g.er.message,
        why: 'How strongly its surface sends back the pulse is not known.',
        sure: 'Certain.',
        action: 'Take its figure from a data sheet: “another: own figure”.',
      }),
    ]
  if (!g.usual || typeof g.er !== 'number') return []
  const found: Finding[] = []
  if (g.usual.tooWeak)
    found.push(
      look({
        code: 'probe-echo-weak',
        fields: ['liquid', 'probeType', 'dielectric'],
        what: `The liquid’s dielectric constant is ${g.er.toFixed(2)}: this probe wants ${g.usual.weak_er} or more.`,
        why: 'Too little of the pulse comes back: the level is lost, or the probe’s end taken for it.',
        sure: 'Likely; the device’s data sheet says how weak an echo it takes.',
        action: 'Take a coaxial probe, or another way to measure.',
      }),
    )
  for (const [key, value, usual, end] of [
    ['topDeadZone', g.top, g.usual.top_mm, 'upper'],
    ['bottomDeadZone', g.bottom, g.usual.bottom_mm, 'lower'],
  ] as const)
    if (value !== undefined && value >= 0 && value < usual / 2)
      found.push(
        look({
          code: 'zone-unusually-short',
          fields: [key],
          what: `The ${end} dead zone is ${mm(value)}; with such a probe and liquid ${mm(usual)} are usual.`,
          why: 'A zone that is longer than entered makes the reading stand still where it is trusted.',
          sure: 'A rule of the trade: the data sheet of the device stands above it.',
          action: 'Look the zone up for this probe and liquid.',
        }),
      )
  return found
}

/** The probe in its vessel. */
function vesselPlaceFindings(g: ProbeGeometry): Finding[] {
  const found = [...vesselFindings(g.vessel)]
  if (g.depth !== undefined && g.depth <= 0)
    return [
      ...found,
      stop({
        code: 'length-negative',
        fields: ['tankDepth'],
        what: `${mm(g.depth)} is no inside height of a vessel.`,
        why: 'It is counted from the lowest inside point up.',
        action: 'Correct the figure.',
      }),
    ]
  const { bottomBelowFace: bottom } = g
  if (bottom === undefined) return found
  if (g.length !== undefined && g.length > bottom + NEAR)
    found.push(
      stop({
        code: 'probe-beyond-vessel',
        fields: ['probeLength', 'tankDepth', 'faceAbove'],
        what: `The probe (${mm(g.length)}) is longer than from its face to the bottom (${mm(bottom)}).`,
        why: 'A probe that stands on the bottom bends, or lifts its cable slack: its length is not what is told.',
        action: `Cut ${mm(g.length - bottom)} or more off, or correct the vessel’s height.`,
      }),
    )
  if (g.empty !== undefined && g.empty > bottom + NEAR)
    found.push(
      stop({
        code: 'range-outside-tank',
        fields: ['emptyDistance', 'tankDepth'],
        what: `0 % lies ${mm(g.empty)} from the face, below the bottom at ${mm(bottom)}.`,
        why: 'Such a level cannot occur.',
        action: 'Correct the distance or the vessel’s height.',
      }),
    )
  if (!g.standpipe && g.nozzleWidth !== undefined && g.faceAbove > g.nozzleWidth + NEAR)
    found.push(
      look({
        code: 'nozzle-tall-and-narrow',
        fields: ['nozzleWidth', 'faceAbove'],
        what: `The nozzle is ${mm(g.faceAbove)} tall and ${mm(g.nozzleWidth)} wide.`,
        why: 'A nozzle that is taller than wide sends echoes of its own back along the probe.',
        sure: 'A rule of the trade: a coaxial probe does not mind.',
        action: 'A wider or shorter nozzle, a standpipe, or a coaxial probe.',
      }),
    )
  if (g.top !== undefined && g.top > g.faceAbove + NEAR)
    found.push(
      finding({
        code: 'vessel-top-unseen',
        grade: 'note',
        fields: ['topDeadZone', 'faceAbove'],
        what: `The uppermost ${mm(g.top - g.faceAbove)} of the vessel lie in the upper dead zone.`,
        why: 'An overfill is not seen there: its alarm must stand lower, or come from another device.',
        sure: 'Certain, if the zone is right.',
        action: `A column that stands ${mm(g.top)} above the vessel would let it be read to its top.`,
      }),
    )
  if (g.full !== undefined && g.full < g.faceAbove - NEAR)
    found.push(
      stop({
        code: 'full-above-overflow',
        fields: ['fullDistance', 'faceAbove'],
        what: `100 % lies ${mm(g.faceAbove - g.full)} above the vessel’s top, in the nozzle or column.`,
        why: 'The vessel overflows before it reads full.',
        action: `At ${mm(g.faceAbove)} from the face 100 % would be the vessel’s top.`,
      }),
    )
  return found
}

export function findingsOf(r: Reader, g: ProbeGeometry): Finding[] {
  if (!g.make) return vesselFindings(g.vessel)
  const off: Finding[] = g.off
    ? [
        stop({
          code: 'head-off-process',
          fields: ['head'],
          what: 'The head is off the process.',
          why: 'What it reads now is of the air around it: every reading is void, and none is taken.',
          sure: 'Certain, as entered.',
          action: 'Mount it again and say so at Point: The head is on the process.',
        }),
      ]
    : []
  return [...off, ...lengthFindings(r, g), ...placeFindings(g), ...liquidFindings(g), ...vesselPlaceFindings(g)]
}
