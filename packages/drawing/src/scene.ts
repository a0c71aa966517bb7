// A drawing as plain data: shapes with tones. The page renders them with its theme, a document with ink on paper.

/** What a shape means; the theme or the document gives it its colour. */
export type Tone = 'ink' | 'second' | 'hairline' | 'signal' | 'action' | 'stop' | 'look' | 'sheet' | 'none'

/** A thing that has a colour of its own, such as a conductor's insulation. */
export interface Real {
  readonly colour: string
}

interface Base {
  readonly stroke?: Tone | Real
  readonly fill?: Tone
  readonly width?: number
  readonly dash?: string
  readonly opacity?: number
}

export type Shape = Base &
  (
    | { readonly kind: 'line'; readonly x1: number; readonly y1: number; readonly x2: number; readonly y2: number }
    | { readonly kind: 'rect'; readonly x: number; readonly y: number; readonly w: number; readonly h: number }
    | { readonly kind: 'circle'; readonly x: number; readonly y: number; readonly r: number }
    | { readonly kind: 'path'; readonly d: string }
    | {
        readonly kind: 'text'
        readonly x: number
        readonly y: number
        readonly text: string
        readonly size: number
        readonly anchor?: 'start' | 'middle' | 'end'
        readonly bold?: boolean
        readonly mono?: boolean
      }
  )

export interface Scene {
  readonly width: number
  readonly height: number
  /** What it shows, in a sentence, for those who cannot see it. */
  readonly title: string
  readonly shapes: readonly Shape[]
}

/** Colours on white paper. */
export const paperTones: Readonly<Record<Tone, string>> = {
  ink: '#1C2321',
  second: '#55605B',
  hairline: '#D9D3C4',
  signal: '#B4410E',
  action: '#24524A',
  stop: '#9B1C31',
  look: '#8A5A00',
  sheet: '#FFFFFF',
  none: 'none',
}

const escape = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
const n = (value: number) => String(Math.round(value * 100) / 100)

/** Attributes of a shape's element, for SVG text and for a page alike. */
export function attributes(shape: Shape, toneOf: (t: Tone) => string): Record<string, string> {
  const tone = (t: Tone | Real) => (typeof t === 'string' ? toneOf(t) : t.colour)
  const a: Record<string, string> = { fill: tone(shape.fill ?? 'none') }
  if (shape.stroke) a['stroke'] = tone(shape.stroke)
  if (shape.stroke) a['stroke-width'] = n(shape.width ?? 1)
  if (shape.dash) a['stroke-dasharray'] = shape.dash
  if (shape.opacity !== undefined) a['opacity'] = n(shape.opacity)
  switch (shape.kind) {
    case 'line':
      return { ...a, x1: n(shape.x1), y1: n(shape.y1), x2: n(shape.x2), y2: n(shape.y2) }
    case 'rect':
      return { ...a, x: n(shape.x), y: n(shape.y), width: n(shape.w), height: n(shape.h) }
    case 'circle':
      return { ...a, cx: n(shape.x), cy: n(shape.y), r: n(shape.r) }
    case 'path':
      return { ...a, d: shape.d }
    case 'text':
      return {
        ...a,
        fill: tone(shape.fill ?? 'ink'),
        x: n(shape.x),
        y: n(shape.y),
        'font-size': n(shape.size),
        'text-anchor': shape.anchor ?? 'start',
        ...(shape.bold ? { 'font-weight': '700' } : {}),
      }
  }
}

export const elementName = (shape: Shape): string => shape.kind

/** The scene as SVG text; `fontFor` names the font family for a text, figures or words. */
export function toSvg(scene: Scene, fontFor: (text: string, mono: boolean) => string, tones = paperTones): string {
  const body = scene.shapes
    .map((shape) => {
      const list = Object.entries(attributes(shape, (t) => tones[t]))
        .map(([k, v]) => `${k}="${v}"`)
        .join(' ')
      if (shape.kind !== 'text') return `<${shape.kind} ${list}/>`
      return `<text ${list} font-family="${fontFor(shape.text, shape.mono ?? false)}">${escape(shape.text)}</text>`
    })
    .join('')
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${scene.width} ${scene.height}" ` +
    `width="${scene.width}" height="${scene.height}"><title>${escape(scene.title)}</title>${body}</svg>`
  )
}
