// A work that begins has the window: the drawing above it folds away.
import { nextTick, onMounted, type Ref } from 'vue'

export const useInSight = (work: Ref<HTMLElement | null | undefined>): void =>
  onMounted(async () => {
    await nextTick()
    // High enough that it can stand at the top.
    work.value?.classList.add('has-the-window')
    work.value?.scrollIntoView({ block: 'start' })
  })
