// A discrete point with its target present and absent, side by side: where the current goes, volts and milliamps, what
// the input reads.
import { actsAs, coilPole, contactPole, type Pole } from '@calm-loop/core/discrete'
import { STATE_WORDS, type Lane, type SwitchRun } from '@calm-loop/core/kinds'
import { formatQuantity as show } from '@calm-loop/core/quantity'
import type { Scene, Shape, Tone } from './scene.ts'
import { sure } from '@calm-loop/core/sure'

export interface SwitchAbout {
  /** Output stage as entered, `dry contact` among them. */
  readonly output: string
  readonly meansTrue?: string
  readonly meansFalse?: string
}

const HEIGHT = 322
const TOP = 74
const BOTTOM = 262
const MID = (TOP + BOTTOM) / 2
/** Leakage is told in figures; only more than this is drawn as flowing, mA. */
const FLOWS_mA = 0.3
const SIZE = 14

class Panel {
  readonly shapes: Shape[] = []
  private readonly left: number
  constructor(left: number) {
    this.left = left
  }
  line({
    x1,
    y1,
    x2,
    y2,
    flows = false,
  }: {
    readonly x1: number
    readonly y1: number
    readonly x2: number
    readonly y2: number
    readonly flows?: boolean
  }): void {
    const d = `M${x1 + this.left} ${y1}L${x2 + this.left} ${y2}`
    if (flows) this.shapes.push({ kind: 'path', d, stroke: 'action', width: 6, opacity: 0.35 })
    this.shapes.push({ kind: 'path', d, stroke: 'ink', width: flows ? 2 : 1.2 })
  }
  path(d: (at: (x: number) => string) => string, stroke: Tone = 'ink', fill: Tone = 'none', width = 1.4): void {
    this.shapes.push({ kind: 'path', d: d((x) => (x + this.left).toFixed(1)), stroke, fill, width })
  }
  text(x: number, y: number, words: string, more: Partial<Extract<Shape, { kind: 'text' }>> = {}): void {
    this.shapes.push({ kind: 'text', x: x + this.left, y, text: words, size: SIZE, ...more })
  }
  dot(x: number, y: number): void {
    this.shapes.push({ kind: 'circle', x: x + this.left, y, r: 3, fill: 'ink' })
  }
  /** A resistance, upright, between two heights (IEC 60617: a rectangle). */
  resistor(x: number, y1: number, y2: number, flows: boolean): void {
    const [a, b] = [Math.min(y1, y2), Math.max(y1, y2)]
    const [r1, r2] = [(a + b) / 2 - 18, (a + b) / 2 + 18]
    this.line({ x1: x, y1: a, x2: x, y2: r1, flows })
    this.line({ x1: x, y1: r2, x2: x, y2: b, flows })
    this.shapes.push({
      kind: 'rect',
      x: x + this.left - 9,
      y: r1,
      w: 18,
      h: 36,
      stroke: flows ? 'action' : 'ink',
      width: flows ? 2.4 : 1.4,
      fill: 'sheet',
    })
  }
  /** A contact, upright: closed straight, open with its arm aside (IEC 60617). */
  contact({
    x,
    y1,
    y2,
    closed,
    flows,
  }: {
    readonly x: number
    readonly y1: number
    readonly y2: number
    readonly closed: boolean
    readonly flows: boolean
  }): void {
    const [a, b] = [Math.min(y1, y2), Math.max(y1, y2)]
    const [c1, c2] = [(a + b) / 2 - 14, (a + b) / 2 + 14]
    this.line({ x1: x, y1: a, x2: x, y2: c1, flows })
    this.line({ x1: x, y1: c2, x2: x, y2: b, flows })
    if (closed) this.line({ x1: x, y1: c1, x2: x, y2: c2, flows })
    else this.path((at) => `M${at(x)} ${c2}L${at(x - 13)} ${c1 + 1}`, 'ink', 'none', 2)
    this.shapes.push({ kind: 'circle', x: x + this.left, y: c1, r: 2.4, fill: 'sheet', stroke: 'ink' })
    this.shapes.push({ kind: 'circle', x: x + this.left, y: c2, r: 2.4, fill: 'sheet', stroke: 'ink' })
  }
  /** An arrow head on an upright branch, the way the current goes. */
  arrow(x: number, y: number, down: boolean): void {
    const s = down ? 1 : -1
    this.path(
      (at) => `M${at(x - 6)} ${y - 5 * s}L${at(x)} ${y + 5 * s}L${at(x + 6)} ${y - 5 * s}Z`,
      'action',
      'action',
      1,
    )
  }
}

