// The installation's own key pair (Ed25519): made once, kept in a file beside the other secrets, and added to when it
// is rotated.
import {
  createHash,
  createPrivateKey,
  createPublicKey,
  generateKeyPairSync,
  sign,
  verify,
  type KeyObject,
} from 'node:crypto'
import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, renameSync, writeSync } from 'node:fs'
import { dirname } from 'node:path'
import { z } from 'zod'
import { sure } from '@calm-loop/core/sure'

const KeyFile = z.strictObject({
  keys: z
    .array(z.strictObject({ id: z.string(), since: z.string(), publicKey: z.string(), privateKey: z.string() }))
    .min(1),
})
type KeyFile = z.infer<typeof KeyFile>

export interface PublicKey {
  readonly id: string
  /** DER, SPKI, base64. */
  readonly publicKey: string
  readonly since: string
}

/** Seals with the newest key; knows the public halves of all keys there have been. */
export interface Sealer {
  readonly keyId: string
  readonly publicKeys: readonly PublicKey[]
  sign(text: string): string
}

/** The first 16 digits of the SHA-256 of a public key. */
export const keyIdOf = (publicKey: string): string =>
  createHash('sha256').update(Buffer.from(publicKey, 'base64')).digest('hex').slice(0, 16)

/** @throws Error when it is not an Ed25519 public key */
export function publicKeyFrom(base64: string): KeyObject {
  const key = createPublicKey({ key: Buffer.from(base64, 'base64'), format: 'der', type: 'spki' })
  if (key.asymmetricKeyType !== 'ed25519') throw new Error('not an Ed25519 key')
  return key
}

export const sealIsGood = (key: KeyObject, text: string, value: string): boolean =>
  verify(null, Buffer.from(text), key, Buffer.from(value, 'base64'))

function newKey(): KeyFile['keys'][number] {
  const pair = generateKeyPairSync('ed25519')
  const publicKey = pair.publicKey.export({ format: 'der', type: 'spki' }).toString('base64')
  const privateKey = pair.privateKey.export({ format: 'der', type: 'pkcs8' }).toString('base64')
  return { id: keyIdOf(publicKey), since: new Date().toISOString(), publicKey, privateKey }
}

/** Written whole or not at all. */
function write(file: string, content: KeyFile): void {
  mkdirSync(dirname(file), { recursive: true })
  const fresh = `${file}.new`
  const handle = openSync(fresh, 'w', 0o600)
  writeSync(handle, JSON.stringify(content, null, 2))
  fsyncSync(handle)
  closeSync(handle)
  renameSync(fresh, file)
}

function read(file: string): KeyFile {
  try {
    return KeyFile.parse(JSON.parse(readFileSync(file, 'utf8')))
  } catch {
    throw new Error(
      `The key that seals signatures cannot be read from ${file}: the file is empty, cut or damaged. Put it ` +
        'back from a copy; nothing was changed.',
    )
  }
}

/** Opens the key file, making it where there is none. @throws Error in words when it is damaged */
export function openSealer(file: string): Sealer {
  if (!existsSync(file)) write(file, { keys: [newKey()] })
  const { keys } = read(file)
  const newest = sure(keys.at(-1))
  const secret = createPrivateKey({ key: Buffer.from(newest.privateKey, 'base64'), format: 'der', type: 'pkcs8' })
  return {
    keyId: newest.id,
    publicKeys: keys.map(({ id, publicKey, since }) => ({ id, publicKey, since })),
    sign: (text) => sign(null, Buffer.from(text), secret).toString('base64'),
  }
}

/**
 * Adds a new key, with which everything is sealed from the next start on; what older ones sealed stays good. Returns
 * its id.
 */
export function rotateKey(file: string): string {
  const before = existsSync(file) ? read(file).keys : []
  const key = newKey()
  write(file, { keys: [...before, key] })
  return key.id
}
