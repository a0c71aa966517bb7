// What every meter in a circuit would read: nodal solution of sources, resistors, transmitters, outputs, diodes and
// fuses.
import { Refusal } from '../refusal/index.ts'
import { LEAK_MHO, planNetwork, solveNetwork, type Branch, type Plan } from './network.ts'
import { endsOf, piecesOf, refuseBadParts, type Part, type Piece } from './parts.ts'

export interface Circuit {
  /** Node that counts as 0 V. */
  readonly ground: string
  readonly parts: readonly Part[]
}

export interface SolvedPart {
  /**
   * Into the first terminal and through the part; for a source and a current output, the current delivered out of
   * plus.
   */
  readonly mA: number
  /** First terminal less second. */
  readonly volts: number
  /** Only on a meter set to mA: its fuse has opened. */
  readonly blown?: boolean
}

export interface Solution {
  /** Volts to ground by node. */
  readonly nodes: Readonly<Record<string, number>>
  readonly parts: Readonly<Record<string, SolvedPart>>
}

/** Most rounds of choosing pieces; a circuit of monotone parts settles in fewer than its parts have pieces. */
const MOST_ROUNDS = 2000
/** Rounds in which all parts change their pieces together. */
const ROUNDS_TOGETHER = 60

interface Bent {
  readonly branch: Branch
  readonly pieces: readonly Piece[]
  at: number
}

function take(bent: Bent, at: number): void {
  const { mho, emf, amps } = bent.pieces[at]!
  bent.at = at
  Object.assign(bent.branch, { mho, emf, amps })
}

function pieceAt(pieces: readonly Piece[], v: number): number {
  let at = 0
  while (at < pieces.length - 1 && v > pieces[at]!.to) at++
  return at
}

const currentOf = ({ mho, emf, amps }: Piece | Branch, v: number): number => (mho === 0 ? amps : mho * (v - emf) + amps)

/** Whether a bent part's present piece gives the current that the part would really carry at these voltages. */
function fits({ branch, pieces }: Bent, volts: Float64Array): boolean {
  const [va, vb] = [volts[branch.a]!, volts[branch.b]!]
  const real = pieces[pieceAt(pieces, va - vb)]!
  const slack = 1e-14 * (Math.abs(va) + Math.abs(vb) + 1) * Math.max(real.mho, branch.mho) + 1e-16
  return Math.abs(currentOf(real, va - vb) - currentOf(branch, va - vb)) <= slack
}

/**
 * Voltages with every bent part on the piece that it really is on. The parts are monotone, so the solution is the
 * least of a convex
 * function: go towards the solution of the present pieces, and no further than where going on would climb again.
 * Where that creeps
 * (corners nanovolts apart), one part at a time changes its piece, always the first that does not fit, which ends for
 * monotone parts.
 */
function settle(plan: Plan, branches: readonly Branch[], bents: readonly Bent[]): Float64Array {
  let now = new Float64Array(plan.nodes)
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const next = solveNetwork(plan, branches)
    const misfit = bents.find((bent) => !fits(bent, next))
    if (!misfit) return next
    if (round >= ROUNDS_TOGETHER) {
      const v = next[misfit.branch.a]! - next[misfit.branch.b]!
      take(misfit, misfit.at + Math.sign(pieceAt(misfit.pieces, v) - misfit.at))
      continue
    }
    const step = round === 0 ? 1 : lowestAlong({ plan, branches, bents, now, next })
    now = now.map((v, i) => v + step * (next[i]! - v))
    for (const bent of bents) take(bent, pieceAt(bent.pieces, now[bent.branch.a]! - now[bent.branch.b]!))
    if (step < 1) nudge(bents, now, next)
  }
  throw new Refusal('no-solution', 'No set of voltages satisfies this circuit.')
}

/** At a corner, takes the piece that lies ahead in the direction of going. */
function nudge(bents: readonly Bent[], now: Float64Array, next: Float64Array): void {
  for (const bent of bents) {
    const { a, b } = bent.branch
    const v = now[a]! - now[b]!
    const ahead = next[a]! - next[b]! - v
    const near = 1e-12 * (1 + Math.abs(v))
    const at = pieceAt(bent.pieces, v + Math.sign(ahead) * near)
    if (at !== bent.at) take(bent, at)
  }
}

