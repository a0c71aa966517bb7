// Speeds of the wave in pipe walls and liners, from a table with its source.
import table from './wave-speeds.json' with { type: 'json' }

export interface WaveSpeed {
  readonly id: string
  readonly name: string
  /** The wave that a clamp-on pair uses there. */
  readonly wave: string
  /** At 20 °C. */
  readonly speed_mps: number
  readonly perC_mps: number
  /** How far the real one may lie off, ± %. */
  readonly accuracyPct: number
}
export const WAVE_SPEED_SOURCE = table.source
export const MATERIALS: readonly WaveSpeed[] = table.materials
export const LINERS: readonly WaveSpeed[] = table.liners

/** Speed at a wall temperature, m/s. */
export const waveSpeedAt = (row: WaveSpeed, temp_C: number): number => row.speed_mps + row.perC_mps * (temp_C - 20)
