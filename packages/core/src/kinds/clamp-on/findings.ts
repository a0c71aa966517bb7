// What can be wrong with a clamp-on point.
import { compositionWords, normalised } from '../../fluid/index.ts'
import type { Finding } from '../../findings/index.ts'
import { bodiesMeet, isMatchedPair, schoolFor, TRANSDUCERS, transducersFor } from '../../flow/index.ts'
import { LINERS } from '../../pipe/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { finding } from '../../findings/index.ts'
import type { Reader } from '../reader.ts'
import { flowOfZero, usualCutoff } from './cutoff.ts'
import { meanVelocity } from './meter.ts'
import { compositionOf } from './fluid.ts'
import { offPlan } from '../off-plan.ts'
import { MOST_D, runOf } from './place.ts'
import { beamOf, knownFluid, pairsOf, sameSideOf, spacingOf, spacingPlan, type ClampOn } from './setup.ts'
import { sure } from '../../sure/index.ts'

/** Pressure below which little of a gas’s signal comes through the wall, bar gauge. */
export const GAS_FLOOR_bar = 7
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
  for (const key of ['od', 'circumference', 'wall', 'linerThickness', 'wallSpeed', 'linerSpeed', 'barPitch'])
    if ((r.in(key, key.endsWith('Speed') ? 'm/s' : 'mm') ?? 1) <= 0)
      found.push(
        finding({
          grade: 'stop',
          code: `not-positive-${key}`,
          fields: [key],
          what: `The ${r.label(key)} is not above 0.`,
          why: 'No pipe has such a one.',
          action: 'Correct the figure.',
          sure: 'Certain.',
        }),
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
        why: 'Real walls lie up to an eighth below it; each 0.1 mm moves spacing and flow.',
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

const pipeFindings = (c: ClampOn, r: Reader): Finding[] => [...wallFindings(c, r), ...beamFindings(c, r)]

function fluidFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  const gas = r.text('medium') === 'gas'
  if (c.fluid instanceof Refusal && c.fluid.code !== 'composition-sum')
    found.push(
      finding({
        grade: 'stop',
        code: c.fluid.code,
        fields: gas ? ['composition', 'fluidTemp', 'fluidPressure'] : ['liquid', 'fluidTemp', 'fluidPressure'],
        what: c.fluid.message,
        why: 'The beam needs one sound speed; a fluid in two phases has none.',
        action: gas
          ? 'Check pressure and temperature; below the dew point this meter cannot be used.'
          : 'Check pressure and temperature; a boiling liquid cannot be metered.',
        sure: 'Certain by the fluid’s equation.',
      }),
    )
  if (gas) {
    const read = compositionOf(r)
    if (read && !(read instanceof Refusal) && Math.abs(read.sum - 1) > 1e-4)
      found.push(
        finding({
          grade: 'stop',
          code: 'composition-sum',
          fields: ['composition'],
          what: `The shares add up to ${Number((100 * read.sum).toPrecision(6))} %, not to 100 %.`,
          why: 'A component is missing or mistyped: the sound speed would be that of another gas.',
          action: 'Correct the analysis, or have the shares brought to 100 % (the button stands under the drawing).',
          sure: 'Certain.',
        }),
      )
    const bar = r.in('fluidPressure', 'bar')
    if (bar !== undefined && bar < GAS_FLOOR_bar)
      found.push(
        finding({
          grade: 'look',
          code: 'gas-pressure-low',
          fields: ['fluidPressure'],
          what:
            `The gas stands at ${show(bar, 'bar', { decimals: 1, trim: true })} gauge, below the floor of ` +
            `${GAS_FLOOR_bar} bar.`,
          why: 'A thin gas carries little sound out of the wall: the signal may be lost.',
          action: 'Raise the pressure for the measurement, or take another kind of meter.',
          sure: 'Usual floor; thin plastic walls need less.',
        }),
      )
    const fluid = knownFluid(c)
    if (fluid?.dewRisk !== undefined && fluid.dewRisk > 0.9)
      found.push(
        finding({
          grade: 'look',
          code: 'near-dew-point',
          fields: ['composition', 'fluidTemp', 'fluidPressure'],
          what: 'At this temperature and pressure part of the gas condenses, or nearly does.',
          why: 'Drops scatter the beam, and a gas in two phases has no one sound speed.',
          action: 'Check temperature, pressure and composition; move to a warmer place.',
          sure: 'Estimated by a simple rule.',
        }),
      )
  }
  for (const key of ['ownSpeed', 'ownDensity', 'ownViscosity'] as const)
    if ((r.in(key, { ownSpeed: 'm/s', ownDensity: 'kg/m3', ownViscosity: 'mPa.s' }[key]) ?? 1) <= 0)
      found.push(
        finding({
          grade: 'stop',
          code: `not-positive-${key}`,
          fields: [key],
          what: `The ${r.label(key)} is not above 0.`,
          why: 'No fluid has such a one.',
          action: 'Correct the figure.',
          sure: 'Certain.',
        }),
      )
  return found
}

