<script setup lang="ts">
// A row of the site's own, anew, from another, or in place of one: what it would move is told before it is kept.
import { OWN_ROWS, type OwnTable } from '@calm-loop/core/tables'
import { computed, ref } from 'vue'
import { useWork } from '../../stores/work.ts'
import WordsField from '../../widgets/WordsField.vue'
import RowUses from './RowUses.vue'

const props = defineProps<{
  table: OwnTable
  from: { name: string; source: string; fills: Readonly<Record<string, string>>; follows?: string }
}>()
const emit = defineEmits<{ left: [] }>()
const work = useWork()
const of = computed(() => OWN_ROWS[props.table])
const name = ref(props.from.name)
const source = ref(props.from.source)
const figures = ref<Record<string, string>>(
  Object.fromEntries(of.value.figures.map(({ key }) => [key, props.from.fills[key] ?? ''])),
)
const fills = computed(() => ({
  [of.value.choice]: 'own',
  ...Object.fromEntries(Object.entries(figures.value).map(([key, typed]) => [key, typed.trim()])),
}))
const whole = computed(
  () => name.value.trim() !== '' && source.value.trim() !== '' && Object.values(fills.value).every(Boolean),
)
const told = ref(false)
const changed = () => (told.value = false)
async function keep(): Promise<void> {
  const { follows } = props.from
  const body = { table: props.table, name: name.value.trim(), source: source.value.trim(), fills: fills.value }
  if (await work.addRow(follows === undefined ? body : { ...body, follows })) emit('left')
}
</script>

<template>
  <form class="form" :aria-label="from.follows ? `Change ${from.name}` : 'A row of one’s own'" @submit.prevent="keep">
    <WordsField label="Name" :value="name" @typed="name = $event.slice(0, 80)" />
    <WordsField
      v-for="f in of.figures"
      :key="f.key"
      :label="f.unit ? `${f.label}, with its unit (${f.unit})` : f.label"
      :value="figures[f.key] ?? ''"
      @typed="((figures[f.key] = $event), changed())"
    />
    <WordsField label="Where its figures come from" :value="source" @typed="source = $event.slice(0, 200)" />
    <RowUses v-if="from.follows && told" :name="from.name" :of="{ rowId: from.follows }" :fills="fills" />
    <p v-if="from.follows && !told" class="quiet small">
      Loops keep the figures that were filled in; look at what these would move before they are kept.
    </p>
    <div class="do">
      <v-btn variant="text" @click="emit('left')">Leave it</v-btn>
      <v-btn v-if="from.follows" :disabled="!whole" data-test="what-moves" @click="told = true"
        >What it would move</v-btn
      >
      <v-btn
        type="submit"
        color="primary"
        variant="flat"
        :loading="work.busy"
        :disabled="!whole || (!!from.follows && !told)"
        >Keep the row</v-btn
      >
    </div>
  </form>
</template>

<style scoped>
.form {
  max-width: 720px;
  border-left: 3px solid var(--action);
  padding-left: 20px;
  margin: 16px 0;
}
</style>
