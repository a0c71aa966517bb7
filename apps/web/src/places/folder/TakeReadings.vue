<script setup lang="ts">
// Taking readings: one point fills the page. Enter takes what is typed, else what is live, and moves on; Backspace on an empty entry goes back.
import { judgeCheck, standingByPoint, type Check, type Reading, type TakeReading } from '@calm-loop/contract'
import { pointWords } from '@calm-loop/core/check'
import { entryFrom, entryIn, formatNumber, unitOf, type Entry } from '@calm-loop/core/quantity'
import { spread } from '@calm-loop/core/thread'
import { onKeyStroke } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, nextTick, onMounted, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { useOutbox } from '../../stores/outbox.ts'
import { usePreferences } from '../../stores/preferences.ts'
import QuantityField from '../../widgets/QuantityField.vue'
import ErrorPlot from '../../widgets/ErrorPlot.vue'
import WordsField from '../../widgets/WordsField.vue'
import BenchControl from './BenchControl.vue'
import PointList from './PointList.vue'
import SteadyLine from './SteadyLine.vue'

const props = defineProps<{ check: Check }>()
const folder = useFolder()
const live = useLive()
const outbox = useOutbox()
const preferences = usePreferences()

const thread = computed(
  () => folder.kind!.study(folder.view!.versions.find((v) => v.id === props.check.versionId)!.entries).thread,
)
const process = computed(() => thread.value.knots[0]!)
const controller = computed(() => thread.value.knots.at(-1)!)
const standing = computed(() => standingByPoint(props.check))
const waiting = computed(
  () =>
    new Map(
      outbox.pending
        .filter((p) => p.params['checkId'] === props.check.id)
        .map((p) => [(p.body as TakeReading).pointIndex, p]),
    ),
)
const isTaken = (index: number) =>
  standing.value.has(index) || (waiting.value.has(index) && !waiting.value.get(index)!.refused)
const firstOpen = () => props.check.points.find((p) => !isTaken(p.index))?.index
const at = ref(firstOpen() ?? -1)
const point = computed(() => props.check.points[at.value])
const earlier = computed(() => standing.value.get(at.value))
const done = computed(() => at.value < 0)

const applied = ref<Entry>({ typed: '' })
const current = ref<Entry>({ typed: '' })
const shown = ref<Entry>({ typed: '' })
const reason = ref('')
const says = ref('')
const unsteadyTold = ref(false)

const nominal = computed(() => {
  const { lrv, urv } = props.check.range
  return point.value ? lrv + (point.value.percent / 100) * (urv - lrv) : lrv
})
const fixed = (value: number, unit: string, decimals: number): Entry =>
  entryFrom(`${formatNumber(value, { decimals }).replace('−', '-')} ${unit}`, { quantity: unitOf(unit).quantity, unit })
const liveEntry = (knotId: string): Entry | undefined => {
  const knot = thread.value.knots.find((k) => k.id === knotId)!
  const value = live.connected ? live.reading?.knots[knotId] : undefined
  return value === undefined ? undefined : fixed(value, knot.unit, knot.decimals)
}
const liveApplied = computed(() =>
  live.connected && live.reading
    ? fixed(live.reading.reference, process.value.unit, process.value.decimals)
    : undefined,
)
/** The true input that counts now, in the process knot's unit. */
const trueNow = computed(() => (applied.value.typed.trim() ? applied.value : liveApplied.value))
const expected = computed(() => {
  const value = entryIn(trueNow.value, process.value.unit)
  if (value === undefined) return undefined
  const found = spread(thread.value, process.value.id, value)[thread.value.knots.findIndex((k) => k.role === 'current')]
  return found?.known ? found.value : undefined
})

const judged = computed(() => judgeCheck(props.check))

function refuse(words: string): void {
  says.value = words
}
function take(): void {
  says.value = ''
  if (!point.value) return
  const typedCurrent = current.value.typed.trim() !== ''
  const trueEntry = trueNow.value
  const currentEntry = typedCurrent ? current.value : liveEntry('current')
  if (trueEntry?.value === undefined)
    return refuse(
      applied.value.typed.trim()
        ? 'The true input cannot be read; see the entry.'
        : `Enter the true input first: there is no live ${folder.kind!.check.reference}.`,
    )
  if (currentEntry?.value === undefined)
    return refuse(
      typedCurrent
        ? 'The loop current cannot be read; see the entry.'
        : 'Type the loop current: there is no live reading to take.',
    )
  if (shown.value.typed.trim() && shown.value.value === undefined)
    return refuse('What the controller shows cannot be read; see the entry.')
  if (earlier.value && !reason.value.trim())
    return refuse('This point was read before. Say why it is read again; the earlier reading stays on record.')
  if (!typedCurrent && live.steadiness.state !== 'stable' && !unsteadyTold.value) {
    unsteadyTold.value = true
    return refuse('The current is not steady yet. Wait, or press Enter again to take it as it is.')
  }
  const reads: TakeReading['reads'] = { current: currentEntry as Reading['applied'] }
  for (const id of ['digital', 'volts', 'counts', controller.value.id]) {
    const entry = id === controller.value.id && shown.value.typed.trim() ? shown.value : liveEntry(id)
    if (entry?.value !== undefined) reads[id] = entry as Reading['applied']
  }
  const body: TakeReading = {
    pointIndex: point.value.index,
    applied: trueEntry as Reading['applied'],
    reads,
    source: typedCurrent ? 'typed' : 'live',
    supersedes: earlier.value?.id ?? null,
    reason: reason.value.trim(),
    takenAt: new Date().toISOString(),
  }
  const id = uuid()
  outbox.put(
    {
      id,
      endpoint: 'takeReading',
      params: { loopId: folder.view!.loop.id, checkId: props.check.id, readingId: id },
      body,
    },
    (saved) => folder.addReading(props.check.id, saved as Reading),
  )
  go(firstOpen() ?? -1)
}
function go(index: number): void {
  at.value = index
  applied.value = current.value = shown.value = { typed: '' }
  reason.value = says.value = ''
  unsteadyTold.value = false
  void nextTick(() =>
    document.querySelector<HTMLInputElement>('[data-entry="current"] input')?.focus({ preventScroll: true }),
  )
}
const back = () => go(Math.max(0, (at.value < 0 ? props.check.points.length : at.value) - 1))
// The button that began the check stood far down; the work begins at the top.
onMounted(() => window.scrollTo({ top: 0 }))
const bring = () => point.value && live.move(folder.view!.loop.id, nominal.value)
onKeyStroke(['b', 'B'], (event) => {
  if (!(event.target as HTMLElement).matches('input, textarea')) void bring()
})
</script>

