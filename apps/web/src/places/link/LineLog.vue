<script setup lang="ts">
// What was said over the line, bytes and meaning: the newest first, by words that are looked for, kept as a file.
import type { LineLogEntry } from '@calm-loop/contract'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { call } from '../../api/client.ts'
import { keepAs } from '../../widgets/files.ts'
import GrowingTable from '../../widgets/GrowingTable.vue'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{ portId: string }>()
const KEPT = 4000
const entries = shallowRef<LineLogEntry[]>([])
const looked = ref('')
const says = ref('')
let asking = false
async function look(): Promise<void> {
  if (asking) return
  asking = true
  try {
    const after = entries.value[0]?.seq ?? 0
    const more = await call('lineLog', { params: { portId: props.portId }, query: { after } })
    if (more.length) entries.value = [...more.reverse(), ...entries.value].slice(0, KEPT)
    says.value = ''
  } catch (error) {
    says.value = (error as Error).message
  }
  asking = false
}
watch(
  () => props.portId,
  () => {
    entries.value = []
    void look()
  },
  { immediate: true },
)
useIntervalFn(look, 1000)
const found = computed(() => {
  const words = looked.value.trim().toLowerCase()
  return words ? entries.value.filter((e) => `${e.hex} ${e.says}`.toLowerCase().includes(words)) : entries.value
})
const WAYS = { out: 'sent', in: 'came', note: '' }
const time = (ms: number) => new Date(ms).toISOString().slice(11, 23)
const columns = ['Time (UTC)', 'Way', 'Bytes', 'Meaning'].map((title) => ({ title }))
function keep(): void {
  const lines = found.value.map((e) => [new Date(e.at_ms).toISOString(), WAYS[e.way], e.hex, e.says].join('\t'))
  keepAs('line log.txt', lines.reverse().join('\n'), 'text/plain')
}
</script>

<template>
  <div class="head">
    <WordsField label="Look for bytes or words" :value="looked" @typed="looked = $event" />
    <span class="quiet small">{{ found.length }} of {{ entries.length }} kept</span>
    <v-btn variant="text" :disabled="!found.length" @click="keep">Keep as file</v-btn>
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <p v-if="!entries.length" class="quiet">Nothing has been said over this line yet.</p>
  <GrowingTable v-else :columns="columns" :items="found" :key-of="(e) => e.seq">
    <template #row="{ item, at }">
      <tr :ref="at">
        <td class="figures small">{{ time(item.at_ms) }}</td>
        <td class="small">{{ WAYS[item.way] }}</td>
        <td class="figures small bytes">{{ item.hex }}</td>
        <td class="small says-what">{{ item.says }}</td>
      </tr>
    </template>
  </GrowingTable>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.bytes,
.says-what {
  overflow-wrap: anywhere;
  min-width: 160px;
}
</style>
