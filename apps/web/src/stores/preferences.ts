// How this person likes the page: theme and decimal mark, kept on this device.
import { formatNumber, formatQuantity, type FormatOptions } from '@calm-loop/core/quantity'
import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'

export const usePreferences = defineStore('preferences', () => {
  const theme = useLocalStorage<'light' | 'dark'>('calm-loop.theme', 'light')
  const decimalMark = useLocalStorage<'.' | ','>('calm-loop.decimal-mark', '.')
  const number = (value: number, options: FormatOptions = {}) =>
    formatNumber(value, { decimalMark: decimalMark.value, ...options })
  const quantity = (value: number, unit: string, options: FormatOptions = {}) =>
    formatQuantity(value, unit, { decimalMark: decimalMark.value, ...options })
  return { theme, decimalMark, number, quantity }
})
