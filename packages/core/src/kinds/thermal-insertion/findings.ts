// What is wrong or dangerous about a thermal insertion meter, its mounting and its baseline.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { finding } from '../../findings/index.ts'
import type { Reader } from '../reader.ts'
import { USUAL } from './fields.ts'
import { offPlan } from '../off-plan.ts'
import { depthPlan, gasDensity, insertionOf, nozzleOf, oddBaselines, rodLimit_bar } from './meter.ts'

/** What the gas drives out while the gland is loose. */
function pressureFindings(r: Reader): Finding[] {
  const found: Finding[] = []
  const bar = r.in('fluidPressure', 'bar')
  const [rodLimit, glandLimit] = [rodLimit_bar(r), r.in('glandLimit', 'bar')]
  const gauge = (v: number) => `${show(v, 'bar', { decimals: 1, trim: true })} gauge`
  if (bar !== undefined && bar > rodLimit && r.text('rods') === 'none')
    found.push(
      finding({
        grade: 'stop',
        code: 'no-rods',
        fields: ['rods', 'fluidPressure'],
        what:
          `The gas stands at ${show(bar, 'bar', { decimals: 1, trim: true })} gauge and there are no ` +
          'restraining rods.',
        why: 'With the gland loose the pressure drives the stem out like a piston.',
        action: `Above ${gauge(rodLimit)} a pair of rods is mandatory; otherwise vent the pipe first.`,
        sure: 'Certain.',
      }),
    )
  if (bar !== undefined && glandLimit !== undefined && bar > glandLimit)
    found.push(
      finding({
        grade: 'stop',
        code: 'gland-limit',
        fields: ['glandLimit', 'fluidPressure'],
        what: `The gas stands at ${gauge(bar)}; the gland may be loosened up to ${gauge(glandLimit)}.`,
        why: 'Beyond it neither packing nor hands hold the stem.',
        action: 'Vent the pipe, by the site’s procedure, before the gland is touched.',
        sure: 'Certain, by the limit entered.',
      }),
    )
  return found
}

/** How it is mounted, and whether its lengths can be. */
function mountingFindings(r: Reader): Finding[] {
  const found: Finding[] = []
  for (const key of ['od', 'wall', 'branch', 'valve', 'fitting', 'tip', 'stem', 'throat'])
    if ((r.in(key, 'mm') ?? 1) < 0 || (['od', 'throat'].includes(key) && r.in(key, 'mm') === 0))
      found.push(
        finding({
          grade: 'stop',
          code: `length-negative-${key}`,
          fields: [key],
          what: `The ${r.label(key)} is below 0, or 0.`,
          why: 'No such part exists.',
          action: 'Correct the figure.',
          sure: 'Certain.',
        }),
      )
  const [od, wall] = [r.in('od', 'mm'), r.in('wall', 'mm')]
  if (od !== undefined && wall !== undefined && od > 0 && od <= 2 * wall)
    found.push(
      finding({
        grade: 'stop',
        code: 'no-bore',
        fields: ['od', 'wall'],
        what: 'The wall leaves no bore.',
        why: 'There is nothing that could flow.',
        action: 'Check the units.',
        sure: 'Certain.',
      }),
    )
  const [insertion, stem] = [insertionOf(r), r.in('stem', 'mm')]
  if (insertion && stem !== undefined && stem < insertion.insert_mm)
    found.push(
      finding({
        grade: 'stop',
        code: 'stem-short',
        fields: ['stem'],
        what:
          `The stem of ${show(stem, 'mm', { trim: true })} does not reach the centre line: ` +
          `${show(insertion.insert_mm, 'mm', { trim: true, decimals: 0 })} are needed.`,
        why: 'Near the wall the flow is slower: the meter would read low.',
        action: 'Take a longer stem or a shorter branch.',
        sure: 'Certain, if the lengths are right.',
      }),
    )
  const depth = r.in('depth', 'mm')
  if (insertion && depth !== undefined)
    found.push(
      ...offPlan(depthPlan(insertion.insert_mm), depth, {
        code: 'depth-off',
        fields: ['depth'],
        why: 'Off the centre line it measures another speed.',
        action: 'Move the stem to its mark, and enter how far it is in.',
      }),
    )
  return found
}

/** Its law, its gas and its nozzle. */
function measuringFindings(r: Reader): Finding[] {
  const found: Finding[] = []
  const [zero, full] = [r.in('dtZero', 'delta_K'), r.in('dtFull', 'delta_K')]
  if (zero !== undefined && full !== undefined && !(full < zero && full > 0))
    found.push(
      finding({
        grade: 'stop',
        code: 'law-reversed',
        fields: ['dtZero', 'dtFull'],
        what: 'The temperature difference at flow is not below that at no flow.',
        why: 'Flow cools the heated thermometer: the difference falls.',
        action: 'Exchange or correct the two.',
        sure: 'Certain.',
      }),
    )
  const density = gasDensity(r)
  if (density instanceof Refusal)
    found.push(
      finding({
        grade: 'stop',
        code: density.code,
        fields: ['gas', 'composition', 'fluidTemp', 'fluidPressure'],
        what: density.message,
        why: 'The meter is calibrated for a dry gas of known composition.',
        action: 'Check composition, pressure and temperature.',
        sure: 'Certain by the gas’s equation.',
      }),
    )
  if ((r.in('cutoff', USUAL) ?? 1) <= 0)
    found.push(
      finding({
        grade: 'stop',
        code: 'cutoff-not-positive',
        fields: ['cutoff'],
        what: 'The low-flow cutoff is not above 0.',
        why: 'Without one the total creeps while nothing flows.',
        action: 'Enter the smallest flow that means anything.',
        sure: 'Certain.',
      }),
    )
  for (const { n, reading_kgph, nozzle_kgph, usual } of oddBaselines(r))
    found.push(
      finding({
        grade: 'look',
        code: 'baseline-odd',
        fields: [`base${n}Reading`, `base${n}Pressure`],
        what:
          `Step ${n} of the baseline reads ${show(reading_kgph, 'kg/h', { trim: true })} where the nozzle passes ` +
          `${show(nozzle_kgph, 'kg/h', { decimals: 1 })}; by the other steps it would be about ` +
          `${show(nozzle_kgph * usual, 'kg/h', { decimals: 1 })}.`,
        why: 'A point was lost, or a pressure is that of another step: the meter would be called wrong for it.',
        action: 'Copy this step of the certificate again.',
        sure: 'Nearly certain: one nozzle passes in proportion to its pressure.',
      }),
    )
  const text = r.text('discharge')
  if (text && !nozzleOf(r) && r.in('throat', 'mm') !== undefined)
    found.push(
      finding({
        grade: 'stop',
        code: 'discharge',
        fields: ['discharge', 'throat'],
        what: `“${text}” is no discharge coefficient, or the throat is not above 0.`,
        why: 'A nozzle’s coefficient lies a little below 1.',
        action: 'Copy it from the nozzle’s certificate.',
        sure: 'Certain.',
      }),
    )
  return found
}

export const findingsOf = (r: Reader): Finding[] => [
  ...pressureFindings(r),
  ...mountingFindings(r),
  ...measuringFindings(r),
]
