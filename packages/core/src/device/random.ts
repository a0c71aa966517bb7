// Seeded randomness as plain state, so that every simulation replays.

/** State of the generator: one 32-bit integer. */
export type RandomState = number

/** Next uniform number in [0, 1) and the state after it. Source: the public-domain mulberry32 generator. */
export function uniform(state: RandomState): [number, RandomState] {
  const next = (state + 0x6d2b79f5) | 0
  let t = Math.imul(next ^ (next >>> 15), 1 | next)
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
  return [((t ^ (t >>> 14)) >>> 0) / 4294967296, next]
}

/** Next standard normal number (Box–Muller) and the state after it. */
export function normal(state: RandomState): [number, RandomState] {
  const [u, s1] = uniform(state)
  const [v, s2] = uniform(s1)
  return [Math.sqrt(-2 * Math.log(1 - u)) * Math.cos(2 * Math.PI * v), s2]
}

/** A seed from any text (FNV-1a). */
export function seedFrom(text: string): RandomState {
  let hash = 0x811c9dc5
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  return hash | 0
}
