<script setup lang="ts">
// Wire: the wiring as terminals and conductors, and under it what is done with it, one thing at a time.
import { addressOf } from '../../api/client.ts'
import { takeOut, landConductor } from '@calm-loop/core/wiring'
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, watch, watchEffect } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useDesk } from '../../stores/desk.ts'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useSession } from '../../stores/session.ts'
import FigureList from '../../widgets/FigureList.vue'
import FindingList from '../../widgets/FindingList.vue'
import AddDevice from '../../wiring/AddDevice.vue'
import BeforePower from '../../wiring/BeforePower.vue'
import ExplainPanel from '../../wiring/ExplainPanel.vue'
import MeterPanel from '../../wiring/MeterPanel.vue'
import TerminalList from '../../wiring/TerminalList.vue'
import WiringCanvas from '../../wiring/WiringCanvas.vue'
import { stageOfFinding } from './findings.ts'
import SaveLine from './SaveLine.vue'
import StageEntries from './StageEntries.vue'
import VoltStacks from './VoltStacks.vue'

const LoadLine = defineAsyncComponent(() => import('./LoadLine.vue'))
const desk = useDesk()
const folder = useFolder()
const session = useSession()
const preferences = usePreferences()
const route = useRoute()
const router = useRouter()

const WORKS = [
  { id: 'arrange', name: 'Arrangement and budget' },
  { id: 'before-power', name: 'Before power' },
  { id: 'meter', name: 'Meter' },
  { id: 'explain', name: 'Explain a reading' },
  { id: 'terminals', name: 'Terminals' },
] as const
const work = computed(() => WORKS.find((w) => w.id === route.query['do'])?.id ?? 'arrange')
const go = (id: string) => void router.replace({ query: { do: id } })
function keys(event: KeyboardEvent): void {
  const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0
  if (!step) return
  const next = WORKS[(WORKS.findIndex((w) => w.id === work.value) + step + WORKS.length) % WORKS.length]!
  go(next.id)
  document.getElementById(`work-${next.id}`)?.focus()
}

const findings = computed(() => folder.study?.findings.filter((f) => stageOfFinding(folder.kind!, f) === 'wire') ?? [])
const stops = computed(() => findings.value.filter((f) => f.grade === 'stop'))
const figures = computed(() => folder.study?.figures.filter((f) => f.stage === 'wire') ?? [])
/** Marked in the drawing: what the stops are about, or what an explanation points at. */
const pointed = ref<readonly string[]>([])
watch([() => folder.view?.loop.id, work], () => (pointed.value = []))
watchEffect(() => {
  desk.marked = pointed.value.length
    ? pointed.value
    : stops.value.flatMap((f) => ('where' in f ? (f.where as readonly string[]) : []))
})
watch(work, (w) => w !== 'meter' && (desk.placement = undefined))

const chosenConductor = computed(() =>
  desk.chosen?.what === 'conductor' ? desk.wiring?.conductors.find((c) => c.id === desk.chosen!.id) : undefined,
)
const said = computed(() => {
  if (desk.drawingFrom) return `From ${desk.drawingFrom}: now choose the other terminal. Esc stops.`
  const c = chosenConductor.value
  if (c) {
    const mA = desk.energised?.milliamps(c.id)
    return `${c.id}: ${c.from || 'cut back'} to ${c.to || 'cut back'}${c.colour ? `, ${c.colour}` : ''}${mA === undefined ? '' : `, ${preferences.quantity(Math.abs(mA) < 5e-3 ? 0 : mA, 'mA', { decimals: 2 })} from the first to the second`}.`
  }
  if (desk.chosen?.what === 'terminal') {
    const v = desk.energised?.volts(desk.chosen.id)
    const on = desk.wiring?.conductors.filter((k) => k.from === desk.chosen!.id || k.to === desk.chosen!.id) ?? []
    return `${desk.chosen.id}: ${v === undefined ? 'volts not known yet' : `${preferences.quantity(Math.abs(v) < 5e-3 ? 0 : v, 'V', { decimals: 2 })} to earth`}, ${on.length ? `carries ${on.map((k) => k.id).join(', ')}` : 'nothing on it'}.`
  }
  return 'Choose a terminal or a conductor, or drag from one terminal to another.'
})
const mayChange = computed(() => session.has('technician'))
useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (event.key === 'Escape') desk.drawingFrom = ''
  const typing = (event.target as HTMLElement).closest('input, select, textarea')
  if (typing || !mayChange.value) return
  if ((event.ctrlKey || event.metaKey) && event.key === 'z' && desk.undone.length) {
    event.preventDefault()
    desk.undo()
  }
  if (event.key === 'Delete' && chosenConductor.value) {
    const id = chosenConductor.value.id
    desk.change((w) => takeOut(w, id))
    desk.chosen = undefined
  }
})
/** Lands the far end of the conductor at hand on the terminal chosen next. */
const moving = ref<'from' | 'to'>()
watch(
  () => desk.chosen,
  (chosen, before) => {
    if (!moving.value || chosen?.what !== 'terminal' || before?.what !== 'conductor') return
    const end = moving.value
    moving.value = undefined
    if (desk.change((w) => landConductor(w, before.id, end, chosen.id))) desk.choose('conductor', before.id)
  },
)
const floats = computed(() => {
  const e = desk.energised
  const w = desk.wiring
  if (!e || !w) return ''
  return [...new Set(w.conductors.flatMap((c) => e.floatsOn(c.from) ?? []))].join(', ')
})
const loopId = computed(() => folder.view!.loop.id)
const mA = computed(() => Math.round(desk.mA * 100) / 100)
const sheet = (what: 'wiringPdf' | 'wiringSvg' | 'wiringCsv') =>
  addressOf(what, { loopId: loopId.value }, { mA: mA.value })
