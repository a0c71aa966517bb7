// Plates as a telephone meets them, drawn: of metal or painted, printed or in dots, tilted, scratched, with shine and
// noise. Made-up devices of a made-up plant.
import { uniform } from '@calm-loop/core/device'
import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas'
import { printDots } from './dot-print.ts'

export const QUALITIES = ['good', 'fair', 'poor'] as const
export type Quality = (typeof QUALITIES)[number]

/** What grows worse from one quality to the next. */
interface Camera {
  readonly tilt_deg: number
  readonly skew: number
  readonly scratches: number
  readonly shines: number
  /** Of a shine, least and most cover. */
  readonly shine: readonly [number, number]
  readonly ink: readonly [number, number]
  readonly scale: number
  readonly blur: number
  readonly noise: number
  /** Share of plates printed in dots. */
  readonly dots: number
}
const CAMERAS: Record<Quality, Camera> = {
  good: {
    ...{ tilt_deg: 1, skew: 0, scratches: 1, shines: 0, shine: [0, 0], ink: [0.8, 0.95] },
    ...{ scale: 1, blur: 0.3, noise: 4, dots: 0 },
  },
  fair: {
    ...{ tilt_deg: 2.5, skew: 0, scratches: 4, shines: 1, shine: [0.4, 0.7], ink: [0.8, 0.95] },
    ...{ scale: 0.75, blur: 0.6, noise: 9, dots: 0.34 },
  },
  poor: {
    ...{ tilt_deg: 4, skew: 0.03, scratches: 8, shines: 2, shine: [0.7, 0.95], ink: [0.6, 0.8] },
    ...{ scale: 0.55, blur: 0.8, noise: 16, dots: 0.34 },
  },
}
const FONTS = ['Liberation Sans', 'DejaVu Sans', 'Liberation Sans Narrow', 'DejaVu Sans Mono', 'Liberation Mono']
const [WIDE, HIGH, PLATE_WIDE, PLATE_HIGH] = [1600, 1100, 1320, 860]

/** Numbers from a seed, 0 to 1, the same each time. */
export function chance(seed: number): () => number {
  let state = seed | 0
  return () => {
    const [number, next] = uniform(state)
    state = next
    return number
  }
}
type Between = (low: number, high: number) => number

/** Its ground: a slope of light, and the strokes of brushed metal. */
function drawGround(at: SKRSContext2D, metal: boolean, r: () => number, between: Between): void {
  const light = between(70, 90)
  const ground = at.createLinearGradient(0, 0, PLATE_WIDE, PLATE_HIGH)
  ground.addColorStop(0, `hsl(40,4%,${light}%)`)
  ground.addColorStop(between(0.3, 0.7), `hsl(40,4%,${light - (metal ? between(10, 22) : 5)}%)`)
  ground.addColorStop(1, `hsl(40,4%,${light - 4}%)`)
  at.fillStyle = ground
  at.fillRect(0, 0, PLATE_WIDE, PLATE_HIGH)
  for (let i = 0; metal && i < 500; i++) {
    at.strokeStyle = `rgba(${r() < 0.5 ? '255,255,255' : '0,0,0'},${between(0.02, 0.09)})`
    at.lineWidth = between(0.5, 1.6)
    const y = between(0, PLATE_HIGH)
    at.beginPath()
    at.moveTo(between(0, PLATE_WIDE / 2), y)
    at.lineTo(between(PLATE_WIDE / 2, PLATE_WIDE), y + between(-2, 2))
    at.stroke()
  }
}
/** What lies over the print: scratches, and light that is thrown back. */
function drawHarm(at: SKRSContext2D, { scratches, shines, shine }: Camera, r: () => number, between: Between): void {
  for (let i = 0; i < scratches; i++) {
    at.strokeStyle = `rgba(${r() < 0.5 ? '250,250,250' : '60,60,60'},${between(0.2, 0.5)})`
    at.lineWidth = between(0.7, 2)
    at.beginPath()
    at.moveTo(between(0, PLATE_WIDE), between(0, PLATE_HIGH))
    at.lineTo(between(0, PLATE_WIDE), between(0, PLATE_HIGH))
    at.stroke()
  }
  for (let i = 0; i < shines; i++) {
    const [x, y, reach] = [between(0, PLATE_WIDE), between(0, PLATE_HIGH), between(120, 320)]
    const light = at.createRadialGradient(x, y, 0, x, y, reach)
    light.addColorStop(0, `rgba(255,255,255,${between(...shine)})`)
    light.addColorStop(1, 'rgba(255,255,255,0)')
    at.fillStyle = light
    at.fillRect(0, 0, PLATE_WIDE, PLATE_HIGH)
  }
}

