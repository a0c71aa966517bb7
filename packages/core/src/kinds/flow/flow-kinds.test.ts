import { study as studied } from '../../loop/index.ts'
import { describe, expect, it } from 'vitest'
import {
  commandMeter,
  observeMeter,
  startMeter,
  stepMeter,
  type MeterModel,
  type MeterState,
} from '../../device/index.ts'
import { judgeStep } from '../../sheet/index.ts'
import { spread } from '../../thread/index.ts'
import { demoEntries } from '../demo-entries.fixture.ts'
import {
  currentKindOf,
  entriesNow,
  judgeSoundSpeed,
  clampOnOf,
  normalisedWords,
  readEntries,
  verification,
} from '../index.ts'

const study = (kind: string, changed: Record<string, string> = {}) =>
  studied(currentKindOf(kind), demoEntries(kind, changed))
const codes = (kind: string, changed: Record<string, string>) =>
  study(kind, changed).findings.map((f) => `${f.grade} ${f.code}`)
const gas = {
  medium: 'gas',
  gas: 'biomethane',
  fluidPressure: '18 bar',
  liner: 'none',
  transducer: 'W4',
  od: '168.3 mm',
  wall: '7.11 mm',
  material: 'carbon-steel',
  school: 'gas',
  upstream: '8 m',
}

const steel6 = { diameterBy: 'table', pipeStandard: 'ASME B36.10M', pipeSize: 'NPS 6', pipeSchedule: '40' }

it('schedules of a size stand in the order of their walls', () => {
  const { fields } = currentKindOf('clamp-on')
  const schedule = fields.find((f) => f.key === 'pipeSchedule')
  const offered = schedule?.type === 'text' ? (schedule.suggest?.(demoEntries('clamp-on', steel6)) ?? []) : []
  expect(offered.length).toBeGreaterThan(5)
  expect(offered.indexOf('40')).toBeLessThan(offered.indexOf('80'))
  expect(offered.indexOf('80')).toBeLessThan(offered.indexOf('160'))
})

it('whoever loosens a gland under pressure is warned at the step itself', () => {
  const sheets = study('thermal-insertion').sheets!()
  const moves = sheets.flatMap((s) => s.steps).filter((s) => s.says.includes('Gland loose'))
  expect(moves.length).toBeGreaterThan(1)
  for (const step of moves) expect(step.caution, step.title).toBeTruthy()
})

it('a cutoff left empty follows size and zero; a loop of before keeps the one that stood there', () => {
  const of = (changed: Record<string, string>) => {
    const { thread, figures } = study('clamp-on', { cutoff: '', ...changed })
    const usual = figures.find((f) => f.id === 'cutoff-usual')!.value!
    const reported = (flow: number) =>
      spread(thread, 'flow', flow).find((v, i) => v.known && thread.knots[i]!.id === 'digital')
    return { usual, hidden: reported(usual * 0.99), shown: reported(usual * 1.01) }
  }
  const [steady, unsteady] = [of({ timeDoubt: '0.1 ns' }), of({ timeDoubt: '5 ns' })]
  expect(steady.usual).toBeGreaterThanOrEqual((Math.PI / 4) * 0.3032 ** 2 * 36)
  expect(unsteady.usual).toBeGreaterThan(2 * steady.usual)
  for (const { hidden, shown, usual } of [steady, unsteady]) {
    expect(hidden).toMatchObject({ value: 0 })
    expect((shown as { value: number }).value).toBeCloseTo(usual * 1.01, 3)
  }
  const kept = entriesNow(currentKindOf('clamp-on'), { entries: {}, kindVersion: 1 })
  expect(kept['cutoff']).toMatchObject({ value: 0.5, unit: 'm3/h' })
})

it('a composition that cannot be read is said where the sound speed would stand', () => {
  const { figures } = study('clamp-on', { ...gas, gas: 'own', composition: 'methane 95 %, zork 5 %', transducer: '' })
  const of = (id: string) => figures.find((f) => f.id === id)!
  expect(of('sound-speed')).toMatchObject({ says: expect.stringContaining('“zork 5 %” is not a component') as string })
  expect(of('sound-speed').needs).toBeUndefined()
  expect(of('spacing').needs).toContain('transducer pair')
})

