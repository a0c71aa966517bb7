<script setup lang="ts">
// The day: where to go in which order, whom to tell, what to bring, how long it takes; and what is left.
import type { Job } from '@calm-loop/contract'
import { spreadWords } from '@calm-loop/core/round'
import {
  mdiCalendarWeekOutline,
  mdiAccountArrowRightOutline,
  mdiBagPersonalOutline,
  mdiFilePdfBox,
  mdiPlus,
} from '@mdi/js'
import { onKeyStroke, useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { addressOf } from '../../api/client.ts'
import MakeJob from '../../round/MakeJob.vue'
import { fetchLoop } from '../../stores/along.ts'
import { takeAlong } from '../../stores/kept.ts'
import { useKinds } from '../../stores/kinds.ts'
import { useRound } from '../../stores/round.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords, isDay, today } from '../../widgets/dates.ts'
import { moved, useDragOrder } from '../../widgets/useDragOrder.ts'
import BringList from './BringList.vue'
import DayThread from './DayThread.vue'
import EndJobSheet from './EndJobSheet.vue'
import RoundControls from './RoundControls.vue'
import StopRow from './StopRow.vue'
import TagList from './TagList.vue'

const round = useRound()
const session = useSession()
const kinds = useKinds()
const route = useRoute()
const router = useRouter()
const AGAIN_ms = 60_000
const making = ref(false)
const ending = ref<Job>()
const at = ref<string>()
const shownDay = computed(() => (isDay(route.query['day']) ? route.query['day'] : today()))
watch(shownDay, (day) => void round.show(day), { immediate: true })
onMounted(() => void kinds.load())
useIntervalFn(() => void (document.hidden || round.load()), AGAIN_ms)

const stops = computed(() => round.plan?.stops ?? [])
const service = computed(() => new Map(round.round?.loops.map((l) => [l.id, l.service])))
const overdue = computed(() => stops.value.filter((s) => s.check?.overdue).length)
const areas = computed(() => [...new Set(round.round?.loops.map((l) => l.area))].sort())
const may = computed(() => session.has('technician'))
const heading = (i: number) => stops.value[i - 1]?.loop.area !== stops.value[i]?.loop.area
const summary = computed(() => {
  const { plan, times } = round
  if (!plan) return ''
  if (!plan.stops.length) return 'Nothing is due and nothing is asked for.'
  return [
    `${plan.stops.length} ${plan.stops.length === 1 ? 'loop' : 'loops'}`,
    spreadWords(plan.minutes),
    `done about ${times.at(-1)?.to ?? ''}`,
    ...(overdue.value ? [`${overdue.value} overdue`] : []),
  ].join(' · ')
})

const put = (ids: string[]) => round.change({ byHand: ids })
const ids = () => stops.value.map((s) => s.loop.id)
const list = useTemplateRef('list')
const { byKey } = useDragOrder(
  list,
  () => stops.value.length,
  (from, to) => put(moved(ids(), from, to)),
)
const replan = () => round.change({ byHand: [] })

const along = ref('')
async function takeAll(): Promise<void> {
  const all = ids()
  let missed = 0
  for (const [i, id] of all.entries()) {
    along.value = `taking along: ${i + 1} of ${all.length}`
    const kind = stops.value.find((s) => s.loop.id === id)?.loop.kind ?? ''
    try {
      await fetchLoop(id, kinds.of(kind)?.family === 'switch')
      await takeAlong(session.person?.id ?? '', id, true)
    } catch {
      missed++
    }
  }
  along.value = missed
    ? `${missed} of ${all.length} could not be taken along: the server was not reached`
    : `all ${all.length} open without the server`
}
const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.matches('input, textarea, select') || target.isContentEditable)
const onKey = (key: string, does: () => void) =>
  onKeyStroke([key, key.toUpperCase()], (event) => {
    if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey || making.value || ending.value) return
    event.preventDefault()
    does()
  })
