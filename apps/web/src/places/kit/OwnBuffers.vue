<script setup lang="ts">
// Buffers of the site's own, each with its table over the temperature.
import { ownBuffer } from '@calm-loop/core/analysis'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { computed, onMounted, ref } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useWork } from '../../stores/work.ts'
import WordsField from '../../widgets/WordsField.vue'

const work = useWork()
const session = useSession()
onMounted(() => void work.loadRows())
const rows = computed(() => work.rows.filter((r) => r.table === 'buffer'))
const [name, table, source] = [ref(''), ref(''), ref('')]
const wrong = computed(() => {
  const read = table.value.trim() ? attempt(() => ownBuffer(name.value, table.value)) : undefined
  return read instanceof Refusal ? read.message : ''
})
const ready = computed(() => name.value.trim() && table.value.trim() && source.value.trim() && !wrong.value)
async function keep(): Promise<void> {
  const fills = { table: table.value.trim() }
  if (await work.addRow({ table: 'buffer', name: name.value.trim(), source: source.value.trim(), fills }))
    name.value = table.value = source.value = ''
}
</script>

<template>
  <details class="own">
    <summary>The site’s own buffers ({{ rows.length }})</summary>
    <ul>
      <li v-for="r in rows" :key="r.id">
        <b>{{ r.name }}</b> <span class="figures">{{ r.fills['table'] }}</span>
        <span class="small quiet">{{ r.source }}, by {{ r.by.name }}</span>
      </li>
    </ul>
    <form v-if="session.hasDuty('rows')" class="edit-grid" @submit.prevent="keep">
      <WordsField label="Name, as on the bottle" :value="name" @typed="name = $event" />
      <WordsField
        label="pH by temperature"
        help="°C and pH, the temperature rising: 15: 4.68; 25: 4.66"
        :value="table"
        @typed="table = $event"
      />
      <WordsField label="Where its figures come from" :value="source" @typed="source = $event" />
      <p v-if="wrong" class="bad small">{{ wrong }}</p>
      <v-btn type="submit" :disabled="!ready">Keep the buffer</v-btn>
    </form>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
  </details>
</template>

<style scoped>
.own {
  margin-top: 24px;
  border-top: 1px solid var(--hairline);
}
summary {
  min-height: 44px;
  display: list-item;
  padding: 10px 0;
  cursor: pointer;
}
</style>