/** Numbers of the pairs: each one pair, and two paths two of them. */
function serialFindings(r: Reader): Finding[] {
  const found: Finding[] = []
  const pairs = pairsOf(r)
  for (const { keys, a, b } of pairs)
    if (a && b && !isMatchedPair(a, b))
      found.push(
        finding({
          grade: 'stop',
          code: 'not-a-pair',
          fields: keys,
          what: `${a} and ${b} are not one matched pair.`,
          why:
            'Transducers are matched in pairs; two that do not belong together have a zero of their own and a ' +
            'weak signal.',
          action: 'Mount the two with the same number, one ending in A, the other in B.',
          sure: 'Certain, if the numbers were copied right.',
        }),
      )
  const [first, second] = pairs
  if (first && second && first.a && (first.a === second.a || first.a === second.b))
    found.push(
      finding({
        grade: 'stop',
        code: 'same-pair-twice',
        fields: second.keys,
        what: `${first.a} stands on both paths.`,
        why: 'One transducer sits in one place.',
        action: 'Copy the numbers of the second pair from its own plates.',
        sure: 'Certain.',
      }),
    )
  if (r.text('paths') === '2' && !second)
    found.push(
      finding({
        grade: 'note',
        code: 'second-pair-unknown',
        fields: ['serialA2', 'serialB2'],
        what: 'The second path has no serial numbers yet.',
        why: 'Two pairs hang on the pipe; exchanged by one transducer, both are weak.',
        action: 'Enter the numbers of the second pair.',
        sure: 'Certain.',
      }),
    )
  return found
}

/** Two bodies on one side need room for each other. */
function bodyFindings(c: ClampOn, r: Reader): Finding[] {
  const [spacing, pair] = [spacingOf(c, r)?.spacing_mm, sameSideOf(c, r)]
  if (spacing === undefined || !pair || c.traverses % 2 === 1 || !bodiesMeet(spacing, pair.body_mm)) return []
  return [
    finding({
      grade: 'stop',
      code: 'bodies-meet',
      fields: ['traverses', 'transducer'],
      what: `The pair sits ${mm(spacing)} apart on one side; a body is ${mm(pair.body_mm)} long.`,
      why: 'Two bodies cannot be where one is.',
      action:
        c.traverses === 2 && !bodiesMeet(pair.four_mm, pair.body_mm)
          ? 'Take four traverses, or mount the pair on opposite sides.'
          : 'Mount the pair on opposite sides, or take a smaller pair.',
      sure: 'Certain, by the length of the body.',
    }),
  ]
}

function pairFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  found.push(...serialFindings(r), ...bodyFindings(c, r))
  const [spacing, set] = [spacingOf(c, r), r.in('setSpacing', 'mm')]
  if (spacing && set !== undefined)
    found.push(
      ...offPlan(spacingPlan(spacing.spacing_mm), set, {
        code: 'spacing-off',
        fields: ['setSpacing'],
        why: 'Pipe, wall, liner, fluid and pair give the spacing; one of them may have changed since it was set.',
        action: 'Set the pair anew, and enter how it sits.',
      }),
    )
  const chosen = TRANSDUCERS.find((t) => t.id === r.text('transducer'))
  if (chosen && c.od_mm !== undefined && c.wall_mm !== undefined) {
    const temp = r.in('fluidTemp', 'degC') ?? 20
    const suits = transducersFor({
      od_mm: c.od_mm,
      wall_mm: c.wall_mm,
      metal: c.metal,
      lined: c.lined,
      temp_C: temp,
      medium: r.text('medium') === 'gas' ? 'gas' : 'liquid',
    })
    const own = sure(suits.find((s) => s.transducer.id === chosen.id))
    if (own.against.length)
      found.push(
        finding({
          grade: 'look',
          code: 'transducer-unsuited',
          fields: ['transducer'],
          what: `${chosen.name} does not suit this pipe: ${own.against.join('; ')}.`,
          why: 'The signal will be weak or none.',
          action: sure(suits[0]).against.length
            ? 'Ask the maker for another size.'
            : `Take ${sure(suits[0]).transducer.name}.`,
          sure: 'Likely; the maker’s data come first.',
        }),
      )
  }
  const beam = beamOf(c)
  const [lrv, urv] = [r.in('lrv', 'm3/h'), r.in('urv', 'm3/h')]
  if (beam && lrv !== undefined && urv !== undefined) {
    const fastest = Math.max(Math.abs(meanVelocity(lrv, beam.id_mm)), Math.abs(meanVelocity(urv, beam.id_mm)))
    const most = r.text('medium') === 'gas' ? 35 : 12
    if (fastest > most)
      found.push(
        finding({
          grade: 'look',
          code: 'velocity-high',
          fields: ['lrv', 'urv'],
          what: `The range reaches a velocity of ${show(fastest, 'm/s')}.`,
          why: `Above about ${most} m/s the beam is blown off the other transducer.`,
          action: 'Check the range and its unit, or the diameter.',
          sure: 'Usual limit.',
        }),
      )
  }
  return found
}

/** The straight pipe: what cannot be, what is short, and by which rule. */
function runFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  const bore = beamOf(c)?.id_mm
  for (const key of ['upstream', 'downstream']) {
    const length = r.in(key, 'mm')
    if (length !== undefined && length < 0)
      found.push(
        finding({
          grade: 'stop',
          code: 'straight-run-negative',
          fields: [key],
          what: `The ${r.label(key)} is below 0.`,
          why: 'A length of pipe is 0 or more; with another figure nothing is judged.',
          action: 'Measure it from the fitting to the nearer transducer.',
          sure: 'Certain.',
        }),
      )
    else if (length !== undefined && bore && length > MOST_D * bore)
      found.push(
        finding({
          grade: 'look',
          code: 'straight-run-unusual',
          fields: [key],
          what: `The ${r.label(key)} is ${Math.round(length / bore)} diameters long.`,
          why: 'A run in the wrong unit passes every rule.',
          action: 'Check the figure and its unit.',
          sure: `Above ${MOST_D} D it is nearly always a slip.`,
        }),
      )
  }
  const run = runOf(c, r)
  if (!run) return found
  const gas = r.text('medium') === 'gas'
  if (gas && schoolFor(r.text('school'), 'liquid').name !== run.school)
    found.push(
      finding({
        grade: 'note',
        code: 'straight-run-of-gas',
        fields: ['school'],
        what: `A gas is judged by a rule for gases: ${run.school}.`,
        why: 'A disturbance dies away in a gas over about twice the length that it needs in a liquid.',
        action: 'Nothing, if the site has no rule of its own.',
        sure: 'Common working rule; schools differ.',
      }),
    )
  if (!run.enough)
    found.push(
      finding({
        grade: 'look',
        code: 'straight-run-short',
        fields: ['upstream', 'downstream', 'school'],
        what:
          `There are ${run.haveUp_D.toFixed(1)} D upstream and ${run.haveDown_D.toFixed(1)} D downstream; the ` +
          `rule asks for ${run.needUp_D} D and ${run.needDown_D} D.`,
        why: `The flow arrives disturbed: about ± ${run.likelyErrorPct.toFixed(1)} % of reading.`,
        action:
          r.text('paths') === '2'
            ? 'Move the pair if you can; the second path has halved the error already.'
            : 'Move the pair, or take two paths 90° apart.',
        sure: 'Estimate; schools differ.',
      }),
    )
  return found
}

