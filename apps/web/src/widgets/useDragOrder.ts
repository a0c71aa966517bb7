// A list that is put in order by dragging its grips, or by the arrow keys on one.
import type Sortable from 'sortablejs'
import { nextTick, onUnmounted, watch, type Ref } from 'vue'

/**
 * @param list its rows are its children, each with an element `.grip`
 * @param length how many rows it has
 * @param put told which row goes where; it draws the list anew
 */
export function useDragOrder(
  list: Ref<HTMLElement | null | undefined>,
  length: () => number,
  put: (from: number, to: number) => void,
) {
  let sortable: Sortable | undefined
  const end = () => {
    sortable?.destroy()
    sortable = undefined
  }
  watch(list, async (element) => {
    end()
    if (!element) return
    const { default: make } = await import('sortablejs')
    if (list.value !== element) return
    sortable = make.create(element, {
      handle: '.grip',
      animation: 120,
      onEnd({ oldIndex, newIndex, item, from }) {
        if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
        // The list is drawn by its order: what was dragged goes back, and the order is put.
        from.insertBefore(item, from.children[oldIndex + (oldIndex > newIndex ? 1 : 0)] ?? null)
        put(oldIndex, newIndex)
      },
    })
  })
  onUnmounted(end)
  /** For the keys of a grip. */
  async function byKey(event: KeyboardEvent, from: number): Promise<void> {
    const to = from + (event.key === 'ArrowUp' ? -1 : event.key === 'ArrowDown' ? 1 : 0)
    if (to === from) return
    event.preventDefault()
    if (to < 0 || to >= length()) return
    put(from, to)
    await nextTick()
    list.value?.children[to]?.querySelector<HTMLElement>('.grip')?.focus()
  }
  return { byKey }
}

/** The same with one of them elsewhere. */
export function moved<T>(all: readonly T[], from: number, to: number): T[] {
  const left = [...all]
  left.splice(to, 0, ...left.splice(from, 1))
  return left
}
