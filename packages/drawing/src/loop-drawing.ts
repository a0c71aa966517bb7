// The whole chain of a loop on one sheet, in public-standard symbols: the instrument as a balloon (ISO 14617-6, IEC
// 62424), conductors, terminals, resistor, fuse, diode, battery and earth after IEC 60617.
import { hasVolts, mainsOf, typeOf, type Device, type DeviceType, type Wiring } from '@calm-loop/core/wiring'
import { sure } from '@calm-loop/core/sure'
import type { Scene, Shape } from './scene.ts'
import { labelPoint, roundedPath, rowAt, type PlacedDevice, type WiringLayout } from './wiring-layout.ts'

/** Above the devices: the zones. */
const HEAD = 34
const ZONES = { field: 'Field', way: 'On the way', cabinet: 'Cabinet' } as const
/** It stands in the head of its device, where no conductor runs. */
const BALLOON = 20
/** Letters of a name that the head has room for, beside a balloon and without. */
const ROOM = { beside: 15, alone: 22 } as const
const shortened = (name: string, most: number) => (name.length > most ? `${name.slice(0, most - 1)}…` : name)
const ink = { stroke: 'ink', width: 1.2 } as const
const text = (x: number, y: number, words: string, more: Partial<Extract<Shape, { kind: 'text' }>> = {}): Shape => ({
  ...{ kind: 'text', x, y, text: words, size: 11, anchor: 'middle' },
  ...more,
})

/** Letters and number of a tag, as they stand in a balloon; a tag without a number stands whole. */
export function balloonWords(tag: string): [letters: string, number: string] {
  const [, letters, number] = /^([A-Z]{1,5})[- ]?(\d.*)$/.exec(tag) ?? []
  return letters && number ? [letters, number] : [tag, '']
}

/**
 * An instrument’s balloon; a line across it says that it stands in a panel, not in the field.
 * Source: ISO 14617-6, IEC 62424.
 */
function balloon(x: number, y: number, [letters, number]: [string, string], panel: boolean): Shape[] {
  return [
    { kind: 'circle', x, y, r: BALLOON, ...ink, fill: 'sheet' },
    ...(panel ? [{ kind: 'line', x1: x - BALLOON, y1: y, x2: x + BALLOON, y2: y, ...ink } satisfies Shape] : []),
    text(x, y - 4, letters, { size: 11, bold: true, mono: true }),
    text(x, y + 12, number, { size: 10, mono: true }),
  ]
}

/** Earth: a stem and three bars, each shorter (IEC 60617 S00200). */
const earth = (x: number, y: number): Shape[] => [
  { kind: 'line', x1: x, y1: y, x2: x, y2: y + 8, ...ink },
  ...[9, 6, 3].map((half, i): Shape => ({
    ...{ kind: 'line', x1: x - half, y1: y + 8 + 4 * i, x2: x + half, y2: y + 8 + 4 * i },
    ...ink,
  })),
]

/** Upright between two heights: a stem, the symbol in its middle, a stem. */
function upright(x: number, ends: readonly [number, number], half: number, symbol: Shape[]): Shape[] {
  const [top, bottom] = [Math.min(...ends), Math.max(...ends)]
  const middle = (top + bottom) / 2
  return [
    { kind: 'line', x1: x, y1: top, x2: x, y2: middle - half, ...ink },
    ...symbol,
    { kind: 'line', x1: x, y1: middle + half, x2: x, y2: bottom, ...ink },
  ]
}

type Inside = DeviceType['inside'][number]

