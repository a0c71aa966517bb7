// Passwords are kept as argon2id hashes only.
import { hash, verify } from '@node-rs/argon2'

/** Memory, passes and lanes after the OWASP advice for argon2id. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }

export const hashPassword = (password: string): Promise<string> => hash(password, COST)

/**
 * True when the password is right. A missing hash takes as long as a wrong password, so that names cannot be guessed
 * by time.
 */
export async function passwordMatches(stored: string | null | undefined, password: string): Promise<boolean> {
  if (!stored) {
    await hash(password, COST)
    return false
  }
  return verify(stored, password)
}
