// Keeps what a device has shown of late, so that it can be judged how steady it is.
import type { TrendSample } from '@calm-loop/contract'
import type { Sample } from '@calm-loop/core/check'
import type { Driver, Witness } from './driver.ts'
import { sure } from '@calm-loop/core/sure'

const WITNESSES: readonly Witness[] = ['digital', 'current', 'electrode', 'temperature']
const KEPT_s = 70
const CUT_s = 10

export interface Recorder {
  /** The newest samples of a witness, in per cent of span (an electrode in mV and °C), in time order. */
  samples(witness: Witness): readonly Sample[]
}

/** Listens to a driver for as long as that lives. */
export function recorderOf(driver: Driver): Recorder {
  const kept: Record<Witness, Sample[]> = { digital: [], current: [], electrode: [], temperature: [] }
  const forget = () => WITNESSES.forEach((w) => kept[w].splice(0))
  driver.subscribe({
    changed: forget,
    trend(sample: TrendSample) {
      for (const witness of WITNESSES) {
        const value = sample[witness]
        if (value === null || value === undefined) continue
        const list = kept[witness]
        list.push({ t_s: sample.t_s, value })
        if (sure(list[0]).t_s < sample.t_s - KEPT_s - CUT_s) {
          const from = list.findIndex((s) => s.t_s >= sample.t_s - KEPT_s)
          list.splice(0, from)
        }
      }
    },
  })
  return { samples: (witness) => kept[witness] }
}
