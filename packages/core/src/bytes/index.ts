// Bytes as text, and the numbers in them: most significant byte first, as the field protocols send them.
import { Refusal } from '../refusal/index.ts'

const HEX = /^(?:[0-9a-f]{2})*$/i

/** Two hex digits a byte, lower case. */
export const hexOf = (bytes: Iterable<number>): string =>
  Array.from(bytes, (b) => b.toString(16).padStart(2, '0')).join('')

/** @throws Refusal `invalid-input` for a text that is not two hex digits a byte */
export function bytesOf(hex: string): Uint8Array {
  if (!HEX.test(hex)) throw new Refusal('invalid-input', 'Bytes are written as two hex digits each, nothing between.')
  return Uint8Array.from({ length: hex.length / 2 }, (_, i) => parseInt(hex.slice(2 * i, 2 * i + 2), 16))
}

export const isHex = (text: string): boolean => HEX.test(text)

/** An unsigned integer of `size` bytes. */
export const unsignedBytes = (value: number, size: number): number[] =>
  Array.from({ length: size }, (_, i) => Math.floor(value / 256 ** (size - 1 - i)) % 256)

/** The unsigned integer that stands at `from`. */
export function unsignedAt(bytes: ArrayLike<number>, from: number, size: number): number {
  let value = 0
  for (let i = from; i < from + size; i++) value = value * 256 + (bytes[i] ?? 0)
  return value
}

/** What is sent where there is no value: a quiet not-a-number. */
export const NO_VALUE = [0x7f, 0xa0, 0, 0] as const

/**
 * IEEE 754 single, to the nearest (ties to even); null is `NO_VALUE`.
 * @throws Refusal `out-of-range` for a value that rounds to infinity
 */
export function floatBytes(value: number | null): number[] {
  if (value === null) return [...NO_VALUE]
  if (!Number.isFinite(Math.fround(value)))
    throw new Refusal('out-of-range', `${value} is more than a single-precision number holds.`)
  const view = new DataView(new ArrayBuffer(4))
  view.setFloat32(0, value)
  return Array.from(new Uint8Array(view.buffer))
}

/** The single-precision number that stands at `from`; null for infinities and anything not a number. */
export function floatAt(bytes: Uint8Array, from: number): number | null {
  const value = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getFloat32(from)
  return Number.isFinite(value) ? value : null
}
