// The working drawer: which figure or knot's working is shown. It is looked up anew at each change, so that it follows
// the typing.
import type { Working } from '@calm-loop/core/working'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useFolder } from './folder.ts'
import { useThread } from './thread.ts'

export const useWorking = defineStore('working', () => {
  const folder = useFolder()
  const thread = useThread()
  const about = ref<{ figure: string } | { knot: string }>()

  /** A knot's working is that of the stage through which its value came: from the left, or back from the right. */
  function ofKnot(id: string): Working | undefined {
    const now = thread.thread
    if (!now) return undefined
    const at = now.knots.findIndex((k) => k.id === id)
    const from = Math.max(1, at)
    const [stage, before] = [now.stages[from - 1], thread.expected[from - 1]]
    return stage?.ready && before?.known ? stage.working?.(before.value) : undefined
  }
  const shown = computed<Working | undefined>(() => {
    const what = about.value
    if (!what) return undefined
    return 'knot' in what ? ofKnot(what.knot) : folder.study?.figures.find((f) => f.id === what.figure)?.working?.()
  })
  const show = (what: { figure: string } | { knot: string }) => (about.value = what)
  const hide = () => (about.value = undefined)
  return { about, shown, show, hide }
})