describe('what is refused or questioned, in words', () => {
  it.each([
    ['clamp-on', { wall: '170 mm' }, 'stop no-bore'],
    ['clamp-on', { liner: 'own', linerThickness: '4 mm' }, 'look liner-no-speed'],
    ['clamp-on', { transducer: 'own', wedgeSpeed: '2480 m/s', wedgeAngle: '60 deg' }, 'stop no-transmission'],
    ['clamp-on', { serialB: 'M-11807B' }, 'stop not-a-pair'],
    [
      'clamp-on',
      { diameterBy: 'table', pipeStandard: 'EN 545', pipeSize: 'DN 310', pipeSchedule: 'K9' },
      'stop not-in-table',
    ],
    ['clamp-on', { liquid: 'water', fluidTemp: '150 degC' }, 'stop not-liquid'],
    ['clamp-on', { salinity: '60 g/kg' }, 'stop out-of-range'],
    ['clamp-on', { cutoff: '0 m3/h' }, 'stop cutoff-not-positive'],
    ['clamp-on', { run: 'downward to an open end' }, 'stop pipe-may-empty'],
    ['clamp-on', { position: 'on top' }, 'look pair-position'],
    ['clamp-on', { upstream: '1 m' }, 'look straight-run-short'],
    ['clamp-on', { cutoff: '0.1 m3/h', timeDoubt: '2 ns' }, 'look cutoff-below-zero'],
    ['clamp-on', { paths: '2' }, 'note second-pair-unknown'],
    ['clamp-on', { paths: '2', serialA2: 'M-11806A', serialB2: 'M-11806B' }, 'stop same-pair-twice'],
    ['clamp-on', { paths: '2', serialA2: 'M-11807A', serialB2: 'M-11808B' }, 'stop not-a-pair'],
    ['clamp-on', { ...gas, od: '33.7 mm', wall: '3.2 mm', transducer: 'W2' }, 'stop bodies-meet'],
    ['clamp-on', { ...steel6, wall: '7.05 mm' }, 'note wall-off-schedule'],
    ['clamp-on', { ...steel6, wall: '5.5 mm' }, 'look wall-off-schedule'],
    ['clamp-on', { upstream: '-1 m' }, 'stop straight-run-negative'],
    ['clamp-on', { downstream: '9 km' }, 'look straight-run-unusual'],
    ['clamp-on', { ...gas, school: 'plain', upstream: '1.85 m' }, 'look straight-run-short'],
    ['clamp-on', { ...gas, school: 'plain' }, 'note straight-run-of-gas'],
    ['clamp-on', { transducer: 'W1' }, 'look transducer-unsuited'],
    ['clamp-on', { setSpacing: '60 mm' }, 'stop spacing-off'],
    ['thermal-insertion', { rods: 'none', fluidPressure: '3.6 bar', rodLimit: '50 psi' }, 'stop no-rods'],
    ['thermal-insertion', { glandLimit: '1 psi', fluidPressure: '2 bar' }, 'stop gland-limit'],
    ['thermal-insertion', { base2Reading: '1216 kg/h' }, 'look baseline-odd'],
    ['thermal-insertion', { base3Reading: '16.89 kg/h' }, 'look baseline-odd'],
    ['thermal-insertion', { depth: '402 mm' }, 'look depth-off'],
    ['thermal-insertion', { depth: '300 mm' }, 'stop depth-off'],
    ['clamp-on', { ...gas, fluidPressure: '2 bar' }, 'look gas-pressure-low'],
    ['clamp-on', { ...gas, gas: 'own', composition: 'methane 90 %, nitrogen 5 %' }, 'stop composition-sum'],
    ['clamp-on', { ...gas, gas: 'own', composition: 'methane 95 %, zork 5 %' }, 'stop composition-unreadable'],
    ['clamp-on', { ...gas, gas: 'own', composition: 'propane 100 %' }, 'stop two-phase'],
    ['coriolis', { flowCalTag: '723841' }, 'stop lost-decimal'],
    ['coriolis', { highPeriodTag: '9105.431' }, 'stop equal-periods'],
    ['coriolis', { highDensityTag: '1.18' }, 'stop equal-densities'],
    ['coriolis', { lowDensityTag: '0.00118', highDensityTag: '0.9982' }, 'look density-unit'],
    ['coriolis', { lowDensityTag: '1180', highDensityTag: '998200' }, 'look density-unit'],
    ['coriolis', { flowCalTag: '72.38.4' }, 'stop not-a-number-flowCal'],
    ['coriolis', { cutoff: '0 kg/h' }, 'stop cutoff-not-positive'],
    ['coriolis', { flowCalCert: '72.348' }, 'stop tag-against-certificate-flowCal'],
    ['coriolis', { pulsesPerKg: '100000' }, 'stop pulses-lost'],
    ['coriolis', { flowTempTag: 'x' }, 'stop not-a-number-flowTemp'],
    ['thermal-insertion', { fluidPressure: '6 bar' }, 'stop no-rods'],
    ['thermal-insertion', { stem: '300 mm' }, 'stop stem-short'],
    ['thermal-insertion', { dtFull: '70 K' }, 'stop law-reversed'],
    ['orifice-dp', { rootAt: 'both' }, 'stop root-twice'],
    ['orifice-dp', { rootAt: 'neither' }, 'stop root-never'],
    ['orifice-dp', { pipeBore: '49 mm', bore: '30 mm', urv: '400 kg/h' }, 'look outside-standard'],
    ['orifice-dp', { edge: 'rounded' }, 'look edge-rounded'],
    ['orifice-dp', { bore: '90 mm' }, 'stop beta-out-of-range'],
    ['orifice-dp', { fluidTemp: '150 degC' }, 'stop not-steam'],
    ['orifice-dp', { fluidTemp: '177 degC' }, 'look steam-nearly-wet'],
    ['orifice-dp', { urv: '14000 kg/h' }, 'stop beyond-plate'],
    ['orifice-dp', { sensorHigh: '100 mbar' }, 'stop beyond-cell'],
    ['orifice-dp', { cutoff: '10 kg/h' }, 'look cutoff-low'],
  ] as const)('%s with %j: %s', (kind, changed, code) => expect(codes(kind, changed)).toContain(code))

  it('offers shares that add up, and never takes them by itself', () => {
    const entries = demoEntries('clamp-on', { ...gas, gas: 'own', composition: 'methane 90 %, nitrogen 5 %' })
    const r = readEntries(currentKindOf('clamp-on').fields, entries)
    expect(normalisedWords(r)).toBe('methane 94.7368 %, nitrogen 5.26316 %')
    expect(clampOnOf(r).beam).toBeUndefined()
    expect(codes('clamp-on', { ...gas, gas: 'own', composition: normalisedWords(r)! })).not.toContain(
      'stop composition-sum',
    )
  })
  it('does not ask for what hangs on an entry that is not wanted', () => {
    expect(study('clamp-on', { ...gas, liquid: 'seawater', salinity: '' }).missing.point).toEqual([])
  })
})

