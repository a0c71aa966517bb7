// The kinds of point as lists name them: asked for once, so that a list need not load what the kinds compute.
import type { KindRow } from '@calm-loop/contract'
import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { call } from '../api/client.ts'

export const useKinds = defineStore('kinds', () => {
  const list = shallowRef<readonly KindRow[]>([])
  let asked: Promise<void> | undefined
  /** Asks for them once; a failure is asked again next time. */
  function load(): Promise<void> {
    asked ??= call('kinds')
      .then((kinds) => void (list.value = kinds))
      .catch(() => void (asked = undefined))
    return asked
  }
  const of = (id: string): KindRow | undefined => list.value.find((k) => k.id === id)
  return { list, load, of }
})
