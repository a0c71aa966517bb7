<script setup lang="ts">
// The link as a line: this computer, the port, the loop, the device; what goes each way, and what the device believes
// of its current.
import { FLAG_WORDS } from '../../widgets/device-flags.ts'
import type { LinkState, Port } from '@calm-loop/contract'
import { findUnit, parseNumber } from '@calm-loop/core/quantity'
import { useWindowSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { usePreferences } from '../../stores/preferences.ts'

const props = defineProps<{ port: Port; state: LinkState }>()
const preferences = usePreferences()
const meter = ref('')
const reading = computed(() => {
  const read = parseNumber(meter.value, { decimalMark: preferences.decimalMark })
  return 'value' in read ? read.value : undefined
})
const figure = (v: number | null | undefined, digits = 3) =>
  v === null || v === undefined ? '—' : v.toFixed(digits).replace('.', preferences.decimalMark)
const unitLabel = (symbol: string) => findUnit(symbol)?.label ?? symbol
const believes = computed(() => props.state.live?.mA ?? null)
const apart = computed(() =>
  reading.value === undefined || believes.value === null ? undefined : reading.value - believes.value,
)
const DOING: Record<LinkState['doing'], string> = {
  closed: 'not open',
  idle: 'open',
  probing: 'asking who is there',
  reading: 'reading',
  writing: 'writing',
  lost: 'gone',
}
/** A mark runs along the line for each frame. */
const out = ref(0)
const into = ref(0)
watch(
  () => props.state.counts.sent,
  () => out.value++,
)
watch(
  () => props.state.counts.answered + props.state.counts.bursts,
  () => into.value++,
)
const flags = computed(() => (props.state.live?.flags ?? []).map((f) => FLAG_WORDS[f] ?? f))
const counts = computed(() => props.state.counts)
const { width } = useWindowSize()
/** On a telephone the words that find no room on the line stand below it. */
const narrow = computed(() => width.value < 600)
/** Where things stand: computer, port, both ends of the loop, device. */
const at = computed(() =>
  narrow.value
    ? { w: 400, pc: 14, port: 100, from: 140, to: 300, dev: 386 }
    : { w: 920, pc: 40, port: 318, from: 420, to: 624, dev: 880 },
)
const mid = computed(() => (at.value.from + at.value.to) / 2)
const exchanged = computed(() => [
  `${counts.value.sent} sent, ${counts.value.answered} answered`,
  `${counts.value.again} tried again${props.state.latency_ms === null ? '' : `, ${props.state.latency_ms} ms`}`,
])
</script>

<template>
  <figure class="device-line">
    <svg
      :viewBox="`0 0 ${at.w} 128`"
      class="worded"
      role="img"
      :style="{ '--from': `${at.pc}px`, '--to': `${at.port}px` }"
      :aria-label="`${port.label}: ${DOING[state.doing]}. ${counts.sent} sent, ${counts.answered} answered.`"
    >
      <path :d="`M${at.pc} 62H${at.from}M${at.to} 62H${at.dev}`" class="wire" />
      <path :d="`M${at.from} 46H${at.to}V78H${at.from}Z`" class="loop" :class="{ off: !state.live }" />
      <circle :cx="at.pc" cy="62" r="9" class="knot" />
      <circle
        :cx="at.port"
        cy="62"
        r="9"
        class="knot"
        :class="{ on: state.doing !== 'closed' && state.doing !== 'lost' }"
      />
      <circle :cx="at.dev" cy="62" r="9" class="knot" :class="{ on: state.device }" />
      <circle :key="`o${out}`" r="4" class="mark going" />
      <circle :key="`i${into}`" r="4" class="mark coming" />
      <text v-if="!narrow" :x="at.pc - 8" y="30">this computer</text>
      <text :x="narrow ? at.pc - 8 : at.port" y="30" :class="{ mid: !narrow }">{{ port.label }}</text>
      <text :x="at.dev + 8" y="30" class="end">
        {{ state.device?.tag || (state.device ? 'no tag' : 'no device yet') }}
      </text>
      <template v-if="!narrow">
        <text v-for="(line, i) in exchanged" :key="i" :x="at.pc - 8" :y="100 + 20 * i" class="small">{{ line }}</text>
        <text :x="at.dev + 8" y="100" class="small end">{{ state.device?.description.name ?? '' }}</text>
        <text :x="at.dev + 8" y="120" class="small end">{{ state.device ? `no. ${state.device.serial}` : '' }}</text>
      </template>
      <text :x="narrow ? at.pc - 8 : at.port" y="100" class="small" :class="{ mid: !narrow }">
        {{ DOING[state.doing] }}
      </text>
      <text :x="mid" y="68" class="mid mA">{{ figure(state.live?.mA) }} mA</text>
      <text :x="mid" y="100" class="small mid">{{ state.live ? 'the device believes' : 'nothing read yet' }}</text>
    </svg>
    <figcaption>
      <template v-if="narrow">
        <span v-for="line in exchanged" :key="line" class="small quiet">{{ line }}</span>
      </template>
      <span v-for="(v, i) in state.live?.variables ?? []" :key="i" class="figures"
        >{{ figure(v.value, 2) }} {{ unitLabel(v.unit) }}</span
      >
      <span v-for="f in flags" :key="f" class="look">{{ f }}</span>
      <label v-if="state.live" class="meter small"
        >your meter
        <input v-model="meter" class="figures" inputmode="decimal" aria-label="What your meter reads, mA" /> mA
      </label>
      <span v-if="apart !== undefined" class="figures" :class="Math.abs(apart) > 0.05 ? 'look' : 'quiet'">
        {{ apart > 0 ? '+' : '' }}{{ figure(apart) }} mA apart</span
      >
    </figcaption>
    <p v-if="state.says" class="look" role="status">{{ state.says }}</p>
    <p v-if="state.device?.description.id === 'universal'" class="look" data-test="universal">
      No description is here for this device: it is read by its universal commands only.
      <router-link :to="{ query: { do: 'descriptions' } }">Import one</router-link>
    </p>
    <p v-if="state.unstored" class="caution" data-test="unstored">
      What was written stands in the device’s working memory: without power it is gone. Store it before you leave.
    </p>
  </figure>
</template>

<style scoped>
.device-line {
  margin: 8px 0 12px;
}
.wire {
  stroke: var(--second);
  stroke-width: 1.6;
  fill: none;
}
.loop {
  stroke: var(--signal);
  stroke-width: 2.4;
  fill: none;
}
.loop.off {
  stroke: var(--hairline);
}
.knot {
  fill: var(--ground);
  stroke: var(--second);
  stroke-width: 2;
}
.knot.on {
  stroke: var(--action);
  fill: var(--action);
}
.mA {
  font-family: var(--figures);
  font-size: 17px !important;
}
.mark {
  opacity: 0;
}
.going {
  fill: var(--action);
  animation: going 0.45s linear;
}
.coming {
  fill: var(--signal);
  animation: coming 0.45s linear;
}
@keyframes going {
  from {
    transform: translate(var(--from), 56px);
    opacity: 1;
  }
  to {
    transform: translate(var(--to), 56px);
    opacity: 1;
  }
}
@keyframes coming {
  from {
    transform: translate(var(--to), 68px);
    opacity: 1;
  }
  to {
    transform: translate(var(--from), 68px);
    opacity: 1;
  }
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 20px;
  min-height: 44px;
}
.meter {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  margin-left: auto;
}
.meter input {
  width: 96px;
  min-height: 44px;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--second);
  color: var(--ink);
  text-align: right;
}
</style>
