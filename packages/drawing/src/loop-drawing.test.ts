import { DEVICE_TYPES, PLAIN, propose, type Arrangement } from '@calm-loop/core/wiring'
import Elk from 'elkjs/lib/elk.bundled.js'
import { describe, expect, it } from 'vitest'
import { balloonWords, layoutWiring, loopDrawing, toSvg } from './index.ts'

const elk = new Elk()
const drawn = async (more: Partial<Arrangement> = {}) => {
  const wiring = propose({ ...PLAIN, ...more })
  return { wiring, scene: loopDrawing('PT-101', wiring, await layoutWiring(wiring, elk)) }
}
const words = (scene: Awaited<ReturnType<typeof drawn>>['scene']) =>
  scene.shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))

describe('the loop drawing', () => {
  it('puts the tag into a balloon, letters over number', () => {
    expect(balloonWords('PT-101')).toEqual(['PT', '101'])
    expect(balloonWords('PDT-118A')).toEqual(['PDT', '118A'])
    expect(balloonWords('pump 4')).toEqual(['pump 4', ''])
  })
  it('shows every device, every terminal and every zone that has one', async () => {
    const { wiring, scene } = await drawn({ output: 'four-wire active', power: 'mains', between: 'isolator' })
    const said = words(scene)
    for (const d of wiring.devices) expect(said).toEqual(expect.arrayContaining([d.name, d.id]))
    expect(said).toEqual(expect.arrayContaining(['Field', 'On the way', 'Cabinet', 'PT', '101', 'AC']))
  })
  it('has its balloons within the heads of their devices, where no conductor runs', async () => {
    const { wiring, scene } = await drawn({ receiver: 'converter, channel 1', otherSeries: 150 })
    const boxes = scene.shapes.flatMap((s) => (s.kind === 'rect' && s.w > 100 ? [s] : []))
    const balloons = scene.shapes.flatMap((s) => (s.kind === 'circle' && s.r > 15 ? [s] : []))
    expect(boxes.length).toBe(wiring.devices.length)
    expect(balloons).toHaveLength(2)
    for (const b of balloons)
      expect(
        boxes.some((x) => b.x - b.r > x.x && b.x + b.r < x.x + x.w && b.y - b.r > x.y && b.y + b.r < x.y + 46),
      ).toBe(true)
  })
  it('stays within its sheet, and is the same each time', async () => {
    const { scene } = await drawn({ second: true, otherSeries: 250 })
    for (const s of scene.shapes) {
      const points =
        s.kind === 'line'
          ? [
              [s.x1, s.y1],
              [s.x2, s.y2],
            ]
          : s.kind === 'path'
            ? []
            : [[s.x, s.y]]
      for (const [x, y] of points) {
        expect(x).toBeGreaterThanOrEqual(0)
        expect(x).toBeLessThanOrEqual(scene.width)
        expect(y).toBeGreaterThanOrEqual(0)
        expect(y).toBeLessThanOrEqual(scene.height)
      }
    }
    const again = await drawn({ second: true, otherSeries: 250 })
    expect(toSvg(again.scene, () => 'x')).toBe(toSvg(scene, () => 'x'))
  })
  it('draws every device type that comes with the product', async () => {
    for (const type of DEVICE_TYPES) {
      const wiring = {
        ...{ format: 'calm-loop/wiring-1' as const, cables: [], conductors: [] },
        devices: [{ id: 'X', type: type.id, name: type.name }],
      }
      const scene = loopDrawing('X', wiring, await layoutWiring(wiring, elk))
      expect(toSvg(scene, () => 'x')).not.toContain('NaN')
      expect(words(scene)).toEqual(expect.arrayContaining(type.terminals.map((t) => t.id)))
    }
  })
})
