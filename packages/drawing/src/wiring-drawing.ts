// The wiring as a drawing for paper: boxes with their terminals, conductors in their insulation colours, expected
// volts at each terminal.
import { hasVolts, INSULATION, mainsOf, typeOf, type Energised, type Wiring } from '@calm-loop/core/wiring'
import { formatQuantity } from '@calm-loop/core/quantity'
import type { Scene, Shape } from './scene.ts'
import { HEAD_HEIGHT, labelPoint, roundedPath, rowAt, ROW_HEIGHT, type WiringLayout } from './wiring-layout.ts'
import { sure } from '@calm-loop/core/sure'

export function wiringDrawing(tag: string, wiring: Wiring, layout: WiringLayout, energised?: Energised): Scene {
  const shapes: Shape[] = []
  const mains = mainsOf(wiring)
  for (const placed of layout.conductors) {
    const conductor = sure(wiring.conductors.find((c) => c.id === placed.id))
    const d = roundedPath(placed.points)
    shapes.push(
      { kind: 'path', d, stroke: 'ink', width: 4.4 },
      { kind: 'path', d, stroke: { colour: INSULATION[conductor.colour ?? ''] ?? '#cfcabb' }, width: 2.6 },
    )
  }
  for (const placed of layout.conductors) {
    const conductor = sure(wiring.conductors.find((c) => c.id === placed.id))
    const at = labelPoint(placed.points)
    if (at.length < 24) continue
    const label = conductor.id
    shapes.push(
      { kind: 'rect', x: at.x - 4 - label.length * 3.6, y: at.y - 8, w: 8 + label.length * 7.2, h: 15, fill: 'sheet' },
      { kind: 'text', x: at.x, y: at.y + 4, text: label, size: 11, anchor: 'middle', mono: true },
    )
  }
  for (const box of layout.devices) {
    const device = sure(wiring.devices.find((d) => d.id === box.id))
    const type = typeOf(device)
    shapes.push(
      { kind: 'rect', x: box.x, y: box.y, w: box.width, h: box.height, stroke: 'ink', fill: 'sheet', width: 1.2 },
      { kind: 'text', x: box.x + 12, y: box.y + 19, text: device.name, size: 13, bold: true },
      { kind: 'text', x: box.x + 12, y: box.y + 35, text: device.id, size: 11, mono: true, fill: 'second' },
      {
        kind: 'line',
        x1: box.x,
        y1: box.y + HEAD_HEIGHT,
        x2: box.x + box.width,
        y2: box.y + HEAD_HEIGHT,
        stroke: 'hairline',
      },
    )
    type?.terminals.forEach((t, i) => {
      const y = box.y + rowAt(i)
      const volts = energised?.volts(`${device.id}:${t.id}`)
      const ref = `${device.id}:${t.id}`
      const shown = hasVolts(wiring, mains, ref, t.does)
      shapes.push(
        { kind: 'circle', x: box.x, y, r: 4.5, stroke: 'ink', fill: 'sheet', width: 1.4 },
        { kind: 'circle', x: box.x + box.width, y, r: 4.5, stroke: 'ink', fill: 'sheet', width: 1.4 },
        { kind: 'text', x: box.x + 14, y: y + 4.5, text: t.id, size: 13, mono: true, bold: true },
        ...(volts === undefined || !shown
          ? []
          : [
              {
                kind: 'text',
                x: box.x + box.width - 14,
                y: y + 4.5,
                size: 11,
                anchor: 'end',
                mono: true,
                fill: 'second',
                text: formatQuantity(Math.abs(volts) < 5e-4 ? 0 : volts, 'V', { decimals: 2 }),
              } satisfies Shape,
            ]),
      )
      if (i)
        shapes.push({
          kind: 'line',
          x1: box.x + 10,
          y1: y - ROW_HEIGHT / 2,
          x2: box.x + box.width - 10,
          y2: y - ROW_HEIGHT / 2,
          stroke: 'hairline',
          width: 0.6,
        })
    })
  }
  return { width: Math.ceil(layout.width), height: Math.ceil(layout.height), title: `Wiring of ${tag}`, shapes }
}
