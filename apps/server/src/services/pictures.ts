// Pictures as they come: told by their content, made small, freed of all that is not the picture.
import sharp from 'sharp'
import { HttpProblem } from '../http/problems.ts'

/** More points than any camera of a telephone has, and what memory bears. */
const MOST_PIXELS = 120_000_000
const TAKEN = ['png', 'jpeg', 'webp'] as const

/**
 * A picture as a PNG that fits into the given size, without place, camera or words.
 * @throws HttpProblem `not-a-picture` where it is none, or more than a sensible one
 */
export async function smallPng(bytes: Uint8Array, size: { width: number; height: number }): Promise<Buffer> {
  try {
    const picture = sharp(bytes, { limitInputPixels: MOST_PIXELS })
    const { format } = await picture.metadata()
    if (!TAKEN.some((f) => f === format)) throw new Error(format)
    return await picture
      .autoOrient()
      .resize({ ...size, fit: 'inside', withoutEnlargement: true })
      .png()
      .toBuffer()
  } catch {
    throw new HttpProblem(422, 'not-a-picture', 'This file is no picture that can be taken: a PNG, JPEG or WebP.')
  }
}
