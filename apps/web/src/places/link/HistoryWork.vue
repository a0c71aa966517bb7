<script setup lang="ts">
// The device’s own past: what a download comes to before it is begun, what has come, plotted with its events.
import type { DeviceHistory, LinkState } from '@calm-loop/contract'
import { planHistory } from '@calm-loop/core/hart'
import { convertUnit, findUnit, parseNumber } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { sure } from '@calm-loop/core/sure'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { addressOf, call } from '../../api/client.ts'
import { useDeviceLink } from '../../stores/device-link.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { dayWords } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'
import { spell } from './words.ts'

const props = defineProps<{ state: LinkState }>()
const link = useDeviceLink()
const session = useSession()
const preferences = usePreferences()
const { says, run } = useDoing()
const may = computed(() => session.has('technician'))
const past = shallowRef<DeviceHistory>()
const params = () => ({ params: link.params() })
const load = () => run(async () => (past.value = await call('deviceHistory', params())))
onMounted(load)
const look = () =>
  run(async () => {
    past.value = await call('lookAtHistory', params())
    if (!past.value.info) throw new Error('The device keeps no past, or does not tell it.')
  })
const hours = ref('24')
const ago = ref('24')
const every = ref('60')
const EVERY = [
  { value: '10', label: '10 s' },
  { value: '60', label: '1 min' },
  { value: '600', label: '10 min' },
  { value: '3600', label: '1 h' },
]
/** What the loop of this tag has on record of its digital value. */
const onRecord = shallowRef<readonly { t_s: number; value: number; unit: string }[]>([])
watch(
  () => props.state.device?.tag,
  (tag) => void readRecord(tag ?? '').catch(() => (onRecord.value = [])),
  { immediate: true },
)
async function readRecord(tag: string): Promise<void> {
  onRecord.value = []
  if (!tag) return
  const { loops } = await call('loops', { query: { q: tag, limit: 12 } })
  const found = loops.find((l) => l.tag.toUpperCase() === tag)
  if (!found) return
  const { checks } = await call('folder', { params: { loopId: found.id } })
  onRecord.value = checks
    .filter((c) => !c.practice)
    .flatMap((c) => c.readings)
    .flatMap((r) => {
      const { value, unit } = r.reads['digital'] ?? {}
      return value === undefined || unit === undefined ? [] : [{ t_s: Date.parse(r.takenAt) / 1000, value, unit }]
    })
}
const recorded = computed(() =>
  onRecord.value.flatMap(({ t_s, value, unit: own }): [number, number][] => {
    const told = attempt(() => convertUnit(value, own, past.value?.unit ?? ''))
    return told instanceof Refusal ? [] : [[t_s, told]]
  }),
)
const figure = (text: string) => {
  const read = parseNumber(text, { decimalMark: preferences.decimalMark })
  return 'value' in read && read.value > 0 ? read.value : undefined
}
const wish = computed(() => {
  const [back, span] = [figure(ago.value), figure(hours.value)]
  const newest_s = past.value?.info?.newest_s
  if (back === undefined || span === undefined || newest_s === undefined) return undefined
  return { from_s: Math.max(0, Math.round(newest_s - back * 3600)), hours: span, every_s: Number(every.value) }
})
const plan = computed(() =>
  past.value?.info && wish.value ? planHistory(past.value.info, wish.value, past.value.line) : undefined,
)
const download = () => run(() => call('downloadHistory', { ...params(), body: sure(wish.value) }))
const stop = () => run(() => call('stopLink', params()))
// As soon as the line is idle again, and now and then while it reads, what has come is shown.
watch(
  () => [props.state.doing, Math.floor((props.state.upload?.done ?? 0) / 500)],
  () => void load(),
)
const W = 900
const H = 220
const drawn = computed(() => {
  const rows = past.value?.rows ?? []
  const values = rows.flatMap(([, v]) => (v === null ? [] : [v]))
  if (values.length < 2) return undefined
  const [from, to] = [sure(rows[0])[0], sure(rows.at(-1))[0]]
  const [low, high] = values.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)] as const, [Infinity, -Infinity])
  const pad = (high - low || 1) * 0.08
  const x = (t: number) => 56 + ((t - from) / Math.max(1, to - from)) * (W - 72)
  const y = (v: number) => 12 + (1 - (v - low + pad) / (high - low + 2 * pad)) * (H - 44)
  let path = ''
  let on = false
  for (const [t, v] of rows) {
    if (v !== null) path += `${on ? 'L' : 'M'}${x(t).toFixed(1)} ${y(v).toFixed(1)}`
    on = v !== null
  }
  const events = (past.value?.events ?? []).filter((e) => e.t_s >= from && e.t_s <= to)
  const dots = recorded.value
    .filter(([t, v]) => t >= from && t <= to && v >= low - pad && v <= high + pad)
    .map(([t, v]) => ({ x: x(t), y: y(v) }))
  return { from, to, low, high, path, y, dots, marks: events.map((e) => ({ ...e, x: x(e.t_s) })) }
})
const unit = computed(() => findUnit(past.value?.unit ?? '')?.label ?? past.value?.unit ?? '')
const shown = (v: number) => String(Number(v.toPrecision(4))).replace('.', preferences.decimalMark)
const when = (t_s: number) => {
  const iso = new Date(t_s * 1000).toISOString()
  return `${dayWords(iso.slice(0, 10))} ${iso.slice(11, 16)}`
}
const KINDS = { event: 'event', alarm: 'alarm', change: 'changed' }
const size = (bytes: number) => (bytes < 10_000 ? `${bytes} bytes` : `${Math.round(bytes / 1000)} kB`)
</script>