describe('the thread of a flow point', () => {
  const at = (kind: string, percent: number, changed: Record<string, string> = {}) => {
    const { thread } = study(kind, changed)
    const [low, high] = [spread(thread, 'current', 4)[0]!, spread(thread, 'current', 20)[0]!]
    if (!low.known || !high.known) throw new Error('no range')
    const flow = low.value + (percent / 100) * (high.value - low.value)
    return spread(thread, thread.knots[0]!.id, flow).map((v) => (v.known ? v.value : Number.NaN))
  }
  it.each(['clamp-on', 'coriolis', 'thermal-insertion'])('%s: half the flow is 12 mA, and shows as half', (kind) => {
    const values = at(kind, 50)
    expect(values.at(-4)).toBeCloseTo(12, 6)
    expect(values.at(-1)).toBeCloseTo(values[0]!, 6)
  })
  it('takes exactly one square root, wherever it stands', () => {
    const half = (rootAt: string) => at('orifice-dp', 50, { rootAt })
    const [transmitter, receiver, both, neither] = ['transmitter', 'receiver', 'both', 'neither'].map(half)
    expect(transmitter!.at(-4)).toBeCloseTo(12, 1)
    expect(receiver!.at(-4)).toBeCloseTo(8, 1)
    expect(transmitter!.at(-1)! / 2500).toBeCloseTo(0.5, 2)
    expect(receiver!.at(-1)! / 2500).toBeCloseTo(0.5, 2)
    expect(both!.at(-1)! / 2500).toBeCloseTo(Math.SQRT1_2, 2)
    expect(neither!.at(-1)! / 2500).toBeCloseTo(0.25, 2)
  })
})

