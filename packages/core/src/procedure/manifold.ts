// The valve manifold of a differential pressure cell: which move is safe from where, and why another is not.
import { Refusal } from '../refusal/index.ts'
import { inSentence } from '../words/index.ts'
import { sure } from '../sure/index.ts'

export const MANIFOLDS = ['none', 'three-valve', 'five-valve'] as const
export type ManifoldType = (typeof MANIFOLDS)[number]
export const VALVES = ['high', 'low', 'equalize', 'vent-high', 'vent-low'] as const
export type Valve = (typeof VALVES)[number]
export type ValveState = 'open' | 'shut'
export type Manifold = Readonly<Partial<Record<Valve, ValveState>>>
export interface ValveMove {
  readonly valve: Valve
  readonly to: ValveState
}

/** Name of a valve as spoken at the manifold. */
export const VALVE_NAMES: Record<Valve, string> = {
  high: 'High-side block valve',
  low: 'Low-side block valve',
  equalize: 'Equalizing valve',
  'vent-high': 'High-side vent',
  'vent-low': 'Low-side vent',
}

/** A move as a title says it. */
export const moveWords = ({ valve, to }: ValveMove): string =>
  `${to === 'open' ? 'Open' : 'Shut'} the ${inSentence(VALVE_NAMES[valve])}`

export const valvesOf = (type: ManifoldType): readonly Valve[] =>
  type === 'none' ? [] : type === 'three-valve' ? VALVES.slice(0, 3) : VALVES

/** A manifold in service: both blocks open, all else shut. */
export const inService = (type: ManifoldType): Manifold =>
  Object.fromEntries(valvesOf(type).map((v) => [v, v === 'high' || v === 'low' ? 'open' : 'shut']))

const move = (valve: Valve, to: ValveState): ValveMove => ({ valve, to })

/** Moves, in order, that take the cell out of service, equalized, and vented where the manifold has vents. */
export const outOfService = (type: ManifoldType): readonly ValveMove[] =>
  type === 'none'
    ? []
    : [
        move('low', 'shut'),
        move('equalize', 'open'),
        move('high', 'shut'),
        ...(type === 'five-valve' ? [move('vent-high', 'open'), move('vent-low', 'open')] : []),
      ]

/** Moves between equalized and ready for a pump on the high side, the low side left open to air. */
export const pumpReady = (type: ManifoldType): readonly ValveMove[] =>
  type === 'none' ? [] : [...(type === 'five-valve' ? [move('vent-high', 'shut')] : []), move('equalize', 'shut')]

/** Moves still to make, in order, to bring a manifold from any state back into service. */
export function backInService(type: ManifoldType, now: Manifold): readonly ValveMove[] {
  if (type === 'none') return []
  const moves: ValveMove[] = []
  const need = (valve: Valve, to: ValveState) => {
    if (state[valve] === to) return
    moves.push(move(valve, to))
    state = { ...state, [valve]: to }
  }
  let state = now
  if (type === 'five-valve') {
    need('vent-high', 'shut')
    need('vent-low', 'shut')
  }
  if (state.high === 'open' && state.low === 'open') {
    need('equalize', 'shut')
    return moves
  }
  // High side on, sides parted: only the low side is left to open, as at the very end of the order.
  if (state.high === 'open' && state.equalize === 'shut') {
    need('low', 'open')
    return moves
  }
  // Whatever is still shut is opened with the two sides joined, so that the cell never sees one side alone.
  need('equalize', 'open')
  if (state.low === 'open') {
    // Only the low side was left open: the high side must not meet it through the equalizing valve.
    need('low', 'shut')
  }
  need('high', 'open')
  need('equalize', 'shut')
  need('low', 'open')
  return moves
}

/**
 * The manifold after a move. @throws Refusal `manifold-danger` when the move itself would hurt; the message says what
 * would happen.
 */
export function moveValve(type: ManifoldType, now: Manifold, { valve, to }: ValveMove): Manifold {
  if (!valvesOf(type).includes(valve)) throw new Refusal('manifold-danger', 'This manifold has no such valve.')
  if (now[valve] === to) throw new Refusal('manifold-danger', `The ${inSentence(VALVE_NAMES[valve])} is ${to} already.`)
  const next: Manifold = { ...now, [valve]: to }
  const blocksOpen = (['high', 'low'] as const).filter((v) => next[v] === 'open')
  const ventsOpen = (['vent-high', 'vent-low'] as const).filter((v) => next[v] === 'open')
  const danger = (says: string) => new Refusal('manifold-danger', says)
  if (ventsOpen.length && blocksOpen.length)
    throw danger(
      valve.startsWith('vent')
        ? 'Opening this vent would let the process out: ' +
            `the ${inSentence(VALVE_NAMES[sure(blocksOpen[0])])} is still open.`
        : 'Opening this valve would let the process out through the open ' +
            `${inSentence(VALVE_NAMES[sure(ventsOpen[0])])}. Shut the vents first.`,
    )
  if (next.equalize === 'open' && blocksOpen.length === 2)
    throw danger(
      'With the equalizing valve open and both block valves open the process flows straight through the ' +
        'manifold: hot or dirty fluid passes the cell and a filled leg is lost. One block valve must be shut.',
    )
  if (to === 'open' && (valve === 'high' || valve === 'low') && blocksOpen.length === 1 && next.equalize === 'shut')
    throw danger(
      'Opened with the equalizing valve shut, the cell would carry the whole line pressure on one side. Join ' +
        'the sides first.',
    )
  return next
}

/** Why a move that is not dangerous in itself is out of order. */
export function outOfOrder(wanted: ValveMove, tried: ValveMove): string {
  const does = (m: ValveMove) => inSentence(moveWords(m))
  const why: Record<Valve, string> = {
    low:
      wanted.to === 'shut'
        ? 'The low side is shut first, so that when the sides are joined nothing can flow through the manifold.'
        : 'The low side is opened last, when both sides of the cell already stand at the same pressure.',
    equalize:
      wanted.to === 'open'
        ? 'The two sides are joined before the second block valve is shut or opened, so that the cell never ' +
          'carries line pressure on one side.'
        : 'The sides are parted again before the second one is put on, or the process would flow through the manifold.',
    high:
      wanted.to === 'shut'
        ? 'The high side is shut once the cell is equalized.'
        : 'The high side is opened with the equalizing valve open: line pressure then comes on both sides together.',
    'vent-high':
      wanted.to === 'open'
        ? 'Vents are opened last, once both block valves are shut.'
        : 'Vents are shut before any block valve is opened.',
    'vent-low':
      wanted.to === 'open'
        ? 'Vents are opened last, once both block valves are shut.'
        : 'Vents are shut before any block valve is opened.',
  }
  return `Not now: ${does(wanted)} before you ${does(tried)}. ${why[wanted.valve]}`
}
