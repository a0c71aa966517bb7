// A thermal meter through a valve: how far it must go in, and how its temperature difference falls with the flow.

/** What lies between the outside of the pipe and the face that the stem is measured from, mm each. */
export interface InsertionParts {
  readonly od_mm: number
  readonly wall_mm: number
  /** Nipple or branch, from the pipe’s outside to the valve. */
  readonly branch_mm: number
  readonly valve_mm: number
  /** Packing gland and adapters, from the valve to the face. */
  readonly fitting_mm: number
  /** From the middle of the thermometers to the stem’s end. */
  readonly tip_mm: number
}
export interface Insertion {
  /** From the face to the stem’s end with the thermometers on the centre line. */
  readonly insert_mm: number
  /** From the face to the stem’s end when it has just cleared the valve, towards the outside. */
  readonly clear_mm: number
  /** How far it must be drawn back to clear the valve. */
  readonly travel_mm: number
}

/** Depths measured along the stem from the packing face. Source: geometry of the mounting */
export function insertionDepth(p: InsertionParts): Insertion {
  const insert_mm = p.fitting_mm + p.valve_mm + p.branch_mm + p.od_mm / 2 + p.tip_mm
  return { insert_mm, clear_mm: p.fitting_mm, travel_mm: insert_mm - p.fitting_mm }
}

/** The heated thermometer’s law: temperature differences at no flow and at a known flow. */
export interface ThermalLaw {
  readonly dtZero_K: number
  readonly dtFull_K: number
  /** Mass flow of `dtFull_K`, in any unit; results are in the same. */
  readonly fullFlow: number
}

/**
 * Temperature difference at a mass flow at constant power; falls as the root of the flow rises.
 * Source: King’s law with exponent ½, from two points of the meter’s certificate
 */
export function thermalDifference({ dtZero_K, dtFull_K, fullFlow }: ThermalLaw, flow: number): number {
  const k = (dtZero_K / dtFull_K - 1) / Math.sqrt(fullFlow)
  return dtZero_K / (1 + k * Math.sqrt(Math.max(0, flow)))
}

/** Mass flow from the temperature difference; 0 where it is not below that at no flow. */
export function thermalFlow({ dtZero_K, dtFull_K, fullFlow }: ThermalLaw, dt_K: number): number {
  const k = (dtZero_K / dtFull_K - 1) / Math.sqrt(fullFlow)
  return dt_K >= dtZero_K ? 0 : ((dtZero_K / dt_K - 1) / k) ** 2
}
