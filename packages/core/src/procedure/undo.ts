// What a cancelled run leaves to be undone, in order, and in what state plant and device are.
import { backInService, moveWords, valvesOf, VALVE_NAMES, type ValveMove } from './manifold.ts'
import type { RunState, World } from './state.ts'
import type { Command } from './command.ts'
import { inSentence } from '../words/index.ts'

export interface Undo {
  readonly id: string
  readonly kind: 'read' | 'command' | 'valve' | 'confirm'
  readonly title: string
  readonly says: string
  readonly command?: Command
  readonly move?: ValveMove
  /** What the world is once it is done by hand. */
  readonly leaves: Partial<World>
}

/**
 * What must still be undone, in the order in which it is safe. Empty when plant and device stand as they stood.
 */
export function toUndo(state: RunState): Undo[] {
  const { world, terms } = state
  const list: Undo[] = []
  if (state.pending)
    list.push({
      id: 'read-first',
      kind: 'read',
      title: 'Unknown: read back first',
      says: 'The last command was sent and never answered. Until the device is read, nobody knows what it holds.',
      leaves: {},
    })
  const pendingDrive = state.pending?.command.do === 'drive'
  if (world.fixed_mA !== null || pendingDrive)
    list.push({
      id: 'release',
      kind: 'command',
      command: { do: 'release' },
      title: 'Release the fixed current',
      says:
        world.fixed_mA === null
          ? 'The transmitter may be holding a current whatever it measures.'
          : `The transmitter holds ${world.fixed_mA} mA whatever it measures.`,
      leaves: { fixed_mA: null },
    })
  if (world.device === 'changed')
    list.push({
      id: 'device-changed',
      kind: 'command',
      command: { do: 'store' },
      title: 'Written, but not stored',
      says:
        `${world.written.join('; ')}. Store it, or bring the device back to what it held and say so: left as it ` +
        'is, it may change by itself at the next power failure.',
      leaves: { device: 'stored' },
    })
  const moves = backInService(terms.manifold, world.manifold)
  // What is on the bench is let down before a valve brings the process back.
  if (world.input === 'bench')
    list.push({
      id: 'input',
      kind: 'confirm',
      title: 'Input let down and taken away',
      says: 'Pump, simulator or buffer without pressure and disconnected; plugs back in.',
      leaves: { input: 'process' },
    })
  moves.forEach((move) =>
    list.push({
      id: `valve-${move.valve}-${move.to}`,
      kind: 'valve',
      move,
      title: moveWords(move),
      says: 'Bringing the cell back into service, valve by valve.',
      leaves: {},
    }),
  )
  if (world.told)
    list.push({
      id: 'told-back',
      kind: 'confirm',
      title: 'Tell operations',
      says: 'Say that the work was broken off, what was changed, and whether the reading can be believed.',
      leaves: { told: false },
    })
  if (world.bypass !== undefined)
    list.push({
      id: 'bypass',
      kind: 'confirm',
      title: 'Remove the by-passes',
      says: `Every trip by-passed for this work (${world.bypass}) is live again, and the permit handed back.`,
      leaves: { bypass: undefined },
    })
  if (world.manual)
    list.push({
      id: 'automatic',
      kind: 'confirm',
      title: 'Loop in automatic again',
      says: 'The operator decides, once the reading is plausible.',
      leaves: { manual: false },
    })
  return list
}

/** In what state the plant and the device are, line by line. */
export function worldWords(state: RunState): { plant: string[]; device: string[] } {
  const { world, terms } = state
  const valves = valvesOf(terms.manifold).map((v) => `${inSentence(VALVE_NAMES[v])} ${world.manifold[v]}`)
  return {
    plant: [
      world.told ? 'Operations know that work is going on.' : 'Operations are not waiting for this loop.',
      world.manual ? 'The loop is in manual.' : 'The loop is in automatic.',
      world.bypass === undefined ? 'No trip is by-passed by this run.' : `By-pass: ${world.bypass}.`,
      ...(valves.length ? [`Manifold: ${valves.join(', ')}.`] : []),
      world.input === 'bench' ? 'The input is off the process.' : 'The input is on the process.',
    ],
    device: [
      ...(state.pending ? ['Unknown: the last command was never answered. Read back first.'] : []),
      world.fixed_mA === null
        ? 'It measures; the current follows.'
        : `It holds ${world.fixed_mA} mA whatever it measures.`,
      world.device === 'untouched'
        ? 'Nothing was written by this run.'
        : `Written${world.device === 'stored' ? ' and stored' : ', not stored'}: ${world.written.join('; ')}.`,
    ],
  }
}
