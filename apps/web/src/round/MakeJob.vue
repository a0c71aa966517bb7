<script setup lang="ts">
// Asking for something at a loop: what, why, by when, from whom.
import type { JobOrigin, LoopRow } from '@calm-loop/contract'
import { USUAL, WORKS, type Work } from '@calm-loop/core/round'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { call, problemWords, type ApiProblem } from '../api/client.ts'
import { useRound } from '../stores/round.ts'
import { useSession } from '../stores/session.ts'
import WordsField from '../widgets/WordsField.vue'

const props = defineProps<{
  /** The loop that it is for; chosen here where none is given. */
  loop?: { readonly id: string; readonly tag: string } | undefined
  what?: string | undefined
  why?: string | undefined
  origin?: JobOrigin
}>()
const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ made: [] }>()
const session = useSession()
const blank = () => ({ what: props.what ?? '', why: props.why ?? '', by: '', from: session.person?.name ?? '' })
const typed = ref(blank())
const works = ref<Work[]>([])
const loopId = ref<string | null>(null)
const found = ref<LoopRow[]>([])
const says = ref('')
const busy = ref(false)
watch(
  open,
  (now) => {
    if (!now) return
    typed.value = blank()
    works.value = []
    loopId.value = props.loop?.id ?? null
    says.value = ''
  },
  { immediate: true },
)
const search = useDebounceFn(async (q: string) => {
  found.value = (await call('loops', { query: { q, limit: 12 } }).catch(() => ({ loops: [] }))).loops
}, 120)
const ready = computed(() => loopId.value && typed.value.what.trim() && typed.value.from.trim())
const WORK_ITEMS = WORKS.map((value) => ({ value, title: USUAL[value].name }))
async function make(): Promise<void> {
  if (!loopId.value || !ready.value) return
  busy.value = true
  says.value = ''
  const { what, why, by, from } = typed.value
  const tag = props.loop?.tag ?? found.value.find((l) => l.id === loopId.value)?.tag ?? ''
  const body = { loopId: loopId.value, what, why, from, by: by || null, works: works.value }
  try {
    await useRound().makeJob({ ...body, origin: props.origin ?? 'call' }, tag)
    open.value = false
    emit('made')
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <v-dialog v-model="open" aria-label="A job">
    <v-card class="pa-6">
      <h2>A job{{ loop ? ` at ${loop.tag}` : '' }}</h2>
      <form class="fields" @submit.prevent="make">
        <div v-if="!loop" class="entry wide">
          <label for="job-loop"><span :class="{ needed: !loopId }">Loop</span></label>
          <v-autocomplete
            id="job-loop"
            v-model="loopId"
            :items="found"
            item-value="id"
            :item-title="(l: LoopRow) => `${l.tag} ${l.service}`"
            no-filter
            placeholder="tag or service"
            @update:search="search"
          />
        </div>
        <WordsField class="wide" label="What is to be done" :value="typed.what" needed @typed="typed.what = $event" />
        <WordsField class="wide" label="Why" :value="typed.why" @typed="typed.why = $event" />
        <WordsField
          label="By when"
          type="date"
          :value="typed.by"
          help="Without a day it stands in every round."
          @typed="typed.by = $event"
        />
        <WordsField label="Who asks" :value="typed.from" needed @typed="typed.from = $event" />
        <div class="entry wide">
          <label for="job-works">What it takes, besides</label>
          <v-select id="job-works" v-model="works" :items="WORK_ITEMS" multiple placeholder="a plain loop check" />
          <div class="says">For the minutes and the list of what to bring.</div>
        </div>
        <p v-if="says" class="bad wide" role="alert">{{ says }}</p>
        <div class="do wide">
          <v-btn type="submit" color="primary" variant="flat" :disabled="!ready" :loading="busy">Make the job</v-btn>
          <v-btn variant="text" @click="open = false">Leave it</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 24px;
  margin-top: 12px;
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 560px) {
  .fields {
    grid-template-columns: 1fr;
  }
}
</style>
