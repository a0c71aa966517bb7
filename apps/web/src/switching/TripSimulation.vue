<script setup lang="ts">
// The switch points in motion: the value against set points and bands, what each relay does, and what runs; played,
// paused, or stepped.
import { bandTooSmall, chattering, stretchesOf } from '@calm-loop/core/discrete'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import GradeMark from '../widgets/GradeMark.vue'
import { PAST_s, type useTrips } from './trips.ts'

const props = defineProps<{ trips: ReturnType<typeof useTrips> }>()
const preferences = usePreferences()
const { scenes, chosen, scene, past, now, running, inflow, noise, own, restart, step, lose } = props.trips
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const LEFT = 70
const TOP = 16
const HIGH = 172
const ROW = 26
const right = computed(() => Math.max(520, width.value) - 220)
const relays = computed(() => scene.value.scene.relays)
const height = computed(() => TOP + HIGH + 22 + relays.value.length * ROW + 8)
const y = (v: number) => {
  const { least, most } = scene.value.scene
  return TOP + HIGH - ((v - least) / (most - least)) * HIGH
}
const x = (t: number) => right.value - ((now.value.t_s - t) / PAST_s) * (right.value - LEFT)
const line = (of: 'reading' | 'value') =>
  past.value
    .map(
      (s, i) =>
        `${i ? 'L' : 'M'}${x(s.t_s).toFixed(1)} ` +
        `${y(Math.min(scene.value.scene.most, Math.max(scene.value.scene.least, s[of]))).toFixed(1)}`,
    )
    .join('')
/** Where relay `i` is energised, or what hangs on it runs. */
const stretches = (i: number, of: 'energised' | 'runs') =>
  stretchesOf(past.value, (s) => s[of][i] === true).map((s) => ({ x: x(s.from_s), w: x(s.to_s) - x(s.from_s) }))
const q = (v: number) =>
  preferences.quantity(v, scene.value.unit, { decimals: scene.value.unit === '%' ? 0 : 2, trim: true })
const small = computed(() => relays.value.map((r) => bandTooSmall(r.band, scene.value.scene.noise)))
const bad = computed(() => chattering(now.value))
const words = computed(
  () =>
    `${scene.value.name}: value ${q(now.value.value)}; ` +
    `${relays.value.map((_, i) => `${scene.value.names[i]} ${now.value.runs[i] ? 'runs' : 'stands'}`).join(', ')}.`,
)
</script>