<template>
  <p v-if="!state.device" class="quiet">Find the device first; then it is asked for its past.</p>
  <template v-else>
    <div v-if="may" class="do">
      <v-btn
        :color="past?.info ? undefined : 'primary'"
        :variant="past?.info ? 'text' : 'flat'"
        :disabled="link.busy"
        @click="look"
      >
        {{ past?.info ? 'Look again' : 'Look what it keeps' }}
      </v-btn>
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <template v-if="past?.info">
      <p class="quiet">
        It keeps {{ past.info.rows.toLocaleString('en').replaceAll(',', ' ') }} rows, one every
        {{ past.info.interval_s }} s, up to {{ when(past.info.newest_s) }} UTC, and {{ past.info.events }} events.
      </p>
      <form v-if="may" class="wish" @submit.prevent="download">
        <WordsField label="From, hours ago" :value="ago" @typed="ago = $event" />
        <WordsField label="For how many hours" :value="hours" @typed="hours = $event" />
        <ChoiceField label="A row every" :options="EVERY" :value="every" @choose="every = $event" />
        <div>
          <p v-if="plan" class="figures" data-test="estimate">
            {{ plan.rows }} rows, {{ size(plan.bytes) }}, about {{ spell(plan.seconds) }}
          </p>
          <v-btn v-if="state.doing === 'reading'" variant="outlined" data-test="stop" @click="stop">Stop reading</v-btn>
          <v-btn v-else type="submit" color="primary" variant="flat" :disabled="!plan?.rows || link.busy">
            {{ past.missing ? 'Read on' : 'Download' }}
          </v-btn>
        </div>
      </form>
      <p v-if="state.upload" role="status" class="figures">
        {{ state.upload.done }} of {{ state.upload.of }} rows<template v-if="state.upload.left_s !== null"
          >, about {{ spell(state.upload.left_s) }} left</template
        >
      </p>
      <p v-else-if="past.missing" class="look">{{ past.missing }} rows are missing still. What has come is kept.</p>
      <svg
        v-if="drawn"
        :viewBox="`0 0 ${W} ${H}`"
        class="worded"
        role="img"
        aria-label="The value over time, with events"
      >
        <path :d="`M56 ${drawn.y(drawn.low)}H${W - 16}M56 ${drawn.y(drawn.high)}H${W - 16}`" class="rule" />
        <path :d="drawn.path" class="trace" />
        <g v-for="m in drawn.marks" :key="m.t_s + m.says">
          <path :d="`M${m.x} 12V${H - 32}`" class="mark" :class="m.kind" />
          <title>{{ KINDS[m.kind] }}: {{ m.says }}</title>
        </g>
        <circle v-for="(d, i) in drawn.dots" :key="i" :cx="d.x" :cy="d.y" r="5" class="dot" />
        <text x="48" :y="drawn.y(drawn.high) + 5" class="end small">{{ shown(drawn.high) }}</text>
        <text x="48" :y="drawn.y(drawn.low) + 5" class="end small">{{ shown(drawn.low) }}</text>
        <text x="56" :y="H - 8" class="small">{{ when(drawn.from) }}</text>
        <text :x="W / 2" :y="H - 8" class="small mid">{{ unit }}</text>
        <text :x="W - 16" :y="H - 8" class="small end">{{ when(drawn.to) }} UTC</text>
      </svg>
      <p v-if="drawn?.dots.length" class="small quiet">Circles: digital values on the loop’s own record.</p>
      <a v-if="past.rows.length" :href="addressOf('historyCsv', link.params())" class="csv">
        {{ past.rows.length }} rows and {{ past.events.length }} events as CSV
      </a>
      <ul v-if="past.events.length" class="events">
        <li v-for="e in past.events" :key="e.t_s + e.says">
          <span class="figures small">{{ when(e.t_s) }}</span>
          <span :class="{ look: e.kind === 'alarm' }">{{ KINDS[e.kind] }}</span>
          <span>{{ e.says }}</span>
        </li>
      </ul>
    </template>
  </template>
</template>

<style scoped>
.wish {
  display: grid;
  grid-template-columns: minmax(120px, 160px) minmax(120px, 170px) minmax(240px, 1fr) auto;
  gap: 8px 24px;
  align-items: center;
}
.rule {
  stroke: var(--hairline);
}
.trace {
  stroke: var(--signal);
  stroke-width: 1.6;
  fill: none;
}
.dot {
  stroke: var(--action);
  stroke-width: 2;
  fill: var(--ground);
}
.mark {
  stroke: var(--second);
  stroke-dasharray: 3 3;
}
.mark.alarm {
  stroke: var(--look);
  stroke-dasharray: none;
}
.csv {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
.events {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
.events li {
  display: grid;
  grid-template-columns: 180px 90px 1fr;
  gap: 4px 16px;
  padding: 6px 0;
  border-bottom: 1px solid var(--hairline);
}
@media (max-width: 740px) {
  .wish,
  .events li {
    grid-template-columns: 1fr;
  }
}
</style>