describe('the bench’s meters', () => {
  const bench = (kind: string, changed: Record<string, string> = {}): MeterModel =>
    studied(currentKindOf(kind), demoEntries(kind, changed)).meter!()!
  const run = (model: MeterModel, state: MeterState, process: number, seconds: number) => {
    let s = state
    for (let i = 0; i < seconds * 10; i++) s = stepMeter(model, s, process, 0.1)
    return s
  }
  const mean = (model: MeterModel, state: MeterState, process: number, id?: string) => {
    let [s, sum, n] = [state, 0, 0]
    for (let i = 0; i < 200; i++) {
      s = stepMeter(model, s, process, 0.1)
      const shown = observeMeter(model, s, process)
      const v = id ? shown.tells.find((t) => t.id === id)?.value : shown.digital
      if (v !== undefined) [sum, n] = [sum + v, n + 1]
    }
    return n ? sum / n : undefined
  }
  const begun = (model: MeterModel, practice: string, process: number) =>
    run(model, commandMeter(model, startMeter(model, practice, 5), { do: 'start' }, 0), process, 8)

  it.each([
    ['clamp-on', 250],
    ['coriolis', 4500],
    ['thermal-insertion', 200],
    ['orifice-dp', 1250],
  ] as const)('%s, nothing hidden, reads what flows', (kind, flow) => {
    const model = bench(kind)
    expect(Math.abs(mean(model, begun(model, 'A', flow), flow)! / flow - 1)).toBeLessThan(0.01)
  })
  it.each(['clamp-on', 'coriolis', 'thermal-insertion', 'orifice-dp'])(
    '%s: every practice case hides something else',
    (kind) => {
      const model = bench(kind)
      expect(new Set(model.cases.map((c) => c.reveals)).size).toBe(model.cases.length)
    },
  )
  it('searches, finds, and loses its signal far off the spacing', () => {
    const model = bench('clamp-on')
    const off = startMeter(model, 'A', 5)
    expect(off.phase).toBe('off')
    const searching = run(model, commandMeter(model, off, { do: 'start' }, 0), 250, 2)
    expect(searching.phase).toBe('searching')
    expect(run(model, searching, 250, 5).phase).toBe('running')
    const far = commandMeter(model, off, { do: 'mount', spacing_mm: 400, swapped: false }, 0)
    expect(run(model, commandMeter(model, far, { do: 'start' }, 0), 250, 7).phase).toBe('no-signal')
  })
  it('with a thinner wall measures another sound speed, and the verdict finds the wall', () => {
    const model = bench('clamp-on', { wall: '9 mm', liner: 'none', wallDoubt: '2 mm' })
    const entries = demoEntries('clamp-on', { wall: '9 mm', liner: 'none', wallDoubt: '2 mm' })
    const r = readEntries(currentKindOf('clamp-on').fields, entries)
    const speed = mean(model, begun(model, 'B', 250), 250, 'sound-speed')!
    const wall = judgeSoundSpeed(clampOnOf(r), r, speed)!.causes.find((c) => c.id === 'wall')
    if (wall) expect(Number.parseFloat(wall.size)).toBeCloseTo(7.2, 1)
    expect(speed).not.toBeCloseTo(clampOnOf(r).input!.fluidSpeed_mps, 1)
  })
  it('with swapped leads reads backwards, and right again when they are swapped once more', () => {
    const model = bench('clamp-on')
    const state = begun(model, 'D', 250)
    expect(mean(model, state, 250)).toBeLessThan(-200)
    expect(mean(model, { ...state, mount: { ...state.mount, swapped: true } }, 250)).toBeGreaterThan(200)
  })
  it('takes its zero off only at no flow rightly, and keeps what it was', () => {
    const model = bench('clamp-on')
    const zeroed = run(model, commandMeter(model, begun(model, 'F', 0), { do: 'zero', length_s: 10 }, 0), 0, 11)
    expect(zeroed.phase).toBe('running')
    expect(zeroed.zeroed!.before).toBeCloseTo(6, 0)
    expect(Math.abs(mean(model, zeroed, 250)! / 250 - 1)).toBeLessThan(0.005)
    // With flow the zero hides that much of it.
    const wrong = run(model, commandMeter(model, begun(model, 'A', 100), { do: 'zero', length_s: 5 }, 0), 100, 6)
    expect(mean(model, wrong, 100)).toBeCloseTo(0, 0)
  })
  it('cannot be zeroed while it does not measure', () => {
    const model = bench('clamp-on')
    expect(() => commandMeter(model, startMeter(model, 'A', 1), { do: 'zero', length_s: 10 }, 0)).toThrowError(
      expect.objectContaining({ code: 'not-measuring' }),
    )
  })
  it('of a Coriolis sensor without memory reports nothing until its constants are written', () => {
    const model = bench('coriolis')
    const lost = begun(model, 'C', 4500)
    expect(mean(model, lost, 4500)).toBeUndefined()
    expect(lost.held['lrv']).toBeUndefined()
    const written = commandMeter(model, lost, { do: 'write', values: { flowCal: '72.384', flowTemp: '4.26' } }, 0)
    expect(mean(model, written, 4500)! / 4500).toBeCloseTo(1, 2)
  })
  it.each([
    ['hold', 4500],
    ['fault', undefined],
  ] as const)('during a health check %ss its output', (output, shown) => {
    const model = bench('coriolis')
    const checking = run(model, commandMeter(model, begun(model, 'E', 4500), { do: 'health', output }, 4500), 9000, 3)
    expect(observeMeter(model, checking, 9000).digital).toBe(shown)
    const after = run(model, checking, 9000, 20)
    expect(after.phase).toBe('running')
    expect(mean(model, after, 9000, 'stiffness-left')).toBeLessThan(95)
  })
  it('repeats its baseline through the nozzle unless its wells are dirty', () => {
    const r = readEntries(currentKindOf('thermal-insertion').fields, demoEntries('thermal-insertion'))
    const model = bench('thermal-insertion')
    const verify = (practice: string, temp_C: number) => {
      const readings: Record<number, number> = {}
      for (const s of verification(r, temp_C, {})) {
        const state = commandMeter(
          model,
          begun(model, practice, 0),
          { do: 'gas', pressure_kPa: s.pressure_bar * 100 + 101.325, temp_C },
          0,
        )
        readings[s.n] = mean(model, state, 0)!
      }
      return verification(r, temp_C, readings)
    }
    for (const temp of [20, 5]) expect(verify('A', temp).map((s) => s.inside)).toEqual([true, true, true, true])
    expect(verify('B', 20).every((s) => s.offPct! < -5 && !s.inside)).toBe(true)
  })
})

