<script setup lang="ts">
// What the plate in a photograph proposes: each value beside its enlarged cutting, entered only when it is confirmed.
import { isMatchedPair } from '@calm-loop/core/flow'
import { isWanted, type Field } from '@calm-loop/core/kinds'
import { proposals, type Proposal } from '@calm-loop/core/plate'
import { entryFrom } from '@calm-loop/core/quantity'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useReEnter } from '../stores/re-enter.ts'
import { sure } from '@calm-loop/core/sure'
import PlateValue from './PlateValue.vue'

const props = defineProps<{ source: string }>()
const folder = useFolder()
const preferences = usePreferences()
const reEnter = useReEnter()
const says = ref('')
const share = ref(0)
const picture = shallowRef<ImageBitmap>()
const found = shallowRef<readonly Proposal[]>()
const times = ref(1)
/** Text entered from the plate, by entry. */
const taken = ref<Record<string, string>>({})
let left = false

onMounted(async () => {
  try {
    const answer = await fetch(props.source)
    if (!answer.ok) throw new Error('not there')
    const bitmap = await createImageBitmap(await answer.blob())
    picture.value = bitmap
    const { readPlate } = await import('./read-plate.ts')
    const read = await readPlate(bitmap, (to) => (share.value = to))
    if (left || !folder.kind) return
    times.value = read.times
    found.value = proposals(folder.kind, folder.entries, read.lines)
  } catch {
    if (!left) says.value = 'It could not be read here: what reads letters, or the photograph, cannot be fetched.'
  }
})
onBeforeUnmount(() => {
  left = true
  picture.value?.close()
})
const fields = computed(() =>
  (folder.kind?.fields ?? []).filter(
    (f) => (f.type === 'text' || f.type === 'quantity') && isWanted(f, folder.kind?.fields ?? [], folder.entries),
  ),
)
const options = computed(() => fields.value.map((f) => ({ value: f.key, label: f.label })))
const find = (key: string): Field | undefined => fields.value.find((f) => f.key === key)

function take(key: string, text: string): void {
  const field = sure(find(key))
  const { decimalMark } = preferences
  const entry =
    field.type === 'quantity'
      ? entryFrom(text, { ...{ quantity: field.quantity, unit: field.unit, decimalMark }, reference: field.reference })
      : { typed: text }
  folder.set(key, entry)
  reEnter.touched(key)
  taken.value = { ...taken.value, [key]: text }
}
/** Two serials of a pair, held against each other as they are entered. */
const pair = computed(() => {
  const [a, b] = [folder.entries['serialA']?.typed ?? '', folder.entries['serialB']?.typed ?? '']
  if (!a || !b || !find('serialA')) return undefined
  const matched = isMatchedPair(a, b)
  return { matched, says: matched ? `${a} and ${b} are one pair.` : `${a} and ${b} are not one matched pair.` }
})

const marked = computed(() => found.value?.filter((p) => p.doubt.some(Boolean)).length ?? 0)
</script>

<template>
  <section aria-labelledby="plate-head" class="plate" data-test="plate-reading">
    <h3 id="plate-head">Read from the plate</h3>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <template v-else-if="!found">
      <p class="quiet small" role="status">
        {{ share ? 'Reading it three times over, on this machine.' : 'Fetching what reads letters.' }}
      </p>
      <v-progress-linear :model-value="share * 100" :indeterminate="!share" aria-label="Reading the plate" />
    </template>
    <p v-else-if="!found.length" class="quiet">
      No figures were found. Nearer, square to it and without shine it may be.
    </p>
    <template v-else>
      <p class="quiet small">
        Hold each value against its cutting; nothing is entered until you take it.
        <span v-if="marked">What is marked was read in two ways, or not clearly.</span>
      </p>
      <ul>
        <PlateValue
          v-for="(p, i) in found"
          :key="i"
          :proposal="p"
          :picture="picture"
          :box="p.box"
          :times="times"
          :options="options"
          :now="(key: string) => folder.entries[key]?.typed ?? ''"
          @take="take"
        />
      </ul>
      <p v-if="pair" :class="{ bad: !pair.matched }" role="status" data-test="plate-pair">{{ pair.says }}</p>
    </template>
  </section>
</template>

<style scoped>
.plate {
  border-top: 1px solid var(--hairline);
  margin-top: 12px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>
