<script setup lang="ts">
// The strapping table of a vessel, from a CSV file: what is wrong is said by line, and what stood before stays.
import {
  MOST_ROWS,
  readStrapping,
  strappingOf,
  strappingText,
  strappingWords,
  type LineError,
} from '@calm-loop/core/level'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import type { Field } from '@calm-loop/core/kinds'
import type { Entry } from '@calm-loop/core/quantity'
import Papa from 'papaparse'
import { computed, ref } from 'vue'
import PickFile from '../widgets/PickFile.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ field: Field; typed: string }>()
const emit = defineEmits<{ set: [Entry] }>()
/** Larger files are no strapping tables. */
const MOST_BYTES = 2_000_000
const SHOWN = 8

const errors = ref<readonly LineError[]>([])
const said = ref('')
async function take(file: File): Promise<void> {
  errors.value = []
  said.value = ''
  if (file.size > MOST_BYTES) {
    const size = Math.round(file.size / 1e6)
    said.value = `“${file.name}” has ${size} MB: a strapping table of ${MOST_ROWS} rows has a few kB.`
    return
  }
  const { data } = Papa.parse<string[]>(await file.text(), { delimitersToGuess: [';', '\t', ','] })
  const read = readStrapping(data)
  if (read.errors.length) {
    errors.value = read.errors
    said.value = `“${file.name}” was not taken; what stood here stays.`
    return
  }
  const units = `${read.units[0]} and ${read.units[1].replace('m3', 'm³')}`
  said.value = `${read.rows.length} rows taken from “${file.name}”, read in ${units}.`
  emit('set', { typed: strappingText(read.rows) })
}
const rows = computed(() => {
  const made = attempt(() => strappingOf(props.typed))
  return made instanceof Refusal ? undefined : made
})
/** The table as a curve: level up, volume to the right. */
const curve = computed(() => {
  const all = rows.value
  if (!all || all.length < 2) return ''
  const [low, high] = [sure(all[0]), sure(all.at(-1))]
  return all
    .map((row) => {
      const x = 4 + (92 * (row.volume_m3 - low.volume_m3)) / (high.volume_m3 - low.volume_m3)
      const y = 66 - (60 * (row.level_mm - low.level_mm)) / (high.level_mm - low.level_mm)
      return `${x.toFixed(2)},${y.toFixed(2)}`
    })
    .join(' ')
})
</script>

<template>
  <div class="strapping" data-test="strapping">
    <p class="label">{{ field.label }}<span v-if="field.required && !typed" class="lacking"> is still needed</span></p>
    <p class="quiet small">{{ field.help }}</p>
    <div v-if="curve" class="now">
      <svg
        viewBox="0 0 100 70"
        role="img"
        :aria-label="`Volume to the right over level upwards: ${strappingWords(typed)}`"
      >
        <path d="M4 66V4M4 66H98" class="axis" />
        <polyline :points="curve" class="curve" />
      </svg>
      <p class="figures">{{ strappingWords(typed) }}</p>
    </div>
    <PickFile accept=".csv,.txt,text/csv" :label="typed ? 'Take another file' : 'Take a CSV file'" @picked="take" />
    <p v-if="said" :class="errors.length ? 'bad' : 'quiet'" role="status" data-test="strapping-said">{{ said }}</p>
    <ul v-if="errors.length" class="errors" aria-label="What is wrong with the file">
      <li v-for="e in errors.slice(0, SHOWN)" :key="e.line">
        <b v-if="e.line">Line {{ e.line }}:</b> {{ e.says }}
      </li>
      <li v-if="errors.length > SHOWN" class="quiet">and {{ errors.length - SHOWN }} more lines.</li>
    </ul>
  </div>
</template>

<style scoped>
.label {
  font-weight: 600;
  margin: 0;
}
.strapping > p {
  margin: 0 0 6px;
}
.now {
  display: flex;
  align-items: center;
  gap: 16px;
}
.now svg {
  width: 150px;
  height: 105px;
}
.axis {
  fill: none;
  stroke: var(--second);
  stroke-width: 0.8;
}
.curve {
  fill: none;
  stroke: var(--action);
  stroke-width: 1.6;
}
.errors {
  padding-left: 20px;
}
</style>
