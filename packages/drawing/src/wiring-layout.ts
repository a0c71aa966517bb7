// Where the devices of a wiring stand and how its conductors run: tidy by itself, from the process at the left to the
// cabinet at the right.
import { typeOf, type Device, type Wiring } from '@calm-loop/core/wiring'
import type { ELK, ElkExtendedEdge, ElkNode } from 'elkjs/lib/elk-api.js'
import { sure } from '@calm-loop/core/sure'

export const BOX_WIDTH = 156
export const HEAD_HEIGHT = 46
export const ROW_HEIGHT = 44
const FOOT = 8

export interface PlacedDevice {
  readonly id: string
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}
export interface Point {
  readonly x: number
  readonly y: number
}
export interface PlacedConductor {
  readonly id: string
  readonly points: readonly Point[]
  /** Which side of the device each end leaves by. */
  readonly fromSide: Side
  readonly toSide: Side
}
export interface WiringLayout {
  readonly width: number
  readonly height: number
  readonly devices: readonly PlacedDevice[]
  readonly conductors: readonly PlacedConductor[]
}
export type Side = 'left' | 'right'

const COLUMN = { field: 0, way: 1, cabinet: 3 } as const
/** Columns from the process to the cabinet; barriers and isolators stand behind the junction box. */
function columnOf(device: Device): number {
  const type = typeOf(device)
  if (!type) return 3
  return type.role === 'barrier' || type.role === 'isolator' ? 2 : COLUMN[type.place]
}

export const boxHeight = (device: Device): number =>
  HEAD_HEIGHT + (typeOf(device)?.terminals.length ?? 1) * ROW_HEIGHT + FOOT

/** Height of a terminal's row below the top of its device. */
export const rowAt = (index: number): number => HEAD_HEIGHT + (index + 0.5) * ROW_HEIGHT

/** Sides by which a conductor leaves its two devices. */
export function sidesOf(wiring: Wiring, from: string, to: string): { fromSide: Side; toSide: Side } {
  const device = (ref: string) => wiring.devices.find((d) => d.id === ref.split(':')[0])
  const [a, b] = [device(from), device(to)]
  const [ca, cb] = [a ? columnOf(a) : 3, b ? columnOf(b) : 3]
  if (ca !== cb) return ca < cb ? { fromSide: 'right', toSide: 'left' } : { fromSide: 'left', toSide: 'right' }
  if (a === b) return { fromSide: 'right', toSide: 'right' }
  const order = wiring.devices.findIndex((d) => d === a) < wiring.devices.findIndex((d) => d === b)
  return order ? { fromSide: 'right', toSide: 'left' } : { fromSide: 'left', toSide: 'right' }
}

const port = (ref: string, side: Side) => `${ref}|${side}`

/** Between two columns, least and most: the colours of the conductors want room, where there is some. */
const NARROW = 48
const WIDE = 120
/** Width of a sheet of paper, in the drawing’s own measure. */
const PAPER = 900

/**
 * Lays a wiring out.
 * @param elk comes from the caller: in a page it works in a worker
 * @param room width that the drawing may take without being made smaller
 */
export async function layoutWiring(
  wiring: Wiring,
  elk: Pick<ELK, 'layout'>,
  room: number = PAPER,
): Promise<WiringLayout> {
  const close = await layoutSpaced(wiring, elk, NARROW)
  const gaps = new Set(close.devices.map((d) => Math.round(d.x))).size - 1
  const spare = room - close.width
  if (gaps < 1 || spare < 20) return close
  return layoutSpaced(wiring, elk, Math.min(WIDE, NARROW + spare / gaps))
}

