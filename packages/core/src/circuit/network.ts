// Nodes joined by straight branches, solved by eliminating one node after the other (star–mesh).
//
// Every branch keeps its conductance and its own voltage apart, and elimination only ever adds conductances, so
// nothing cancels:
// an island that hangs on 10⁻¹² S to earth is found as exactly as a loop of 0.01 Ω links. Method:
// docs/methods/circuit.md.

/** A branch from node `a` to node `b`: current into it at `a` is `mho`·(V(a) − V(b) − `emf`) + `amps`. */
export interface Branch {
  readonly a: number
  readonly b: number
  mho: number
  emf: number
  amps: number
}

interface Step {
  readonly node: number
  /** Nodes still standing that it is joined to. */
  readonly near: Int32Array
  /** Joint to each of them. */
  readonly joints: Int32Array
  /** 1 where the node is the joint's lower end. */
  readonly signs: Int8Array
  /** Joint between each two of them, in order (0,1), (0,2) … (1,2) … */
  readonly mesh: Int32Array
}

/** Order of elimination and joints of a topology: made once, used for every set of figures. */
export interface Plan {
  readonly nodes: number
  readonly steps: readonly Step[]
  readonly joints: number
  /** Joint of each branch and of each node's leak to earth; −1 for a branch from a node to itself. */
  readonly jointOf: Int32Array
  readonly leakOf: Int32Array
  /** Room for the figures while it is solved; nothing is kept there from one solution to the next. */
  readonly scratch: {
    readonly mho: Float64Array
    readonly emf: Float64Array
    readonly into: Float64Array
    readonly total: Float64Array
  }
}

/** Plans the elimination of all nodes but node 0 (earth), least joined first. */
export function planNetwork(nodes: number, ends: readonly (readonly [number, number])[]): Plan {
  const joined: Map<number, number>[] = Array.from({ length: nodes }, () => new Map())
  let joints = 0
  const join = (a: number, b: number): number => {
    const known = joined[a]!.get(b)
    if (known !== undefined) return known
    joined[a]!.set(b, joints)
    joined[b]!.set(a, joints)
    return joints++
  }
  const leakOf = new Int32Array(nodes).fill(-1)
  for (let n = 1; n < nodes; n++) leakOf[n] = join(0, n)
  const jointOf = Int32Array.from(ends, ([a, b]) => (a === b ? -1 : join(a, b)))

  const standing = new Set(Array.from({ length: nodes - 1 }, (_, i) => i + 1))
  const steps: Step[] = []
  while (standing.size) {
    let node = -1
    let least = Infinity
    for (const n of standing)
      if (joined[n]!.size < least) {
        least = joined[n]!.size
        node = n
        if (least <= 2) break
      }
    standing.delete(node)
    const near = [...joined[node]!.keys()]
    const own = near.map((n) => joined[node]!.get(n)!)
    for (const n of near) joined[n]!.delete(node)
    const mesh: number[] = []
    for (let i = 0; i < near.length; i++) for (let j = i + 1; j < near.length; j++) mesh.push(join(near[i]!, near[j]!))
    steps.push({
      node,
      near: Int32Array.from(near),
      joints: Int32Array.from(own),
      signs: Int8Array.from(near, (n) => (node < n ? 1 : -1)),
      mesh: Int32Array.from(mesh),
    })
  }
  const scratch = {
    mho: new Float64Array(joints),
    emf: new Float64Array(joints), // from the joint's lower node to its higher one
    into: new Float64Array(nodes), // current fed into a node from outside
    total: new Float64Array(steps.length),
  }
  return { nodes, steps, joints, jointOf, leakOf, scratch }
}

/** Conductance of every node to earth, S. */
export const LEAK_MHO = 1e-12

/** Voltages of all nodes to node 0. */
export function solveNetwork(plan: Plan, branches: readonly Branch[]): Float64Array {
  const { mho, emf, into, total } = plan.scratch
  mho.fill(0)
  emf.fill(0)
  into.fill(0)
  const add = (joint: number, g: number, e: number): void => {
    const sum = mho[joint]! + g
    if (sum > 0) emf[joint] = emf[joint]! + ((e - emf[joint]!) * g) / sum
    mho[joint] = sum
  }
  for (let n = 1; n < plan.nodes; n++) add(plan.leakOf[n]!, LEAK_MHO, 0)
  for (let i = 0; i < branches.length; i++) {
    const { a, b, mho: g, emf: e, amps } = branches[i]!
    if (a === b) continue
    if (g > 0) add(plan.jointOf[i]!, g, a < b ? e : -e)
    into[a]! -= amps
    into[b]! += amps
  }
  for (let s = 0; s < plan.steps.length; s++) {
    const { node, near, joints, signs, mesh } = plan.steps[s]!
    let sum = 0
    for (let i = 0; i < joints.length; i++) sum += mho[joints[i]!]!
    total[s] = sum
    const fed = into[node]!
    for (let i = 0, m = 0; i < near.length; i++) {
      const gi = mho[joints[i]!]!
      const ei = signs[i]! * emf[joints[i]!]!
      into[near[i]!]! += (fed * gi) / sum
      for (let j = i + 1; j < near.length; j++, m++) {
        const g = (gi * mho[joints[j]!]!) / sum
        if (g === 0) continue
        // Going from i over the node to j: against i's voltage, with j's.
        const e = signs[j]! * emf[joints[j]!]! - ei
        add(mesh[m]!, g, near[i]! < near[j]! ? e : -e)
      }
    }
  }
  const volts = new Float64Array(plan.nodes)
  for (let s = plan.steps.length - 1; s >= 0; s--) {
    const { node, near, joints, signs } = plan.steps[s]!
    let sum = into[node]!
    for (let i = 0; i < near.length; i++) sum += mho[joints[i]!]! * (volts[near[i]!]! + signs[i]! * emf[joints[i]!]!)
    volts[node] = sum / total[s]!
  }
  return volts
}
