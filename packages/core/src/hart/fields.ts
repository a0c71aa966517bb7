// Fields of HART payloads: texts, dates, numbers, each with how many bytes it takes.
import { floatAt, floatBytes, unsignedAt, unsignedBytes } from '../bytes/index.ts'
import { Refusal } from '../refusal/index.ts'

/** @throws Refusal `too-short` */
export function need(bytes: Uint8Array, size: number): void {
  if (bytes.length < size) throw new Refusal('too-short', `${size} bytes are needed; ${bytes.length} came.`)
}

function characterOf(text: string, allowed: (code: number) => boolean): void {
  for (const c of text)
    if (!allowed(c.codePointAt(0) ?? 0)) throw new Refusal('bad-character', `The character “${c}” cannot be sent.`)
}
function fits(text: string, characters: number): void {
  if (text.length > characters)
    throw new Refusal('too-long', `“${text}” has ${text.length} characters; ${characters} fit.`)
}

/** Whether a text can be sent packed: capitals, digits and marks from U+0020 to U+005F. */
export const isPackable = (text: string): boolean => /^[ -_]*$/.test(text)

/**
 * Six bits a character, four characters in three bytes; padded with spaces to `characters` (a multiple of 4).
 * @throws Refusal `bad-character`, `too-long`
 */
export function packAscii(text: string, characters: number): number[] {
  characterOf(text, (c) => c >= 0x20 && c <= 0x5f)
  fits(text, characters)
  const six = Array.from(text.padEnd(characters), (c) => c.charCodeAt(0) & 0x3f)
  return Array.from({ length: characters / 4 }, (_, i) => {
    const [a, b, c, d] = six.slice(4 * i, 4 * i + 4) as [number, number, number, number]
    return unsignedBytes(((a * 64 + b) * 64 + c) * 64 + d, 3)
  }).flat()
}

/** @throws Refusal `too-short` where the bytes are no multiple of 3 */
export function unpackAscii(bytes: Uint8Array): string {
  if (bytes.length % 3) throw new Refusal('too-short', 'Packed text comes in threes of bytes.')
  let text = ''
  for (let i = 0; i < bytes.length; i += 3) {
    const four = unsignedAt(bytes, i, 3)
    for (const shift of [18, 12, 6, 0]) {
      const six = (four >> shift) & 0x3f
      text += String.fromCharCode(six < 0x20 ? six + 0x40 : six)
    }
  }
  return text.replace(/ +$/, '')
}

/** ISO 8859-1, padded with 00. @throws Refusal `bad-character`, `too-long` */
export function latinBytes(text: string, characters: number): number[] {
  characterOf(text, (c) => c >= 1 && c <= 0xff)
  fits(text, characters)
  return Array.from({ length: characters }, (_, i) => (i < text.length ? text.charCodeAt(i) : 0))
}
export function latinText(bytes: Uint8Array): string {
  const end = bytes.indexOf(0)
  return String.fromCharCode(...(end < 0 ? bytes : bytes.subarray(0, end))).replace(/ +$/, '')
}

const isLeap = (year: number) => year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0)
const DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]
const exists = (day: number, month: number, year: number): boolean =>
  day >= 1 && day <= (month === 2 && isLeap(year) ? 29 : (DAYS[month - 1] ?? 0))

/** Day, month, year less 1900; null is no date. @throws Refusal `bad-date` */
export function dateBytes(date: string | null): number[] {
  if (date === null) return [0, 0, 0]
  const [, year, month, day] = /^(\d{4})-(\d{2})-(\d{2})$/.exec(date)?.map(Number) ?? []
  if (!year || !month || !day || year < 1900 || year > 2155 || !exists(day, month, year))
    throw new Refusal('bad-date', `“${date}” is no day from 1900-01-01 to 2155-12-31.`)
  return [day, month, year - 1900]
}
/** Null for bytes that are no date. */
export function dateText(bytes: Uint8Array): string | null {
  need(bytes, 3)
  const [day, month, year] = [bytes[0]!, bytes[1]!, 1900 + bytes[2]!]
  if (!exists(day, month, year)) return null
  return `${year}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
}

export const floatField = (bytes: Uint8Array): number | null => {
  need(bytes, 4)
  return floatAt(bytes, 0)
}
export { floatBytes }
