<script setup lang="ts">
// When one works here, how much in a day, how early a check may be done, and when what stands still.
import { WeekTerms as Terms, type WeekTerms } from '@calm-loop/contract/weeks'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref, watch } from 'vue'
import { useSession } from '../../stores/session.ts'
import { useSite } from '../../stores/site.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { dayWords, today } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'

const site = useSite()
const session = useSession()
const { busy, says, run } = useDoing()
/** Nothing is set by who has not seen what stands. */
const seen = ref(false)
onMounted(async () => {
  await site.loadWeeks()
  seen.value = true
})
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'].map((name, i) => ({ name, n: i + 1 }))
const HOW = [
  { value: 'into', label: 'checks are moved into it' },
  { value: 'none', label: 'no checks' },
] as const
const may = computed(() => session.has('administrator'))
/** What was typed is not overwritten by an answer that comes late. */
const touched = ref(false)
const typed = ref<WeekTerms>(site.weeks)
const figures = ref({ minutesADay: '', early_days: '' })
watch(
  () => site.weeks,
  (now) => {
    if (touched.value) return
    typed.value = now
    figures.value = { minutesADay: `${now.minutesADay}`, early_days: `${now.early_days}` }
  },
  { immediate: true },
)
const wanted = computed(() =>
  Terms.safeParse({
    ...typed.value,
    minutesADay: Number(figures.value.minutesADay || NaN),
    early_days: Number(figures.value.early_days || NaN),
  }),
)
const WRONG: Record<string, string> = {
  minutesADay: 'Minutes of checks in a day lie between 15 and 1440.',
  early_days: 'Days before it is due lie between 0 and 365.',
  shutdowns: 'Each shutdown has two days, and ends after it began.',
}
const wrong = computed(() => (wanted.value.success ? '' : (WRONG[String(wanted.value.error.issues[0]?.path[0])] ?? '')))
function change(more: Partial<WeekTerms>): void {
  touched.value = true
  typed.value = { ...typed.value, ...more }
}
const flip = (n: number) =>
  change({
    workingDays: typed.value.workingDays.includes(n)
      ? typed.value.workingDays.filter((d) => d !== n)
      : [...typed.value.workingDays, n].sort(),
  })
const put = (key: 'minutesADay' | 'early_days', text: string) => {
  touched.value = true
  figures.value = { ...figures.value, [key]: text.trim() }
}
type Shutdown = WeekTerms['shutdowns'][number]
const changeOne = (id: string, more: Partial<Shutdown>) =>
  change({ shutdowns: typed.value.shutdowns.map((s) => (s.id === id ? { ...s, ...more } : s)) })
const add = () => {
  const day = today()
  change({
    shutdowns: [...typed.value.shutdowns, { id: uuid(), from: day, to: day, area: null, how: 'into', words: '' }],
  })
}
const save = () =>
  run(async () => {
    if (!wanted.value.success) return
    try {
      await site.saveWeeks(wanted.value.data)
    } finally {
      touched.value = false
    }
  })
const stillWords = (s: Shutdown) => {
  const how = HOW.find((h) => h.value === s.how)?.label ?? ''
  const days = `${dayWords(s.from)} to ${dayWords(s.to)}`
  return [`${s.area ?? 'Everywhere'}: ${days}`, how, s.words].filter(Boolean).join('; ')
}
</script>

<template>
  <section aria-labelledby="weeks-head">
    <h2 id="weeks-head">Weeks: working days and shutdowns</h2>
    <p v-if="!seen" class="quiet">reading what is set</p>
    <template v-else-if="may">
      <form @submit.prevent="save">
        <div role="group" aria-label="Working days" class="days">
          <button
            v-for="d in DAYS"
            :key="d.n"
            type="button"
            :aria-pressed="typed.workingDays.includes(d.n)"
            @click="flip(d.n)"
          >
            {{ d.name }}
          </button>
        </div>
        <p v-if="!typed.workingDays.length" class="look">Without a working day nothing can be planned.</p>
        <div class="edit-grid">
          <WordsField
            label="Minutes of checks in a day, for each person"
            :value="figures.minutesADay"
            help="What the weeks ahead are levelled by."
            @typed="put('minutesADay', $event)"
          />
          <WordsField
            label="A check may be done so many days before it is due"
            :value="figures.early_days"
            help="Within these days it is moved to where there is room."
            @typed="put('early_days', $event)"
          />
        </div>
        <h3>Shutdowns</h3>
        <div v-for="s in typed.shutdowns" :key="s.id" class="edit-grid one" data-test="shutdown">
          <WordsField label="From" type="date" :value="s.from" @typed="changeOne(s.id, { from: $event })" />
          <WordsField label="To" type="date" :value="s.to" @typed="changeOne(s.id, { to: $event })" />
          <WordsField
            label="Area"
            :value="s.area ?? ''"
            help="Empty: everywhere."
            @typed="changeOne(s.id, { area: $event.trim() || null })"
          />
          <ChoiceField
            label="Meanwhile"
            :options="HOW"
            :value="s.how"
            @choose="changeOne(s.id, { how: $event as Shutdown['how'] })"
          />
          <WordsField label="Besides" :value="s.words" @typed="changeOne(s.id, { words: $event })" />
          <v-btn variant="text" @click="change({ shutdowns: typed.shutdowns.filter((o) => o.id !== s.id) })"
            >Take it out</v-btn
          >
        </div>
        <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
        <p v-if="says" class="bad" role="alert">{{ says }}</p>
        <div class="do">
          <v-btn variant="text" @click="add">Add a shutdown</v-btn>
          <v-btn type="submit" color="primary" variant="flat" :disabled="!touched || !!wrong || busy"
            >Set the weeks</v-btn
          >
        </div>
      </form>
    </template>
    <template v-else>
      <p>
        {{
          DAYS.filter((d) => site.weeks.workingDays.includes(d.n))
            .map((d) => d.name)
            .join(', ') || 'No working day'
        }}; {{ site.weeks.minutesADay }} min of checks in a day; up to {{ site.weeks.early_days }} days before it is
        due.
      </p>
      <p v-for="s in site.weeks.shutdowns" :key="s.id">{{ stillWords(s) }}</p>
      <p class="small quiet">An administrator sets them.</p>
    </template>
  </section>
</template>

<style scoped>
.days {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.days button {
  min-width: 56px;
  min-height: 44px;
  background: none;
  border: 0;
  border-bottom: 2px solid transparent;
  color: var(--second);
  font: inherit;
  cursor: pointer;
}
.days button[aria-pressed='true'] {
  border-bottom-color: var(--action);
  color: var(--ink);
  font-weight: 700;
}
.look {
  color: var(--look);
}
.one {
  border-bottom: 1px solid var(--hairline);
  align-items: start;
}
</style>
