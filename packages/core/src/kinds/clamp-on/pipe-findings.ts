// What can be wrong with the pipe of a clamp-on point: its wall, its liner, and whether a beam gets through.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { finding } from '../../findings/index.ts'
import { notPositive } from '../not-positive.ts'
import type { Reader } from '../reader.ts'
import { type ClampOn } from './setup.ts'

const mm = (v: number) => show(v, 'mm', { decimals: 1, trim: true })

/** A wall as gauged beside the one of the schedule. */
function scheduleFindings(c: ClampOn): Finding[] {
  if (c.tableWall_mm === undefined || c.wall_mm === undefined || c.wallFromTable || c.wall_mm === c.tableWall_mm)
    return []
  const share = (100 * (c.wall_mm - c.tableWall_mm)) / c.tableWall_mm
  const usual = share >= -12.5 && share <= 15
  return [
    finding({
      grade: usual ? 'note' : 'look',
      code: 'wall-off-schedule',
      fields: ['wall', 'pipeSchedule'],
      what:
        `Gauged ${show(c.wall_mm, 'mm', { decimals: 2 })}, by the schedule ` +
        `${show(c.tableWall_mm, 'mm', { decimals: 2 })}: ` +
        `${show(share, '%', { decimals: 1, sign: true })}. The gauged wall counts.`,
      why: usual
        ? 'A real wall may lie an eighth below the nominal one.'
        : 'That is more than pipes of one schedule differ: it may be another schedule, worn, or gauged wrong.',
      action: usual ? 'Nothing, if the gauge was set for this material.' : 'Gauge again, and look at the schedule.',
      sure: 'Pipe standards allow about −12.5 %.',
    }),
  ]
}

/** The pipe by its table and its figures. */
function wallFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  if (c.tableSays)
    found.push(
      finding({
        grade: 'stop',
        code: 'not-in-table',
        fields: ['pipeSize', 'pipeSchedule'],
        what: c.tableSays,
        why: 'Without diameter and wall there is no beam.',
        action: 'Choose a size and wall from the table, or enter the diameter itself.',
        sure: 'Certain.',
      }),
    )
  found.push(
    ...notPositive(
      r,
      {
        ...{ od: 'mm', circumference: 'mm', wall: 'mm', linerThickness: 'mm', barPitch: 'mm' },
        ...{ wallSpeed: 'm/s', linerSpeed: 'm/s' },
      },
      'No pipe has such a one.',
    ),
  )
  if (c.od_mm !== undefined && c.wall_mm !== undefined && c.od_mm - 2 * c.wall_mm - 2 * c.liner_mm <= 0)
    found.push(
      finding({
        grade: 'stop',
        code: 'no-bore',
        fields: ['wall', 'linerThickness', 'od'],
        what:
          `Wall and liner take ${mm(2 * c.wall_mm + 2 * c.liner_mm)} of a diameter of ${mm(c.od_mm)}: no bore ` +
          'is left.',
        why: 'There is nothing that could flow.',
        action: 'Check the units and the figures; a gauge set for another material reads wrong.',
        sure: 'Certain.',
      }),
    )
  else if (c.od_mm !== undefined && c.wall_mm !== undefined && c.wall_mm > c.od_mm / 6)
    found.push(
      finding({
        grade: 'look',
        code: 'wall-thick',
        fields: ['wall'],
        what: `The wall of ${mm(c.wall_mm)} is thick for a pipe of ${mm(c.od_mm)}.`,
        why: 'A wall in the wrong unit gives a flow that looks right and is not.',
        action: 'Gauge it again.',
        sure: 'Unusual, not impossible.',
      }),
    )
  found.push(...scheduleFindings(c))
  if (c.wallFromTable)
    found.push(
      finding({
        grade: 'note',
        code: 'wall-from-table',
        fields: ['wall'],
        what: 'The wall is the table’s nominal one.',
        why: 'Real walls lie up to an eighth below it; each tenth of a millimetre moves spacing and flow.',
        action: 'Gauge the wall where the pair will sit.',
        sure: 'Certain.',
      }),
    )
  return found
}

/** Whether a beam gets through its wall. */
function beamFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  if (c.lined && c.linerSpeed_mps === undefined && r.text('liner') === 'own')
    found.push(
      finding({
        grade: 'look',
        code: 'liner-no-speed',
        fields: ['linerSpeed'],
        what: 'The liner has no wave speed yet.',
        why: 'Without it the beam’s way through the liner is unknown.',
        action: 'Enter it, or choose the liner from the table.',
        sure: 'Certain.',
      }),
    )
  if (c.beam instanceof Refusal && c.beam.code === 'no-transmission')
    found.push(
      finding({
        grade: 'stop',
        code: 'no-transmission',
        fields: ['transducer', 'wedgeAngle', 'material', 'liner'],
        what: c.beam.message,
        why: 'No sound enters the fluid: the meter would never find a signal.',
        action: 'Choose a pair with a steeper wedge, or check the wave speed of wall and liner.',
        sure: 'Certain, by the law of refraction.',
      }),
    )
  const angle = r.in('wedgeAngle', 'deg')
  if (angle !== undefined && !(angle > 0 && angle < 90))
    found.push(
      finding({
        grade: 'stop',
        code: 'wedge-angle',
        fields: ['wedgeAngle'],
        what: 'The angle in the wedge is not between 0 and 90°.',
        why: 'It is measured from the normal to the pipe.',
        action: 'Copy it from the pair’s plate.',
        sure: 'Certain.',
      }),
    )
  return found
}

export const pipeFindings = (c: ClampOn, r: Reader): Finding[] => [...wallFindings(c, r), ...beamFindings(c, r)]
