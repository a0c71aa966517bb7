<script setup lang="ts">
// Which of a list are the case, each ticked, or that none is; what one means opens with it.
import type { StepMark } from '@calm-loop/core/sheet'
import { computed } from 'vue'
import GradeMark from '../widgets/GradeMark.vue'

const props = defineProps<{ marks: readonly StepMark[] }>()
const marked = defineModel<string[] | undefined>({ required: true })
const GROUPS = [
  { grade: 'stop', title: 'Calls for action' },
  { grade: 'look', title: 'Spoils accuracy, or the output' },
  { grade: 'note', title: 'Worth noting' },
] as const
const groups = computed(() =>
  GROUPS.map((g) => ({ ...g, marks: props.marks.filter((m) => m.grade === g.grade) })).filter((g) => g.marks.length),
)
const has = (id: string) => marked.value?.includes(id) ?? false
function tick(id: string, on: boolean): void {
  const others = (marked.value ?? []).filter((m) => m !== id)
  const now = on ? [...others, id] : others
  marked.value = now.length ? now : undefined
}
const none = computed(() => marked.value?.length === 0)
</script>

<template>
  <div class="marks">
    <label class="one none">
      <input
        type="checkbox"
        :checked="none"
        data-test="mark-none"
        @change="marked = ($event.target as HTMLInputElement).checked ? [] : undefined"
      />
      <b>None is active</b>
    </label>
    <fieldset v-for="g in groups" :key="g.grade">
      <legend><GradeMark :grade="g.grade" wordless /> {{ g.title }}</legend>
      <ul>
        <li v-for="m in g.marks" :key="m.id">
          <label class="one">
            <input
              type="checkbox"
              :checked="has(m.id)"
              :data-mark="m.id"
              @change="tick(m.id, ($event.target as HTMLInputElement).checked)"
            />
            {{ m.name }}
          </label>
          <p v-if="has(m.id)" class="means small">
            {{ m.means }} <b>{{ m.act }}</b>
          </p>
        </li>
      </ul>
    </fieldset>
  </div>
</template>

<style scoped>
.marks {
  flex-basis: 100%;
}
fieldset {
  border: 0;
  border-top: 1px solid var(--hairline);
  padding: 4px 0 8px;
}
legend {
  padding: 0 8px 0 0;
  color: var(--second);
  font-size: 14px;
}
legend :deep(.mark) {
  vertical-align: middle;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(340px, 100%), 1fr));
  gap: 0 24px;
}
.one {
  display: flex;
  align-items: center;
  gap: 12px;
  min-height: 44px;
  cursor: pointer;
}
input {
  width: 20px;
  height: 20px;
  flex: none;
  accent-color: var(--action);
}
.means {
  margin: 0 0 8px 32px;
  max-width: 60ch;
}
</style>