/** The symbol of a part between two terminal rows; none where it has none. */
function symbolOf(part: Inside, x: number, rowOf: (terminal: string) => number): Shape[] {
  const between = (a: string, b: string, half: number, symbol: (middle: number) => Shape[]) =>
    upright(x, [rowOf(a), rowOf(b)], half, symbol((rowOf(a) + rowOf(b)) / 2))
  switch (part.part) {
    case 'resists':
      return between(part.a, part.b, 11, (m) => [{ kind: 'rect', x: x - 5, y: m - 11, w: 10, h: 22, ...ink }])
    case 'fuse':
      return between(part.a, part.b, 11, (m) => [
        { kind: 'rect', x: x - 5, y: m - 11, w: 10, h: 22, ...ink },
        { kind: 'line', x1: x, y1: m - 11, x2: x, y2: m + 11, ...ink },
      ])
    case 'diode':
      return between(part.anode, part.cathode, 7, (m) => {
        const down = rowOf(part.anode) < rowOf(part.cathode) ? 1 : -1
        return [
          { kind: 'path', d: `M${x - 7} ${m - 7 * down}H${x + 7}L${x} ${m + 7 * down}Z`, ...ink },
          { kind: 'line', x1: x - 7, y1: m + 7 * down, x2: x + 7, y2: m + 7 * down, ...ink },
        ]
      })
    case 'feeds':
      // A cell: the long bar is plus (IEC 60617 S00898).
      return between(part.plus, part.minus, 4, (m) => {
        const up = rowOf(part.plus) < rowOf(part.minus) ? -1 : 1
        return [
          { kind: 'line', x1: x - 9, y1: m + 4 * up, x2: x + 9, y2: m + 4 * up, ...ink },
          { kind: 'line', x1: x - 5, y1: m - 4 * up, x2: x + 5, y2: m - 4 * up, stroke: 'ink', width: 2.4 },
        ]
      })
    case 'transmitter':
    case 'drives':
    case 'repeats': {
      // A current source: two rings that overlap (IEC 60617 S01324).
      return between(part.plus, part.minus, 12, (m) => [
        { kind: 'circle', x, y: m - 4, r: 8, ...ink },
        { kind: 'circle', x, y: m + 4, r: 8, ...ink },
      ])
    }
    default:
      return []
  }
}

/** The two terminals of a part that has a symbol. */
function endsOfPart(part: Inside): string[] {
  if ('a' in part && 'b' in part) return [part.a, part.b]
  if ('anode' in part) return [part.anode, part.cathode]
  return 'plus' in part && 'minus' in part ? [part.plus, part.minus] : []
}

/** Where a device’s parts stand in its box, one beside the other so that none lies on another. */
function insideOf(type: DeviceType, box: PlacedDevice, top: number): Shape[] {
  const rowOf = (terminal: string) => top + rowAt(type.terminals.findIndex((t) => t.id === terminal))
  const drawn = type.inside.filter(
    (p) => symbolOf(p, 0, () => 0).length && !(p.part === 'resists' && p.id === 'termination'),
  )
  const right = box.x + box.width
  return drawn.flatMap((part, i) => {
    const x = box.x + 62 + Math.min(i, 3) * 24
    const ends = endsOfPart(part).map(rowOf)
    return [
      ...ends.map((y): Shape => ({ kind: 'line', x1: x, y1: y, x2: right, y2: y, ...ink })),
      ...symbolOf(part, x, rowOf),
    ]
  })
}

const needsBalloon = (type: DeviceType | undefined) => type?.role === 'transmitter' || type?.role === 'sensor'

