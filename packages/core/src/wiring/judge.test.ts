import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { analogHookup } from '../circuit/index.ts'
import { Refusal } from '../refusal/index.ts'
import {
  addDevice,
  builtIn,
  connect,
  describe as describeConductor,
  energise,
  judgeWiring,
  landConductor,
  outputsOf,
  PLAIN,
  propose,
  readDeviceType,
  readWiring,
  removeDevice,
  renamedType,
  setDeviceFigure,
  setLegend,
  shuntsOf,
  takeOut,
  wiringChanges,
  wiringWords,
  writeWiring,
  type Arrangement,
  type Wiring,
} from './index.ts'
import { everyArrangement, usual, withSeries } from './wiring.fixture.ts'

const codes = (w: Wiring, conditions = usual, maxmA = 22) =>
  judgeWiring(w, conditions, maxmA).findings.map((f) => f.code)
const stops = (w: Wiring, conditions = usual) =>
  judgeWiring(w, conditions, 22).findings.flatMap((f) => (f.grade === 'stop' ? [f.code] : []))
const of = (changed: Partial<Arrangement> = {}) => propose({ ...PLAIN, ...changed })
const at = (w: Wiring, ref: string, end: 'from' | 'to' = 'from') => w.conductors.find((c) => c[end] === ref)!.id
const drop = (w: Wiring, ref: string) => takeOut(w, w.conductors.find((c) => c.from === ref || c.to === ref)!.id)

describe('a proposal', () => {
  it('lands the same cores by either convention of pairs, and nothing contradicts its colours', () => {
    for (const a of everyArrangement()) {
      const [white, red] = [propose(a), propose({ ...a, pairLegend: 'dc-red-black' })]
      const landed = (w: Wiring) => w.conductors.map((c) => [c.from, c.to, c.cable])
      expect(landed(red)).toEqual(landed(white))
      const conditions = withSeries(a.otherSeries)
      // At a converter colours of the pair meet those of its bus, in either convention: that is true, and said.
      const meetsBus = (code: string) => a.receiver.startsWith('converter') && code === 'colour-changes-meaning'
      const found = (w: Wiring) => codes(w, conditions).filter((code) => !meetsBus(code))
      expect(found(red), JSON.stringify(a)).toEqual(found(white))
      if (a.output === 'digital bus') continue
      const field = (w: Wiring) => w.cables.find((c) => c.id === 'W1')!.legend
      expect([field(white), field(red)]).toEqual(['pair-black-white', 'dc-red-black'])
      // Its plus is red where it was white, and no two cores of a cable are of one colour.
      const cores = red.conductors.filter((c) => c.cable === 'W1' && c.core !== 'shield').map((c) => c.core)
      expect(new Set(cores).size).toBe(cores.length)
      expect(red.conductors.find((c) => c.cable === 'W1')!.colour).toBe('red')
    }
    const converter = { output: 'three-wire', receiver: 'converter, channel 1' } as const
    expect(codes(of({ ...converter, pairLegend: 'dc-red-black' }))).toEqual(['colour-changes-meaning'])
  })
  it('never has a stop finding, drives its current through the receiver, and survives its own text', () => {
    for (const a of everyArrangement()) {
      const w = propose(a)
      const conditions = withSeries(a.otherSeries)
      expect(stops(w, conditions), JSON.stringify(a)).toEqual([])
      expect(readWiring(writeWiring(w))).toEqual(w)
      const e = energise({ wiring: w, conditions })
      if (a.output === 'digital bus') continue
      for (const o of outputsOf(w)) expect(Math.abs(e.solution.parts[o.part]!.mA)).toBeCloseTo(12, 2)
      const receiver = shuntsOf(w).filter((s) => s.device.id === 'RX')
      expect(receiver.some((s) => Math.abs(e.solution.parts[s.part]!.mA - 12) < 0.01)).toBe(true)
    }
  })
  it('agrees with the rule of one and only one loop supply', () => {
    const cases = [
      ['two-wire', 'two-wire'],
      ['three-wire', 'three-wire'],
      ['four-wire active', 'four-wire-active'],
      ['four-wire passive', 'four-wire-passive'],
    ] as const
    for (const [output, transmitter] of cases)
      for (const receiver of ['card supplies loop', 'passive card'] as const) {
        const w = of({ output, receiver })
        const separate = w.devices.some((d) => d.id === 'PS') && !receiver.startsWith('card')
        // An active output uses only the passive half of a card that could supply.
        const active = output === 'three-wire' || output === 'four-wire active'
        const card = receiver === 'card supplies loop' && !active ? 'supplies-loop' : 'passive'
        expect(analogHookup({ transmitter, card, loopSupply: separate && !active, devicePower: true }).works).toBe(true)
      }
  })
})

