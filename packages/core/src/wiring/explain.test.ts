import { describe, expect, it } from 'vitest'
import { normal, seedFrom, uniform } from '../device/index.ts'
import {
  energise,
  explain,
  faultsOf,
  gateState,
  judgeWiring,
  placeMeter,
  PLAIN,
  PRIORS,
  propose,
  readAt,
  refuseGate,
  spotsOf,
  spread,
  takeOut,
  wiringSheet,
  writeWiring,
  type LoopReading,
  type Priors,
  type Ranking,
  type Spot,
} from './index.ts'
import { usual } from './wiring.fixture.ts'

const plain = propose(PLAIN)
const volts = (red: string, black: string, value: number): LoopReading => ({ of: 'volts', red, black, value })

describe('explaining readings', () => {
  it(
    'puts an injected fault in the first two places for at least 95 % of seeded ' + 'cases with three noisy readings',
    () => {
      let seed = seedFrom('wiring faults')
      const draw = () => {
        const [u, next] = uniform(seed)
        seed = next
        return u
      }
      const noise = () => {
        const [n, next] = normal(seed)
        seed = next
        return n
      }
      let [found, all, held] = [0, 0, 0]
      for (let k = 0; k < 140; k++) {
        const w = propose({
          ...PLAIN,
          junction: draw() < 0.5,
          receiver: draw() < 0.5 ? 'card supplies loop' : 'passive card',
          second: draw() < 0.3,
          output: draw() < 0.7 ? 'two-wire' : 'four-wire active',
        })
        const conditions = { ...usual, mA: 5 + 14 * draw() }
        const base = energise({ wiring: w, conditions })
        const faults = faultsOf(w, base).filter((f) => f.kind !== 'none')
        const kinds = [...new Set(faults.map((f) => f.kind))]
        const kind = kinds[Math.floor(draw() * kinds.length)]
        const of = faults.filter((f) => f.kind === kind)
        const fault = of[Math.floor(draw() * of.length)]!
        const { low = 0, high = 0, decades } = fault.figure ?? {}
        const u = draw()
        const figure = decades ? low * (high / low) ** u : low + (high - low) * u
        const truth = energise({ wiring: w, conditions, alter: fault.alter(figure), start: base.powered })
        const spots = spotsOf(w)
        // A fault that no reading can show (earth on an earthed core) is not asked for.
        const shows = spots.some((s) => Math.abs(readAt(truth, s) - readAt(base, s)) > 4 * spread(readAt(base, s)))
        if (!shows) continue
        const read = (spot: Spot): LoopReading => {
          const value = readAt(truth, spot)
          return { ...spot, value: value + (noise() * spread(value)) / 3 }
        }
        const readings = [
          read(spots.find((s) => s.of === 'volts' && s.red.startsWith('TX') && s.black.startsWith('TX'))!),
        ]
        while (readings.length < 3) {
          const { next } = explain(w, conditions, readings)
          readings.push(read(next?.spot ?? spots[Math.floor(draw() * spots.length)]!))
        }
        const { groups } = explain(w, conditions, readings)
        all++
        if (groups.slice(0, 2).some((g) => g.some((e) => e.fault.id === fault.id))) found++
        held += groups[0]!.length
      }
      expect(all).toBeGreaterThan(100)
      expect(found / all).toBeGreaterThanOrEqual(0.95)
      // The first place must still say something: not half of all faults at once.
      expect(held / all).toBeLessThan(6)
    },
    120_000,
  )
  it('says that all is as drawn when it is', () => {
    const e = energise({ wiring: plain, conditions: usual })
    const { groups } = explain(plain, usual, [
      volts('TX:+', 'TX:−', e.between('TX:+', 'TX:−')),
      volts('RX:IN', 'RX:0V', 3),
    ])
    expect(groups[0]!.some((x) => x.fault.kind === 'none')).toBe(true)
    expect(groups[0]![0]!.misfit).toBeLessThan(1)
  })
  it('finds the leak’s resistance, and proposes a reading that tells the rest apart', () => {
    const base = energise({ wiring: plain, conditions: usual })
    const leak = faultsOf(plain, base).find((f) => f.kind === 'leak-earth' && f.where.includes('JB:2'))!
    const truth = energise({ wiring: plain, conditions: usual, alter: leak.alter(2200), start: base.powered })
    const read = (s: Spot): LoopReading => ({ ...s, value: readAt(truth, s) })
    const ranking = explain(plain, usual, [
      read({ of: 'volts', red: 'RX:IN', black: 'RX:0V' }),
      read({ of: 'volts', red: 'TX:+', black: 'TX:−' }),
    ])
    const named = ranking.groups.flat().find((x) => x.fault.id === leak.id)!
    expect(named.figure! / 2200).toBeCloseTo(1, 1)
    const next = ranking.next!
    const values = next.expects.map((x) => x.value)
    expect(Math.max(...values) - Math.min(...values)).toBeGreaterThan(spread(values[0]!))
  })
  it('gives nothing for no readings, and no figure that is none for wild ones', () => {
    expect(explain(plain, usual, []).groups).toEqual([])
    for (const e of explain(plain, usual, [volts('TX:+', 'TX:−', 1e9), volts('RX:IN', 'RX:0V', -1e9)]).groups.flat())
      expect(Number.isFinite(e.misfit)).toBe(true)
  })
})

