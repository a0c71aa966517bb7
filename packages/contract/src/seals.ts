// Seals: what vouches for a signature, and how it stands when it is read.
import { z } from 'zod'
import { Author, filledLine, Id, Instant, line } from './primitives.ts'

export const Digest = z.string().regex(/^[0-9a-f]{64}$/)
export const KeyId = z.string().regex(/^[0-9a-f]{16}$/)

/** Everything that is sealed, and the Ed25519 signature over the canonical form of all the rest. */
export const Seal = z
  .strictObject({
    format: z.literal(1),
    /** Key that sealed it: the first 16 digits of the SHA-256 of the public key. */
    key: KeyId,
    /** Place in the chain of the installation that sealed it, and the hash of the seal before. */
    seq: z.number().int().positive(),
    previous: Digest.nullable(),
    loop: Id,
    /** What was signed: a check, or the run of a sheet. */
    check: Id.optional(),
    run: Id.optional(),
    signature: Id,
    role: z.enum(['performed', 'reviewed', 'accepted']),
    by: Author,
    at: Instant,
    statement: line(400),
    /** SHA-256 of the canonical form of what was shown. */
    digest: Digest,
    /** Which form of the content the digest was made from. */
    content: z.number().int().positive(),
    /** The verdict as it was shown; null without readings. */
    verdict: z.strictObject({ pass: z.boolean(), errorPct: z.number().nullable() }).nullable(),
    /** When it was sealed: later than `at` for what was signed before there were seals. */
    sealedAt: Instant,
    value: z.string().max(120),
  })
  .refine((s) => (s.check === undefined) !== (s.run === undefined), 'seals a check or a run')
export type Seal = z.infer<typeof Seal>

/**
 * How a signature stands whenever it is read:
 * `sealed` by this installation and unchanged, `verified` against a key of another one that is trusted here,
 * `claimed` by an import that nothing proves, `broken` when what was signed is not what is here.
 */
export const SealStanding = z.enum(['sealed', 'verified', 'claimed', 'broken'])
export type SealStanding = z.infer<typeof SealStanding>

/** What is told of a signature besides itself, whenever it is read. */
export const sealMarks = {
  seal: Seal.optional(),
  /** How it stands, found out at each reading; never in a bundle. */
  standing: SealStanding.optional(),
  /** Whose key it was verified against. */
  keyName: z.string().optional(),
}

export const Signature = z.strictObject({
  id: Id,
  /** Accepted: a reviewer of this installation takes over a check that came from elsewhere. */
  role: z.enum(['performed', 'reviewed', 'accepted']),
  by: Author,
  at: Instant,
  statement: line(400),
  /** SHA-256 of the canonical form of what was signed. */
  digest: z.string().regex(/^[0-9a-f]{64}$/),
  ...sealMarks,
})
export type Signature = z.infer<typeof Signature>

export const SealKey = z.strictObject({
  id: KeyId,
  name: filledLine(120),
  /** DER, SPKI, base64. */
  publicKey: z.string().max(120),
  own: z.boolean(),
  trusted: z.boolean(),
  since: Instant,
})
export type SealKey = z.infer<typeof SealKey>
export const TrustKey = SealKey.pick({ name: true, publicKey: true, trusted: true })
export type TrustKey = z.infer<typeof TrustKey>