describe('before power', () => {
  it('sees that nothing feeds the loop', () => {
    const w = of({ receiver: 'passive card' })
    const dead = { ...w, devices: w.devices.filter((d) => d.id !== 'PS') }
    const joined = landConductor(
      landConductor(dead, at(w, 'PS:+', 'to'), 'to', 'RX:IN−'),
      at(w, 'PS:−', 'to'),
      'to',
      'RX:IN+',
    )
    expect(stops(takeOut(joined, at(w, 'PS:−', 'to')))).toContain('no-loop-supply')
  })
  it('knows the dead output whose display works', () => {
    const w = drop(of({ output: 'isolated, fed by jumper', receiver: 'passive card', power: 'mains' }), 'TX:A+')
    expect(stops(w)).toEqual(['no-loop-supply'])
  })
  it('sees two supplies, in series and against each other', () => {
    const active = of({ output: 'four-wire active', receiver: 'card supplies loop' })
    expect(stops(landConductor(active, at(active, 'RX:0V', 'to'), 'to', 'RX:24V'))).toContain('two-loop-supplies')
    const passive = addDevice(of({ receiver: 'passive card' }), 'supply-dc')
    const floating = setDeviceFigure(setDeviceFigure(passive, 'D1', 'earthed', 0), 'PS', 'earthed', 0)
    const feed = at(passive, 'PS:+', 'to')
    const aiding = connect(landConductor(floating, feed, 'to', 'D1:+'), 'D1:−', 'PS:+')
    expect(stops(aiding)).toContain('two-loop-supplies')
    const against = connect(landConductor(floating, feed, 'to', 'D1:−'), 'D1:+', 'PS:+')
    expect(stops(against)).toContain('two-loop-supplies')
  })
  it('sees plus and minus exchanged at the transmitter', () => {
    const w = of({ junction: false })
    const [p, m] = [at(w, 'TX:+'), at(w, 'TX:−')]
    expect(stops(landConductor(landConductor(w, p, 'from', 'TX:−'), m, 'from', 'TX:+'))).toEqual(['reversed-polarity'])
  })
  it('sees an open loop', () => {
    expect(stops(drop(of(), 'TX:−'))).toEqual(['loop-open'])
  })
  it('sees that lift-off is not met at the highest current, or the load is beyond the output', () => {
    expect(stops(of(), { ...usual, figures: { ...usual.figures, shunt: 600 } })).toEqual(['lift-off-not-met'])
    expect(
      stops(of({ output: 'four-wire active', receiver: 'passive card' }), {
        ...usual,
        figures: { ...usual.figures, shunt: 900 },
      }),
    ).toEqual(['beyond-compliance'])
  })
  it('finds 10 km of thin cable wanting, and says by how much', () => {
    const thin = judgeWiring(of(), { ...usual, coreOhm: 340 }, 22)
    expect(thin.findings[0]).toMatchObject({ code: 'lift-off-not-met', grade: 'stop' })
    expect(thin.findings[0]!.what).toMatch(/is left with .* V and reaches .* mA/)
  })
  it('sees receivers in parallel, and current that goes past one', () => {
    const w = of({ receiver: 'passive card', second: true, junction: false })
    const [into, on] = [at(w, 'IND:+', 'to'), at(w, 'IND:−')]
    const inParallel = connect(
      connect(landConductor(takeOut(w, on), into, 'to', 'RX:IN+'), 'RX:IN+', 'IND:+'),
      'IND:−',
      'RX:IN−',
    )
    expect(stops(inParallel)).toContain('split-in-parallel')
    const bypassed = addDevice(of(), 'series-resistor')
    const past = connect(connect(bypassed, 'RX:IN', 'D1:1'), 'D1:2', 'RX:0V')
    expect(stops(past, withSeries(250))).toContain('current-lost')
  })
  it('sees an input wired backwards and a receiver left out', () => {
    const w = of({ receiver: 'passive card', junction: false })
    const [a, b] = [at(w, 'RX:IN+', 'to'), at(w, 'RX:IN−')]
    expect(stops(landConductor(landConductor(w, a, 'to', 'RX:IN−'), b, 'from', 'RX:IN+'))).toContain('input-reversed')
    expect(stops(landConductor(w, a, 'to', 'PS:−'))).toContain('receiver-not-in-loop')
  })
  it('has words of their own for an input shorted, cores joined in a box, and a core on the test terminal', () => {
    const w = of({ junction: true })
    expect(stops(connect(w, 'RX:IN', 'RX:0V'))).toEqual(['input-shorted'])
    const [out, home] = [at(w, 'TX:+'), at(w, 'TX:−')].map((id) => w.conductors.find((c) => c.id === id)!)
    expect(stops(connect(w, out!.to, home!.to))).toContain('cores-joined')
    // A second way along the same copper is none.
    expect(stops(connect(w, out!.to, 'TX:+'))).toEqual([])
    const tested = landConductor(of({ junction: false }), at(of({ junction: false }), 'TX:−'), 'from', 'TX:T')
    expect([stops(tested), codes(tested)]).toEqual([[], ['on-test-terminal']])
  })
  it('tells supplies in parallel from supplies in series', () => {
    const w = of({ receiver: 'passive card', junction: false })
    const second = addDevice(w, 'supply-dc')
    expect(stops(connect(connect(second, 'PS:+', 'D1:+'), 'PS:−', 'D1:−'))).toEqual(['supplies-in-parallel'])
  })
  it('asks a fused loop without blowing its fuse', () => {
    const w = addDevice(of({ receiver: 'passive card', junction: false }), 'fuse')
    const fused = connect(landConductor(w, at(w, 'PS:+', 'to'), 'to', 'D1:2'), 'PS:+', 'D1:1')
    expect(stops(fused)).toEqual([])
  })
  it('sees a device without power, with too little, too much or reversed', () => {
    const w = of({ output: 'four-wire active', receiver: 'passive card', junction: false })
    expect(stops(drop(w, 'TX:24+'))).toContain('no-device-power')
    const swap = landConductor(landConductor(w, at(w, 'TX:24+'), 'from', 'TX:24−'), at(w, 'TX:24−'), 'from', 'TX:24+')
    expect(stops(swap)).toContain('supply-reversed')
    expect(stops(w, { ...usual, figures: { ...usual.figures, supply: 48 } })).toContain('supply-too-high')
    expect(stops(w, { ...usual, figures: { ...usual.figures, supply: 15 } })).toContain('supply-too-low')
  })
  it('sees a supply shorted and a fuse that would blow', () => {
    const w = of({ receiver: 'passive card' })
    expect(stops(connect(w, 'PS:+', 'PS:−'))).toContain('supply-shorted')
    const fused = addDevice(w, 'fuse')
    expect(stops(connect(connect(fused, 'PS:+', 'D1:1'), 'D1:2', 'PS:−'))).toContain('fuse-would-blow')
  })
  it('never lets mains onto a DC terminal, and wants earth and the right pole', () => {
    const w = of({ output: 'four-wire active', receiver: 'passive card', power: 'mains' })
    expect(stops(connect(w, 'AC:L', 'TX:I+'))).toContain('mains-on-dc')
    expect(stops(connect(w, 'AC:L', 'EB:E2'))).toContain('mains-on-earth')
    expect(stops(connect(w, 'AC:L', 'AC:N'))).toContain('mains-shorted')
    expect(stops(drop(w, 'AC:PE'))).toContain('no-protective-earth')
    const [l, n] = [at(w, 'AC:L'), at(w, 'AC:N')]
    expect(stops(landConductor(landConductor(w, l, 'to', 'TX:N'), n, 'to', 'TX:L'))).toContain('live-neutral-exchanged')
    expect(stops(drop(w, 'AC:L'))).toContain('no-device-power')
  })
  it('follows mains through a fuse, and lets it pass there only', () => {
    const w = addDevice(of({ output: 'four-wire active', receiver: 'passive card', power: 'mains' }), 'fuse')
    const fused = connect(landConductor(w, at(w, 'AC:L'), 'from', 'D1:2'), 'AC:L', 'D1:1')
    expect(stops(fused)).toEqual([])
    expect(stops(connect(fused, 'D1:2', 'RX:IN+'))).toContain('mains-on-dc')
    const barred = addDevice(fused, 'barrier')
    expect(stops(connect(barred, 'AC:L', 'D2:1'))).toContain('mains-on-dc')
  })
  it('sees a shield earthed twice and one earthed nowhere', () => {
    const w = of({ output: 'four-wire active', receiver: 'passive card', power: 'mains', junction: false })
    const shield = w.conductors.find((c) => c.core === 'shield')!
    expect(codes(landConductor(w, shield.id, 'to', 'TX:PE'))).toContain('shield-earthed-twice')
    expect(codes(landConductor(w, shield.id, 'from', ''))).toContain('shield-not-earthed')
  })
  it('sees a bus pair swapped, half landed, unterminated, terminated too often and without common', () => {
    const w = of({ output: 'digital bus', junction: false })
    const [p, m] = [at(w, 'TX:D+'), at(w, 'TX:D−')]
    expect(stops(landConductor(landConductor(w, p, 'from', 'TX:D−'), m, 'from', 'TX:D+'))).toContain('bus-swapped')
    expect(stops(landConductor(w, m, 'from', 'TX:D+'))).toContain('bus-lines-joined')
    expect(stops(landConductor(takeOut(w, m), p, 'from', 'TX:D−'))).toEqual(['bus-wrong-line'])
    expect(stops(takeOut(w, m))).toContain('bus-half')
    expect(stops(takeOut(takeOut(w, m), p))).toContain('bus-unconnected')
    expect(codes(setDeviceFigure(w, 'TX', 'termination', 0))).toContain('bus-unterminated')
    expect(codes(takeOut(w, at(w, 'TX:C')))).toContain('bus-no-common')
    const third = addDevice(w, 'bus-display')
    const often = connect(connect(connect(third, 'RX:D+', 'D1:D+'), 'RX:D−', 'D1:D−'), 'RX:C', 'D1:C')
    expect(codes(often)).toContain('bus-terminated-often')
  })
  it('misses communication resistance, as a note', () => {
    expect(codes(of(), { ...usual, figures: { ...usual.figures, shunt: 100 } })).toEqual(['communication-resistance'])
  })
  it('warns where a colour changes its meaning across a joint, or stands against its terminal', () => {
    const w = of()
    expect(codes(setLegend(w, 'W2', 'na-ac'))).toContain('colour-changes-meaning')
    expect(codes(describeConductor(w, at(w, 'RX:24V', 'to'), { colour: 'black' }))).toContain('colour-against-function')
  })
  it('says what it still needs instead of inventing volts', () => {
    const { needs, findings } = judgeWiring(of(), { ...usual, figures: { liftOff: 12 }, coreOhm: undefined }, 22)
    expect([...needs].sort()).toEqual(['cable', 'shunt', 'supply'])
    expect(findings.filter((f) => f.grade === 'stop')).toEqual([])
  })
  it('shows a conductor to a removed device and an unknown type as findings', () => {
    expect(stops(removeDevice(of(), 'JB'))).toContain('conductor-to-nothing')
    const w = of()
    expect(stops({ ...w, devices: w.devices.map((d) => (d.id === 'TX' ? { ...d, type: 'what' } : d)) })).toContain(
      'device-unknown',
    )
  })
  it('never crashes and never gives a figure that is none, whatever is drawn', () => {
    const refs = (w: Wiring) =>
      w.devices.flatMap((d) => (builtIn(d.type)?.terminals ?? []).map((t) => `${d.id}:${t.id}`))
    fc.assert(
      fc.property(
        fc.constantFrom(...everyArrangement().slice(0, 120)),
        fc.array(fc.tuple(fc.nat(), fc.nat(), fc.constantFrom('connect', 'take', 'land', 'remove')), { maxLength: 8 }),
        (a, changes) => {
          let w = propose(a)
          for (const [i, j, what] of changes) {
            const all = refs(w)
            const [p, q] = [all[i % all.length]!, all[j % all.length]!]
            const c = w.conductors[i % w.conductors.length]
            if (p === q || !c) continue
            try {
              w =
                what === 'connect'
                  ? connect(w, p, q)
                  : what === 'take'
                    ? takeOut(w, c.id)
                    : what === 'land'
                      ? landConductor(w, c.id, 'to', q)
                      : w.devices.length > 2
                        ? removeDevice(w, p.split(':')[0]!)
                        : w
            } catch (error) {
              expect(error).toBeInstanceOf(Refusal)
            }
          }
          for (const f of judgeWiring(w, usual, 22).findings)
            expect(`${f.what} ${f.why} ${f.action}`).not.toMatch(/NaN|undefined|Infinity/)
          const e = energise({ wiring: w, conditions: usual })
          for (const v of Object.values(e.solution.nodes)) expect(Number.isFinite(v)).toBe(true)
        },
      ),
      { numRuns: 150 },
    )
  })
})

