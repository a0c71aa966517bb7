<script setup lang="ts">
// The end of the shift: how things stand, handed to the next with a word; and what was handed over, to be read.
import { LONGEST_SHIFT_h } from '@calm-loop/contract/limits'
import type { HandedOver, Shift } from '@calm-loop/contract/shift'
import { mdiFilePdfBox } from '@mdi/js'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref, shallowRef, useId } from 'vue'
import { addressOf, call, problemWords, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { moment } from '../../widgets/dates.ts'
import ShiftLanes from './ShiftLanes.vue'
import ShiftLists from './ShiftLists.vue'

const session = useSession()
const HOUR_ms = 3_600_000
const shift = shallowRef<Shift>()
const handed = shallowRef<HandedOver[]>([])
/** What was handed over and is read here; undefined while the shift at hand is shown. */
const reading = ref<string>()
const since = ref('12')
const says = ref('')
const busy = ref(false)
const words = ref('')
const wordsId = useId()
const area = ref('')
const person = ref('')
/** Under one id until it is on record: tried again it is not handed over twice. */
let id = uuid()

const last = computed(() => handed.value.at(0))
const SINCE = computed(() => [
  ...['8', '12', '24'].map((value) => ({ value, label: `${value} hours` })),
  ...(last.value && Date.now() - Date.parse(last.value.at) < LONGEST_SHIFT_h * HOUR_ms
    ? [{ value: 'last', label: `the last handing over, ${moment(last.value.at)}` }]
    : []),
])
const from = () =>
  since.value === 'last' && last.value
    ? last.value.at
    : new Date(Date.now() - Number(since.value) * HOUR_ms).toISOString()
async function load(): Promise<void> {
  says.value = ''
  try {
    handed.value = await call('handovers')
    shift.value = await call('shift', { query: { from: from() } })
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  }
}
onMounted(load)
async function choose(value: string): Promise<void> {
  since.value = value
  await load()
}
const read = computed(() => handed.value.find((h) => h.id === reading.value))
const shown = computed(() => read.value?.shift ?? shift.value)
const options = (all: readonly string[], none: string) => [
  { value: '', label: none },
  ...[...new Set(all)].sort().map((value) => ({ value, label: value })),
]
const areas = computed(() =>
  options(
    [...(shown.value?.done ?? []), ...(shown.value?.open ?? [])].flatMap((d) => d.loop?.area ?? []),
    'all areas',
  ),
)
const people = computed(() =>
  options(
    [...(shown.value?.done ?? []), ...(shown.value?.open ?? [])].map((d) => d.by.name),
    'everybody',
  ),
)
const isMine = (p: { readonly id: string }) => p.id === session.person?.id
const isUnread = (h: HandedOver) => !isMine(h.by) && !h.read.some((r) => isMine(r.by))
async function act(work: () => Promise<unknown>): Promise<void> {
  busy.value = true
  says.value = ''
  try {
    await work()
    handed.value = await call('handovers')
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  } finally {
    busy.value = false
  }
}
const handOver = () =>
  act(async () => {
    const begun = shift.value?.from ?? from()
    await call('handOver', { params: { handoverId: id }, body: { from: begun, words: words.value.trim() } })
    reading.value = id
    words.value = ''
    id = uuid()
  })
const haveRead = (h: HandedOver) => act(() => call('readHandover', { params: { handoverId: h.id } }))
</script>

<template>
  <div class="place-head">
    <div>
      <h1>The shift</h1>
      <p class="quiet" role="status">
        {{
          read
            ? `As ${read.by.name} handed it over on ${moment(read.at)}: it stays as it stood then.`
            : 'How things stand now, for whoever goes on.'
        }}
      </p>
    </div>
    <v-btn
      v-if="read"
      variant="text"
      :prepend-icon="mdiFilePdfBox"
      :href="addressOf('shiftPdf', { handoverId: read.id })"
      download
      >Print it</v-btn
    >
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <section v-if="handed.length" aria-label="Handed over" class="handed">
    <ul>
      <li v-for="h in handed.slice(0, 4)" :key="h.id">
        <button type="button" class="link" :aria-pressed="reading === h.id" @click="reading = h.id">
          {{ h.by.name }}, {{ moment(h.at) }}
        </button>
        <span v-if="isUnread(h)" class="look">not read by you</span>
        <span v-else class="small quiet">{{
          h.read.length ? `read by ${h.read.map((r) => r.by.name).join(', ')}` : 'read by nobody yet'
        }}</span>
      </li>
      <li v-if="read">
        <button type="button" class="link" @click="reading = undefined">How things stand now</button>
      </li>
    </ul>
  </section>
  <div class="controls">
    <ChoiceField v-if="!read" label="Since" :options="SINCE" :value="since" @choose="choose" />
    <ChoiceField label="Area" :options="areas" :value="area" class="which" @choose="area = $event" />
    <ChoiceField label="Person" :options="people" :value="person" class="which" @choose="person = $event" />
  </div>
  <template v-if="read">
    <blockquote v-if="read.words">{{ read.words }}</blockquote>
    <v-btn v-if="isUnread(read)" color="primary" variant="flat" :disabled="busy" @click="haveRead(read)"
      >I have read it</v-btn
    >
  </template>
  <template v-if="shown">
    <ShiftLanes :shift="shown" />
    <ShiftLists :shift="shown" :area="area" :person="person" />
  </template>
  <form v-if="!read && shift && session.has('technician')" class="give" @submit.prevent="handOver">
    <h2>Hand it over</h2>
    <div class="entry">
      <label :for="wordsId">What the next must know besides</label>
      <v-textarea :id="wordsId" v-model="words" maxlength="2000" rows="3" auto-grow variant="underlined" />
    </div>
    <v-btn type="submit" color="primary" variant="flat" :disabled="busy">Hand the shift over</v-btn>
    <p class="small quiet">All of this is kept as it stands now, whatever is changed afterwards.</p>
  </form>
</template>

<style scoped>
.handed ul {
  list-style: none;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 28px;
}
.handed li {
  display: inline-flex;
  align-items: center;
  gap: 10px;
}
.look {
  color: var(--look);
}
.controls {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 28px;
  align-items: end;
}
.which {
  flex: 0 1 auto;
  min-width: 220px;
}
blockquote {
  border-left: 4px solid var(--action);
  padding: 4px 0 4px 16px;
  margin: 12px 0;
  white-space: pre-wrap;
}
.give {
  margin-top: 32px;
  max-width: 720px;
}
</style>
