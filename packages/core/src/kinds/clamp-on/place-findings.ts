// What can be wrong with the place of a clamp-on pair, its cutoff and its liner.
import type { Finding } from '../../findings/index.ts'
import { schoolFor } from '../../flow/index.ts'
import { LINERS } from '../../pipe/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { finding } from '../../findings/index.ts'
import type { Reader } from '../reader.ts'
import { flowOfZero, usualCutoff } from './cutoff.ts'
import { MOST_D, runOf } from './place.ts'
import { beamOf, type ClampOn } from './setup.ts'

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

export function placeFindings(c: ClampOn, r: Reader): Finding[] {
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
