<script setup lang="ts">
// The entries of a stage, in their groups.
import { isWanted, type Field, type StageId } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{ stage: StageId; columns?: number; groups?: readonly string[] | undefined }>()
const folder = useFolder()
const session = useSession()
const groups = computed(() => {
  const fields = (folder.kind?.fields ?? []).filter(
    (f) =>
      f.stage === props.stage &&
      f.type !== 'wiring' &&
      (!props.groups || props.groups.includes(f.group)) &&
      isWanted(f, folder.kind!.fields, folder.entries),
  )
  const found = new Map<string, Field[]>()
  for (const field of fields) found.set(field.group, [...(found.get(field.group) ?? []), field])
  return [...found]
})
const typed = (key: string) => folder.entries[key]?.typed ?? ''
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
          <QuantityField
            v-if="field.type === 'quantity'"
            :label="field.label"
            :quantity="field.quantity"
            :unit="field.unit"
            :help="field.help"
            :standard="field.default"
            :needed="field.required ?? false"
            :entry="folder.entries[field.key]"
            @entry="folder.set(field.key, $event)"
          />
          <ChoiceField
            v-else-if="field.type === 'choice'"
            :label="field.label"
            :options="field.options"
            :value="typed(field.key)"
            :standard="field.default"
            :help="field.help"
            :needed="field.required ?? false"
            @choose="folder.set(field.key, { typed: $event })"
          />
          <WordsField
            v-else
            :label="field.label"
            :value="typed(field.key)"
            :help="field.help"
            :needed="field.required ?? false"
            @typed="folder.set(field.key, { typed: $event })"
          />
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
