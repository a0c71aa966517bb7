import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sure } from '../sure/index.ts'
import { movesBetween, toPutRight } from './aside.ts'
import { replay } from './machine.ts'
import { inService, MANIFOLDS, moveValve, outOfService, valvesOf, type Manifold } from './manifold.ts'
import { TERMS, walk } from './procedure.fixture.ts'

/** A state that safe moves lead to from service: each pair says which valve is tried. */
const reached = (type: (typeof MANIFOLDS)[number], tries: readonly number[]): Manifold =>
  tries.reduce((at: Manifold, n) => {
    const valve = sure(valvesOf(type)[n % valvesOf(type).length])
    try {
      return moveValve(type, at, { valve, to: at[valve] === 'open' ? 'shut' : 'open' })
    } catch {
      return at
    }
  }, inService(type))

describe('moves between two states of a manifold', () => {
  it('lead from any state that safe moves reach to any other, none of them dangerous', () => {
    const tries = fc.array(fc.nat(40), { maxLength: 12 })
    fc.assert(
      fc.property(fc.constantFrom('three-valve', 'five-valve'), tries, tries, (type, a, b) => {
        const [from, to] = [reached(type, a), reached(type, b)]
        const moves = movesBetween(type, from, to)
        expect(moves).toBeDefined()
        // Throws where one would hurt.
        expect(moves!.reduce((at, move) => moveValve(type, at, move), from)).toEqual(to)
      }),
    )
  })
  it('are none where nothing differs, and those of the order out of service', () => {
    const from = inService('five-valve')
    expect(movesBetween('five-valve', from, from)).toEqual([])
    const moves = outOfService('five-valve')
    const to = moves.reduce((at, move) => moveValve('five-valve', at, move), from)
    expect(movesBetween('five-valve', from, to)).toHaveLength(moves.length)
    expect(movesBetween('none', {}, {})).toEqual([])
  })
  it('are not known where a state was never safe', () => {
    const through: Manifold = { high: 'open', low: 'open', equalize: 'open' }
    expect(movesBetween('three-valve', inService('three-valve'), through)).toBe(undefined)
  })
})

describe('what must be put right', () => {
  const { events } = walk('zero-trim', TERMS)
  const upTo = (n: number) => replay(events.slice(0, n))
  const written = events.findIndex((e) => e.do === 'answered') + 1
  it('is that people are told, where nothing was left otherwise', () => {
    expect(toPutRight(upTo(3), upTo(3).world, upTo(2)).map((a) => a.id)).toEqual(['told'])
  })
  it('names each valve that was moved, in an order that is safe, and the loop in manual', () => {
    const moved = events.findIndex((e) => e.do === 'valve') + 2
    const found = toPutRight(upTo(moved), upTo(1).world)
    expect(found.map((a) => a.id)).toEqual(['valve-0-equalize-shut', 'valve-1-low-open', 'bypass', 'manual', 'told'])
    expect(found.map((a) => a.title)).toContain('Open the low-side block valve')
    expect(found[0]!.says).toContain('on record')
  })
  it('says what was written to the device and is not on record', () => {
    expect(written).toBeGreaterThan(0)
    const found = toPutRight(upTo(written), upTo(1).world)
    expect(found[0]).toMatchObject({ id: 'written', title: 'Look at what the device holds' })
    // What was written before these steps is on record.
    expect(toPutRight(upTo(written), upTo(written).world, upTo(written)).map((a) => a.id)).toEqual(['told'])
  })
  it('says so of what the other has written too: the device was written twice', () => {
    const found = toPutRight(upTo(written), upTo(written).world, upTo(written - 2))
    expect(found[0]).toMatchObject({ id: 'written', title: 'Look at what the device holds' })
    const other = { ...upTo(written).world, written: ['Something else written'] }
    expect(toPutRight(upTo(written), other, upTo(written - 2))[0]!.id).toBe('written')
  })
  it('says of a command without an answer that it is to be looked at', () => {
    const found = toPutRight(upTo(written - 1), upTo(1).world)
    expect(found.find((a) => a.id === 'written')?.says).toContain('never read back')
  })
  it('says of a current that is held what the record says of it', () => {
    const mine = { ...upTo(3), world: { ...upTo(3).world, fixed_mA: 12 } }
    const [first] = toPutRight(mine, upTo(3).world)
    expect(first).toMatchObject({ id: 'current', title: 'Release the fixed current' })
    expect(first!.says).toBe('You left it at 12 mA; on record it measures.')
    const [other] = toPutRight(upTo(3), { ...upTo(3).world, fixed_mA: 4, input: 'bench' })
    expect(other!.title).toBe('The current held at 4 mA')
  })
})
