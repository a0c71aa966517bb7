// Steps of a run that were done out of coverage and do not stand, as somebody else had gone on first: what they have
// left otherwise than the run on record says, and how it is put right.
import { inSentence } from '../words/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import {
  moveValve,
  moveWords,
  valvesOf,
  VALVE_NAMES,
  type Manifold,
  type ManifoldType,
  type ValveMove,
} from './manifold.ts'
import type { RunState, World } from './state.ts'

/** One thing that stands otherwise than on record. */
export interface Aside {
  readonly id: string
  readonly title: string
  readonly says: string
}

/**
 * Safe moves from one state of a manifold to another, the fewest; undefined where none lead there.
 * Each is looked up by `moveValve`, so no state in between lets the process out or through.
 */
export function movesBetween(type: ManifoldType, from: Manifold, to: Manifold): readonly ValveMove[] | undefined {
  const valves = valvesOf(type)
  const same = (a: Manifold) => valves.every((v) => a[v] === to[v])
  const keyOf = (m: Manifold) => valves.map((v) => m[v]).join()
  const seen = new Set([keyOf(from)])
  let reached: { at: Manifold; moves: readonly ValveMove[] }[] = [{ at: from, moves: [] }]
  while (reached.length) {
    const there = reached.find(({ at }) => same(at))
    if (there) return there.moves
    reached = reached.flatMap(({ at, moves }) =>
      valves.flatMap((valve) => {
        const move: ValveMove = { valve, to: at[valve] === 'open' ? 'shut' : 'open' }
        const next = attempt(() => moveValve(type, at, move))
        if (next instanceof Refusal || seen.has(keyOf(next))) return []
        seen.add(keyOf(next))
        return [{ at: next, moves: [...moves, move] }]
      }),
    )
  }
  return undefined
}

function ofTheDevice(mine: RunState, stands: World, since: RunState | undefined): Aside[] {
  // Whatever the other wrote: a device that was written here as well may hold something else.
  const here = mine.world.written.slice(since?.world.written.length ?? 0)
  const unsettled = mine.pending && !since?.pending ? ['a command that was never read back'] : []
  const written = [...here, ...unsettled]
  return [
    ...(mine.world.fixed_mA === stands.fixed_mA
      ? []
      : [
          {
            id: 'current',
            title: stands.fixed_mA === null ? 'Release the fixed current' : `The current held at ${stands.fixed_mA} mA`,
            says:
              (mine.world.fixed_mA === null ? 'You left it measuring' : `You left it at ${mine.world.fixed_mA} mA`) +
              `; on record it ${stands.fixed_mA === null ? 'measures' : `holds ${stands.fixed_mA} mA`}.`,
          },
        ]),
    ...(written.length
      ? [
          {
            id: 'written',
            title: 'Look at what the device holds',
            says:
              `Written here and not on record: ${written.map(inSentence).join('; ')}. Read the device, and bring it ` +
              'to what the run on record says before anybody trims on.',
          },
        ]
      : []),
  ]
}

function ofTheManifold({ terms, world }: RunState, stands: World): Aside[] {
  const type = terms.manifold
  const other = valvesOf(type).filter((v) => world.manifold[v] !== stands.manifold[v])
  if (!other.length) return []
  const left = other
    .map((v) => `${inSentence(VALVE_NAMES[v])} ${world.manifold[v]}, on record ${stands.manifold[v]}`)
    .join('; ')
  const moves = movesBetween(type, world.manifold, stands.manifold)
  if (!moves) return [{ id: 'manifold', title: 'Bring the manifold to what is on record', says: `You left: ${left}.` }]
  return moves.map((move, i) => ({
    id: `valve-${i}-${move.valve}-${move.to}`,
    title: moveWords(move),
    says: i === 0 ? `You left: ${left}.` : 'Next, so that the cell never sees one side alone.',
  }))
}

/** What was said to people, and what is by-passed. */
function ofTheLoop({ world }: RunState, stands: World): Aside[] {
  const list: Aside[] = []
  const other = (id: string, differs: boolean, title: string, says: string) =>
    differs ? list.push({ id, title, says }) : 0
  other(
    'input',
    world.input !== stands.input,
    stands.input === 'process' ? 'Input let down and taken away' : 'Input off the process, as on record',
    `You left it ${world.input === 'bench' ? 'off' : 'on'} the process; on record it is ` +
      `${stands.input === 'bench' ? 'off' : 'on'} it.`,
  )
  other(
    'bypass',
    (world.bypass === undefined) !== (stands.bypass === undefined),
    stands.bypass === undefined ? 'Remove the by-passes that you set' : 'The by-pass stands on record: ask who set it',
    world.bypass === undefined ? 'By your steps none stands.' : `By-passed for your steps: ${world.bypass}.`,
  )
  other(
    'manual',
    world.manual !== stands.manual,
    stands.manual ? 'The loop is in manual on record' : 'Loop in automatic again',
    'The operator decides; say what was done twice.',
  )
  return list
}

/**
 * What the steps of `mine` have left otherwise than the run on record, in the order in which it is put right; the last
 * is always that people are told.
 * @param stands what plant and device are by the record
 * @param since the run as it stood when those steps began; undefined where it was begun by them
 */
export function toPutRight(mine: RunState, stands: World, since?: RunState): Aside[] {
  const device = ofTheDevice(mine, stands, since)
  const loop = ofTheLoop(mine, stands)
  const input = loop.filter((a) => a.id === 'input')
  return [
    ...device,
    // What is on the bench is let down before a valve brings the process back.
    ...input,
    ...ofTheManifold(mine, stands),
    ...loop.filter((a) => a.id !== 'input'),
    {
      id: 'told',
      title: 'Tell whoever went on, and operations',
      says: 'Two people worked on this loop without knowing of each other: agree who goes on.',
    },
  ]
}