onKey('r', replan)
onKey('t', () => void takeAll())
onKey('j', () => (making.value = true))
onKey('h', () => void router.push('/shift'))
onKey('w', () => void router.push('/weeks'))
const pdf = computed(() => addressOf('roundPdf', {}, { day: round.day }))
function pick(id: string): void {
  at.value = id
  list.value?.querySelector(`[data-id="${id}"]`)?.scrollIntoView({ block: 'center', behavior: 'smooth' })
}
</script>

<template>
  <div class="place-head">
    <div>
      <h1>Round</h1>
      <p class="lead" role="status" data-test="round-summary">{{ summary || 'reading what is due' }}</p>
    </div>
    <div class="do">
      <v-btn :prepend-icon="mdiBagPersonalOutline" variant="text" :disabled="!stops.length" @click="takeAll"
        >Take it along</v-btn
      >
      <v-btn :prepend-icon="mdiFilePdfBox" variant="text" :href="pdf" download>One sheet</v-btn>
      <v-btn :prepend-icon="mdiCalendarWeekOutline" variant="text" to="/weeks">Weeks ahead</v-btn>
      <v-btn :prepend-icon="mdiAccountArrowRightOutline" variant="text" to="/shift">Hand over</v-btn>
      <v-btn :prepend-icon="mdiPlus" color="primary" variant="flat" @click="making = true">Make a job</v-btn>
    </div>
  </div>
  <p v-if="along" class="small" role="status">{{ along }}</p>
  <p v-if="round.problem" class="bad" role="alert">{{ round.problem }}</p>
  <DayThread v-if="stops.length" :times="round.times" :begins="round.state.begins" :at="at" @pick="pick" />
  <RoundControls :day="shownDay" :areas="areas" @day="router.replace({ query: { day: $event } })" />
  <div class="halves">
    <div>
      <ol v-if="stops.length" ref="list" class="stops" aria-label="Stops of the round">
        <StopRow
          v-for="(t, i) in round.times"
          :key="t.stop.loop.id"
          :timed="t"
          :service="service.get(t.stop.loop.id) ?? ''"
          :heading="heading(i)"
          :may-end="may"
          @key="byKey($event, i)"
          @end="ending = $event"
        />
      </ol>
      <p v-else-if="round.plan" class="quiet none">
        Nothing is due until {{ dayWords(round.state.until) }}, and no job is open. Take a later day above, or make a
        job.
      </p>
      <p v-if="round.round?.more" class="look">
        {{ round.round.more }} more are due and not listed: take an earlier day.
      </p>
      <p v-for="job in round.plan?.lost ?? []" :key="job.id" class="look">
        {{ job.what }}: its loop is not on record any more.
      </p>
    </div>
    <aside>
      <section v-if="round.people.length" class="tell" aria-labelledby="tell-head">
        <h2 id="tell-head">Permits, and whom to tell</h2>
        <ul>
          <li v-for="t in round.people" :key="t.what">
            <span class="figures by">{{ t.by }}</span>
            <span>{{ t.what }} <TagList :tags="t.tags" /></span>
          </li>
        </ul>
        <p class="small quiet">Site procedure and permits come before this list.</p>
      </section>
      <BringList v-if="stops.length" :pack="round.pack" :lacks="round.lacks" :may="may" />
    </aside>
  </div>
  <MakeJob v-model="making" @made="round.load()" />
  <EndJobSheet v-model="ending" />
</template>

<style scoped>
.lead {
  margin: 4px 0 0;
  color: var(--second);
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 330px;
  gap: 32px;
  align-items: start;
}
.stops {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--hairline);
}
.tell {
  margin-bottom: 24px;
}
.tell ul {
  list-style: none;
  margin: 8px 0;
  padding: 0;
}
.tell li {
  display: grid;
  grid-template-columns: 60px 1fr;
  padding: 6px 0;
  border-bottom: 1px solid var(--hairline);
}
.look {
  color: var(--look);
}
.none {
  padding: 24px 0;
}
@media (max-width: 1000px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
