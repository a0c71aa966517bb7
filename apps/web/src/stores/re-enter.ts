// What must be entered again because a choice made the device forget it, or made it mean something else.
import { workOf, type WorkOf } from '@calm-loop/contract'
import { isWanted, type Field } from '@calm-loop/core/kinds'
import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { useFolder } from './folder.ts'
import { useSession } from './session.ts'
import { useWork } from './work.ts'
import { sure } from '@calm-loop/core/sure'

export interface Outstanding {
  readonly reset: WorkOf<'re-enter'>
  readonly field: Field | undefined
  readonly fields: readonly Field[]
}

export const useReEnter = defineStore('re-enter', () => {
  const folder = useFolder()
  const work = useWork()
  const session = useSession()
  const fields = computed<readonly Field[]>(() => folder.kind?.fields ?? [])
  const find = (key: string) => fields.value.find((f) => f.key === key)
  const outstanding = computed<Outstanding[]>(() => {
    const log = folder.here.workLog
    const done = new Set(workOf(log, 're-entered').map((e) => `${e.reset} ${e.key}`))
    const resets = workOf(log, 're-enter')
    return resets
      .filter((r, i) => !resets.slice(i + 1).some((later) => later.field === r.field))
      .map((reset) => ({
        reset,
        field: find(reset.field),
        fields: reset.keys.flatMap((key) => {
          const field = find(key)
          return field && !done.has(`${reset.id} ${key}`) && isWanted(field, fields.value, folder.entries)
            ? [field]
            : []
        }),
      }))
      .filter((o) => o.fields.length)
  })
  async function changed(field: Field, from: string, to: string): Promise<void> {
    if (!session.has('technician')) return
    const label = (value: string) =>
      field.type === 'choice' ? (field.options.find((o) => o.value === value)?.label ?? value) : value
    const keys = sure(field.resets).filter((key) => find(key))
    if (keys.length) await work.add({ what: 're-enter', field: field.key, from: label(from), to: label(to), keys })
  }
  async function stands(reset: string, key: string): Promise<void> {
    await work.add({ what: 're-entered', reset, key, typed: (folder.entries[key]?.typed ?? '').slice(0, 400) })
  }
  /** Entries typed since the last pause: each has been looked at. */
  const typed = new Set<string>()
  const settle = useDebounceFn(() => {
    const keys = [...typed]
    typed.clear()
    for (const key of keys)
      for (const o of outstanding.value) if (o.fields.some((f) => f.key === key)) void stands(o.reset.id, key)
  }, 900)
  /** Typed again; it counts once there is a pause, not with every key. */
  function touched(key: string): void {
    if (!outstanding.value.some((o) => o.fields.some((f) => f.key === key))) return
    typed.add(key)
    void settle()
  }
  return { outstanding, changed, stands, touched }
})
