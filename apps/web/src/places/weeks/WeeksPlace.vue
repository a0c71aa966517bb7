<script setup lang="ts">
// The weeks ahead: how full each is, who goes where on which day, and where two want the same piece of kit.
import { planOfWeeks } from '@calm-loop/contract/weeks-plan'
import type { Weeks } from '@calm-loop/contract/weeks'
import { daysLater } from '@calm-loop/core/check'
import { daysFrom, mondayOf, type KitConflict, type Visit } from '@calm-loop/core/round'
import { mdiCalendarExportOutline } from '@mdi/js'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { call, problemWords, type ApiProblem } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords } from '../../widgets/dates.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import GradeMark from '../../widgets/GradeMark.vue'
import CalendarSheet from './CalendarSheet.vue'
import SettleSheet from './SettleSheet.vue'
import WeekGrid from './WeekGrid.vue'
import WeeksLoad from './WeeksLoad.vue'

const session = useSession()
const weeks = shallowRef<Weeks>()
const says = ref('')
const person = ref('')
const settling = shallowRef<Visit>()
const calendar = ref(false)
async function load(): Promise<void> {
  settling.value = undefined
  try {
    weeks.value = await call('weeks')
  } catch (error) {
    says.value = problemWords(error as ApiProblem)
  }
}
onMounted(load)
const plan = computed(() => weeks.value && planOfWeeks(weeks.value))
const late = computed(() => plan.value?.visits.filter((v) => v.late).length ?? 0)
const summary = computed(() => {
  const { visits = [], unplaced = [] } = plan.value ?? {}
  if (!weeks.value) return 'reading what is due'
  return [
    `${visits.length} ${visits.length === 1 ? 'check' : 'checks'} until ${dayWords(weeks.value.until)}`,
    ...(late.value ? [`${late.value} late`] : []),
    ...(unplaced.length ? [`${unplaced.length} on no day`] : []),
  ].join(' · ')
})
const people = computed(() => [
  { value: '', label: 'everybody' },
  ...(weeks.value?.people ?? []).map((p) => ({ value: p.id, label: p.name })),
])
const shown = computed(() => plan.value?.visits.filter((v) => !person.value || v.personId === person.value) ?? [])
const inWeek = (monday: string) => shown.value.filter((v) => mondayOf(v.day) === monday)
const still = (day: string) =>
  (weeks.value?.terms.shutdowns ?? [])
    .filter((s) => day >= s.from && day <= s.to)
    .map((s) => `${s.area ?? 'all'}: ${s.how === 'into' ? 'stands still' : 'no checks'}`)
    .join(', ')
/** Weeks with anything in them, and those in which something stands still. */
const filled = computed(() =>
  (plan.value?.weeks ?? [])
    .map((w) => w.begins)
    .filter((m) => inWeek(m).length || daysFrom(m, daysLater(m, 6)).some((d) => still(d))),
)
const WHY: Record<KitConflict['why'], string> = {
  'two-people': 'is wanted by two on one day',
  'no-range': 'is read by no piece of the kit',
  'past-due': 'is read by no piece that is in date by then',
}
const pin = computed(() => weeks.value?.pins.find((p) => p.loopId === settling.value?.loop.id))
const settle = (visit: Visit) => {
  if (session.has('technician')) settling.value = visit
}
const goTo = (monday: string) =>
  document.querySelector(`[data-week="${monday}"]`)?.scrollIntoView({ block: 'start', behavior: 'smooth' })
</script>

<template>
  <div class="place-head">
    <div>
      <h1>Weeks ahead</h1>
      <p class="lead" role="status" data-test="weeks-summary">{{ summary }}</p>
    </div>
    <div class="do">
      <v-btn variant="text" to="/round">Round of today</v-btn>
      <v-btn :prepend-icon="mdiCalendarExportOutline" @click="calendar = true">In another calendar</v-btn>
    </div>
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <template v-if="weeks && plan">
    <p v-if="plan.unplaced.length" class="caution" data-test="unplaced">
      {{
        plan.unplaced[0]?.why === 'nobody'
          ? 'Nobody here does checks'
          : 'No day of the week is set as one on which one works'
      }}, so these are put on no day: {{ plan.unplaced.map((u) => u.loop.tag).join(', ') }}.
      <router-link to="/settings">Settings</router-link>
    </p>
    <WeeksLoad :weeks="plan.weeks" @pick="goTo" />
    <section v-if="plan.conflicts.length" aria-labelledby="conflicts">
      <h2 id="conflicts">Kit</h2>
      <ul class="conflicts">
        <li v-for="(c, i) in plan.conflicts" :key="i" data-test="conflict">
          <GradeMark grade="look" wordless />
          <span
            ><b>{{ dayWords(c.day) }}</b
            >: {{ c.what }} {{ WHY[c.why] }}
            <span class="small quiet"
              >{{ c.people.join(' and ') }}; <span class="figures">{{ c.tags.join(', ') }}</span></span
            ></span
          >
        </li>
      </ul>
    </section>
    <ChoiceField class="which" label="Person" :options="people" :value="person" @choose="person = $event" />
    <WeekGrid
      v-for="monday in filled"
      :key="monday"
      :monday="monday"
      :visits="inWeek(monday)"
      :people="weeks.people"
      :working-days="weeks.terms.workingDays"
      :still="still"
      @settle="settle"
    />
    <p v-if="weeks.more" class="small quiet">And {{ weeks.more }} checks more, due after these.</p>
    <SettleSheet :visit="settling" :people="weeks.people" :pin="pin" @settled="load" @left="settling = undefined" />
  </template>
  <CalendarSheet v-model="calendar" />
</template>

<style scoped>
.which {
  max-width: 560px;
  margin-top: 16px;
}
.conflicts {
  list-style: none;
  padding: 0;
}
.conflicts li {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 44px;
  border-top: 1px solid var(--hairline);
}
</style>
