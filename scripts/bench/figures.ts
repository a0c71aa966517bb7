// What the core computes, timed.
import { study } from '@calm-loop/core/loop'
import { endsOf, loadLine, loopBudget, solveCircuit, type Part } from '@calm-loop/core/circuit'
import { clampOnGeometry, runTrials } from '@calm-loop/core/flow'
import { gasProperties, waterProperties } from '@calm-loop/core/fluid'
import { currentKindOf, KINDS } from '@calm-loop/core/kinds'
import { vesselTable, type Vessel } from '@calm-loop/core/level'
import { replay } from '@calm-loop/core/procedure'
import { spread } from '@calm-loop/core/thread'
import { diagnose } from '@calm-loop/core/trim'
import {
  EARTH,
  energise,
  explain,
  judgeWiring,
  PLAIN,
  propose,
  type Conditions,
  type LoopReading,
  type Wiring,
} from '@calm-loop/core/wiring'
import { Bundle, type Folder } from '@calm-loop/contract'
import { judgeCheck } from '@calm-loop/contract/judging'
import { readFileSync } from 'node:fs'
import { demoEntries } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { TERMS, walk } from '../../packages/core/src/procedure/procedure.fixture.ts'
import { row, sample, type Row } from './measure.ts'

export const folderOf = (tag: string): Folder =>
  Bundle.parse(JSON.parse(readFileSync(new URL(`../../demo/folders/${tag}.json`, import.meta.url), 'utf8'))).folder
const demo = folderOf('LT-112')
const entries = demo.versions[0]!.entries

/** A check of 22 points at current and controller, each with its budget: judged anew, as it is with every reading. */
export async function verdict(): Promise<Row[]> {
  const { thread } = study(currentKindOf('level-from-above'), entries)
  const check = demo.checks.at(-1)!
  const points = Array.from({ length: 22 }, (_, index) => {
    const percent = index < 11 ? index * 10 : (21 - index) * 10
    return { index, percent, direction: index < 11 ? ('up' as const) : ('down' as const) }
  })
  const readings = points.map(({ index, ...at }) => {
    const [level, mA] = [30 * at.percent, 4 + 0.16 * at.percent + 0.01]
    return {
      ...check.readings[0]!,
      ...at,
      id: `r${index}`,
      pointIndex: index,
      applied: { typed: `${level} mm`, value: level, unit: 'mm' },
      reads: {
        current: { typed: `${mA.toFixed(3)} mA`, value: Number(mA.toFixed(3)), unit: 'mA' },
        controller: { typed: `${level + 2} mm`, value: level + 2, unit: 'mm' },
      },
    }
  })
  return [
    row({
      what: 'verdict of 22 points at two places, with budgets',
      unit: 'ms',
      times_ms: await sample(() => judgeCheck({ ...check, points, readings }, thread), { samples: 200, batch: 10 }),
      target: 1,
    }),
  ]
}

/** Every kind with a current from complete entries, and the table of a tilted tank. */
export async function levels(): Promise<Row[]> {
  const tank: Vessel = {
    shape: 'tilted-cylinder',
    diameter_m: 2.4,
    length_m: 5.5,
    slope: 0.02,
    gauge_m: 1,
    heads: 'ellipsoidal-2:1',
  }
  const rows: Row[] = []
  for (const kind of KINDS) {
    if (kind.family !== 'current') continue
    const complete = demoEntries(kind.id)
    const times_ms = await sample(() => study(kind, complete), { samples: 40, batch: 4 })
    rows.push(row({ what: `study: ${kind.name}`, unit: 'ms', times_ms, target: 4 }))
  }
  const times_ms = await sample(() => vesselTable(tank, 1000), { samples: 60, batch: 4 })
  return [...rows, row({ what: 'table of a tilted tank, 1000 rows', unit: 'ms', times_ms, target: 5 })]
}