function deviceShapes(wiring: Wiring, box: PlacedDevice, tag: string, top: number): Shape[] {
  const device: Device = sure(wiring.devices.find((d) => d.id === box.id))
  const type = typeOf(device)
  const mains = mainsOf(wiring)
  const reads = type?.role === 'receiver' && type.place === 'cabinet' && device.id === 'RX'
  const round = needsBalloon(type) || reads
  const shapes: Shape[] = [
    { kind: 'rect', x: box.x, y: top, w: box.width, h: box.height, ...ink, fill: 'sheet' },
    text(box.x + 10, top + 18, shortened(device.name, round ? ROOM.beside : ROOM.alone), {
      size: 12,
      bold: true,
      anchor: 'start',
    }),
    text(box.x + 10, top + 34, device.id, { mono: true, fill: 'second', anchor: 'start' }),
  ]
  const at = { x: box.x + box.width - BALLOON - 5, y: top + 23 }
  if (round) shapes.push(...balloon(at.x, at.y, reads ? ['I', balloonWords(tag)[1]] : balloonWords(tag), reads))
  if (type) shapes.push(...insideOf(type, box, top))
  type?.terminals.forEach((t, i) => {
    const y = top + rowAt(i)
    shapes.push(
      { kind: 'circle', x: box.x, y, r: 4, ...ink, fill: 'sheet' },
      { kind: 'circle', x: box.x + box.width, y, r: 4, ...ink, fill: 'sheet' },
      text(box.x + 12, y + 4, t.id, { size: 12, bold: true, mono: true, anchor: 'start' }),
    )
    if (t.does === 'earth' && type.inside.some((p) => p.part === 'earths' && p.a === t.id))
      shapes.push(...earth(box.x + box.width - 26, y - 6))
    else if (!hasVolts(wiring, mains, `${device.id}:${t.id}`, t.does) && (t.does === 'live' || t.does === 'neutral'))
      shapes.push(text(box.x + box.width - 12, y + 4, 'AC', { fill: 'stop', anchor: 'end', bold: true }))
  })
  return shapes
}

/** The columns of the layout that belong to a zone, as one band with its name. */
function zoneShapes(wiring: Wiring, layout: WiringLayout, height: number): Shape[] {
  const bands = (Object.keys(ZONES) as (keyof typeof ZONES)[]).flatMap((zone) => {
    const boxes = layout.devices.filter((b) => {
      const device = wiring.devices.find((d) => d.id === b.id)
      return (device && typeOf(device)?.place) === zone
    })
    return boxes.length
      ? [{ zone, low: Math.min(...boxes.map((b) => b.x)), high: Math.max(...boxes.map((b) => b.x + b.width)) }]
      : []
  })
  return bands.flatMap(({ zone, low, high }, i) => {
    const next = bands[i + 1]
    return [
      text((low + high) / 2, 22, ZONES[zone], { size: 14, bold: true }),
      ...(next && next.low > high
        ? [
            {
              ...{ kind: 'line', x1: (high + next.low) / 2, y1: 8, x2: (high + next.low) / 2, y2: height - 8 },
              ...{ stroke: 'second', width: 0.8, dash: '9 4 2 4' },
            } satisfies Shape,
          ]
        : []),
    ]
  })
}

/** The loop drawing of a wiring, with a name on every conductor. */
export function loopDrawing(tag: string, wiring: Wiring, layout: WiringLayout): Scene {
  const height = Math.ceil(layout.height) + HEAD
  const shapes: Shape[] = zoneShapes(wiring, layout, height)
  const cores = new Map(wiring.conductors.map((c) => [c.id, c]))
  for (const { id, points } of layout.conductors) {
    const moved = points.map((p) => ({ x: p.x, y: p.y + HEAD }))
    const shield = cores.get(id)?.core === 'shield'
    shapes.push({ kind: 'path', d: roundedPath(moved, 0), ...ink, ...(shield ? { dash: '5 3' } : {}) })
  }
  for (const { id, points } of layout.conductors) {
    const at = labelPoint(points.map((p) => ({ x: p.x, y: p.y + HEAD })))
    if (at.length < 24) continue
    const c = sure(cores.get(id))
    const words = at.length > 84 && c.cable ? `${id} ${c.cable}/${c.core ?? ''}` : id
    shapes.push(
      { kind: 'rect', x: at.x - 3 - words.length * 3.2, y: at.y - 7, w: 6 + words.length * 6.4, h: 13, fill: 'sheet' },
      text(at.x, at.y + 3.5, words, { size: 10, mono: true }),
    )
  }
  for (const box of layout.devices) shapes.push(...deviceShapes(wiring, box, tag, box.y + HEAD))
  return { width: Math.ceil(layout.width), height, title: `Loop drawing of ${tag}`, shapes }
}
