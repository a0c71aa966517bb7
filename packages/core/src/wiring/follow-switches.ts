// What follows from the voltages found: relays pick up and drop out, output stages let go where they would be driven
// backwards.
import type { Solution } from '../circuit/index.ts'
import { conducts, PICK_UP } from '../discrete/index.ts'
import { figure, insidePart, type Conditions } from './conditions.ts'
import type { Wiring } from './record.ts'
import { typeOf } from './types.ts'

/** What follows from voltages found before: outputs that repeat, coils that hold, stages that cannot drive. */
export interface Followed {
  readonly repeated: Map<string, number>
  /** Devices whose coil is picked up. */
  readonly picked: Set<string>
  /** Conducting stages that the rest of the circuit holds beyond what they could reach. */
  readonly idle: Set<string>
}

/** Coils pick up and drop out, and stages that would be driven backwards let go. Whether anything changed. */
export function followSwitches(
  wiring: Wiring,
  conditions: Conditions,
  solution: Solution,
  { picked, idle }: Followed,
): boolean {
  let changed = false
  for (const device of wiring.devices) {
    const type = typeOf(device)
    type?.inside.forEach((p, i) => {
      const id = insidePart(device.id, i)
      // A source delivers out of plus; through a conducting stage the current goes the other way.
      // One without residual voltage is a bare contact, and takes either way.
      const residual = device.figures?.['residual'] ?? conditions.figures['residual'] ?? 0
      const oneWay = p.part === 'outputs' && p.stage !== 'push-pull' && residual > 0
      if (oneWay && conducts(p.contact, conditions.target ?? false) && !idle.has(id)) {
        if ((solution.parts[id]?.mA ?? 0) > 1e-3) {
          idle.add(id)
          changed = true
        }
      }
      if (p.part !== 'contact') return
      const coil = type.inside.findIndex((x) => x.part === 'resists' && x.id === p.of)
      const rated = figure('coilV', device, type, conditions) ?? 24
      const held = Math.abs(solution.parts[insidePart(device.id, coil)]?.volts ?? 0) >= PICK_UP * rated
      if (held === picked.has(device.id)) return
      if (held) picked.add(device.id)
      else picked.delete(device.id)
      changed = true
    })
  }
  return changed
}
