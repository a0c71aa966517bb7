<script setup lang="ts">
// Which buffers are at hand: of the sets, of the site's own tables, or named as on the bottle.
import { BUFFER_SETS, bufferName, bufferPh, buffersOf, ownBuffersOf } from '@calm-loop/core/analysis'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { computed, onMounted, ref } from 'vue'
import { useWork } from '../stores/work.ts'
import PickNames from '../widgets/PickNames.vue'
import WordsField from '../widgets/WordsField.vue'

const buffers = defineModel<readonly string[]>({ required: true })
const SETS = BUFFER_SETS.map((id) => ({
  id,
  name: id === 'nist' ? 'NIST set' : 'technical set',
  buffers: buffersOf(id),
}))
const known = SETS.flatMap((s) => s.buffers)
const work = useWork()
onMounted(() => void work.loadRows())
/** Buffers of the site's own tables. */
const kept = computed(() => ownBuffersOf(work.rows).map((b) => b.name))
const owned = computed(() => [
  ...kept.value,
  ...buffers.value.filter((b) => !known.includes(b) && !kept.value.includes(b)),
])
const typed = ref('')
/** A buffer as it is typed: one of a set where a set has it, else the site's own, its pH as on the bottle. */
function addOwn(): void {
  const name = bufferName(typed.value)
  if (attempt(() => bufferPh(name, 25)) instanceof Refusal || buffers.value.includes(name)) return
  toggle(name)
  typed.value = ''
}
const toggle = (b: string) =>
  (buffers.value = buffers.value.includes(b)
    ? buffers.value.filter((x) => x !== b)
    : [...buffers.value, b].sort((x, y) => Number(x) - Number(y) || x.localeCompare(y)))
</script>

<template>
  <p class="small quiet">
    One to five buffers at hand, at least half a pH apart, on both sides of what is measured. One alone gives the offset
    and keeps the slope. They may come in any order: each is known by its signal.
  </p>
  <PickNames
    v-for="set in SETS"
    :key="set.id"
    :label="set.name"
    :names="set.buffers"
    :chosen="buffers"
    :words="(b) => `pH ${b}`"
    @toggle="toggle"
  />
  <PickNames
    label="own buffers"
    :names="owned"
    :chosen="buffers"
    :words="(b) => (kept.includes(b) ? b : `pH ${b}`)"
    @toggle="toggle"
  >
    <WordsField label="Own buffer, its pH at its temperature" :value="typed" @typed="typed = $event" @enter="addOwn" />
    <v-btn type="button" :disabled="!typed.trim()" @click="addOwn">Add</v-btn>
  </PickNames>
</template>