/** How far, 0 … 1, to go from `now` to `next`: where the slope along the way passes through zero. */
function lowestAlong({
  plan,
  branches,
  bents,
  now,
  next,
}: {
  readonly plan: Plan
  readonly branches: readonly Branch[]
  readonly bents: readonly Bent[]
  readonly now: Float64Array
  readonly next: Float64Array
}): number {
  const bentBranches = new Set(bents.map((b) => b.branch))
  // The straight parts and the leaks to earth make a slope that is linear in t.
  let slope0 = 0
  let rise = 0
  for (const branch of branches) {
    if (bentBranches.has(branch)) continue
    const v = now[branch.a]! - now[branch.b]!
    const d = next[branch.a]! - next[branch.b]! - v
    slope0 += currentOf(branch, v) * d
    rise += branch.mho * d * d
  }
  for (let n = 1; n < plan.nodes; n++) {
    const d = next[n]! - now[n]!
    slope0 += LEAK_MHO * now[n]! * d
    rise += LEAK_MHO * d * d
  }
  const lines = bents.map(({ branch, pieces }) => {
    const v = now[branch.a]! - now[branch.b]!
    return { pieces, v, d: next[branch.a]! - next[branch.b]! - v }
  })
  const slope = (t: number): number =>
    lines.reduce(
      (sum, { pieces, v, d }) => sum + currentOf(pieces[pieceAt(pieces, v + t * d)]!, v + t * d) * d,
      slope0 + t * rise,
    )
  const corners = lines
    .flatMap(({ pieces, v, d }) => (d === 0 ? [] : pieces.slice(0, -1).map((p) => (p.to - v) / d)))
    .filter((t) => t > 0 && t < 1)
    .sort((a, b) => a - b)
  let low = 0
  for (const t of [...corners, 1]) {
    if (slope(t) > 0) {
      const [s0, s1] = [slope(low + (t - low) * 1e-9), slope(t)]
      const within = s0 >= 0 ? 0 : -s0 / (s1 - s0)
      return Math.max(low + (t - low) * within, 1e-9)
    }
    low = t
  }
  return 1
}

/**
 * How the parts of a circuit hang together. It stays the same while only their figures change, and may then be used
 * again.
 */
export interface Topology {
  readonly index: ReadonlyMap<string, number>
  readonly ends: readonly (readonly [number, number])[]
  readonly plan: Plan
  /** The piece on which each part settled last: the likeliest to begin with. */
  readonly settled: number[]
}

export function topologyOf({ ground, parts }: Circuit): Topology {
  const index = new Map([[ground, 0]])
  const nodeOf = (name: string): number => {
    const known = index.get(name)
    if (known !== undefined) return known
    index.set(name, index.size)
    return index.size - 1
  }
  const ends = parts.map((part) => {
    const [a, b] = endsOf(part)
    return [nodeOf(a), nodeOf(b)] as const
  })
  return { index, ends, plan: planNetwork(index.size, ends), settled: [] }
}

/**
 * Solves a circuit for all voltages and currents. Every node leaks 10⁻¹² S to ground, so a floating node has a
 * voltage too. A meter's
 * fuse opens when its rating is exceeded, and the circuit is solved again until none opens.
 * @param topology of this circuit, where it is known already
 * @throws Refusal `invalid-input` for impossible parts, `no-solution` when it does not settle
 * Source: Kirchhoff’s laws; docs/methods/circuit.md
 */
export function solveCircuit(circuit: Circuit, topology: Topology = topologyOf(circuit)): Solution {
  refuseBadParts(circuit.parts)
  const { index, ends, plan } = topology
  const blown = new Set<Part>()
  for (;;) {
    const branches: Branch[] = ends.map(([a, b]) => ({ a, b, mho: 0, emf: 0, amps: 0 }))
    const all: Bent[] = circuit.parts.map((part, i) => ({
      branch: branches[i]!,
      pieces: piecesOf(part, blown.has(part)),
      at: 0,
    }))
    // Most loops work: transmitters have their lift-off voltage, outputs are within their reach, diodes block.
    all.forEach((bent, i) => {
      const usual =
        bent.pieces.length > 2 && bent.pieces[0]!.amps === 0 ? bent.pieces.length - 1 : pieceAt(bent.pieces, 1e-9)
      take(bent, topology.settled[i] ?? usual)
    })
    const volts = settle(
      plan,
      branches,
      all.filter((b) => b.pieces.length > 1 && b.branch.a !== b.branch.b),
    )
    all.forEach((bent, i) => (topology.settled[i] = bent.at))
    const across = (i: number) => volts[branches[i]!.a]! - volts[branches[i]!.b]!
    const amps = (i: number) => {
      const v = across(i)
      return currentOf(
        branches[i]!.a === branches[i]!.b ? all[i]!.pieces[pieceAt(all[i]!.pieces, 0)]! : branches[i]!,
        v,
      )
    }
    const opening = circuit.parts.filter(
      (part, i) => part.kind === 'ammeter' && !blown.has(part) && Math.abs(amps(i)) * 1000 > part.fusemA,
    )
    if (opening.length) {
      for (const part of opening) blown.add(part)
      continue
    }
    const nodes: Record<string, number> = Object.create(null) as Record<string, number>
    for (const [name, n] of index) nodes[name] = volts[n]!
    const parts: Record<string, SolvedPart> = Object.create(null) as Record<string, SolvedPart>
    for (let i = 0; i < circuit.parts.length; i++) {
      const part = circuit.parts[i]!
      const delivers = part.kind === 'source' || part.kind === 'current-output'
      const mA = 1000 * amps(i)
      const solved = { mA: delivers ? -mA + 0 : mA, volts: across(i) }
      parts[part.id] = part.kind === 'ammeter' ? { ...solved, blown: blown.has(part) } : solved
    }
    return { nodes, parts }
  }
}
