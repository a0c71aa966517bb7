<script setup lang="ts">
// What taking readings has, of a current as of a discrete point: one point fills the page; why it is read again; the
// key that takes it; after the last the verdict. Slots hold what is asked at a point and what stands beside it.
import type { Check } from '@calm-loop/contract'
import { onKeyStroke } from '@vueuse/core'
import { useTemplateRef } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { useInSight } from '../../widgets/useInSight.ts'
import WordsField from '../../widgets/WordsField.vue'

defineProps<{
  check: Check
  /** Index of the point at hand; −1 when all are read. */
  at: number
  /** Where the point lies, and what of the stand-in moves. */
  where?: string | undefined
  moving: string
  /** Why a word is wanted before it is taken; empty where none is. */
  asks: string
  help?: string
  says: string
  pass: boolean | undefined
}>()
const reason = defineModel<string>('reason', { required: true })
const emit = defineEmits<{ take: []; bring: [] }>()
const folder = useFolder()
const live = useLive()

const work = useTemplateRef('work')
useInSight(work)
/** Of what has the key for itself: an entry, something to press, a list or a sheet that is open over the page. */
const HAS_ENTER = 'input, textarea, select, button, a, summary, [role=option], [role=menuitem], .v-overlay *'
onKeyStroke('Enter', (event) => {
  // Held down it would take the next points with what still stands at this one.
  if (
    event.repeat ||
    event.defaultPrevented ||
    document.querySelector('.v-dialog.v-overlay--active, .v-menu.v-overlay--active')
  )
    return
  if (!(event.target as HTMLElement).matches(HAS_ENTER)) emit('take')
})
/** No figure begins with this letter: in an entry that is still empty it is the key. */
const isEmptyFigure = (e: HTMLElement) => e instanceof HTMLInputElement && !e.value && !!e.closest('[data-entry]')
onKeyStroke(['b', 'B'], (event) => {
  const at = event.target as HTMLElement
  if (at.matches('input, textarea') && !(live.connected && isEmptyFigure(at))) return
  event.preventDefault()
  emit('bring')
})
</script>

<template>
  <section ref="work" class="taking" aria-label="Take readings">
    <div>
      <template v-if="at >= 0">
        <p class="quiet">
          Point {{ at + 1 }} of {{ check.points.length }}, {{ check.phase === 'as-found' ? 'as found' : 'as left'
          }}{{ where ? `, ${where}` : ''
          }}<template v-if="live.connected"
            >; {{ folder.practising ? 'simulated' : 'its own value live over the line'
            }}{{ live.reading?.moving ? `, ${moving}` : '' }}</template
          >
        </p>
        <h2 class="point" data-test="point"><slot name="point" /></h2>
        <slot />
        <div class="do">
          <p v-if="says" class="says" role="alert">{{ says }}</p>
          <WordsField
            v-if="asks"
            :label="asks"
            :value="reason"
            needed
            :help="help"
            @typed="reason = $event"
            @enter="emit('take')"
          />
          <v-btn class="take" color="primary" variant="flat" block size="x-large" data-test="take" @click="emit('take')"
            >Take reading</v-btn
          >
        </div>
        <slot name="also" />
      </template>
      <template v-else>
        <h2>All {{ check.points.length }} points are read</h2>
        <p v-if="pass !== undefined" class="verdict" :class="{ fail: !pass }" data-test="verdict">
          <slot name="verdict" />
        </p>
        <v-btn color="primary" variant="flat" size="large" :to="`/loops/${folder.view!.loop.id}/hand-over`"
          >Go to hand over</v-btn
        >
      </template>
    </div>
    <div class="beside"><slot name="beside" /></div>
  </section>
</template>

<style scoped>
.taking {
  display: grid;
  grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr);
  gap: 40px;
}
.point {
  font-size: 28px;
}
.says {
  color: var(--look);
  font-weight: 600;
  margin: 0 0 4px;
}
.do {
  position: sticky;
  bottom: 0;
  z-index: 2;
  padding: 4px 0 12px;
  background: var(--ground);
}
.take {
  min-height: 64px !important;
  font-size: 20px !important;
}
.verdict {
  font-size: 20px;
  color: var(--action);
}
.verdict.fail {
  color: var(--stop);
}
@media (max-width: 1000px) {
  /* Above the bar of places. */
  .do {
    bottom: 64px;
  }
}
@media (max-width: 740px) {
  .taking {
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
  }
}
</style>
