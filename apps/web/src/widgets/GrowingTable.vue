<script setup lang="ts" generic="T extends object">
// A list that can grow: laid out whole while it is short, in a window of its own that draws only what is in view once
// it is long. The slot `row` is one row, which is measured where `at` is its ref.
import { useWindowSize } from '@vueuse/core'
import { computed, ref, shallowRef, watchEffect, type VNodeRef } from 'vue'

const props = withDefaults(
  defineProps<{
    columns: readonly { readonly title: string; readonly class?: string; readonly hidden?: boolean }[]
    items: readonly T[]
    /** Of one row; what stands still while others come and go. */
    keyOf(item: T): string | number
    /** Where the table for many rows comes from. */
    load?: () => Promise<typeof import('./virtualTable.ts')>
  }>(),
  { load: () => import('./virtualTable.ts') },
)
/** Scrolled near the end of what there is. */
const emit = defineEmits<{ end: [] }>()
defineSlots<{ row(props: { item: T; at?: VNodeRef }): unknown }>()

/** Rows that are quickly laid out whole. */
const SHORT = 40
/** Of the window's height, for what stands above a list. */
const ABOVE_px = 250
/** So that more rows than are short never fit, however tall the window: only what can be scrolled asks for more. */
const TALLEST_px = 1200
const NEAR_END_px = 600
/** Asked for only once there are many rows; until it is there, the first of them are shown. */
const VirtualTable = shallowRef<(typeof import('./virtualTable.ts'))['default']>()
/** It could not be had, out of coverage say: then every row is laid out, slowly rather than not at all. */
const missing = ref(false)
watchEffect(() => {
  if (props.items.length > SHORT && !VirtualTable.value)
    props.load().then(
      (m) => (VirtualTable.value = m.default),
      () => (missing.value = true),
    )
})
const shown = computed(() => (missing.value ? props.items : props.items.slice(0, SHORT)))
const { height: window_px } = useWindowSize()
const height = computed(() => Math.min(TALLEST_px, Math.max(320, window_px.value - ABOVE_px)))
const headers = computed(() =>
  props.columns.map(({ title, class: of, hidden }, i) => ({
    title,
    key: `column-${i}`,
    sortable: false,
    headerProps: { class: [of, hidden ? 'unsaid' : ''] },
  })),
)
function scrolled({ target }: Event): void {
  if (!(target instanceof HTMLElement)) return
  if (target.scrollHeight - target.scrollTop - target.clientHeight < NEAR_END_px) emit('end')
}
</script>

<template>
  <component
    :is="VirtualTable"
    v-if="VirtualTable && items.length > SHORT"
    class="long"
    :headers="headers"
    :items="[...items]"
    :item-value="keyOf"
    :height="height"
    fixed-header
    hide-default-footer
    @scroll.capture="scrolled"
  >
    <template #item="{ item, itemRef }"><slot name="row" :item="item as T" :at="itemRef" /></template>
  </component>
  <v-table v-else>
    <thead>
      <tr>
        <th v-for="c in columns" :key="c.title" :class="c.class">
          <span :class="{ 'visually-hidden': c.hidden }">{{ c.title }}</span>
        </th>
      </tr>
    </thead>
    <tbody>
      <template v-for="item in shown" :key="keyOf(item)"><slot name="row" :item="item" /></template>
    </tbody>
  </v-table>
</template>

<style scoped>
.long :deep(th) {
  background: var(--ground) !important;
}
.long :deep(.unsaid > *) {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
</style>
