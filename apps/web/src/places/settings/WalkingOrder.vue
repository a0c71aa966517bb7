<script setup lang="ts">
// In which order the areas of this site are walked, and whom to tell before work in each.
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'
import { call } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import { useSite } from '../../stores/site.ts'
import { useDoing } from '../../widgets/doing.ts'
import GripButton from '../../widgets/GripButton.vue'
import { moved, useDragOrder } from '../../widgets/useDragOrder.ts'
import WordsField from '../../widgets/WordsField.vue'

const site = useSite()
const session = useSession()
const may = computed(() => session.hasDuty('limits'))
const { busy, says, run } = useDoing()
const known = ref<readonly string[]>([])
const rows = ref<{ area: string; told: string }[]>([])
const touched = ref(false)
/** Areas of loops that have no place yet stand last. */
function fill(): void {
  if (touched.value) return
  const placed = site.walking.areas
  const others = known.value.filter((area) => !placed.some((p) => p.area === area))
  rows.value = [...placed.map((p) => ({ ...p })), ...others.map((area) => ({ area, told: '' }))]
}
watch(() => [site.walking, known.value], fill, { immediate: true })
onMounted(async () => {
  await site.loadWalking()
  known.value = (await call('loops', { query: { limit: 1 } }).catch(() => ({ areas: [] }))).areas
})
const unplaced = (area: string) => !site.walking.areas.some((p) => p.area === area)
const gone = (area: string) => known.value.length > 0 && !known.value.includes(area)
const list = useTemplateRef('list')
function put(from: number, to: number): void {
  rows.value = moved(rows.value, from, to)
  touched.value = true
}
const { byKey } = useDragOrder(list, () => rows.value.length, put)
function tell(row: { told: string }, words: string): void {
  row.told = words
  touched.value = true
}
function leaveOut(area: string): void {
  rows.value = rows.value.filter((r) => r.area !== area)
  touched.value = true
}
async function save(): Promise<void> {
  if (await run(() => site.saveWalking({ areas: rows.value }))) touched.value = false
}
</script>

<template>
  <section aria-labelledby="walking-head">
    <h2 id="walking-head">Walking order</h2>
    <p class="quiet">
      A round goes by it. Whom to tell stands with the permits of each round, by the time at which one comes there.
    </p>
    <ol ref="list" class="areas">
      <li v-for="(row, i) in rows" :key="row.area" :class="{ read: !may }" :data-area="row.area">
        <GripButton v-if="may" :what="row.area" @keydown="byKey($event, i)" />
        <div class="area">
          <b>{{ row.area }}</b>
          <span v-if="gone(row.area)" class="small quiet">no loop is there any more</span>
          <span v-else-if="unplaced(row.area)" class="small look">has no place yet</span>
        </div>
        <WordsField v-if="may" label="Whom to tell" :value="row.told" @typed="tell(row, $event)" />
        <span v-else>{{ row.told }}</span>
        <v-btn v-if="may && gone(row.area)" variant="text" @click="leaveOut(row.area)">Leave it out</v-btn>
      </li>
    </ol>
    <div v-if="may" class="do">
      <v-btn :loading="busy" :disabled="!rows.length" data-test="save-walking" @click="save">Set for the site</v-btn>
    </div>
    <p v-else class="small quiet">A {{ session.session?.duties.limits }} may change that.</p>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
  </section>
</template>

<style scoped>
.areas {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 44px minmax(120px, 200px) minmax(0, 1fr) auto;
  align-items: center;
  gap: 0 16px;
  min-height: 56px;
  border-bottom: 1px solid var(--hairline);
}
li.read {
  grid-template-columns: minmax(120px, 200px) minmax(0, 1fr);
}
.area span {
  display: block;
}
.look {
  color: var(--look);
}
@media (max-width: 560px) {
  li {
    grid-template-columns: 44px minmax(0, 1fr);
    padding: 6px 0;
  }
  li > :nth-child(n + 3) {
    grid-column: 2;
  }
  li.read {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
