<script setup lang="ts">
// Count: the point named and watched, its cycles and effectiveness by shift, its stops, and the log of every edge.
import { shiftKey, type WatchedShift } from '@calm-loop/core/discrete'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, watch } from 'vue'
import { useCount } from '../../stores/count.ts'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import EdgeLog from '../../switching/EdgeLog.vue'
import LiveCount from '../../switching/LiveCount.vue'
import OeeWorking from '../../switching/OeeWorking.vue'
import ShiftTable from '../../switching/ShiftTable.vue'
import StopList from '../../switching/StopList.vue'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { dayWords, moment } from '../../widgets/dates.ts'
import FindingList from '../../widgets/FindingList.vue'
import WorkTabs from '../../widgets/WorkTabs.vue'
import { stageOfFinding } from './findings.ts'
import SaveLine from './SaveLine.vue'
import StageEntries from './StageEntries.vue'
import { sure } from '@calm-loop/core/sure'

const ShiftCharts = defineAsyncComponent(() => import('../../switching/ShiftCharts.vue'))
const folder = useFolder()
const count = useCount()
const preferences = usePreferences()
const WORKS = [
  { id: 'live', name: 'Name and live' },
  { id: 'cycles', name: 'Cycles and OEE' },
  { id: 'stops', name: 'Stops' },
  { id: 'log', name: 'Log of edges' },
]
const findings = computed(
  () => folder.study?.findings.filter((f) => stageOfFinding(sure(folder.kind), f) === 'count') ?? [],
)
watch(
  () => [folder.view?.loop.id, count.heads.map((h) => h.id).join()],
  () => void count.load(),
  { immediate: true },
)
watch(
  () => [count.terms, count.standing],
  () => void count.recountSoon(),
)
onBeforeUnmount(() => count.close())

/** The last weeks, or all. */
const span = ref('2')
const shifts = computed<readonly WatchedShift[]>(() => {
  const all = count.report?.shifts ?? []
  if (span.value === 'all') return all
  const from = (all.at(-1)?.shift.to_ms ?? 0) - Number(span.value) * 7 * 86_400_000
  return all.filter((s) => s.shift.from_ms >= from)
})
const chosen = ref<string>()
const lasting = (s: number) =>
  s < 120 ? preferences.quantity(s, 's', { decimals: 1 }) : preferences.quantity(s / 60, 'min', { decimals: 1 })
const one = computed(() => count.report?.shifts.find((s) => shiftKey(s.shift) === chosen.value))
</script>

<template>
  <section aria-label="Count">
    <h2 class="visually-hidden">Count</h2>
    <WorkTabs v-slot="{ work }" :works="WORKS" label="Work at the count">
      <template v-if="work === 'live'">
        <LiveCount :key="folder.view!.loop.id" />
        <FindingList :findings="findings" />
        <StageEntries stage="count" :columns="3" />
      </template>
      <template v-else-if="work === 'cycles'">
        <v-progress-linear
          v-if="count.progress !== undefined"
          :model-value="100 * count.progress"
          aria-label="Counting"
        />
        <p v-if="count.terms.needs.length" class="look">
          Effectiveness still needs: {{ count.terms.needs.join(', ') }}.
        </p>
        <p v-if="count.problem" class="bad" role="alert">{{ count.problem }}</p>
        <template v-if="count.report">
          <ChoiceField
            label="Show"
            :options="[
              { value: '1', label: 'the last week' },
              { value: '2', label: 'the last two weeks' },
              { value: 'all', label: 'all' },
            ]"
            :value="span"
            @choose="span = $event"
          />
          <ShiftCharts :shifts="shifts" />
          <div class="two">
            <div>
              <OeeWorking
                :title="one ? `${dayWords(one.shift.day)}, ${one.shift.name}` : 'All shifts together'"
                :of="one ?? count.report.total"
                :ideal="count.terms.idealCycle_s"
              />
              <button v-if="one" type="button" class="link" @click="chosen = undefined">All shifts together</button>
            </div>
            <div>
              <h3>Longest cycles</h3>
              <p v-if="count.terms.longCycle_s === undefined" class="quiet small">
                Enter from when on a cycle is long.
              </p>
              <ol v-else class="long">
                <li v-for="l in count.report.long.slice(0, 8)" :key="l.at_ms">
                  <span class="figures">{{ lasting(l.seconds) }}</span>
                  <span class="quiet">ended {{ moment(new Date(l.at_ms).toISOString()) }}</span>
                </li>
              </ol>
              <p class="small quiet">Those of over some minutes are standstills: name them under “Stops”.</p>
            </div>
          </div>
          <h3>By shift</h3>
          <ShiftTable :shifts="[...shifts].reverse()" :chosen="chosen" @choose="chosen = $event" />
        </template>
        <p v-else-if="count.progress === undefined" class="quiet">
          Nothing is counted yet. Record live under “Name and live”, or read an edge log under “Log of edges”.
        </p>
      </template>
      <StopList v-else-if="work === 'stops'" />
      <EdgeLog v-else />
    </WorkTabs>
    <p class="caution small">
      <b>Caution.</b> Moving machinery: watch from outside the guards; isolate and lock it off before reaching in. Site
      procedure, local codes and licensed practice come first.
    </p>
    <SaveLine />
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(260px, 1fr);
  gap: 32px;
}
.look {
  color: var(--look);
}
h3 {
  margin-top: 16px;
}
.long {
  padding-left: 22px;
  margin: 8px 0;
}
.long li {
  padding: 5px 0;
  border-bottom: 1px solid var(--hairline);
}
.long .figures {
  display: inline-block;
  min-width: 110px;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