describe('device files', () => {
  const file = (changed: object) => JSON.stringify({ ...builtIn('two-wire'), ...changed })
  it('are taken, or refused with what is wrong', () => {
    expect(readDeviceType(file({ name: 'Head H9' })).name).toBe('Head H9')
    const refused = (text: string, words: RegExp) => {
      try {
        readDeviceType(text)
        expect.unreachable()
      } catch (error) {
        expect(error).toMatchObject({ code: 'device-unreadable' })
        expect((error as Error).message).toMatch(words)
      }
    }
    refused('{', /not JSON/)
    refused(file({ terminals: [] }), /at least one terminal/)
    refused(
      file({
        terminals: [
          { id: '+', does: 'loop+' },
          { id: '+', does: 'loop-' },
        ],
      }),
      /two terminals are called “\+”/,
    )
    refused(file({ colourful: true }), /colourful/)
    refused(file({ inside: [{ part: 'resists', id: 'r', a: '+', b: 'X', ohm: 5 }] }), /no terminal “X”/)
  })
  it('give a device its own terminal names, which work like the old ones', () => {
    const own = renamedType(builtIn('two-wire'), 'own', 'Head H9', { '+': '7', '−': '8' })
    let w = of({ junction: false })
    const [p, m] = [at(w, 'TX:+'), at(w, 'TX:−')]
    w = addDevice(w, own)
    w = removeDevice(landConductor(landConductor(w, p, 'from', 'D1:7'), m, 'from', 'D1:8'), 'TX')
    expect(stops(w)).toEqual([])
    expect(energise({ wiring: w, conditions: usual }).milliamps(m)).toBeCloseTo(12, 3)
    expect(() => renamedType(builtIn('two-wire'), 'own', 'x', { '+': '8', '−': '8' })).toThrow(/Two terminals/)
    expect(() => renamedType(builtIn('two-wire'), 'own', 'x', { '+': 'a:b' })).toThrow(Refusal)
  })
  it('refuse wiring text that is damaged', () => {
    for (const text of [
      '',
      '[]',
      '{"format":"calm-loop/wiring-2"}',
      writeWiring(of()).replace('"conductors"', '"konductors"'),
    ])
      expect(() => readWiring(text)).toThrow(Refusal)
    const twice = of()
    expect(() => readWiring(writeWiring({ ...twice, devices: [...twice.devices, twice.devices[0]!] }))).toThrow(
      /there twice/,
    )
  })
  it('are told apart in words', () => {
    const [a, b] = [of(), landConductor(drop(of(), 'RX:IN'), 'C1', 'from', 'TX:T')]
    expect(wiringWords('')).toBe('the proposed wiring')
    expect(wiringWords('{')).toBe('a wiring that cannot be read')
    expect(wiringWords(writeWiring(a))).toBe('a wiring of 4 devices and 6 conductors')
    expect(wiringChanges(writeWiring(a), writeWiring(b))).toBe('C4 taken out, C1 first end TX:+ → TX:T')
    expect(wiringChanges(writeWiring(b), writeWiring(a))).toMatch(/C4 from JB:2 to RX:IN put in/)
    expect(wiringChanges('', writeWiring(a))).toMatch(/^the proposed wiring →/)
  })
})