export async function core(): Promise<Row[]> {
  const kind = currentKindOf('level-from-above')
  const { thread } = study(kind, entries)
  return [
    row({
      what: 'thread: all knots from one',
      unit: 'µs',
      times_ms: await sample((i) => spread(thread, thread.knots[i % 7]!.id, 12 + (i % 5)), {
        samples: 200,
        batch: 2000,
      }),
      target: 50,
    }),
    row({
      what: 'thread, figures and findings from the entries',
      unit: 'µs',
      times_ms: await sample(() => study(kind, entries), { samples: 200, batch: 50 }),
    }),
    row({
      what: 'budget and load line',
      unit: 'µs',
      times_ms: await sample(
        (i) => [loopBudget({ supplyV: 24 + (i % 3), liftOffV: 12, seriesOhms: [250, 5] }), loadLine(12, 22, 30)],
        { samples: 200, batch: 500 },
      ),
    }),
  ]
}

/** What a fluid state, a beam, and the trials of a flow take. */
export async function flow(): Promise<Row[]> {
  const gas = {
    methane: 0.965,
    nitrogen: 0.003,
    carbonDioxide: 0.006,
    ethane: 0.018,
    propane: 0.0045,
    isoButane: 0.001,
    nButane: 0.001,
    isoPentane: 0.0005,
    nPentane: 0.0003,
    nHexane: 0.0007,
  }
  const beam = {
    od_mm: 326,
    wall_mm: 7.4,
    wallSpeed_mps: 3000,
    liner_mm: 4,
    linerSpeed_mps: 2500,
    fluidSpeed_mps: 1480,
    wedgeSpeed_mps: 2480,
    wedgeAngle_deg: 40,
    traverses: 2 as const,
  }
  const kind = currentKindOf('clamp-on')
  const model = study(kind, demoEntries('clamp-on')).doubt!()!
  const trials = () => {
    const steps = runTrials(model, 100_000, 7)
    for (;;) if (steps.next().done) return
  }
  return [
    row({
      what: 'water: density, sound speed, viscosity (20 000/s is 50 µs)',
      unit: 'µs',
      times_ms: await sample((i) => waterProperties(5 + (i % 150), 500 + (i % 700)), { samples: 60, batch: 2000 }),
      target: 50,
    }),
    row({
      what: 'gas of 10 components, AGA8 DETAIL (2 000/s is 500 µs)',
      unit: 'µs',
      times_ms: await sample((i) => gasProperties(gas, 5 + (i % 40), 1000 + (i % 5000)), { samples: 60, batch: 300 }),
      target: 500,
    }),
    row({
      what: 'clamp-on geometry',
      unit: 'µs',
      times_ms: await sample((i) => clampOnGeometry({ ...beam, wall_mm: 7 + (i % 9) / 10 }), {
        samples: 100,
        batch: 2000,
      }),
      target: 50,
    }),
    row({
      what: 'clamp-on point: thread, figures, findings from its entries',
      unit: 'µs',
      times_ms: await sample(() => study(kind, demoEntries('clamp-on')), { samples: 60, batch: 10 }),
    }),
    row({
      what: '100 000 trials of a clamp-on flow',
      unit: 'ms',
      times_ms: await sample(trials, { samples: 7, warm: 1 }),
      target: 1500,
      judged: 'p95',
    }),
  ]
}

/** Diagnosis, and a long run replayed. */
export async function trim(): Promise<Row[]> {
  const points = Array.from({ length: 11 }, (_, i) => {
    const applied = 60 * i
    const mA = 4 + (16 * (applied + 7)) / 600
    return { applied, digital: applied + 7 + (i % 3) / 10, mA, receiver: ((mA - 4) / 16) * 600 }
  })
  const found = { lrv: 0, urv: 600, points, tolerancePct: 0.5, adjustAbovePct: 70, hasCurrent: true }
  const { events } = walk('current-trim', TERMS)
  // Two hundred events: the longest procedure, with the same reading refused its read-back again and again.
  const long = [
    ...events.slice(
      0,
      events.findIndex((e) => e.do === 'sent' && e.command.do === 'drive'),
    ),
  ]
  const drive = { do: 'drive', mA: 4 } as const
  while (long.length < 198)
    long.push(
      { do: 'sent', step: 'drive-4', command: drive, changesBefore: 0 },
      { do: 'answered', step: 'drive-4', taken: false, says: 'busy' },
    )
  long.push(
    { do: 'sent', step: 'drive-4', command: drive, changesBefore: 0 },
    { do: 'answered', step: 'drive-4', taken: true, says: '' },
  )
  return [
    row({
      what: 'diagnosis of 11 points',
      unit: 'µs',
      times_ms: await sample(() => diagnose(found), { samples: 100, batch: 200 }),
      target: 1000,
      judged: 'p95',
    }),
    row({
      what: `a procedure of ${long.length} events replayed`,
      unit: 'ms',
      times_ms: await sample(() => replay(long), { samples: 100, batch: 5 }),
      target: 5,
      judged: 'p95',
    }),
  ]
}

