<script setup lang="ts">
// A run sheet under way: the step at hand opened, what is done above it with who and when, what comes below it.
import { workOf, type WorkOf } from '@calm-loop/contract'
import { entryFrom, entryIn, type Entry } from '@calm-loop/core/quantity'
import { judgeStep, sheetState, stepAfter, wantsWord } from '@calm-loop/core/sheet'
import { v7 as uuid } from 'uuid'
import { computed, ref, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useOutbox } from '../stores/outbox.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import { waitsHere } from '../stores/with-waiting.ts'
import { whenDone } from '../widgets/dates.ts'
import GradeMark from '../widgets/GradeMark.vue'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import MarkedAs from './MarkedAs.vue'
import MarksField from './MarksField.vue'
import { inSentence } from '@calm-loop/core/words'

const props = defineProps<{
  sheet: string
  /** A live figure offered for the step that asks for one, by step id: text with its unit. */
  offers?: Readonly<Record<string, string>>
}>()
const folder = useFolder()
const work = useWork()
const session = useSession()
const outbox = useOutbox()
const preferences = usePreferences()
const sheet = computed(() => folder.current?.sheets?.().find((s) => s.id === props.sheet))
const log = computed(() => workOf(work.log, 'step').filter((e) => e.sheet === props.sheet))
const state = computed(() => (sheet.value ? sheetState(sheet.value, log.value) : undefined))
const again = ref(false)
watch(
  () => log.value.length,
  () => (again.value = false),
)
const fresh = computed(() => !state.value?.run || (again.value && state.value.finished))
const run = computed(() => (fresh.value ? undefined : state.value?.run))
const done = computed(() => new Map(log.value.filter((e) => e.run === run.value).map((e) => [e.step, e])))
const next = computed(() => sheet.value && stepAfter(sheet.value, new Set(done.value.keys())))
/** Done, or added to the sheet after this run had gone past it. */
const passed = computed(() => {
  const steps = sheet.value?.steps ?? []
  return new Set(steps.slice(0, next.value ? steps.indexOf(next.value) : steps.length).map((s) => s.id))
})
const value = ref<Entry>({ typed: '' })
const words = ref('')
/** What is the case of what the step offers; undefined until it is answered. */
const marked = ref<string[]>()
watch(
  () => next.value?.id,
  (id) => {
    words.value = ''
    marked.value = undefined
    const { ask } = next.value ?? {}
    const offer = id && ask ? props.offers?.[id] : undefined
    value.value = offer && ask ? entryFrom(offer, ask) : { typed: '' }
  },
  { immediate: true },
)
/** How the figure typed stands to its plan. */
const judged = computed(() => {
  const { ask } = next.value ?? {}
  const figure = ask && entryIn(value.value, ask.unit)
  return ask && figure !== undefined ? preferences.speak(() => judgeStep(ask.plan, figure, ask.unit)) : undefined
})
const grave = computed(() => !!next.value?.marks && wantsWord(next.value.marks, marked.value ?? []))
const lacking = computed(() => {
  if (!next.value) return ''
  if (next.value.marks && !marked.value) return 'tick which are active, or that none is'
  if (grave.value && !words.value.trim()) return 'needs a word on why the work goes on'
  if (judged.value?.grade === 'stop') return 'not to be gone on with'
  if (judged.value?.grade === 'look' && !words.value.trim()) return 'needs a word on it'
  if (next.value.ask && value.value.value === undefined) return `needs ${inSentence(next.value.ask.label)}`
  if (next.value.askWords && !words.value.trim()) return `needs ${inSentence(next.value.askWords)}`
  return ''
})
function take(): void {
  const { ask } = next.value ?? {}
  const offer = next.value && ask ? props.offers?.[next.value.id] : undefined
  if (offer && ask) value.value = entryFrom(offer, ask)
}
async function confirm(): Promise<void> {
  const step = next.value
  if (!step || lacking.value || work.busy) return
  const { typed, value: v, unit } = value.value
  const figure = value.value
  const saved = await work.add({
    what: 'step',
    sheet: props.sheet,
    run: run.value ?? uuid(),
    step: step.id,
    title: step.title,
    value: step.ask && v !== undefined && unit ? { typed, value: v, unit } : null,
    words: words.value.trim(),
    ...(marked.value ? { marked: marked.value } : {}),
  })
  // What was measured on the loop is the loop's figure; what was practised is not.
  if (saved && step.ask?.entry && !folder.practising) folder.set(step.ask.entry, figure)
}
/** When it was done; and when it was sent, where that was later. */
const when = (e: WorkOf<'step'>) => whenDone(e, waitsHere(outbox.waiting, e.id))
const shown = (e: WorkOf<'step'>) =>
  [e.value ? preferences.quantity(e.value.value, e.value.unit, { trim: true }) : '', e.words].filter(Boolean).join('; ')
