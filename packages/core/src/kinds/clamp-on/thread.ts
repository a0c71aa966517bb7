// The thread of a clamp-on loop: from flow over the difference of the two transit times to the controller.
import { profileFactor } from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { flowKnot, loopUnit } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { currentTail, stageOr } from '../two-wire/index.ts'
import { cutoffOf } from './cutoff.ts'
import { meanVelocity, timesOf, velocityOf, volumeFlow } from './meter.ts'
import { beamOf, knownFluid, type ClampOn } from './setup.ts'
import { sure } from '../../sure/index.ts'

export const USUAL = 'm3/h'
export const beamNeeds = (c: ClampOn): string[] =>
  c.needs.length ? [...c.needs] : beamOf(c) ? [] : ['a pipe, fluid and pair that go together']

export function threadOf(r: Reader, c: ClampOn) {
  const unit = loopUnit(r, USUAL)
  const beam = beamOf(c)
  const fluid = knownFluid(c)
  const decimals = 1
  const digital = flowKnot({
    id: 'digital',
    role: 'digital',
    name: 'Reported flow',
    explains: 'The meter’s own digital value.',
    quantity: 'volume-flow',
    unit,
    decimals,
  })
  const knots = [
    flowKnot({
      id: 'flow',
      role: 'process',
      name: 'Volume flow',
      explains: 'True flow through the pipe.',
      quantity: 'volume-flow',
      unit,
      decimals,
    }),
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
  const m3ph = (v: number) => convertUnit(v, unit, USUAL)
  const own = (v: number) => convertUnit(v, USUAL, unit)
  const bore = ['wall, diameter or liner entered wrong', 'scale or sediment in the pipe', 'pipe not full']
  const beamCauses = [
    'zero not taken',
    'sound speed wrong: fluid, temperature',
    'wrong number of traverses',
    'disturbed profile',
  ]
  const meterCauses = ['meter holds other pipe data than the record', 'zero offset', 'weak signal']
  const cutoff_m3ph = cutoffOf(c, r)
  const stages: Stage[] = [
    stageOr('Bore', bore, needs, () => ({
      title: 'Bore',
      causes: bore,
      ready: true,
      forward: (v) => meanVelocity(m3ph(v), sure(beam).id_mm),
      inverse: (v) => own(volumeFlow(v, sure(beam).id_mm)),
      working: (v) => ({
        title: 'Mean velocity',
        formula: 'v = Q / (π/4 · d²)',
        numbers:
          `${show(v, unit)} / (π/4 × (${show(sure(beam).id_mm, 'mm')})²) = ` +
          `${show(meanVelocity(m3ph(v), sure(beam).id_mm), 'm/s', { decimals: 3 })}`,
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
      stageOr('Meter', meterCauses, needs, () => ({
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
  const tail = currentTail(r, digital)
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

/** Flow at the middle of the range, m³/h; undefined while there is no range. */
export function midFlow(r: Reader): number | undefined {
  const [a, b] = [r.in('lrv', USUAL), r.in('urv', USUAL)]
  return a === undefined || b === undefined ? undefined : (a + b) / 2
}
