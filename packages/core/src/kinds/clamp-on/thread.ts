// The thread of a clamp-on loop: from flow over the difference of the two transit times to the controller.
import { profileFactor } from '../../flow/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { carriedReader, otherOf } from '../flow/carried.ts'
import { flowKnot } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { currentTail, stageOr } from '../two-wire/index.ts'
import { CARRIED, MASS, reportedOf, USUAL } from './carried.ts'
import { cutoffOf } from './cutoff.ts'
import { meanVelocity, timesOf, velocityOf, volumeFlow } from './meter.ts'
import { beamOf, knownFluid, type ClampOn } from './setup.ts'
import { sure } from '../../sure/index.ts'

const NO_REFERENCE = ['a gas: a liquid has no volume at reference conditions']
export const beamNeeds = (c: ClampOn): string[] =>
  c.needs.length ? [...c.needs] : beamOf(c) ? [] : ['a pipe, fluid and pair that go together']

export function threadOf(r: Reader, c: ClampOn) {
  const reported = reportedOf(r, c)
  const other = otherOf(CARRIED, r)
  const { unit } = reported
  const quantity = other?.quantity ?? CARRIED.quantity
  const beam = beamOf(c)
  const fluid = knownFluid(c)
  const decimals = 1
  const digital = flowKnot({
    id: 'digital',
    role: 'digital',
    name: 'Reported flow',
    explains: 'The meter’s own digital value.',
    quantity,
    unit,
    decimals,
  })
  const knots = [
    flowKnot({
      id: 'flow',
      role: 'process',
      name: other?.name ?? 'Volume flow',
      explains: 'True flow through the pipe.',
      quantity,
      unit,
      decimals,
    }),
    ...(other
      ? [
          flowKnot({
            id: 'actual',
            role: 'sensor',
            name: 'Volume as it flows',
            explains: 'At the pressure and temperature in the pipe.',
            quantity: 'volume-flow',
            unit: USUAL,
            decimals,
          }),
        ]
      : []),
    flowKnot({
      id: 'velocity',
      role: 'sensor',
      name: 'Mean velocity',
      explains: 'Flow over the area of the bore.',
      quantity: 'velocity',
      unit: 'm/s',
      decimals: 3,
    }),
    flowKnot({
      id: 'difference',
      role: 'sensor',
      name: 'Time difference',
      explains: 'Against the flow less with it.',
      quantity: 'time',
      unit: 'ns',
      decimals: 2,
    }),
    digital,
  ]
  const needs = beamNeeds(c)
  const { own, m3ph } = reported
  // Behind a stage of its own the flow through the bore stands in m³/h.
  const bored = other ? { own: (v: number) => v, m3ph: (v: number) => v, unit: USUAL } : reported
  const bore = ['wall, diameter or liner entered wrong', 'scale or sediment in the pipe', 'pipe not full']
  const beamCauses = [
    'zero not taken',
    'sound speed wrong: fluid, temperature',
    'wrong number of traverses',
    'disturbed profile',
  ]
  const meterCauses = ['meter holds other pipe data than the record', 'zero offset', 'weak signal']
  const cutoff_m3ph = cutoffOf(c, r)
  const gasNeeds = reported.factor !== undefined ? [] : c.fluidNeeds.length ? [...c.fluidNeeds] : NO_REFERENCE
  const gasCauses = [
    'pressure or temperature entered wrong',
    'composition of another day',
    'other reference conditions',
  ]
  const density: Stage[] = other
    ? [
        stageOr('Density', gasCauses, gasNeeds, () => ({
          title: 'Density',
          causes: gasCauses,
          ready: true,
          forward: m3ph,
          inverse: own,
          working: (v) => ({
            title: 'Volume as it flows',
            formula: other === CARRIED.others[MASS] ? 'Q = ṁ / ρ' : 'Q = Qref · ρref / ρ',
            numbers:
              `${show(v, unit, { trim: true })} / (${show(sure(reported.factor), reported.of, { decimals: 4 })} per ` +
              `${show(1, USUAL, { trim: true })}) = ${show(m3ph(v), USUAL, { decimals: 2 })}`,
            source: sure(fluid).model,
          }),
        })),
      ]
    : []
  const stages: Stage[] = [
    ...density,
    stageOr('Bore', bore, needs, () => ({
      title: 'Bore',
      causes: bore,
      ready: true,
      forward: (v) => meanVelocity(bored.m3ph(v), sure(beam).id_mm),
      inverse: (v) => bored.own(volumeFlow(v, sure(beam).id_mm)),
      working: (v) => ({
        title: 'Mean velocity',
        formula: 'v = Q / (π/4 · d²)',
        numbers:
          `${show(v, bored.unit)} / (π/4 × (${show(sure(beam).id_mm, 'mm')})²) = ` +
          `${show(meanVelocity(bored.m3ph(v), sure(beam).id_mm), 'm/s', { decimals: 3 })}`,
        source: 'Continuity in a full pipe',
      }),
    })),
    stageOr('Beam', beamCauses, needs, () => ({
      title: 'Beam',
      causes: beamCauses,
      ready: true,
      forward: (v) => timesOf(sure(c.input), sure(fluid).kinematic_cSt, v).difference_ns,
      inverse: (d) => velocityOf(sure(c.input), sure(fluid).kinematic_cSt, d),
      working: (v) => {
        const t = timesOf(sure(c.input), sure(fluid).kinematic_cSt, v)
        return {
          title: 'Time difference',
          formula: 'Δt = P/(c − v·sin θ/k) − P/(c + v·sin θ/k)',
          numbers:
            `P ${show(t.beam.fluidPath_mm, 'mm')}, c ${show(sure(c.input).fluidSpeed_mps, 'm/s', { decimals: 1 })}, ` +
            `θ ${show(t.beam.fluidAngle_deg, 'deg', { decimals: 2 })}, profile factor k ` +
            `${profileFactor(t.reynolds).toFixed(4)} at Re ${Math.round(t.reynolds)}: ` +
            `${show(t.difference_ns, 'ns', { decimals: 2 })}`,
          source: 'Transit times along the beam, axial flow, first order; profile by power law',
        }
      },
    })),
    withCutoff(
      stageOr('Meter', meterCauses, [...needs, ...gasNeeds], () => ({
        title: 'Meter',
        causes: meterCauses,
        ready: true,
        forward: (d) => own(volumeFlow(velocityOf(sure(c.input), sure(fluid).kinematic_cSt, d), sure(beam).id_mm)),
        inverse: (v) =>
          timesOf(sure(c.input), sure(fluid).kinematic_cSt, meanVelocity(m3ph(v), sure(beam).id_mm)).difference_ns,
      })),
      cutoff_m3ph === undefined ? undefined : own(cutoff_m3ph),
    ),
  ]
  const tail = currentTail(carriedReader(CARRIED, r), digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

/** Flow at the middle of the range, m³/h; undefined while there is no range. */
export function midFlow(r: Reader, c: ClampOn): number | undefined {
  const reported = reportedOf(r, c)
  const own = carriedReader(CARRIED, r)
  const [a, b] = [own.in('lrv', reported.unit), own.in('urv', reported.unit)]
  return a === undefined || b === undefined || reported.factor === undefined ? undefined : reported.m3ph((a + b) / 2)
}
