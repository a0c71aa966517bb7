// Secrets in a backup, sealed by a passphrase: scrypt for the key, AES-256-GCM for what is in it (NIST SP 800-38D).
import { createCipheriv, createDecipheriv, randomBytes, scrypt, type ScryptOptions } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { promisify } from 'node:util'
import { z } from 'zod'

export const SealedBox = z.strictObject({
  format: z.literal(1),
  /** Cost of the key, salt and nonce; bytes in base64. */
  cost: z.number().int().min(16_384).max(1_048_576),
  salt: z.string(),
  nonce: z.string(),
  tag: z.string(),
  data: z.string(),
})
export type SealedBox = z.infer<typeof SealedBox>

/** Shorter ones are guessed. */
export const SHORTEST_PASSPHRASE = 12
const COST = 32_768
const CIPHER = 'aes-256-gcm'
// Not at once: a server that makes a backup goes on meanwhile.
const derived = promisify<string, Buffer, number, ScryptOptions, Buffer>(scrypt)
const keyOf = (passphrase: string, salt: Buffer, cost: number) =>
  derived(passphrase.normalize('NFKC'), salt, 32, { N: cost, r: 8, p: 1, maxmem: 256 * cost * 8 })
const bytes = (base64: string) => Buffer.from(base64, 'base64')

export async function sealBox(passphrase: string, text: string): Promise<SealedBox> {
  const [salt, nonce] = [randomBytes(16), randomBytes(12)]
  const cipher = createCipheriv(CIPHER, await keyOf(passphrase, salt, COST), nonce)
  const data = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  const [said, tag] = [data.toString('base64'), cipher.getAuthTag().toString('base64')]
  return { format: 1, cost: COST, salt: salt.toString('base64'), nonce: nonce.toString('base64'), tag, data: said }
}

/** What is in a box; undefined with another passphrase, or where a byte of it was changed. */
export async function openBox(passphrase: string, box: SealedBox): Promise<string | undefined> {
  try {
    const opening = createDecipheriv(CIPHER, await keyOf(passphrase, bytes(box.salt), box.cost), bytes(box.nonce))
    opening.setAuthTag(bytes(box.tag))
    return Buffer.concat([opening.update(bytes(box.data)), opening.final()]).toString('utf8')
  } catch {
    return undefined
  }
}

/** The passphrase of an installation, made in its file where there is none. `made` is told once. */
export function passphraseIn(file: string, made: (file: string) => void = () => undefined): string {
  const own = process.env['CALM_LOOP_PASSPHRASE']
  if (own !== undefined) return own
  if (!existsSync(file))
    try {
      writeFileSync(file, randomBytes(18).toString('base64url'), { mode: 0o600, flag: 'wx' })
      made(file)
    } catch (error) {
      // Made by another backup meanwhile.
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
    }
  return readFileSync(file, 'utf8').trim()
}
