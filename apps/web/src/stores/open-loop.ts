// What the frame must know of the loop that is open, without what the loop's own pages compute: how its entries stand,
// and its family.
import type { Family } from '@calm-loop/core/kinds'
import { defineStore } from 'pinia'
import { ref } from 'vue'

export type SaveStatus = 'saved' | 'typing' | 'saving' | 'offline' | 'refused'

export const useOpenLoop = defineStore('open-loop', () => {
  const status = ref<SaveStatus>('saved')
  const savedAt = ref<string>()
  /** Undefined while no loop is open. */
  const family = ref<Family>()
  const id = ref<string>()
  return { id, status, savedAt, family }
})
