<script setup lang="ts">
// The run sheet: the stages in the order of work, each with what is done, missing or wrong.
import { sure } from '@calm-loop/core/sure'
import type { StageId } from '@calm-loop/core/kinds'
import { useRouter } from 'vue-router'
import { useFolder } from '../../stores/folder.ts'
import { useRunLines } from './useRunLines.ts'

const props = defineProps<{ stage: StageId }>()
const folder = useFolder()
const router = useRouter()
const lines = useRunLines()
function move(by: number): void {
  const index = lines.value.findIndex((s) => s.id === props.stage)
  const next = lines.value[index + by]
  if (!next) return
  void router.push(`/loops/${sure(folder.view).loop.id}/${next.id}`)
  requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-stage="${next.id}"]`)?.focus())
}
</script>

<template>
  <nav aria-label="Run sheet" class="sheet">
    <router-link
      v-for="line in lines"
      :key="line.id"
      :to="`/loops/${folder.view!.loop.id}/${line.id}`"
      class="line"
      :class="{ here: line.id === stage }"
      :aria-current="line.id === stage ? 'step' : undefined"
      :data-stage="line.id"
      @keydown.down.prevent="move(1)"
      @keydown.up.prevent="move(-1)"
    >
      <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true" :class="line.mark">
        <path v-if="line.mark === 'done'" d="M5 11.5l4 4L17 6.5" />
        <template v-else-if="line.mark === 'stop'">
          <rect x="3" y="3" width="16" height="16" class="fill" />
          <rect x="6" y="9.8" width="10" height="2.6" class="bar" />
        </template>
        <path v-else-if="line.mark === 'look'" d="M4 18L12 3V18Z" class="fill" />
        <circle v-else cx="11" cy="11" r="5.5" />
      </svg>
      <span class="name">{{ line.name }}</span>
      <span class="words">{{ line.words }}</span>
    </router-link>
  </nav>
</template>

<style scoped>
.sheet {
  position: sticky;
  top: 148px;
  align-self: start;
}
.line {
  display: grid;
  grid-template-columns: 30px 1fr;
  align-items: center;
  column-gap: 6px;
  min-height: 56px;
  text-decoration: none;
  color: var(--second);
  border-bottom: 1px solid var(--hairline);
  padding: 4px 0;
}
.line svg {
  grid-row: span 2;
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
}
.name {
  line-height: 1.2;
}
.words {
  font-size: 14px;
  line-height: 1.2;
}
.here {
  color: var(--ink);
  border-bottom: 2px solid var(--action);
}
.here .name {
  font-weight: 650;
}
.done {
  color: var(--action);
}
.stop,
.look {
  stroke: none !important;
}
.stop .fill {
  fill: var(--stop);
}
.look .fill {
  fill: var(--look);
}
.bar {
  fill: var(--sheet);
}
@media (max-width: 1000px) {
  .sheet {
    position: static;
    display: grid;
    grid-auto-flow: column;
    grid-auto-columns: minmax(100px, 1fr);
    overflow-x: auto;
  }
  .line {
    grid-template-columns: 24px 1fr;
    min-width: 92px;
  }
}
</style>