describe('the meter', () => {
  const home = plain.conductors.find((c) => c.to === 'RX:IN')!.id
  it('reads the loop in series, and the volts across the shunt', () => {
    const series = placeMeter(plain, usual, { how: 'series', conductor: home, end: 'to' })
    expect(series).toMatchObject({ jack: 'mA', function: 'DC mA', blown: false, powerOff: true })
    expect(series.value).toBeCloseTo(12, 2)
    expect(series.danger).toBeUndefined()
    expect(series.steps[0]).toMatch(/Power off/)
    const across = placeMeter(plain, usual, { how: 'volts', red: 'RX:IN', black: 'RX:0V' })
    expect(across.value).toBeCloseTo(3, 2)
    expect(placeMeter(plain, usual, { how: 'volts', red: 'RX:0V', black: 'RX:IN' }).display).toMatch(/^−3\.00/)
  })
  it('takes the current over from the test diode without breaking the loop', () => {
    const test = placeMeter(plain, usual, { how: 'milliamps', red: 'TX:T', black: 'TX:−' })
    expect(test.value).toBeCloseTo(12, 1)
    expect(test.danger).toBeUndefined()
  })
  it('is coarse as a clamp, and says so', () => {
    const clamp = placeMeter(plain, usual, { how: 'clamp', conductor: home })
    expect(clamp.value).toBeCloseTo(12, 1)
    expect(clamp.steps.join(' ')).toMatch(/± 0.2 mA/)
  })
  it('blows its fuse across the supply, shows 0 then, and says why', () => {
    const wrong = placeMeter(plain, usual, { how: 'milliamps', red: 'RX:24V', black: 'RX:0V' })
    expect(wrong).toMatchObject({ blown: true, value: 0 })
    expect(wrong.danger).toMatch(/5 Ω across 24\.0 V: its 440 mA fuse blows/)
    const shunted = placeMeter(plain, usual, { how: 'milliamps', red: 'RX:IN', black: 'RX:0V' })
    expect(shunted.blown).toBe(false)
    expect(shunted.danger).toMatch(/reads false/)
  })
  it('warns of mains', () => {
    const w = propose({ ...PLAIN, output: 'four-wire active', power: 'mains', receiver: 'passive card' })
    const live = placeMeter(w, usual, { how: 'volts', red: 'TX:L', black: 'TX:N' })
    expect(live).toMatchObject({ value: null, display: 'mains voltage', function: 'AC V' })
    expect(live.danger).toMatch(/Mains/)
    // A neutral is no 0 either.
    expect(placeMeter(w, usual, { how: 'volts', red: 'TX:N', black: 'TX:PE' }).display).toMatch(/treat as live/)
    expect(placeMeter(w, usual, { how: 'milliamps', red: 'TX:L', black: 'TX:N' }).danger).toMatch(/Never/)
  })
})

