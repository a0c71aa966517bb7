// The upright scales of a discrete point's run: what each says of a lane, and where its ring and its dot stand.
import type { Lane } from '@calm-loop/core/kinds'

export interface RunColumn {
  readonly id: string
  readonly name: string
  /** What stands at the ends of the scale. */
  readonly high: string
  readonly low: string
  /** Where the ring stands, 0 at the bottom to 1 at the top; in the middle where it is not sure. */
  at(lane: Lane): number
  words(lane: Lane): string
  /** Where the dot of a reading stands; undefined where nothing is read. */
  read(shown: Readonly<Record<string, number>>): number | undefined
}
export interface RunFacts {
  readonly supplyV: number
  /** Into a load of its own rather than an input. */
  readonly intoLoad: boolean
  /** What was typed for an entry; empty where nothing was. */
  text(key: string): string
  volts(v: number): string
  /** Whether the target is there in what is read; undefined where nothing is. */
  readonly target: boolean | undefined
}

const bit = (on: boolean | undefined) => (on === undefined ? undefined : Number(on))
const orMiddle = (on: boolean | undefined) => (on === undefined ? 0.5 : Number(on))
/** How far a voltage may stand beyond the ends of its scale: more would leave the drawing. */
const BEYOND = 0.08

export function runColumns({ supplyV, intoLoad, text, volts, target }: RunFacts): RunColumn[] {
  const share = (v: number) => Math.min(1 + BEYOND, Math.max(-BEYOND, v / supplyV))
  const ofVolts = (id: string, name: string, of: (lane: Lane) => number) => ({
    id,
    name,
    high: volts(supplyV),
    low: volts(0),
    at: (l: Lane) => share(of(l)),
    words: (l: Lane) => volts(of(l)),
  })
  const controller: RunColumn = {
    id: 'controller',
    // May be broken where its words end.
    name: (text('pointName') || 'Controller').replaceAll('_', '_\u200b'),
    high: 'true',
    low: 'false',
    at: (l) => orMiddle(l.controller),
    words: ({ controller: on }) =>
      on === undefined ? 'either' : on ? text('meansTrue') || 'true' : text('meansFalse') || 'false',
    read: (s) => s['controller'],
  }
  return [
    {
      id: 'target',
      name: 'Target',
      high: 'there',
      low: 'away',
      at: (l) => Number(l.target),
      words: (l) => (l.target ? 'there' : 'away'),
      read: () => bit(target),
    },
    {
      id: 'sensorLamp',
      name: 'Output stage',
      high: 'conducts',
      low: 'open',
      at: (l) => Number(l.conducting),
      words: (l) => (l.conducting ? 'conducts' : 'open'),
      // A lamp that shows the target says nothing of the output stage.
      read: (s) => (text('lamp') === 'shows the target' ? undefined : s['sensorLamp']),
    },
    {
      ...ofVolts('signal', 'Signal wire to −', (l) => l.signalV),
      read: (s) => (s['signal'] === undefined ? undefined : share(s['signal'])),
    },
    {
      ...ofVolts('input-volts', intoLoad ? 'Across the load' : 'Across the input', (l) => l.inputV),
      read: () => undefined,
    },
    {
      id: 'inputLamp',
      name: intoLoad ? 'Load' : 'Input',
      high: 'on',
      low: 'off',
      at: (l) => orMiddle(l.inputLamp),
      words: (l) => (l.inputLamp === undefined ? 'not sure' : l.inputLamp ? 'on' : 'off'),
      read: (s) => s['inputLamp'],
    },
    ...(intoLoad ? [] : [controller]),
  ]
}

/** The run in words, for those who do not see it. */
export const saidOf = (columns: readonly RunColumn[], lanes: readonly Lane[]): string =>
  lanes
    .map(
      (l) => `With target ${l.target ? 'there' : 'away'}: ${columns.map((c) => `${c.name} ${c.words(l)}`).join(', ')}.`,
    )
    .join(' ')

export const pathOf = (points: readonly { readonly x: number; readonly y: number }[]): string =>
  points.map((p, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join('')
