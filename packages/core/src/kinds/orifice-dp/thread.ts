// The thread of an orifice loop: from mass flow over differential pressure and the square root to the controller.
import { orificeDp } from '../../flow/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { Refusal } from '../../refusal/index.ts'
import { withCutoff, type Stage } from '../../thread/index.ts'
import { flowKnot, loopUnit } from '../flow/shared.ts'
import type { Reader } from '../reader.ts'
import { currentTail, cutoffIn, stageOr } from '../two-wire/index.ts'
import { USUAL } from './fields.ts'
import { type Plate, dpAt, flowAt, rootFlow } from './plate.ts'
import { sure } from '../../sure/index.ts'

export function threadOf(r: Reader, p: Plate) {
  const unit = loopUnit(r, USUAL)
  const rootAt = r.text('rootAt')
  const atTransmitter = rootAt !== 'receiver' && rootAt !== 'neither'
  const usual = (v: number) => convertUnit(v, unit, USUAL)
  const own = (v: number) => convertUnit(v, USUAL, unit)
  const full = p.full && !(p.full instanceof Refusal) ? p.full : undefined
  const digital = atTransmitter
    ? flowKnot({
        id: 'digital',
        role: 'digital',
        name: 'Reported flow',
        explains: 'The transmitter’s own digital value, after its square root.',
        quantity: 'mass-flow',
        unit,
        decimals: 1,
      })
    : flowKnot({
        id: 'digital',
        role: 'digital',
        name: 'Reported pressure',
        explains: 'The transmitter’s own digital value, no square root taken.',
        quantity: 'pressure',
        unit: 'mbar',
        decimals: 2,
      })
  const knots = [
    flowKnot({
      id: 'flow',
      role: 'process',
      name: 'Mass flow',
      explains: 'True mass flow through the plate.',
      quantity: 'mass-flow',
      unit,
      decimals: 1,
    }),
    flowKnot({
      id: 'dp',
      role: 'sensor',
      name: 'Differential pressure',
      explains: 'Across the plate.',
      quantity: 'pressure',
      unit: 'mbar',
      decimals: 2,
    }),
    digital,
  ]
  const plateCauses = [
    'plate worn, dirty or the wrong way round',
    'density other than entered',
    'straight run too short',
  ]
  const cellCauses = [
    'zero shifted by mounting',
    'impulse lines not equally full',
    'manifold’s equalizing valve not tight',
  ]
  const entered = [...p.needs, ...r.missing('urv')]
  const needs = entered.length || (p.plate && full) ? entered : ['a fluid, plate and range that go together']
  const forward = (v: number) => dpAt(sure(p.plate), usual(v))
  const inverse = (d: number) => own(flowAt(sure(p.plate), d))
  const stages: Stage[] = [
    stageOr('Orifice plate', plateCauses, needs, () => ({
      title: 'Orifice plate',
      causes: plateCauses,
      ready: true,
      forward,
      inverse,
      working: (v) => {
        const at = usual(v) > 0 ? orificeDp(sure(p.plate), usual(v) / 3600) : undefined
        return {
          title: 'Differential pressure',
          formula: 'ṁ = C/√(1 − β⁴) · ε · π/4·d² · √(2·Δp·ρ)',
          numbers: at
            ? `C ${at.dischargeCoefficient.toFixed(5)}, β ${at.beta.toFixed(4)}, ε ` +
              `${at.expansibility.toFixed(5)}, ρ ${show(sure(p.plate).density_kgm3, 'kg/m3', { decimals: 3 })}, Re ` +
              `${Math.round(at.reynolds)}: Δp = ${show(at.dp_kPa * 10, 'mbar')}`
            : 'no flow, no differential pressure',
          source: 'ISO 5167-2:2003',
        }
      },
    })),
    withCutoff(
      stageOr('Cell', cellCauses, needs, () => ({
        title: 'Cell',
        causes: cellCauses,
        ready: true,
        // A square-root transmitter reckons with one constant, that at the upper range value.
        forward: atTransmitter ? (d) => own(rootFlow(d, sure(full), usual(sure(r.in('urv', unit))))) : (d) => d,
        inverse: atTransmitter
          ? (v) => (usual(v) / usual(sure(r.in('urv', unit)))) ** 2 * sure(full).dp_kPa * 10 * Math.sign(usual(v))
          : (d) => d,
        working: (d) => ({
          title: digital.name,
          formula: atTransmitter ? 'reported = full flow · √(Δp / full Δp)' : 'reported = Δp',
          numbers: atTransmitter
            ? `${show(sure(r.in('urv', unit)), unit)} × ` +
              `√(${show(d, 'mbar')} / ${show(sure(full).dp_kPa * 10, 'mbar')}) = ` +
              `${show(own(rootFlow(d, sure(full), usual(sure(r.in('urv', unit))))), unit)}`
            : show(d, 'mbar'),
          source: 'Square root in the transmitter as entered',
        }),
      })),
      cutoffIn(r, unit),
      (d) => Math.abs(own(rootFlow(d, sure(full), usual(sure(r.in('urv', unit)))))) < sure(cutoffIn(r, unit)),
    ),
  ]
  const dpUrv = full ? full.dp_kPa * 10 : 0
  const tail = currentTail(r, digital, {
    ...(atTransmitter ? {} : { ends: [0, dpUrv] as const, shows: { quantity: 'mass-flow' as const, unit } }),
    root: rootAt === 'receiver' || rootAt === 'both',
  })
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}