function placeFindings(c: ClampOn, r: Reader): Finding[] {
  const found = runFindings(c, r)
  const run = r.text('run')
  if (run.startsWith('downward'))
    found.push(
      finding({
        grade: run === 'downward' ? 'look' : 'stop',
        code: 'pipe-may-empty',
        fields: ['run'],
        what: `The pipe runs ${run}.`,
        why: 'It need not be full: the meter would measure air, or a smaller stream than it reckons with.',
        action: 'Find a place where the pipe runs level or upward.',
        sure: 'Likely.',
      }),
    )
  if (run === 'horizontal' && r.text('position') !== 'at the side')
    found.push(
      finding({
        grade: 'look',
        code: 'pair-position',
        fields: ['position'],
        what: `The pair sits ${r.text('position')} of a level pipe.`,
        why:
          r.text('position') === 'on top'
            ? 'Gas gathers there and stops the beam.'
            : 'Sediment lies there and swallows the beam.',
        action: 'Set it at the side, three or nine o’clock.',
        sure: 'Likely.',
      }),
    )
  if ((r.in('cutoff', 'm3/h') ?? 1) <= 0)
    found.push(
      finding({
        grade: 'stop',
        code: 'cutoff-not-positive',
        fields: ['cutoff'],
        what: 'The low-flow cutoff is not above 0.',
        why: 'Without one the total creeps while nothing flows: noise is counted as flow.',
        action: 'Enter the smallest flow that means anything, at least the meter’s zero stability.',
        sure: 'Certain.',
      }),
    )
  const [cutoff, zero] = [r.in('cutoff', 'm3/h'), flowOfZero(c, r)]
  if (cutoff !== undefined && cutoff > 0 && zero !== undefined && cutoff < zero)
    found.push(
      finding({
        grade: 'look',
        code: 'cutoff-below-zero',
        fields: ['cutoff', 'timeDoubt'],
        what:
          `The cutoff of ${show(cutoff, 'm3/h', { decimals: 4, trim: true })} lies below what the zero alone may ` +
          `show: ${show(zero, 'm3/h', { decimals: 4, trim: true })}.`,
        why: 'The total creeps while nothing flows.',
        action: `Take ${show(usualCutoff(c, r) ?? zero, 'm3/h', { decimals: 4, trim: true })}, or steady the zero.`,
        sure: 'By the doubt of the time difference as entered.',
      }),
    )
  const liner = LINERS.find((l) => l.id === r.text('liner'))
  if (liner)
    found.push(
      finding({
        grade: 'note',
        code: 'liner-bond',
        fields: ['liner'],
        what:
          `The ${liner.name} liner must be bonded to the wall; its wave speed is known to ± ` +
          `${liner.accuracyPct} %.`,
        why: 'A gap of air behind a liner lets no sound through; one millimetre more or less of it moves the flow.',
        action: 'If no signal comes, try another place before another setting.',
        sure: 'Certain.',
      }),
    )
  return found
}

export const clampOnFindings = (c: ClampOn, r: Reader): Finding[] => [
  ...pipeFindings(c, r),
  ...fluidFindings(c, r),
  ...pairFindings(c, r),
  ...placeFindings(c, r),
]

/** The shares brought to 100 %, in words, when that can be offered. */
export function normalisedWords(r: Reader): string | undefined {
  const read = r.text('gas') === 'own' ? compositionOf(r) : undefined
  if (!read || read instanceof Refusal || Math.abs(read.sum - 1) <= 1e-4 || !(read.sum > 0)) return undefined
  return compositionWords(normalised(read.composition))
}