</script>

<template>
  <section v-if="sheet" class="sheet" :aria-label="sheet.title" :data-sheet="sheet.id">
    <div class="head">
      <h3>{{ sheet.title }}</h3>
      <span class="quiet small">{{ done.size }} of {{ sheet.steps.length }} steps</span>
    </div>
    <ol class="steps">
      <li
        v-for="(step, i) in sheet.steps"
        :key="step.id"
        :class="{ done: passed.has(step.id), now: step.id === next?.id }"
        :data-step="step.id"
      >
        <span class="mark figures" aria-hidden="true">{{
          done.has(step.id) ? '✓' : passed.has(step.id) ? '–' : i + 1
        }}</span>
        <div class="body">
          <p class="title">
            {{ step.title }}<span v-if="done.has(step.id)" class="visually-hidden">, done</span>
            <span v-if="done.has(step.id)" class="quiet small">
              <b v-if="shown(done.get(step.id)!)" class="figures">{{ shown(done.get(step.id)!) }}</b>
              {{ done.get(step.id)!.by.name }}, {{ when(done.get(step.id)!) }}
            </span>
          </p>
          <MarkedAs
            v-if="step.marks && done.get(step.id)?.marked"
            :marks="step.marks"
            :ids="done.get(step.id)!.marked!"
          />
          <template v-if="step.id === next?.id">
            <p>{{ step.says }}</p>
            <p v-if="step.caution" class="caution small"><b>Caution.</b> {{ step.caution }}</p>
            <form v-if="session.has('technician')" class="do" @submit.prevent="confirm">
              <QuantityField
                v-if="step.ask"
                :label="step.ask.label"
                :quantity="step.ask.quantity"
                :unit="step.ask.unit"
                :entry="value"
                needed
                @entry="value = $event"
                @enter="confirm"
              />
              <v-btn v-if="offers?.[step.id]" variant="text" @click="take">Take {{ offers[step.id] }}, live</v-btn>
              <p v-if="judged?.says" class="judged" :class="judged.grade" role="status" data-test="off-plan">
                <GradeMark :grade="judged.grade === 'stop' ? 'stop' : 'look'" wordless /> {{ judged.says }}
              </p>
              <MarksField v-if="step.marks" v-model="marked" :marks="step.marks" />
              <WordsField
                v-if="step.marks && marked"
                :label="grave ? 'Why the work goes on' : 'What else it says, or its codes'"
                :value="words"
                :needed="grave"
                @typed="words = $event"
              />
              <WordsField
                v-if="judged?.grade === 'look'"
                label="A word on it"
                :value="words"
                needed
                @typed="words = $event"
              />
              <WordsField v-if="step.askWords" :label="step.askWords" :value="words" needed @typed="words = $event" />
              <v-btn
                color="primary"
                variant="flat"
                type="submit"
                :disabled="!!lacking || work.busy"
                data-test="confirm-step"
                >Confirm: {{ inSentence(step.title) }}</v-btn
              >
              <span v-if="lacking" class="lacking small">{{ lacking }}</span>
            </form>
            <p v-else class="quiet small">Only a technician may confirm steps.</p>
          </template>
          <p v-else-if="!passed.has(step.id)" class="quiet small later">{{ step.says }}</p>
        </div>
      </li>
    </ol>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
    <div v-if="!next" class="finished">
      <p role="status">
        All steps done.
        <router-link v-if="sheet.judge" :to="`/loops/${folder.view!.loop.id}/hand-over`" data-test="to-sign">{{
          folder.practising ? 'What it came to, at Hand over' : 'Sign it at Hand over'
        }}</router-link>
      </p>
      <v-btn v-if="session.has('technician')" @click="again = true">Begin it again</v-btn>
    </div>
  </section>
</template>

<style scoped>
.sheet {
  margin-top: 16px;
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
}
.later {
  margin: 0;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.do > :deep(.entry) {
  width: min(320px, 100%);
}
.judged {
  flex-basis: 100%;
  margin: 0;
}
.judged.look {
  color: var(--look);
}
.judged.stop {
  color: var(--stop);
}
.finished {
  display: flex;
  gap: 16px;
  align-items: center;
  padding-top: 12px;
}
.lacking {
  color: var(--look);
}
</style>
