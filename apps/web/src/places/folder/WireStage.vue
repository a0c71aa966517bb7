<script setup lang="ts">
// Wire: the wiring as terminals and conductors, and under it what is done with it, one thing at a time.
import { addressOf } from '../../api/client.ts'
import { computed, defineAsyncComponent, ref, watch, watchEffect } from 'vue'
import { useRoute } from 'vue-router'
import { useDesk } from '../../stores/desk.ts'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useAfterFrame } from '../../widgets/afterFrame.ts'
import FigureList from '../../widgets/FigureList.vue'
import FindingList from '../../widgets/FindingList.vue'
import AddDevice from '../../wiring/AddDevice.vue'
import BeforePower from '../../wiring/BeforePower.vue'
import DeskBar from '../../wiring/DeskBar.vue'
import ExplainPanel from '../../wiring/ExplainPanel.vue'
import MeterPanel from '../../wiring/MeterPanel.vue'
import TerminalList from '../../wiring/TerminalList.vue'
import WorkTabs from '../../widgets/WorkTabs.vue'
import WiringCanvas from '../../wiring/WiringCanvas.vue'
import { stageOfFinding } from './findings.ts'
import SaveLine from './SaveLine.vue'
import StageEntries from './StageEntries.vue'
import LiftStair from './LiftStair.vue'
import { LISTS } from '@calm-loop/core/wiring'
import { sure } from '@calm-loop/core/sure'

const LoadLine = defineAsyncComponent(() => import('./LoadLine.vue'))
const desk = useDesk()
const folder = useFolder()
const preferences = usePreferences()
const route = useRoute()

const WORKS = [
  { id: 'arrange', name: 'Arrangement and budget' },
  { id: 'before-power', name: 'Before power' },
  { id: 'meter', name: 'Meter' },
  { id: 'explain', name: 'Explain a reading' },
  { id: 'terminals', name: 'Terminals' },
] as const
const work = computed(() => WORKS.find((w) => w.id === route.query['do'])?.id ?? 'arrange')

const findings = computed(
  () => folder.study?.findings.filter((f) => stageOfFinding(sure(folder.kind), f) === 'wire') ?? [],
)
const stops = computed(() => findings.value.filter((f) => f.grade === 'stop'))
const works = computed(() => WORKS.map((w) => ({ ...w, stops: w.id === 'before-power' ? stops.value.length : 0 })))
/** What stands below the drawing comes one frame after it, so that a conductor let go shows its volts at once. */
const figures = useAfterFrame(() => folder.study?.figures.filter((f) => f.stage === 'wire') ?? [])
/** Marked in the drawing: what the stops are about, or what an explanation points at. */
const pointed = ref<readonly string[]>([])
watch([() => folder.view?.loop.id, work], () => (pointed.value = []))
watchEffect(() => {
  desk.marked = pointed.value.length
    ? pointed.value
    : stops.value.flatMap((f) => ('where' in f ? (f.where as readonly string[]) : []))
})
watch(work, (w) => w !== 'meter' && (desk.placement = undefined))

const floats = computed(() => {
  const e = desk.energised
  const w = desk.wiring
  if (!e || !w) return ''
  return [...new Set(w.conductors.flatMap((c) => e.floatsOn(c.from) ?? []))].join(', ')
})
const LIST_NAMES = { terminals: 'Terminals', cables: 'Cables', ferrules: 'Ferrules', legend: 'Legend' } as const
const loopId = computed(() => sure(folder.view).loop.id)
const mA = computed(() => Math.round(desk.mA * 100) / 100)
const sheet = (what: 'wiringPdf' | 'wiringSvg' | 'wiringCsv') =>
  addressOf(what, { loopId: loopId.value }, { mA: mA.value })
</script>

<template>
  <section aria-label="Wire">
    <h2 class="visually-hidden">Wire</h2>
    <DeskBar />
    <WiringCanvas>
      {{ desk.study?.own ? 'As drawn here.' : 'As proposed for the arrangement below.' }}
      <template v-if="desk.energised"
        >Volts to {{ floats ? `earth, where a circuit floats to ${floats}` : 'earth' }}, at
        {{ preferences.quantity(mA, 'mA', { trim: true }) }}, the thread’s current.</template
      >
      <template v-else-if="desk.study?.needs.length">Volts still need: {{ desk.study.needs.join(', ') }}.</template>
    </WiringCanvas>
    <WorkTabs :works="works" label="Work at the wiring">
      <template v-if="work === 'arrange'">
        <LiftStair />
        <div class="entries-and-figures">
          <StageEntries stage="wire" :columns="2" />
          <!-- Beside the entries, so that nothing moves under the finger when one comes or goes. -->
          <div>
            <FigureList :figures="figures" />
            <FindingList class="found" :findings="findings.filter((f) => f.grade !== 'note')" />
          </div>
        </div>
        <LoadLine class="load" />
      </template>
      <BeforePower v-else-if="work === 'before-power'" :findings="findings" />
      <MeterPanel v-else-if="work === 'meter'" />
      <ExplainPanel v-else-if="work === 'explain'" @show="pointed = $event" />
      <template v-else>
        <div class="do sheets">
          <v-btn variant="outlined" :href="sheet('wiringPdf')" target="_blank">Wiring sheet, PDF</v-btn>
          <v-btn
            v-for="paper in ['A4', 'A3'] as const"
            :key="paper"
            variant="outlined"
            :href="addressOf('loopDrawing', { loopId }, { paper })"
            target="_blank"
            >Loop drawing, {{ paper }}</v-btn
          >
          <v-btn variant="text" :href="sheet('wiringSvg')">Drawing, SVG</v-btn>
          <v-btn variant="text" :href="sheet('wiringCsv')">Conductors, CSV</v-btn>
          <v-btn
            v-for="list in LISTS"
            :key="list"
            variant="text"
            :href="addressOf('wiringList', { loopId, list }, { mA })"
            >{{ LIST_NAMES[list] }}, CSV</v-btn
          >
        </div>
        <TerminalList />
        <AddDevice v-if="desk.mayChange" />
      </template>
    </WorkTabs>
    <p class="caution small">
      <b>Caution.</b> Power off and proved dead before a conductor is moved or a meter goes in series. Mains is work for
      a licensed person. In a hazardous area nothing is opened or connected, and no meter used, without a permit.
      <template v-if="folder.entries['controls']?.typed"
        >This loop feeds: {{ folder.entries['controls'].typed }}.</template
      >
      Site procedure, local codes and licensed practice come first.
    </p>
    <SaveLine />
  </section>
</template>

<style scoped>
.load {
  max-width: 560px;
  contain: content;
}
.found {
  margin-top: 16px;
}
.sheets {
  margin-bottom: 12px;
}
</style>
