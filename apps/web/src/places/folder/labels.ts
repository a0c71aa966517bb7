// Labels beside a drawing that must not collide.

/** Heights for labels as near to the wanted ones as `apart` allows, in the order given. */
export function spreadLabels(wanted: readonly number[], apart: number): number[] {
  const order = wanted.map((y, i) => ({ y, i })).sort((a, b) => a.y - b.y)
  const total = order.reduce((sum, o) => sum + o.y, 0)
  const placed = order.map((o, k) => (k === 0 ? o.y : 0))
  for (let k = 1; k < order.length; k++) placed[k] = Math.max(order[k]!.y, placed[k - 1]! + apart)
  // Pushed down only, they would hang low: all of them are moved back by half of what they were pushed.
  const pushed = placed.reduce((sum, y) => sum + y, 0) - total
  const back = order.length ? pushed / order.length : 0
  const at: number[] = []
  order.forEach((o, k) => (at[o.i] = placed[k]! - back))
  return at
}