async function layoutSpaced(wiring: Wiring, elk: Pick<ELK, 'layout'>, spacing: number): Promise<WiringLayout> {
  const known = new Set(wiring.devices.flatMap((d) => (typeOf(d)?.terminals ?? []).map((t) => `${d.id}:${t.id}`)))
  const drawn = wiring.conductors.filter((c) => known.has(c.from) && known.has(c.to))
  const children: ElkNode[] = wiring.devices.map((device) => ({
    id: device.id,
    width: BOX_WIDTH,
    height: boxHeight(device),
    layoutOptions: {
      'elk.portConstraints': 'FIXED_POS',
      'elk.partitioning.partition': String(columnOf(device)),
    },
    ports: (typeOf(device)?.terminals ?? []).flatMap((t, i) =>
      (['left', 'right'] as const).map((side) => ({
        id: port(`${device.id}:${t.id}`, side),
        x: side === 'left' ? 0 : BOX_WIDTH,
        y: rowAt(i),
        layoutOptions: { 'elk.port.side': side === 'left' ? 'WEST' : 'EAST' },
      })),
    ),
  }))
  const edges: ElkExtendedEdge[] = drawn.map((c) => {
    const { fromSide, toSide } = sidesOf(wiring, c.from, c.to)
    // The layout runs from left to right; a conductor drawn the other way is turned for it.
    const [a, b] =
      fromSide === 'left' ? [port(c.to, toSide), port(c.from, fromSide)] : [port(c.from, fromSide), port(c.to, toSide)]
    return { id: c.id, sources: [a], targets: [b] }
  })
  const laid: ElkNode = await elk.layout({
    id: 'wiring',
    layoutOptions: {
      'elk.algorithm': 'layered',
      'elk.direction': 'RIGHT',
      'elk.partitioning.activate': 'true',
      'elk.edgeRouting': 'ORTHOGONAL',
      'elk.layered.spacing.nodeNodeBetweenLayers': String(spacing),
      'elk.spacing.nodeNode': '28',
      'elk.spacing.edgeEdge': '12',
      'elk.layered.spacing.edgeEdgeBetweenLayers': '12',
      'elk.layered.spacing.edgeNodeBetweenLayers': '18',
      'elk.spacing.edgeNode': '18',
      'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
      'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
      'elk.padding': '[top=12,left=12,bottom=12,right=12]',
    },
    children,
    edges,
  })
  return {
    width: laid.width ?? 0,
    height: laid.height ?? 0,
    devices: (laid.children ?? []).map(({ id, x = 0, y = 0, width = 0, height = 0 }) => ({ id, x, y, width, height })),
    conductors: (laid.edges ?? []).map((e) => {
      const conductor = sure(drawn.find((c) => c.id === e.id))
      const sides = sidesOf(wiring, conductor.from, conductor.to)
      const s = e.sections?.[0]
      const points = s ? [s.startPoint, ...(s.bendPoints ?? []), s.endPoint].map(({ x, y }) => ({ x, y })) : []
      return { id: e.id, points: sides.fromSide === 'left' ? points.reverse() : points, ...sides }
    }),
  }
}

/** A run through these points with its corners rounded, as an SVG path. */
export function roundedPath(points: readonly Point[], radius = 7): string {
  if (points.length < 2) return ''
  const n = (v: number) => Math.round(v * 10) / 10
  let d = `M${n(sure(points[0]).x)} ${n(sure(points[0]).y)}`
  for (let i = 1; i < points.length - 1; i++) {
    const [a, b, c] = [points[i - 1]!, points[i]!, points[i + 1]!]
    const towards = (p: Point) => {
      const length = Math.hypot(p.x - b.x, p.y - b.y)
      const by = length === 0 ? 0 : Math.min(radius, length / 2) / length
      return { x: b.x + (p.x - b.x) * by, y: b.y + (p.y - b.y) * by }
    }
    const [p, q] = [towards(a), towards(c)]
    d += `L${n(p.x)} ${n(p.y)}Q${n(b.x)} ${n(b.y)} ${n(q.x)} ${n(q.y)}`
  }
  const last = sure(points.at(-1))
  return `${d}L${n(last.x)} ${n(last.y)}`
}

/** Where a conductor's name stands: the middle of its longest level stretch, and how long that is. */
export function labelPoint(points: readonly Point[]): Point & { readonly length: number } {
  let best = { x: points[0]?.x ?? 0, y: points[0]?.y ?? 0, length: -1 }
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!]
    const length = Math.abs(b.x - a.x)
    if (length > best.length) best = { x: (a.x + b.x) / 2, y: a.y, length }
  }
  return best
}

/** Shorter than this a level stretch leaves no room for a name on it. */
const LEVEL_FOR_A_NAME = 40

/**
 * Where a conductor's name stands on the page: on its longest level stretch, or beside it where it leaves and enters
 * on one side with no
 * stretch to speak of, as a link between two terminals of a device does; there it would lie under the device.
 */
export function namePlace(
  points: readonly Point[],
  { fromSide, toSide }: { fromSide: Side; toSide: Side },
): Point & { readonly beside?: Side } {
  const on = labelPoint(points)
  if (fromSide !== toSide || on.length >= LEVEL_FOR_A_NAME || points.length < 2) return { x: on.x, y: on.y }
  const xs = points.map((p) => p.x)
  const x = fromSide === 'right' ? Math.max(...xs) : Math.min(...xs)
  return { x, y: (sure(points[0]).y + sure(points.at(-1)).y) / 2, beside: fromSide }
}