describe('the sheet and the gates', () => {
  it('has a line for each conductor, and never a colour without its convention', () => {
    const lines = wiringSheet(plain, energise({ wiring: plain, conditions: usual }))
    expect(lines).toHaveLength(plain.conductors.length)
    for (const l of lines) if (l.colour) expect(l.convention).not.toBe('')
    expect(lines.find((l) => l.to === 'RX:IN')).toMatchObject({ colour: 'black', function: 'current input, plus' })
    expect(wiringSheet(plain).every((l) => l.volts === null)).toBe(true)
    const bus = propose({ ...PLAIN, output: 'digital bus' })
    const data = wiringSheet(bus, energise({ wiring: bus, conditions: usual })).filter((l) => l.from.startsWith('TX:D'))
    expect(data).toHaveLength(2)
    for (const l of data) expect(l).toMatchObject({ volts: null, mA: null, says: 'data, not computed' })
  })
  it('lets nobody energise what was not proved dead, what is wrong, or what was changed since', () => {
    const text = writeWiring(plain)
    const off = { gate: 'power-off', wiring: text } as const
    const safe = { gate: 'safe-to-energise', wiring: text } as const
    expect(refuseGate({ gate: 'safe-to-energise', log: [], wiring: text, findings: [], needs: [] })).toMatchObject({
      code: 'power-not-off',
    })
    expect(refuseGate({ gate: 'safe-to-energise', log: [off], wiring: text, findings: [], needs: [] })).toBeUndefined()
    expect(
      refuseGate({ gate: 'safe-to-energise', log: [off], wiring: text, findings: [], needs: ['loop supply'] }),
    ).toMatchObject({ code: 'loop-incomplete' })
    const open = judgeWiring(takeOut(plain, plain.conductors[0]!.id), usual, 22).findings
    expect(refuseGate({ gate: 'safe-to-energise', log: [off], wiring: text, findings: open, needs: [] })).toMatchObject(
      { code: 'loop-open' },
    )
    expect(gateState([off, safe], text)).toEqual({ power: 'on', lapsed: false })
    expect(gateState([off, safe], `${text} `)).toEqual({ power: 'unknown', lapsed: true })
    expect(
      refuseGate({ gate: 'safe-to-energise', log: [off, safe], wiring: text, findings: [], needs: [] }),
    ).toMatchObject({ code: 'power-not-off' })
  })
})

describe('the first look', () => {
  it('comes before the answer, and holds what explains a plain case', () => {
    const looks: Ranking[] = []
    const read = [volts('RX:IN', 'RX:0V', 0), volts('RX:24V', 'RX:0V', 24)]
    const answer = explain(plain, usual, read, { first: (look) => looks.push(look) })
    expect(looks).toHaveLength(1)
    const kinds = (r: Ranking) => r.groups.flat().map((e) => e.fault.kind)
    expect(kinds(answer)).toContain('open')
    expect(kinds(looks[0]!)).toContain('open')
  })
})

describe('a reading at a terminal that was taken out since', () => {
  it('does not count', () => {
    const there = [volts('RX:IN', 'RX:0V', 3)]
    const gone = [...there, volts('D7:1', 'RX:0V', 17), { of: 'current', conductor: 'C99', value: 4 } as const]
    const ids = (readings: readonly LoopReading[]) => explain(plain, usual, readings).groups[0]!.map((e) => e.fault.id)
    expect(ids(gone)).toEqual(ids(there))
    expect(explain(plain, usual, gone.slice(1))).toEqual({ groups: [] })
  })
})

describe('the meter among the explanations', () => {
  const along = (conductor: string, value: number): LoopReading => ({ of: 'current', conductor, value })
  const first = (readings: readonly LoopReading[], priors: Priors = PRIORS) =>
    explain(plain, usual, readings, { priors }).groups[0]!.map((e) => e.fault.kind)
  it('on its 10 A range shows two digits of a loop that is right', () => {
    expect(first([along('C2', -10), volts('RX:IN', 'RX:0V', 3)])).toContain('meter-range')
  })
  it('on mA across a supply shows nothing anywhere, as a missing supply does', () => {
    const dead = [volts('RX:24V', 'RX:0V', 0), along('C2', 0)]
    const found = explain(plain, usual, dead)
      .groups.flat()
      .map((e) => e.fault.kind)
    expect(found).toEqual(expect.arrayContaining(['meter-across', 'supply-missing']))
  })
  it('loads the loop by its own resistance where the volts are short', () => {
    const short = { ...usual, mA: 20, figures: { ...usual.figures, supply: 17.5 } }
    const loaded = energise({
      wiring: plain,
      conditions: short,
      alter: (parts) => parts.map((p) => (p.id === 'w:C2' && p.kind === 'resistor' ? { ...p, ohm: 300 } : p)),
    })
    const read = [along('C2', loaded.milliamps('C2')!), volts('RX:IN', 'RX:0V', loaded.between('RX:IN', 'RX:0V'))]
    const found = explain(plain, short, read)
      .groups.flat()
      .map((e) => e.fault.kind)
    expect(found).toContain('meter-burden')
  })
  it('stands where the site’s own weights put it', () => {
    const nothing = [along('C2', 0)]
    const rare: Priors = { ...PRIORS, open: 0.01, 'fuse-blown': 0.01, 'meter-fuse': 100 }
    const order = (priors: Priors) =>
      explain(plain, usual, nothing, { priors })
        .groups.flat()
        .findIndex((e) => e.fault.kind === 'meter-fuse')
    expect(order(rare)).toBe(0)
    expect(order(PRIORS)).toBeGreaterThan(0)
  })
})