const at = (pole: Pole) => (pole === 'positive' ? TOP : BOTTOM)
const V = (v: number) => show(Math.abs(v) < 0.05 ? 0 : v, 'V', { decimals: 1 })
const mA = (v: number) => show(v < 0.005 ? 0 : v, 'mA', { decimals: v < 0.005 ? 0 : v < 1 ? 2 : 1 })

function panelOf({
  run,
  lane,
  about,
  left,
  width,
}: {
  readonly run: SwitchRun
  readonly lane: Lane
  readonly about: SwitchAbout
  readonly left: number
  readonly width: number
}): Shape[] {
  const p = new Panel(left)
  const { circuit, load_mA } = sure(run.entered)
  const { input, supplyV } = circuit
  const relay = run.between.startsWith('relay')
  const acts = actsAs(circuit.sensor.output, relay ? 'negative' : input.common)
  const [xs, xe, xi] = relay ? [width * 0.19, width * 0.44, width * 0.68] : [width * 0.22, width * 0.46, width * 0.68]

  p.text(4, 20, lane.target ? 'Target present' : 'Target absent', { bold: true, size: 16 })
  const coilSays = !relay
    ? ''
    : lane.pickedUp === undefined
      ? '; coil not sure'
      : lane.pickedUp
        ? '; relay picked up'
        : '; relay dropped'
  p.text(4, 42, `${lane.conducting ? 'sensor conducts' : 'sensor open'}${coilSays}`, { fill: 'second' })
  // Rails.
  p.line({ x1: 4, y1: TOP, x2: width - 8, y2: TOP })
  p.line({ x1: 4, y1: BOTTOM, x2: width - 8, y2: BOTTOM })
  p.text(width - 8, TOP - 8, `+ ${V(supplyV)}`, { anchor: 'end', mono: true, fill: 'second' })
  p.text(width - 8, BOTTOM + 20, '− 0 V', { anchor: 'end', mono: true, fill: 'second' })

  // Sensor: its box, its target, its stage.
  const stageFlows = lane.sensor_mA > FLOWS_mA
  p.shapes.push({
    kind: 'rect',
    x: left + Math.max(2, xs - 46),
    y: TOP + 16,
    w: Math.min(66, xs + 18),
    h: BOTTOM - TOP - 32,
    stroke: 'second',
    dash: '3 3',
  })
  const high = acts !== 'NPN'
  const low = acts !== 'PNP'
  const up = acts === 'push-pull' ? lane.conducting : lane.conducting && high
  const down = acts === 'push-pull' ? !lane.conducting : lane.conducting && low
  if (high) p.contact({ x: xs, y1: TOP, y2: MID, closed: up, flows: stageFlows && up })
  if (low) p.contact({ x: xs, y1: MID, y2: BOTTOM, closed: down, flows: stageFlows && down })
  if (stageFlows) p.arrow(xs, up ? TOP + 30 : BOTTOM - 30, true)
  p.text(Math.max(6, xs - 42), BOTTOM - 24, about.output === 'dry contact' ? 'contact' : about.output, {
    size: SIZE,
    fill: 'second',
  })
  const tx = lane.target ? xs - 66 : xs - 86
  if (xs > 70)
    p.shapes.push({
      kind: 'rect',
      x: left + Math.max(2, tx),
      y: MID - 22,
      w: 12,
      h: 44,
      stroke: 'ink',
      ...(lane.target ? { fill: 'second' as const } : { dash: '3 3' }),
    })
  p.dot(xs, MID)

  // Signal wire, and what stands on it.
  const end = relay ? xe : xi
  const through = relay ? lane.pickedUp === true || lane.sensor_mA > FLOWS_mA : lane.input_mA > FLOWS_mA
  p.line({ x1: xs, y1: MID, x2: run.extra ? xe : end, y2: MID, flows: stageFlows || (!run.extra && through) })
  if (run.extra) {
    p.line({ x1: xe, y1: MID, x2: xi, y2: MID, flows: lane.input_mA > FLOWS_mA })
    const volts = Math.abs(lane.signalV - (run.extra.to === 'positive' ? supplyV : 0))
    const flows = (1000 * volts) / run.extra.ohm > FLOWS_mA
    p.resistor(xe, MID, at(run.extra.to), flows)
    if (flows) p.arrow(xe, run.extra.to === 'positive' ? TOP + 14 : BOTTOM - 14, true)
    p.text(xe + 14, (MID + at(run.extra.to)) / 2 + 5, show(run.extra.ohm, 'Ohm', { decimals: 0 }), {
      mono: true,
      fill: 'second',
    })
    p.dot(xe, MID)
  }
  p.text(xs + 12, MID - 8, V(lane.signalV), { mono: true, bold: true })

  if (relay) {
    const coil = coilPole(circuit.sensor.output)
    p.resistor(xe, MID, at(coil), lane.sensor_mA > FLOWS_mA)
    if (lane.sensor_mA > FLOWS_mA) p.arrow(xe, coil === 'negative' ? BOTTOM - 14 : TOP + 14, true)
    // The suppression diode: its ring at plus.
    const ym = (MID + at(coil)) / 2
    const xd = xe + 26
    p.line({ x1: xe, y1: ym - 30, x2: xd, y2: ym - 30 })
    p.line({ x1: xe, y1: ym + 30, x2: xd, y2: ym + 30 })
    p.line({ x1: xd, y1: ym - 30, x2: xd, y2: ym + 30 })
    p.path(
      (x) => `M${x(xd - 7)} ${ym + 6}L${x(xd + 7)} ${ym + 6}L${x(xd)} ${ym - 7}Z M${x(xd - 7)} ${ym - 7}H${x(xd + 7)}`,
      'ink',
      'sheet',
    )
    const pole = contactPole(input.common)
    const flows = lane.input_mA > FLOWS_mA
    const closed = lane.inputV > 0.5
    p.contact({ x: xi, y1: at(pole), y2: MID, closed, flows })
    p.text(xi + 12, (MID + at(pole)) / 2 + 5, run.between.includes('NC') ? 'NC' : 'NO', { fill: 'second' })
  }
  // Input or load.
  const flows = lane.input_mA > FLOWS_mA
  p.resistor(xi, MID, at(input.common), flows)
  if (flows) p.arrow(xi, input.common === 'negative' ? BOTTOM - 14 : TOP + 14, true)
  p.dot(xi, MID)
  const side = input.common === 'negative' ? 1 : -1
  const y = MID + side * 34
  p.text(xi + 16, y - 4, V(lane.inputV), { mono: true, bold: true })
  p.text(xi + 16, y + 14, mA(lane.input_mA), { mono: true })
  p.text(xi + 16, y + 34, load_mA === undefined ? 'input' : 'load', { fill: 'second' })

  const means = lane.controller === undefined ? undefined : lane.controller ? about.meansTrue : about.meansFalse
  const tone = lane.state === 'undefined' ? 'look' : 'ink'
  p.text(4, HEIGHT - 24, `${load_mA === undefined ? 'input' : 'load'} ${STATE_WORDS[lane.state]}`, {
    bold: true,
    fill: tone,
  })
  if (load_mA === undefined)
    p.text(
      4,
      HEIGHT - 5,
      `controller ${lane.controller === undefined ? 'reads either' : lane.controller ? 'true' : 'false'}` +
        (means ? `: ${means}` : ''),
      { fill: tone },
    )
  return p.shapes
}

/** Both states of the target. The run must have its lanes. */
export function switchDrawing(run: SwitchRun, about: SwitchAbout, width: number): Scene {
  const { present, absent } = sure(run.lanes)
  const half = Math.floor((width - 24) / 2)
  const words = (l: Lane) =>
    `${V(l.signalV)} on the signal wire, ${V(l.inputV)} and ${mA(l.input_mA)} at the input, which reads ` +
    `${STATE_WORDS[l.state]}`
  return {
    width,
    height: HEIGHT,
    title: `Current paths. With a target: ${words(present)}. Without: ${words(absent)}.`,
    shapes: [
      ...panelOf({ run, lane: present, about, left: 0, width: half }),
      { kind: 'line', x1: half + 12, y1: 8, x2: half + 12, y2: HEIGHT - 8, stroke: 'hairline' },
      ...panelOf({ run, lane: absent, about, left: half + 24, width: half }),
    ],
  }
}