<template>
  <section class="taking" aria-label="Take readings">
    <div class="now">
      <template v-if="point && !done">
        <p class="quiet">
          Point {{ at + 1 }} of {{ check.points.length }}, {{ check.phase === 'as-found' ? 'as found' : 'as left'
          }}<template v-if="live.connected">; bench stand-in{{ live.reading?.moving ? ', moving' : '' }}</template>
        </p>
        <h2 class="point" data-test="point">
          {{ pointWords(point) }}
          <span class="quiet nominal figures">{{
            preferences.quantity(nominal, process.unit, { decimals: process.decimals, trim: true })
          }}</span>
        </h2>
        <BenchControl :nominal="nominal" :unit="process.unit" :process="folder.kind!.check.process" @bring="bring" />
        <div class="pair">
          <div data-entry="applied">
            <QuantityField
              :label="folder.kind!.check.trueInput"
              :quantity="process.quantity"
              :unit="process.unit"
              :entry="applied"
              :help="liveApplied ? 'Empty takes the live figure.' : 'Where the process really stands.'"
              large
              @entry="applied = $event"
              @enter="take"
              @back="back"
            />
            <p class="witness">
              <svg width="18" height="18" aria-hidden="true">
                <circle cx="9" cy="9" r="5" class="dot" :class="{ off: !liveApplied }" />
              </svg>
              <span v-if="liveApplied" class="figures live">{{ liveApplied.typed }}</span>
              <span class="quiet small"
                >{{ folder.kind!.check.reference }}{{ liveApplied ? '' : ': no live figure' }}</span
              >
            </p>
          </div>
          <div data-entry="current">
            <QuantityField
              label="Loop current read"
              quantity="current"
              unit="mA"
              :entry="current"
              help="Empty takes the live figure."
              large
              autofocus
              @entry="current = $event"
              @enter="take"
              @back="back"
            />
            <SteadyLine />
          </div>
        </div>
        <p class="expected">
          <svg width="18" height="18" aria-hidden="true"><circle cx="9" cy="9" r="6" class="ring" /></svg>
          expected for that
          <span class="figures big" data-test="expected">{{
            expected === undefined ? 'needs the true input' : preferences.quantity(expected, 'mA')
          }}</span>
        </p>
        <WordsField
          v-if="earlier"
          label="Why it is read again"
          :value="reason"
          needed
          help="The earlier reading stays on record."
          @typed="reason = $event"
          @enter="take"
        />
        <p v-if="says" class="says" role="alert">{{ says }}</p>
        <v-btn class="take" color="primary" variant="flat" block size="x-large" data-test="take" @click="take"
          >Take reading</v-btn
        >
        <div data-entry="controller" class="also">
          <QuantityField
            label="Controller shows (optional)"
            :quantity="controller.quantity"
            :unit="controller.unit"
            :entry="shown"
            help="As the operator reads it out. Empty takes the live figure."
            @entry="shown = $event"
            @enter="take"
          />
        </div>
      </template>
      <template v-else>
        <h2>All {{ check.points.length }} points are read</h2>
        <p v-if="judged" class="verdict" :class="{ fail: !judged.result.pass }" data-test="verdict">
          {{ judged.result.pass ? 'Within tolerance.' : 'Out of tolerance.' }} Largest error
          <span class="figures"
            >{{ preferences.number(judged.result.maxErrorPct, { decimals: 3, sign: true }) }} %</span
          >
          of span.
        </p>
        <v-btn color="primary" variant="flat" size="large" :to="`/loops/${folder.view!.loop.id}/hand-over`"
          >Go to hand over</v-btn
        >
      </template>
    </div>
    <div class="beside">
      <ErrorPlot :check="check" :height="280" />
      <PointList :check="check" :at="at" :waiting="waiting" @go="go" />
    </div>
  </section>
</template>

<style scoped>
.taking {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 40px;
}
.point {
  font-size: 28px;
}
.nominal {
  font-weight: 400;
  font-size: 20px;
  margin-left: 8px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 0 24px;
}
.witness {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  margin: 0;
}
.dot {
  fill: var(--signal);
}
.dot.off {
  fill: none;
  stroke: var(--second);
}
.live {
  color: var(--signal);
  font-size: 22px;
  font-weight: 600;
  white-space: nowrap;
}
.also {
  margin-top: 12px;
}
.expected {
  display: flex;
  align-items: center;
  gap: 10px;
  margin: 0 0 8px;
}
.ring {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.big {
  font-size: 28px;
}
.says {
  color: var(--look);
  font-weight: 600;
}
.take {
  min-height: 64px !important;
  font-size: 20px !important;
}
.verdict {
  font-size: 20px;
  color: var(--action);
}
.verdict.fail {
  color: var(--stop);
}
@media (max-width: 740px) {
  .taking {
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
  }
}
</style>
