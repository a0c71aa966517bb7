// The profile across a full pipe: how much slower the mean of the area is than what a beam across the diameter sees.

const LAMINAR = 2300
const TURBULENT = 4000
const LAMINAR_FACTOR = 0.75

const powerLaw = (reynolds: number): number => {
  const n = 1.66 * Math.log10(reynolds)
  return (2 * n) / (2 * n + 1)
}

/**
 * Area-mean velocity over path-mean velocity on a diametric path.
 * @param reynolds on mean velocity and inside diameter, 0 or more
 * @returns 0.75 (parabola) up to 2300; 2n/(2n + 1) with n = 1.66·log₁₀ Re (power law) from 4000; between, linear in
 * log₁₀ Re
 * Source: velocity profiles of laminar and fully turbulent pipe flow, integrated over area and diameter
 */
export function profileFactor(reynolds: number): number {
  if (reynolds <= LAMINAR) return LAMINAR_FACTOR
  if (reynolds >= TURBULENT) return powerLaw(reynolds)
  const share = Math.log10(reynolds / LAMINAR) / Math.log10(TURBULENT / LAMINAR)
  return LAMINAR_FACTOR + share * (powerLaw(TURBULENT) - LAMINAR_FACTOR)
}
