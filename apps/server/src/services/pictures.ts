// Pictures as they come: told by their content, made small, freed of all that is not the picture.
import sharp from 'sharp'
import { HttpProblem } from '../http/problems.ts'

/** More points than any camera of a telephone has, and what memory bears. */
const MOST_PIXELS = 120_000_000
const TAKEN = ['png', 'jpeg', 'webp'] as const

export interface Photograph {
  readonly media: 'image/jpeg' | 'image/png' | 'image/webp'
  /** As it is looked at, points. */
  readonly width: number
  readonly height: number
  /** For the page, WebP. */
  readonly small: Buffer
}
/** Fits the page of a desk, and is a few tens of kilobytes. */
const SMALL = { width: 1280, height: 1280 }
const SMALL_QUALITY = 72
/** Nothing that one reads on a plate is lost. */
const BARE_QUALITY = 95

const opened = (bytes: Uint8Array) => sharp(bytes, { limitInputPixels: MOST_PIXELS })
const isTaken = (format: string | undefined): format is (typeof TAKEN)[number] => TAKEN.some((f) => f === format)

/** What a photograph is, by its content; undefined where it is none that is taken. */
export async function photographOf(bytes: Uint8Array): Promise<Photograph | undefined> {
  try {
    const { format, autoOrient } = await opened(bytes).metadata()
    if (!isTaken(format)) return undefined
    const small = await opened(bytes)
      .autoOrient()
      .resize({ ...SMALL, fit: 'inside', withoutEnlargement: true })
      .webp({ quality: SMALL_QUALITY })
      .toBuffer()
    return { media: `image/${format}`, width: autoOrient.width, height: autoOrient.height, small }
  } catch {
    return undefined
  }
}

/** A photograph as it is looked at, with nothing beside it: no place, no device, no time. */
export async function bared(bytes: Uint8Array): Promise<Buffer> {
  const { format } = await opened(bytes).metadata()
  return opened(bytes).autoOrient().keepIccProfile().toFormat(format, { quality: BARE_QUALITY }).toBuffer()
}

/**
 * A picture as a PNG that fits into the given size, without place, camera or words.
 * @throws HttpProblem `not-a-picture` where it is none, or more than a sensible one
 */
export async function smallPng(bytes: Uint8Array, size: { width: number; height: number }): Promise<Buffer> {
  try {
    const { format } = await opened(bytes).metadata()
    if (!isTaken(format)) throw new Error(format)
    return await opened(bytes)
      .autoOrient()
      .resize({ ...size, fit: 'inside', withoutEnlargement: true })
      .png()
      .toBuffer()
  } catch {
    throw new HttpProblem(422, 'not-a-picture', 'This file is no picture that can be taken: a PNG, JPEG or WebP.')
  }
}

/** Fits the width of a sheet, printed sharp enough to be read. */
const PRINTED = { width: 1200, height: 900 }
/** A picture of ours for a paper, as JPEG: what makes papers takes no WebP. */
export const forPaper = (small: Uint8Array): Promise<Buffer> =>
  opened(small)
    .resize({ ...PRINTED, fit: 'inside', withoutEnlargement: true })
    .jpeg({ quality: 82 })
    .toBuffer()