</script>

<template>
  <section aria-label="Wire">
    <h2 class="visually-hidden">Wire</h2>
    <div class="bar">
      <p class="small said" role="status">
        {{ moving ? `Choose the terminal for the ${moving === 'from' ? 'first' : 'second'} end.` : said }}
        <span v-if="desk.says" class="bad">{{ desk.says }}</span>
      </p>
      <div class="do">
        <template v-if="mayChange">
          <template v-if="chosenConductor">
            <button type="button" class="act" @click="moving = 'from'">Move first end</button>
            <button type="button" class="act" @click="moving = 'to'">Move second end</button>
          </template>
          <button
            v-else-if="desk.chosen?.what === 'terminal' && !desk.drawingFrom"
            type="button"
            class="act"
            @click="desk.begin(desk.chosen.id)"
          >
            Connect from here
          </button>
          <button type="button" class="act" :disabled="!desk.undone.length" @click="desk.undo()">Undo</button>
          <button v-if="desk.study?.own" type="button" class="act" @click="desk.takeProposal()">
            Take the proposal
          </button>
        </template>
        <button type="button" class="act" :aria-pressed="desk.animated" @click="desk.animated = !desk.animated">
          {{ desk.animated ? 'Hide the current' : 'Show the current' }}
        </button>
      </div>
    </div>
    <WiringCanvas>
      {{ desk.study?.own ? 'As drawn here.' : 'As proposed for the arrangement below.' }}
      <template v-if="desk.energised"
        >Volts to {{ floats ? `earth, where a circuit floats to ${floats}` : 'earth' }}, at
        {{ preferences.quantity(mA, 'mA', { trim: true }) }}, the thread’s current.</template
      >
      <template v-else-if="desk.study?.needs.length">Volts still need: {{ desk.study.needs.join(', ') }}.</template>
    </WiringCanvas>
    <div class="works" role="tablist" aria-label="Work at the wiring">
      <button
        v-for="w in WORKS"
        :id="`work-${w.id}`"
        :key="w.id"
        type="button"
        role="tab"
        :aria-selected="work === w.id"
        :aria-controls="'work-panel'"
        :tabindex="work === w.id ? 0 : -1"
        @click="go(w.id)"
        @keydown="keys"
      >
        {{ w.name }}<span v-if="w.id === 'before-power' && stops.length" class="count">, {{ stops.length }} stop</span>
      </button>
    </div>
    <div id="work-panel" role="tabpanel" :aria-labelledby="`work-${work}`" class="panel">
      <template v-if="work === 'arrange'">
        <div class="two">
          <StageEntries stage="wire" :columns="2" />
          <!-- Beside the entries, so that nothing moves under the finger when one comes or goes. -->
          <div>
            <FigureList :figures="figures" />
            <FindingList class="found" :findings="findings.filter((f) => f.grade !== 'note')" />
          </div>
        </div>
        <div class="pair">
          <VoltStacks />
          <LoadLine />
        </div>
      </template>
      <BeforePower v-else-if="work === 'before-power'" :findings="findings" />
      <MeterPanel v-else-if="work === 'meter'" />
      <ExplainPanel v-else-if="work === 'explain'" @show="pointed = $event" />
      <template v-else>
        <div class="do sheets">
          <v-btn variant="outlined" :href="sheet('wiringPdf')" target="_blank">Wiring sheet, PDF</v-btn>
          <v-btn variant="text" :href="sheet('wiringSvg')">Drawing, SVG</v-btn>
          <v-btn variant="text" :href="sheet('wiringCsv')">Terminal list, CSV</v-btn>
        </div>
        <TerminalList />
        <AddDevice v-if="mayChange" />
      </template>
    </div>
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
.bar {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px 24px;
  flex-wrap: wrap;
  min-height: 48px;
}
.said {
  margin: 0;
}
.act {
  background: none;
  border: 0;
  color: var(--action);
  font: inherit;
  font-weight: 600;
  min-height: 44px;
  padding: 0 8px;
  cursor: pointer;
}
.act:disabled {
  color: var(--second);
  font-weight: 400;
  cursor: default;
}
.works {
  display: flex;
  flex-wrap: wrap;
  gap: 0 24px;
  border-bottom: 1px solid var(--hairline);
  margin-bottom: 16px;
}
.works button {
  background: none;
  border: 0;
  border-bottom: 3px solid transparent;
  min-height: 48px;
  padding: 0 2px;
  font: inherit;
  color: var(--second);
  cursor: pointer;
}
.works [aria-selected='true'] {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--action);
}
.count {
  color: var(--stop);
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1.5fr) minmax(260px, 1fr);
  gap: 32px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 32px;
  margin: 8px 0 16px;
  contain: content;
}
.found {
  margin-top: 16px;
}
.sheets {
  margin-bottom: 12px;
}
.caution {
  border-left: 4px solid var(--look);
  padding: 4px 0 4px 12px;
  margin: 16px 0;
}
@media (max-width: 740px) {
  .two,
  .pair {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
}
</style>
