// The narrowest band about a straight line that holds all points: what linearity is, and the best that a straight-line
// trim could leave.

/**
 * Half the height, along y, of the narrowest band between two parallel straight lines that holds all points.
 * The height as a function of the lines' slope is convex and has its corners at the slopes of the convex hull's edges.
 */
export function narrowestBandHalfWidth(points: readonly (readonly [number, number])[]): number {
  if (points.length < 3) return 0
  const sorted = [...points].sort((p, q) => p[0] - q[0])
  const hull = (sign: 1 | -1): (readonly [number, number])[] => {
    const chain: (readonly [number, number])[] = []
    for (const p of sorted) {
      while (chain.length >= 2) {
        const [a, b] = [chain[chain.length - 2]!, chain[chain.length - 1]!]
        const turn = (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])
        if (sign * turn <= 0) chain.pop()
        else break
      }
      chain.push(p)
    }
    return chain
  }
  let narrowest = Number.POSITIVE_INFINITY
  for (const chain of [hull(1), hull(-1)])
    for (let i = 1; i < chain.length; i++) {
      const slope = (chain[i]![1] - chain[i - 1]![1]) / (chain[i]![0] - chain[i - 1]![0])
      let least = Number.POSITIVE_INFINITY
      let most = Number.NEGATIVE_INFINITY
      for (const [x, y] of sorted) {
        const rest = y - slope * x
        if (rest < least) least = rest
        if (rest > most) most = rest
      }
      narrowest = Math.min(narrowest, most - least)
    }
  return narrowest / 2
}
