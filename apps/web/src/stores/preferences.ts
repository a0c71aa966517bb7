// How this person likes the page: theme and decimal mark, kept on this device. And the units that the open loop is
// spoken of in.
import {
  formatNumber,
  formatQuantity,
  speaking,
  spokenUnit,
  type FormatOptions,
  type Spoken,
} from '@calm-loop/core/quantity'
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'

/** Only what is chosen is kept on the device. */
const ASKED = { writeDefaults: false }

export const usePreferences = defineStore('preferences', () => {
  const theme = useLocalStorage<'light' | 'dark'>('calm-loop.theme', 'light', ASKED)
  /** As this person has chosen it here; until then, that of the site. */
  const ownMark = useLocalStorage<'.' | ',' | ''>('calm-loop.decimal-mark', '', ASKED)
  const siteMark = ref<'.' | ','>('.')
  const decimalMark = computed({ get: () => ownMark.value || siteMark.value, set: (mark) => (ownMark.value = mark) })
  /** Of the open loop; undefined for those that figures are computed in. */
  const spoken = shallowRef<Spoken>()
  const number = (value: number, options: FormatOptions = {}) =>
    formatNumber(value, { decimalMark: decimalMark.value, ...options })
  const quantity = (value: number, unit: string, options: FormatOptions = {}) =>
    speaking(spoken.value, () => formatQuantity(value, unit, { decimalMark: decimalMark.value, ...options }))
  /** Words of the core that are made on the page, in the units spoken. */
  const speak = <T>(work: () => T): T => speaking(spoken.value, work)
  /** The unit that figures in `unit` are shown in. */
  const unitFor = (unit: string) => spokenUnit(unit, spoken.value)
  return { theme, decimalMark, siteMark, spoken, number, quantity, speak, unitFor }
})