const usual: Conditions = {
  mA: 12,
  figures: { supply: 24, liftOff: 12, shunt: 250, maxV: 18, otherSeries: 0 },
  coreOhm: 2.6,
  coreOhmPerM: 0.018,
}

/** Forty-odd loops side by side in one cabinet, on one supply. */
function cabinet(): { parts: readonly Part[]; nodes: number } {
  const one = energise({ wiring: propose({ ...PLAIN, receiver: 'passive card' }), conditions: usual }).parts
  const parts: Part[] = one.filter((p) => p.id.startsWith('PS/')) as Part[]
  for (let i = 0; i < 30; i++)
    for (const part of one) {
      if (part.id.startsWith('PS/')) continue
      const own = (node: string) => (node.startsWith('PS:') || node === EARTH ? node : `${i}.${node}`)
      parts.push(
        Object.fromEntries(
          Object.entries({ ...part, id: `${i}.${part.id}` }).map(([k, v]) =>
            ['a', 'b', 'plus', 'minus', 'anode', 'cathode'].includes(k) ? [k, own(v as string)] : [k, v],
          ),
        ) as unknown as Part,
      )
    }
  return { parts, nodes: new Set(parts.flatMap((p) => endsOf(p))).size }
}

const LOOKED = new Error('a first look is there')
/** As far as the first look, and no further. */
function firstLook(drawn: Wiring, readings: readonly LoopReading[]): void {
  try {
    explain(drawn, usual, readings, {
      first: () => {
        throw LOOKED
      },
    })
  } catch (error) {
    if (error !== LOOKED) throw error
  }
}

export async function wiring(): Promise<Row[]> {
  const drawn = propose(PLAIN)
  const base = energise({ wiring: drawn, conditions: usual })
  const many = cabinet()
  const readings = [
    { of: 'volts' as const, red: 'TX:+', black: 'TX:−', value: 20 },
    { of: 'volts' as const, red: 'RX:IN', black: 'RX:0V', value: 2 },
    { of: 'volts' as const, red: 'JB:1', black: 'JB:2', value: 20 },
  ]
  return [
    row({
      what: `solver, loop of ${base.parts.length} parts`,
      unit: 'ms',
      times_ms: await sample(() => solveCircuit({ ground: EARTH, parts: base.parts }), { samples: 200, batch: 20 }),
      target: 0.2,
    }),
    row({
      what: `solver, cabinet of ${many.nodes} nodes`,
      unit: 'ms',
      times_ms: await sample(() => solveCircuit({ ground: EARTH, parts: many.parts }), { samples: 40, warm: 5 }),
      target: 50,
    }),
    row({
      what: 'before power: all findings of a loop',
      unit: 'ms',
      times_ms: await sample(() => judgeWiring(drawn, usual, 22), { samples: 80, warm: 60 }),
      target: 8,
    }),
    row({
      what: 'explaining three readings, first look',
      unit: 'ms',
      times_ms: await sample(() => firstLook(drawn, readings), { samples: 40, warm: 20 }),
      target: 16,
    }),
    row({
      what: 'explaining three readings, all faults and pairs',
      unit: 'ms',
      times_ms: await sample(() => explain(drawn, usual, readings), { samples: 40, warm: 20 }),
      target: 150,
    }),
  ]
}