describe('run sheets', () => {
  it.each(['clamp-on', 'coriolis', 'thermal-insertion', 'orifice-dp'])(
    '%s: begin and end with operations, or a permit',
    (kind) => {
      for (const sheet of studied(currentKindOf(kind), demoEntries(kind)).sheets!()) {
        expect(new Set(sheet.steps.map((s) => s.id)).size).toBe(sheet.steps.length)
        // A meter's alerts are read before anybody is called.
        expect(sheet.steps.find((s) => !s.marks)!.askWords).toBeTruthy()
        if (sheet.id !== 'mount' && sheet.id !== 'totals') expect(sheet.steps.at(-1)!.title).toMatch(/automatic|told/)
      }
    },
  )
  it('keep each total before and after it is set back; a total of nothing is not asked for', () => {
    const of = (typed: Record<string, string>) =>
      studied(currentKindOf('coriolis'), demoEntries('coriolis', typed)).sheets!().find((s) => s.id === 'totals')!.steps
    expect(of({}).flatMap((s) => (s.ask ? [[s.id, s.ask.unit]] : []))).toEqual([
      ['total-1-before', 'kg'],
      ['total-2-before', 'm3'],
      ['total-1-after', 'kg'],
      ['total-2-after', 'm3'],
    ])
    expect(of({ total2: 'nothing' }).map((s) => s.id)).toEqual([
      ...['told', 'total-1-before', 'reset', 'total-1-after'],
    ])
    // A quarter of an hour at 9 000 kg/h is what may have run since.
    const { plan, unit } = of({}).find((s) => s.id === 'total-1-after')!.ask!
    expect(judgeStep(plan, 2000, unit).grade).toBe('good')
    expect(judgeStep(plan, 48_211, unit).grade).toBe('look')
  })
  it('restore a verified meter in reverse order', () => {
    const [, verify] = studied(currentKindOf('thermal-insertion'), demoEntries('thermal-insertion')).sheets!()
    const order = verify!.steps.map((s) => s.id)
    const at = (id: string) => order.indexOf(id)
    expect(at('retract')).toBeLessThan(at('close'))
    expect(at('close')).toBeLessThan(at('vent'))
    expect(at('off')).toBeLessThan(at('unvent'))
    expect(at('unvent')).toBeLessThan(at('reopen'))
    expect(at('reopen')).toBeLessThan(at('in'))
  })
  it('name rods and cautions where pressure asks for them', () => {
    const [insert] = studied(
      currentKindOf('thermal-insertion'),
      demoEntries('thermal-insertion', { fluidPressure: '6 bar', rods: 'a pair' }),
    ).sheets!()
    expect(insert!.steps.find((s) => s.id === 'rods')!.title).toBe('Restraining rods on')
    const [mount] = studied(currentKindOf('clamp-on'), demoEntries('clamp-on', gas)).sheets!()
    expect(mount!.steps.map((s) => s.id)).toEqual(expect.arrayContaining(['floor', 'film']))
  })
})