<template>
  <section aria-label="Simulation of the switch points">
    <ChoiceField
      label="Watch"
      :options="scenes.map((s) => ({ value: s.id, label: s.name }))"
      :value="scene.id"
      @choose="chosen = $event"
    />
    <div class="do">
      <v-btn color="primary" variant="flat" @click="running = !running">{{ running ? 'Pause' : 'Run' }}</v-btn>
      <v-btn :disabled="running" @click="step(1)">Step 1 s</v-btn>
      <v-btn :aria-pressed="!now.power" @click="lose('power')">{{ now.power ? 'Lose the power' : 'Power back' }}</v-btn>
      <v-btn :aria-pressed="!now.sensor" @click="lose('sensor')">{{
        now.sensor ? 'Lose the sensor' : 'Sensor back'
      }}</v-btn>
      <v-btn
        v-if="scene.id === 'own' && relays.some((r) => r.onEcho)"
        :aria-pressed="!now.echo"
        @click="lose('echo')"
        >{{ now.echo ? 'Lose the echo' : 'Echo back' }}</v-btn
      >
      <v-btn variant="text" @click="restart()">From the start</v-btn>
    </div>
    <div ref="box" class="box">
      <svg
        v-if="width"
        class="worded"
        :viewBox="`0 0 ${Math.max(520, width)} ${height}`"
        role="img"
        :aria-label="words"
      >
        <rect :x="LEFT" :y="TOP" :width="right - LEFT" :height="HIGH" class="paper" />
        <g v-for="(r, i) in relays" :key="i">
          <rect
            :x="LEFT + (i * (right - LEFT)) / relays.length"
            :y="y(r.set + r.band)"
            :width="(right - LEFT) / relays.length"
            :height="Math.max(1.5, y(r.set) - y(r.set + r.band))"
            class="band"
          />
          <text :x="right + 10" :y="y(r.set) + (i % 2 ? 18 : 5)" class="small">
            {{ scene.names[i] }}: {{ q(r.set) }} to {{ q(r.set + r.band) }}
          </text>
          <line :x1="LEFT" :x2="right" :y1="y(r.set)" :y2="y(r.set)" class="set" />
          <line :x1="LEFT" :x2="right" :y1="y(r.set + r.band)" :y2="y(r.set + r.band)" class="set dashed" />
        </g>
        <path :d="line('reading')" class="reading" />
        <path :d="line('value')" class="value" />
        <circle :cx="x(now.t_s)" :cy="y(now.value)" r="5" class="dot" />
        <text :x="LEFT - 8" :y="TOP + 10" class="small end figures">{{ q(scene.scene.most) }}</text>
        <text :x="LEFT - 8" :y="TOP + HIGH" class="small end figures">{{ q(scene.scene.least) }}</text>
        <text :x="right" :y="TOP + HIGH + 18" class="small end">now</text>
        <text :x="LEFT" :y="TOP + HIGH + 18" class="small">{{ PAST_s }} s ago</text>
        <g v-for="(_, i) in relays" :key="`r${i}`" :transform="`translate(0 ${TOP + HIGH + 24 + i * ROW})`">
          <text :x="LEFT - 8" y="15" class="small end">relay {{ i + 1 }}</text>
          <line :x1="LEFT" :x2="right" y1="18" y2="18" class="base" />
          <rect
            v-for="(s, k) in stretches(i, 'energised')"
            :key="k"
            :x="s.x"
            y="4"
            :width="s.w"
            height="6"
            class="energised"
          />
          <rect
            v-for="(s, k) in stretches(i, 'runs')"
            :key="`n${k}`"
            :x="s.x"
            y="11"
            :width="s.w"
            height="7"
            class="runs"
          />
          <text :x="right + 10" y="16">{{ scene.names[i] }} {{ now.runs[i] ? 'runs' : 'stands' }}</text>
        </g>
      </svg>
    </div>
    <p class="small quiet key">
      <span><i class="swatch energised" /> relay energised</span>
      <span><i class="swatch runs" /> what hangs on it runs</span>
      <span><i class="swatch band" /> band</span>
      <span v-if="!now.power">power lost: every relay drops</span>
      <span v-if="!now.sensor">sensor lost: the reading stands at {{ q(now.reading) }}</span>
    </p>
    <div v-if="own && scene.id === 'own'" class="sliders">
      <label
        >By itself the value moves
        <output class="figures"
          >{{ preferences.number(inflow, { decimals: 1, sign: true }) }} % of span a second</output
        >
        <input v-model.number="inflow" type="range" min="-3" max="3" step="0.1"
      /></label>
      <label
        >Noise and waves
        <output class="figures">{{ preferences.number(noise, { decimals: 1 }) }} % of span, peak to peak</output>
        <input v-model.number="noise" type="range" min="0" max="6" step="0.1"
      /></label>
    </div>
    <p v-for="(on, i) in bad" v-show="on || small[i]" :key="i" class="chatter" role="status">
      <GradeMark grade="look" />
      <span
        >{{ scene.names[i] }}:
        {{ on ? `relay ${i + 1} chatters, ${now.changes[i]!.length} changes in the last minute.` : '' }}
        {{ small[i] ? `Its band of ${q(relays[i]!.band)} is not larger than the noise.` : '' }} Contacts weld and motors
        burn: widen the band.</span
      >
    </p>
  </section>
</template>

<style scoped>
.box {
  min-height: 240px;
}
.paper {
  fill: var(--sheet);
  stroke: var(--hairline);
}
.band {
  fill: color-mix(in srgb, var(--action) 16%, transparent);
}
.set {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.dashed {
  stroke-dasharray: 5 4;
}
.reading {
  fill: none;
  stroke: var(--hairline);
  stroke-width: 1.2;
}
.value {
  fill: none;
  stroke: var(--signal);
  stroke-width: 2;
}
.dot {
  fill: var(--signal);
}
.base {
  stroke: var(--hairline);
}
.energised {
  fill: var(--second);
}
.runs {
  fill: var(--action);
}
.swatch {
  display: inline-block;
  width: 22px;
  height: 8px;
}
.swatch.energised {
  background: var(--second);
}
.swatch.runs {
  background: var(--action);
}
.swatch.band {
  background: color-mix(in srgb, var(--action) 16%, transparent);
  border: 1px solid var(--hairline);
}
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  min-height: 24px;
}
.sliders {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 8px 32px;
  margin-top: 8px;
}
.sliders label {
  display: block;
  color: var(--second);
}
.sliders output {
  color: var(--ink);
}
.sliders input {
  display: block;
  width: 100%;
  min-height: 44px;
  accent-color: var(--action);
}
.chatter {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  border-top: 1px solid var(--hairline);
  padding-top: 8px;
}
</style>
