<script setup lang="ts">
// The entries of a stage, in their groups.
import { isWanted, type Field, type StageId } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import EntryField from './EntryField.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ stage: StageId; columns?: number; groups?: readonly string[] | undefined }>()
const folder = useFolder()
const session = useSession()
const wanted = computed(() =>
  (folder.kind?.fields ?? []).filter(
    (f) =>
      f.stage === props.stage &&
      f.type !== 'wiring' &&
      (!props.groups || props.groups.includes(f.group)) &&
      isWanted(f, sure(folder.kind).fields, folder.entries),
  ),
)
/** The same list while the same fields are wanted, so that typing in one draws nothing else anew. */
const keys = computed(() => wanted.value.map((f) => f.key).join(' '))
const groups = computed(() => {
  const shown = new Set(keys.value.split(' '))
  const fields = (folder.kind?.fields ?? []).filter((f) => f.stage === props.stage && shown.has(f.key))
  const found = new Map<string, Field[]>()
  for (const field of fields) found.set(field.group, [...(found.get(field.group) ?? []), field])
  return [...found]
})
</script>

<template>
  <fieldset class="entries" :disabled="!session.has('technician')">
    <legend class="visually-hidden">Entries</legend>
    <p v-if="!session.has('technician')" class="quiet small">Only a technician may change these.</p>
    <section v-for="[name, fields] in groups" :key="name" class="group">
      <h3>{{ name }}</h3>
      <div class="grid" :style="{ '--columns': columns ?? 2 }">
        <div
          v-for="field in fields"
          :key="field.key"
          :data-entry="field.key"
          :class="{ span: field.type === 'text' && field.key === 'controls' }"
        >
          <EntryField :field="field" />
        </div>
      </div>
    </section>
  </fieldset>
</template>

<style scoped>
.entries {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
.group {
  margin-bottom: 12px;
}
h3 {
  border-top: 1px solid var(--hairline);
  padding-top: 10px;
  margin-bottom: 6px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  gap: 4px 24px;
}
@media (max-width: 560px) {
  .grid {
    grid-template-columns: 1fr;
  }
}
</style>