describe('set-up lines', () => {
  it.each(['clamp-on', 'coriolis', 'thermal-insertion', 'orifice-dp'])(
    '%s: all there with complete entries, and what the meter holds is the same',
    (kind) => {
      const entries = demoEntries(kind)
      const lines = studied(currentKindOf(kind), entries).setup!()
      expect(lines.filter((l) => !l.text && l.key !== 'highFlow')).toEqual([])
      expect(studied(currentKindOf(kind), entries).meter!()!.keyed).toEqual(
        Object.fromEntries(lines.map((l) => [l.key, l.text])),
      )
    },
  )
  it('of a Coriolis meter leave out what the device does not have', () => {
    const entries = demoEntries('coriolis', { total1Way: '', displayTurned: '' })
    const keys = studied(currentKindOf('coriolis'), entries).setup!().map((l) => l.key)
    expect(keys).not.toContain('total1Way')
    expect(keys).not.toContain('displayTurned')
    expect(keys).toEqual(expect.arrayContaining(['total1', 'total2', 'total2Way', 'displayLanguage']))
  })
  it('keep every digit of a constant as it was typed', () => {
    expect(
      studied(currentKindOf('coriolis'), demoEntries('coriolis', { flowCalTag: '72.38400' })).setup!().find(
        (l) => l.key === 'flowCal',
      )!.text,
    ).toBe('72.38400')
  })
})

describe('what was set at the pipe', () => {
  const off = (kind: string, changed: Record<string, string>) =>
    study(kind, changed).findings.filter((f) => f.code.endsWith('-off'))
  it('is as planned within a millimetre, or three for a stem, and is held against what was entered since', () => {
    const figure = (kind: string, id: string) => study(kind).figures.find((f) => f.id === id)!.value!
    const [spacing, insert] = [figure('clamp-on', 'spacing'), figure('thermal-insertion', 'insert')]
    const setSpacing = `${(spacing + 0.8).toFixed(2)} mm`
    expect(off('clamp-on', { setSpacing })).toEqual([])
    expect(off('thermal-insertion', { depth: `${(insert + 2).toFixed(1)} mm` })).toEqual([])
    // A wall gauged afterwards gives another spacing.
    const [found] = off('clamp-on', { setSpacing, wall: '5.4 mm' })
    expect(found!.what).toContain(`set to ${(spacing + 0.8).toFixed(1)} mm`)
  })
})
