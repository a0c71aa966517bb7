<script setup lang="ts">
// Wire of a discrete point: will it work on this input, what makes it work, and the wiring terminal by terminal.
import { computed, ref, watchEffect } from 'vue'
import { useRoute } from 'vue-router'
import { addressOf } from '../../api/client.ts'
import { useDesk } from '../../stores/desk.ts'
import { useFolder } from '../../stores/folder.ts'
import BothTeachings from '../../switching/BothTeachings.vue'
import FitDrawing from '../../switching/FitDrawing.vue'
import FitVerdict from '../../switching/FitVerdict.vue'
import RowTables from '../../switching/RowTables.vue'
import WayList from '../../switching/WayList.vue'
import ChoiceField from '../../widgets/ChoiceField.vue'
import FigureList from '../../widgets/FigureList.vue'
import FindingList from '../../widgets/FindingList.vue'
import WorkTabs from '../../widgets/WorkTabs.vue'
import AddDevice from '../../wiring/AddDevice.vue'
import BeforePower from '../../wiring/BeforePower.vue'
import DeskBar from '../../wiring/DeskBar.vue'
import MeterPanel from '../../wiring/MeterPanel.vue'
import TerminalList from '../../wiring/TerminalList.vue'
import WiringCanvas from '../../wiring/WiringCanvas.vue'
import { stageOfFinding } from './findings.ts'
import SaveLine from './SaveLine.vue'
import StageEntries from './StageEntries.vue'
import { sure } from '@calm-loop/core/sure'

const desk = useDesk()
const folder = useFolder()
const route = useRoute()
const findings = computed(
  () => folder.study?.findings.filter((f) => stageOfFinding(sure(folder.kind), f) === 'wire') ?? [],
)
const stops = computed(() => findings.value.filter((f) => f.grade === 'stop'))
const figures = computed(() => folder.study?.figures.filter((f) => f.stage === 'wire') ?? [])
const output = computed(() => sure(folder.reader).text('output'))
const works = computed(() => [
  { id: 'fit', name: 'Sensor and input' },
  { id: 'ways', name: 'Make it work' },
  { id: 'before-power', name: 'Before power', stops: stops.value.length },
  { id: 'meter', name: 'Meter' },
  { id: 'terminals', name: 'Terminals' },
])
const atDesk = computed(() => ['before-power', 'meter', 'terminals'].includes(String(route.query['do'])))
const pointed = ref<readonly string[]>([])
watchEffect(() => {
  desk.marked = pointed.value.length
    ? pointed.value
    : stops.value.flatMap((f) => ('where' in f ? (f.where as readonly string[]) : []))
})
const loopId = computed(() => sure(folder.view).loop.id)
const sheet = (what: 'wiringPdf' | 'wiringSvg' | 'wiringCsv') =>
  addressOf(what, { loopId: loopId.value }, { target: desk.target ? 1 : 0 })
</script>

<template>
  <section aria-label="Wire">
    <h2 class="visually-hidden">Wire</h2>
    <template v-if="atDesk">
      <DeskBar />
      <WiringCanvas>
        {{ desk.study?.own ? 'As drawn here.' : 'As proposed for the entries.' }}
        <template v-if="desk.energised">Volts to earth, target {{ desk.target ? 'present' : 'absent' }}.</template>
        <template v-else-if="desk.study?.needs.length">Volts still need: {{ desk.study.needs.join(', ') }}.</template>
      </WiringCanvas>
      <ChoiceField
        label="Volts with the target"
        :options="[
          { value: 'present', label: 'present' },
          { value: 'absent', label: 'absent' },
        ]"
        :value="desk.target ? 'present' : 'absent'"
        @choose="desk.target = $event === 'present'"
      />
    </template>
    <template v-else-if="route.query['do'] !== 'ways' && folder.run">
      <FitDrawing :run="folder.run" :output="output" />
      <FitVerdict />
      <BothTeachings />
    </template>
    <WorkTabs v-slot="{ work }" :works="works" label="Work at the wiring">
      <template v-if="work === 'fit'">
        <div class="entries-and-figures">
          <StageEntries stage="wire" :columns="2" />
          <div>
            <FindingList :findings="findings" />
            <FigureList :figures="figures" />
          </div>
        </div>
        <RowTables />
      </template>
      <WayList v-else-if="work === 'ways'" />
      <BeforePower v-else-if="work === 'before-power'" :findings="findings" />
      <MeterPanel v-else-if="work === 'meter'" />
      <template v-else>
        <div class="do sheets">
          <v-btn variant="outlined" :href="sheet('wiringPdf')" target="_blank">Wiring sheet, PDF</v-btn>
          <v-btn variant="text" :href="sheet('wiringSvg')">Drawing, SVG</v-btn>
          <v-btn variant="text" :href="sheet('wiringCsv')">Terminal list, CSV</v-btn>
        </div>
        <TerminalList />
        <AddDevice v-if="desk.mayChange" />
      </template>
    </WorkTabs>
    <p v-if="route.query['do'] !== 'ways'" class="caution small">
      <b>Caution.</b> Isolate and lock off the machine before reaching in. Power off and proved dead before a conductor
      is moved. In a hazardous area nothing is opened or connected, and no meter used, without a permit.
      <template v-if="folder.entries['controls']?.typed"
        >This point feeds: {{ folder.entries['controls'].typed }}.</template
      >
      Site procedure, local codes and licensed practice come first.
    </p>
    <SaveLine />
  </section>
</template>

<style scoped>
.sheets {
  margin-bottom: 12px;
}
</style>