/** A photograph of a plate with these lines. */
export function drawnPlate(seed: number, quality: Quality, lines: readonly string[]) {
  const r = chance(seed)
  const between: Between = (low, high) => low + (high - low) * r()
  const camera = CAMERAS[quality]
  const scene = createCanvas(WIDE, HIGH)
  const at = scene.getContext('2d')
  at.fillStyle = `hsl(${between(180, 240)},10%,${between(25, 45)}%)`
  at.fillRect(0, 0, WIDE, HIGH)
  at.translate(WIDE / 2, HIGH / 2)
  at.rotate((camera.tilt_deg * between(-1, 1) * Math.PI) / 180)
  const skew = camera.skew * between(-1, 1)
  at.transform(1, skew, skew / 2, 1, 0, 0)
  at.translate(-PLATE_WIDE / 2, -PLATE_HIGH / 2)
  drawGround(at, r() < 0.6, r, between)
  const dots = r() < camera.dots
  const font = FONTS[Math.floor(r() * FONTS.length)]!
  const size = Math.min(54, (PLATE_HIGH - 120) / lines.length / 1.35)
  at.fillStyle = `rgba(20,20,26,${between(...camera.ink)})`
  lines.forEach((line, i) => {
    const y = 90 + i * size * 1.35
    at.font = `${r() < 0.4 ? 'bold ' : ''}${size}px "${font}"`
    if (dots) printDots(at, line, 70, y, size)
    else at.fillText(line, 70, y)
  })
  drawHarm(at, camera, r, between)
  const seen = createCanvas(Math.round(WIDE * camera.scale), Math.round(HIGH * camera.scale))
  const to = seen.getContext('2d')
  to.filter = `blur(${camera.blur}px)`
  to.drawImage(scene, 0, 0, seen.width, seen.height)
  const picture = to.getImageData(0, 0, seen.width, seen.height)
  for (let i = 0; i < picture.data.length; i += 4) {
    const grain = (r() + r() + r() - 1.5) * camera.noise
    for (let k = 0; k < 3; k++) picture.data[i + k] = picture.data[i + k]! + grain
  }
  to.putImageData(picture, 0, 0)
  return { canvas: seen, rgba: picture.data, width: seen.width, height: seen.height }
}

/** Lines of a made-up plate: serials, constants with all their decimals, ranges and supply by chance. */
export function plateLines(seed: number): readonly string[] {
  const r = chance(seed * 7919)
  const digits = (n: number) => Array.from({ length: n }, () => Math.floor(r() * 10)).join('')
  const pick = (of: string) => of[Math.floor(r() * of.length)] ?? ''
  return [
    'HOLM FLOW SENSOR',
    `MODEL  CM-${digits(2)}`,
    `SERIAL NO  ${digits(8)}`,
    `SENSOR  ${pick('ACHKM')}${digits(1)}-${pick('SOIBZG')}-${digits(5)}`,
    `Kf  ${digits(1)}.${digits(5)}`,
    `T-hi  ${digits(4)}.${digits(3)}`,
    `RANGE  0-${1 + Math.floor(r() * 9)}0000 kg/h`,
    `SUPPLY  ${10 + Math.floor(r() * 9)}-${30 + Math.floor(r() * 9)} V DC`,
    'OUTPUT  4-20 mA',
  ]
}
