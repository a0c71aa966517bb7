import fc from 'fast-check'
import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { Refusal } from '../refusal/index.ts'
import { endsOf, solveCircuit, type Part, type Solution } from './index.ts'
import { randomCircuit } from './random-circuit.fixture.ts'

/** Amperes into a part's first terminal at v volts across it, straight from its definition. */
function ampsAt(part: Part, v: number, blown: boolean): readonly [number, number] {
  const diode = (u: number) => u / 1e9 + (u > 0.7 ? u - 0.7 : 0)
  switch (part.kind) {
    case 'source':
      return [(v - part.volts) / (part.seriesOhm ?? 0.05), 20]
    case 'resistor':
    case 'voltmeter':
      return [v / part.ohm, 1 / part.ohm]
    case 'switch':
      return [v / (part.closed ? 0.01 : 1e9), 100]
    case 'ammeter':
      return [v / (blown ? 1e9 : part.ohm), 1 / part.ohm]
    case 'diode':
      return [diode(v), 1]
    case 'loop-transmitter': {
      const full = part.mA / 1000
      if (v < 0) return [part.reverse === 'blocks' ? 0 : -diode(-v), 1]
      return [v >= part.liftOffV ? full : (full * v) / part.liftOffV, full]
    }
    case 'current-output':
      // At its limit any current between none and the full one is right.
      return Math.abs(v - part.maxV) < 2e-6 ? [NaN, part.mA * 1e3] : [v < part.maxV ? -part.mA / 1000 : 0, 0]
  }
}

function expectKirchhoff(parts: readonly Part[], solved: Solution): void {
  const fed = new Map<string, number>()
  const size = new Map<string, number>()
  for (const part of parts) {
    const [a, b] = endsOf(part)
    const { mA, volts, blown = false } = solved.parts[part.id]!
    expect(volts).toBeCloseTo(solved.nodes[a]! - solved.nodes[b]!, 9)
    const delivers = part.kind === 'source' || part.kind === 'current-output'
    const amps = (delivers ? -mA : mA) / 1000
    const [law, mho] = ampsAt(part, volts, blown)
    const slack = 1e-12 + 1e-9 * Math.abs(amps) + mho * 1e-12
    if (Number.isNaN(law)) {
      if (part.kind === 'current-output') expect(mA).toBeGreaterThanOrEqual(-1e-3)
      if (part.kind === 'current-output') expect(mA).toBeLessThanOrEqual(part.mA + 1e-3)
    } else expect(Math.abs(law - amps), `${part.kind} ${part.id}`).toBeLessThanOrEqual(slack)
    for (const [node, sign] of [
      [a, -1],
      [b, 1],
    ] as const) {
      fed.set(node, (fed.get(node) ?? 0) + sign * amps)
      size.set(node, (size.get(node) ?? 0) + Math.abs(amps) * 1e-9 + mho * 1e-12 + 1e-14)
    }
  }
  for (const [node, amps] of fed)
    if (node !== 'n0')
      expect(Math.abs(amps - solved.nodes[node]! * 1e-12), node).toBeLessThanOrEqual(size.get(node)! + 1e-10)
}

describe('the solver', () => {
  it('keeps Kirchhoff’s laws at every node of random circuits, and every part on its own law', () => {
    fc.assert(
      fc.property(randomCircuit(7, 16), (parts) => {
        expectKirchhoff(parts, solveCircuit({ ground: 'n0', parts }))
      }),
      { numRuns: 3000 },
    )
  })
  it('finds an island that hangs on nothing but its leaks exactly', () => {
    const { nodes } = solveCircuit({
      ground: '0V',
      parts: [
        { kind: 'source', id: 'S', plus: 'P', minus: 'M', volts: 24 },
        { kind: 'switch', id: 'K', a: 'P', b: 'Q', closed: true },
        { kind: 'switch', id: 'K2', a: 'Q', b: 'P', closed: true },
        { kind: 'resistor', id: 'R', a: 'A', b: 'B', ohm: 1 },
      ],
    })
    // Three leaks of 10⁻¹² S share 24 V: two at the plus side, one at the minus side.
    expect(nodes['P']).toBeCloseTo(8, 9)
    expect(nodes['Q']).toBeCloseTo(8, 9)
    expect(nodes['M']).toBeCloseTo(-16, 9)
    expect(nodes['A']).toBe(0)
  })
  it('takes a ring of closed switches and two sources side by side', () => {
    const { parts } = solveCircuit({
      ground: '0V',
      parts: [
        { kind: 'source', id: 'A', plus: 'P', minus: '0V', volts: 24 },
        { kind: 'source', id: 'B', plus: 'P', minus: '0V', volts: 25 },
        { kind: 'switch', id: 'K1', a: 'P', b: 'Q', closed: true },
        { kind: 'switch', id: 'K2', a: 'Q', b: 'R', closed: true },
        { kind: 'switch', id: 'K3', a: 'R', b: 'P', closed: true },
        { kind: 'ammeter', id: 'M', plus: 'P', minus: 'P', ohm: 1, fusemA: 400 },
      ],
    })
    expect(parts['A']!.mA).toBeCloseTo(-10_000, 3)
    expect(parts['B']!.mA).toBeCloseTo(10_000, 3)
    expect(parts['K2']!.mA).toBeCloseTo(0, 6)
    expect(parts['M']).toEqual({ mA: 0, volts: 0, blown: false })
  })
  it('refuses parts that cannot be', () => {
    const refused = (part: object) => () =>
      solveCircuit({ ground: 'G', parts: [{ id: 'X', plus: 'A', minus: 'G', a: 'A', b: 'G', ...part } as never] })
    for (const part of [
      { kind: 'resistor', ohm: 0 },
      { kind: 'resistor', ohm: NaN },
      { kind: 'source', volts: 24, seriesOhm: -1 },
      { kind: 'source', volts: Infinity },
      { kind: 'loop-transmitter', mA: -1, liftOffV: 10, reverse: 'blocks' },
      { kind: 'current-output', mA: 4, maxV: 0 },
    ])
      expect(refused(part)).toThrow(Refusal)
    const twice: Part = { kind: 'resistor', id: 'X', a: 'A', b: 'G', ohm: 1 }
    expect(() => solveCircuit({ ground: 'G', parts: [twice, twice] })).toThrow(Refusal)
  })
})

