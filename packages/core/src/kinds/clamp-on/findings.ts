// What can be wrong with a clamp-on point.
import { compositionWords, normalised } from '../../fluid/index.ts'
import type { Finding } from '../../findings/index.ts'
import { isMatchedPair, straightRun, TRANSDUCERS, transducersFor } from '../../flow/index.ts'
import { LINERS } from '../../pipe/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { finding } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { meanVelocity } from './meter.ts'
import { beamOf, compositionOf, knownFluid, type ClampOn } from './setup.ts'

/** Pressure below which little of a gas’s signal comes through the wall, bar gauge. */
export const GAS_FLOOR_bar = 7
const mm = (v: number) => show(v, 'mm', { decimals: 1, trim: true })

function pipeFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  if (c.tableSays)
    found.push(
      finding(
        'stop',
        'not-in-table',
        ['pipeSize', 'pipeSchedule'],
        c.tableSays,
        'Without diameter and wall there is no beam.',
        'Choose a size and wall from the table, or enter the diameter itself.',
        'Certain.',
      ),
    )
  for (const key of ['od', 'circumference', 'wall', 'linerThickness', 'wallSpeed', 'linerSpeed', 'barPitch'])
    if ((r.in(key, key.endsWith('Speed') ? 'm/s' : 'mm') ?? 1) <= 0)
      found.push(
        finding(
          'stop',
          `not-positive-${key}`,
          [key],
          `The ${r.label(key)} is not above 0.`,
          'No pipe has such a one.',
          'Correct the figure.',
          'Certain.',
        ),
      )
  if (c.od_mm !== undefined && c.wall_mm !== undefined && c.od_mm - 2 * c.wall_mm - 2 * c.liner_mm <= 0)
    found.push(
      finding(
        'stop',
        'no-bore',
        ['wall', 'linerThickness', 'od'],
        `Wall and liner take ${mm(2 * c.wall_mm + 2 * c.liner_mm)} of a diameter of ${mm(c.od_mm)}: no bore is left.`,
        'There is nothing that could flow.',
        'Check the units and the figures; a gauge set for another material reads wrong.',
        'Certain.',
      ),
    )
  else if (c.od_mm !== undefined && c.wall_mm !== undefined && c.wall_mm > c.od_mm / 6)
    found.push(
      finding(
        'look',
        'wall-thick',
        ['wall'],
        `The wall of ${mm(c.wall_mm)} is thick for a pipe of ${mm(c.od_mm)}.`,
        'A wall in the wrong unit gives a flow that looks right and is not.',
        'Gauge it again.',
        'Unusual, not impossible.',
      ),
    )
  if (c.wallFromTable)
    found.push(
      finding(
        'note',
        'wall-from-table',
        ['wall'],
        'The wall is the table’s nominal one.',
        'Real walls lie up to an eighth below it; each 0.1 mm moves spacing and flow.',
        'Gauge the wall where the pair will sit.',
        'Certain.',
      ),
    )
  if (c.lined && c.linerSpeed_mps === undefined && r.text('liner') === 'own')
    found.push(
      finding(
        'look',
        'liner-no-speed',
        ['linerSpeed'],
        'The liner has no wave speed yet.',
        'Without it the beam’s way through the liner is unknown.',
        'Enter it, or choose the liner from the table.',
        'Certain.',
      ),
    )
  if (c.beam instanceof Refusal && c.beam.code === 'no-transmission')
    found.push(
      finding(
        'stop',
        'no-transmission',
        ['transducer', 'wedgeAngle', 'material', 'liner'],
        c.beam.message,
        'No sound enters the fluid: the meter would never find a signal.',
        'Choose a pair with a steeper wedge, or check the wave speed of wall and liner.',
        'Certain, by the law of refraction.',
      ),
    )
  const angle = r.in('wedgeAngle', 'deg')
  if (angle !== undefined && !(angle > 0 && angle < 90))
    found.push(
      finding(
        'stop',
        'wedge-angle',
        ['wedgeAngle'],
        'The angle in the wedge is not between 0 and 90°.',
        'It is measured from the normal to the pipe.',
        'Copy it from the pair’s plate.',
        'Certain.',
      ),
    )
  return found
}

function fluidFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  const gas = r.text('medium') === 'gas'
  if (c.fluid instanceof Refusal && c.fluid.code !== 'composition-sum')
    found.push(
      finding(
        'stop',
        c.fluid.code,
        gas ? ['composition', 'fluidTemp', 'fluidPressure'] : ['liquid', 'fluidTemp', 'fluidPressure'],
        c.fluid.message,
        'The beam needs one sound speed; a fluid in two phases has none.',
        gas
          ? 'Check pressure and temperature; below the dew point this meter cannot be used.'
          : 'Check pressure and temperature; a boiling liquid cannot be metered.',
        'Certain by the fluid’s equation.',
      ),
    )
  if (gas) {
    const read = compositionOf(r)
    if (read && !(read instanceof Refusal) && Math.abs(read.sum - 1) > 1e-4)
      found.push(
        finding(
          'stop',
          'composition-sum',
          ['composition'],
          `The shares add up to ${Number((100 * read.sum).toPrecision(6))} %, not to 100 %.`,
          'A component is missing or mistyped: the sound speed would be that of another gas.',
          'Correct the analysis, or have the shares brought to 100 % (the button stands under the drawing).',
          'Certain.',
        ),
      )
    const bar = r.in('fluidPressure', 'bar')
    if (bar !== undefined && bar < GAS_FLOOR_bar)
      found.push(
        finding(
          'look',
          'gas-pressure-low',
          ['fluidPressure'],
          `The gas stands at ${show(bar, 'bar', { decimals: 1, trim: true })} gauge, below the floor of ` +
            `${GAS_FLOOR_bar} bar.`,
          'A thin gas carries little sound out of the wall: the signal may be lost.',
          'Raise the pressure for the measurement, or take another kind of meter.',
          'Usual floor; thin plastic walls need less.',
        ),
      )
    const fluid = knownFluid(c)
    if (fluid?.dewRisk !== undefined && fluid.dewRisk > 0.9)
      found.push(
        finding(
          'look',
          'near-dew-point',
          ['composition', 'fluidTemp', 'fluidPressure'],
          'At this temperature and pressure part of the gas condenses, or nearly does.',
          'Drops scatter the beam, and a gas in two phases has no one sound speed.',
          'Check temperature, pressure and composition; move to a warmer place.',
          'Estimated by a simple rule.',
        ),
      )
  }
  for (const key of ['ownSpeed', 'ownDensity', 'ownViscosity'] as const)
    if ((r.in(key, { ownSpeed: 'm/s', ownDensity: 'kg/m3', ownViscosity: 'mPa.s' }[key]) ?? 1) <= 0)
      found.push(
        finding(
          'stop',
          `not-positive-${key}`,
          [key],
          `The ${r.label(key)} is not above 0.`,
          'No fluid has such a one.',
          'Correct the figure.',
          'Certain.',
        ),
      )
  return found
}

function pairFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  const [a, b] = [r.text('serialA'), r.text('serialB')]
  if (a && b && !isMatchedPair(a, b))
    found.push(
      finding(
        'stop',
        'not-a-pair',
        ['serialA', 'serialB'],
        `${a} and ${b} are not one matched pair.`,
        'Transducers are matched in pairs; two that do not belong together have a zero of their own and a weak signal.',
        'Mount the two with the same number, one ending in A, the other in B.',
        'Certain, if the numbers were copied right.',
      ),
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
    const own = suits.find((s) => s.transducer.id === chosen.id)!
    if (own.against.length)
      found.push(
        finding(
          'look',
          'transducer-unsuited',
          ['transducer'],
          `${chosen.name} does not suit this pipe: ${own.against.join('; ')}.`,
          'The signal will be weak or none.',
          suits[0]!.against.length ? 'Ask the maker for another size.' : `Take ${suits[0]!.transducer.name}.`,
          'Likely; the maker’s data come first.',
        ),
      )
  }
  const beam = beamOf(c)
  const [lrv, urv] = [r.in('lrv', 'm3/h'), r.in('urv', 'm3/h')]
  if (beam && lrv !== undefined && urv !== undefined) {
    const fastest = Math.max(Math.abs(meanVelocity(lrv, beam.id_mm)), Math.abs(meanVelocity(urv, beam.id_mm)))
    const most = r.text('medium') === 'gas' ? 35 : 12
    if (fastest > most)
      found.push(
        finding(
          'look',
          'velocity-high',
          ['lrv', 'urv'],
          `The range reaches a velocity of ${show(fastest, 'm/s')}.`,
          `Above about ${most} m/s the beam is blown off the other transducer.`,
          'Check the range and its unit, or the diameter.',
          'Usual limit.',
        ),
      )
  }
  return found
}

function placeFindings(c: ClampOn, r: Reader): Finding[] {
  const found: Finding[] = []
  const beam = beamOf(c)
  const [up, down] = [r.in('upstream', 'mm'), r.in('downstream', 'mm')]
  if (beam && up !== undefined && down !== undefined && r.text('disturbance')) {
    const run = straightRun(
      r.text('school'),
      r.text('disturbance'),
      up,
      down,
      beam.id_mm,
      r.text('paths') === '2' ? 2 : 1,
    )
    if (!run.enough)
      found.push(
        finding(
          'look',
          'straight-run-short',
          ['upstream', 'downstream', 'school'],
          `There are ${run.haveUp_D.toFixed(1)} D upstream and ${run.haveDown_D.toFixed(1)} D downstream; the ` +
            `rule asks for ${run.needUp_D} D and ${run.needDown_D} D.`,
          `The flow arrives disturbed: about ± ${run.likelyErrorPct.toFixed(1)} % of reading.`,
          r.text('paths') === '2'
            ? 'Move the pair if you can; the second path has halved the error already.'
            : 'Move the pair, or take two paths 90° apart.',
          'Estimate; schools differ.',
        ),
      )
  }
  const run = r.text('run')
  if (run.startsWith('downward'))
    found.push(
      finding(
        run === 'downward' ? 'look' : 'stop',
        'pipe-may-empty',
        ['run'],
        `The pipe runs ${run}.`,
        'It need not be full: the meter would measure air, or a smaller stream than it reckons with.',
        'Find a place where the pipe runs level or upward.',
        'Likely.',
      ),
    )
  if (run === 'horizontal' && r.text('position') !== 'at the side')
    found.push(
      finding(
        'look',
        'pair-position',
        ['position'],
        `The pair sits ${r.text('position')} of a level pipe.`,
        r.text('position') === 'on top'
          ? 'Gas gathers there and stops the beam.'
          : 'Sediment lies there and swallows the beam.',
        'Set it at the side, three or nine o’clock.',
        'Likely.',
      ),
    )
  if ((r.in('cutoff', 'm3/h') ?? 1) <= 0)
    found.push(
      finding(
        'stop',
        'cutoff-not-positive',
        ['cutoff'],
        'The low-flow cutoff is not above 0.',
        'Without one the total creeps while nothing flows: noise is counted as flow.',
        'Enter the smallest flow that means anything, at least the meter’s zero stability.',
        'Certain.',
      ),
    )
  const liner = LINERS.find((l) => l.id === r.text('liner'))
  if (liner)
    found.push(
      finding(
        'note',
        'liner-bond',
        ['liner'],
        `The ${liner.name} liner must be bonded to the wall; its wave speed is known to ± ${liner.accuracyPct} %.`,
        'A gap of air behind a liner lets no sound through; one millimetre more or less of it moves the flow.',
        'If no signal comes, try another place before another setting.',
        'Certain.',
      ),
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