/** The same circuit for an open general circuit simulator. */
function netlist(parts: readonly Part[]): string {
  const lines = parts.map((part, i) => {
    const [a, b] = endsOf(part).map((n) => (n === 'n0' ? '0' : n))
    const ohms = (o: number) => `R${i} ${a} ${b} ${o}`
    const table = (points: readonly (readonly [number, number])[]) =>
      `B${i} ${a} ${b} I=pwl(V(${a},${b}),${points.map(([v, amps]) => `${v},${amps}`).join(',')})`
    switch (part.kind) {
      case 'source':
        return `V${i} x${i} ${b} ${part.volts}\nR${i} x${i} ${a} ${part.seriesOhm ?? 0.05}`
      case 'resistor':
      case 'voltmeter':
      case 'ammeter':
        return ohms(part.ohm)
      case 'switch':
        return ohms(part.closed ? 0.01 : 1e9)
      case 'diode':
        return table([
          [-1000, -1e-6],
          [0.7, 0.7e-9],
          [1000.7, 1000 + 1e-6],
        ])
      case 'loop-transmitter': {
        const amps = part.mA / 1000
        const forward = [
          [0, 0],
          [part.liftOffV, amps],
          [1000, amps],
        ] as const
        return table(
          part.reverse === 'blocks' ? [[-1000, 0], ...forward] : [[-1000.7, -1000], [-0.7, -0.7e-9], ...forward],
        )
      }
      case 'current-output': {
        const amps = part.mA / 1000
        return table([
          [-1000, -amps],
          [part.maxV, -amps],
          [part.maxV + 1e-4, 0],
          [1000, 0],
        ])
      }
    }
  })
  return lines.join('\n')
}

const simulator = spawnSync('ngspice', ['--version']).status === 0

describe.skipIf(!simulator)('against an open general circuit simulator', () => {
  it('gives the same voltages for random circuits', () => {
    const folder = mkdtempSync(join(tmpdir(), 'calm-loop-netlist-'))
    let compared = 0
    // A resistor from every node to ground keeps the other simulator's own 10⁻¹² S from counting.
    for (const drawn of fc.sample(randomCircuit(6, 12), { numRuns: 60, seed: 20 })) {
      const parts: Part[] = [
        ...drawn.filter((p) => endsOf(p)[0] !== endsOf(p)[1]),
        ...[1, 2, 3, 4, 5].map((n): Part => ({ kind: 'resistor', id: `g${n}`, a: `n${n}`, b: 'n0', ohm: 20_000 })),
      ]
      const ours = solveCircuit({ ground: 'n0', parts })
      if (Object.values(ours.parts).some((p) => p.blown)) continue
      const file = join(folder, 'net.cir')
      const wanted = ['n1', 'n2', 'n3', 'n4', 'n5']
      writeFileSync(
        file,
        `loop\n${netlist(parts)}\n.options reltol=1e-6 abstol=1e-12\n.control\nop\nset ` +
          `numdgt=9\n${wanted.map((n) => `print v(${n})`).join('\n')}\n.endc\n.end\n`,
      )
      const said = spawnSync('ngspice', ['-b', file], { encoding: 'utf8' }).stdout
      const theirs = wanted.map((n) => Number(new RegExp(`v\\(${n}\\) = (\\S+)`).exec(said)?.[1] ?? NaN))
      if (theirs.some(Number.isNaN)) continue // it did not converge
      compared++
      wanted.forEach((n, i) =>
        expect(Math.abs(ours.nodes[n]! - theirs[i]!), `${n} in\n${netlist(parts)}`).toBeLessThan(0.005),
      )
    }
    expect(compared).toBeGreaterThan(40)
  })
})
