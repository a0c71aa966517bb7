<script setup lang="ts">
// The named point live: its state and what that means, a strip of the last minute, cycles with their times, and the
// recording.
import { useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useElementSize } from '@vueuse/core'
import { useCount } from '../stores/count.ts'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useSwitching } from '../stores/switching.ts'
import { moment } from '../widgets/dates.ts'
import NoBench from '../widgets/NoBench.vue'
import { useRecording } from './recording.ts'
import { sure } from '@calm-loop/core/sure'

const WINDOW_s = 60
const folder = useFolder()
const live = useLive()
const session = useSession()
const switching = useSwitching()
const preferences = usePreferences()
const counting = useCount()
const { edges, count, state, recorded, problem, record, forget } = useRecording()
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const text = (key: string) => folder.entries[key]?.typed ?? ''
const name = computed(() => text('pointName') || 'Not named yet')
const means = (on: boolean) => (on ? text('meansTrue') || 'true' : text('meansFalse') || 'false')
const loopId = computed(() => sure(folder.view).loop.id)
onMounted(() => void live.open(loopId.value))
watch(
  () => live.reading,
  (reading) => (switching.live = reading && { shown: reading.knots, caption: 'Simulated at the bench.' }),
)
onBeforeUnmount(() => {
  live.close()
  switching.live = undefined
})
/** The server's clock, moved on between its messages. */
const now = ref(Date.now())
useIntervalFn(() => (now.value = live.reading?.at_ms ?? Date.now()), 100)
const x = (t: number) => width.value - ((now.value - t) / 1000 / WINDOW_s) * width.value
const strip = computed(() => {
  const shown = edges.value.filter((e) => now.value - e.t_ms < WINDOW_s * 1000)
  const before = shown.length ? !sure(shown[0]).state : (state.value ?? false)
  let d = `M0 ${before ? 10 : 50}`
  for (const e of shown) d += `H${x(e.t_ms).toFixed(1)}V${e.state ? 10 : 50}`
  return `${d}H${width.value}`
})
const cycles = computed(() => {
  const rises = edges.value.filter((e) => e.state)
  return rises
    .map((e, i) => ({ t_ms: e.t_ms, seconds: i ? (e.t_ms - rises[i - 1]!.t_ms) / 1000 : undefined }))
    .reverse()
    .slice(0, 8)
})
const perMinute = computed(() => edges.value.filter((e) => e.state && now.value - e.t_ms < 60_000).length)
const long = computed(() => counting.terms.longCycle_s)
const sinceRise = computed(() => {
  const last = edges.value.filter((e) => e.state).at(-1)
  return last ? (now.value - last.t_ms) / 1000 : undefined
})
const late = computed(() => long.value !== undefined && sinceRise.value !== undefined && sinceRise.value > long.value)
const time = new Intl.DateTimeFormat('en-GB', {
  hour: '2-digit',
  minute: '2-digit',
  second: '2-digit',
  fractionalSecondDigits: 2,
  hour12: false,
})
const s = (v: number) => preferences.quantity(v, 's', { decimals: 2 })
</script>

<template>
  <section aria-label="Live">
    <NoBench v-if="!folder.practising" instead="Changes of the real point are read from a file, under Log." />
    <div class="head">
      <div class="state" :class="{ on: state }">
        <svg width="56" height="56" aria-hidden="true"><circle cx="28" cy="28" r="20" /></svg>
        <div>
          <p class="figures name">{{ name }}</p>
          <p class="means" data-test="live-state">
            {{ state === undefined ? live.problem || 'not connected' : `${state ? 'true' : 'false'}: ${means(state)}` }}
          </p>
        </div>
      </div>
      <dl>
        <div>
          <dt>Cycles watched</dt>
          <dd class="figures big" data-test="count">{{ count }}</dd>
        </div>
        <div>
          <dt>In the last minute</dt>
          <dd class="figures big">{{ perMinute }}</dd>
        </div>
        <div>
          <dt>Since the last</dt>
          <dd class="figures big" :class="{ late }">{{ sinceRise === undefined ? 'none yet' : s(sinceRise) }}</dd>
        </div>
      </dl>
    </div>
    <p v-if="late" class="bad" role="status">Long cycle: nothing for {{ s(sinceRise!) }}, above {{ s(long!) }}.</p>
    <div ref="box" class="strip">
      <svg v-if="width" :width="width" height="66" role="img" aria-label="State over the last minute">
        <line x1="0" :x2="width" y1="10" y2="10" class="rail" />
        <line x1="0" :x2="width" y1="50" y2="50" class="rail" />
        <path :d="strip" class="trace" />
        <text x="4" y="64" class="small">{{ WINDOW_s }} s ago</text>
        <text :x="width - 4" y="64" class="small end">now</text>
      </svg>
    </div>
    <div v-if="session.has('technician')" class="do">
      <v-btn :disabled="!live.connected" data-test="machine" @click="live.run(loopId, !live.reading?.running)">{{
        live.reading?.running ? 'Stop the stand-in machine' : 'Run the stand-in machine'
      }}</v-btn>
      <v-btn :disabled="!live.connected" @click="live.move(loopId, 0)">Target up by hand</v-btn>
      <v-btn :disabled="!live.connected" @click="live.move(loopId, live.limits?.highest ?? 0)"
        >Target away by hand</v-btn
      >
      <v-btn
        color="primary"
        :variant="recorded ? 'outlined' : 'flat'"
        :disabled="state === undefined && !recorded"
        data-test="record"
        @click="record(!recorded)"
        >{{ recorded ? 'Stop recording' : 'Record every edge' }}</v-btn
      >
      <v-btn variant="text" @click="forget()">Count from 0</v-btn>
    </div>
    <p v-if="recorded" class="quiet" role="status" data-test="recorded">
      Recorded by the server since {{ moment(recorded.at) }}, for {{ recorded.by.name }}:
      <span class="figures">{{ recorded.changes }}</span> changes since it took this up, put on record every 15 s. It
      goes on when this page is closed.
    </p>
    <p v-if="recorded?.problem" class="look" role="status">{{ recorded.problem }}</p>
    <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
    <v-table v-if="cycles.length" class="small cycles">
      <thead>
        <tr>
          <th>Cycle began</th>
          <th class="num">after the one before</th>
          <th><span class="visually-hidden">Mark</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in cycles" :key="c.t_ms">
          <td class="figures">{{ time.format(c.t_ms) }}</td>
          <td class="num">{{ c.seconds === undefined ? 'the first' : s(c.seconds) }}</td>
          <td class="bad">{{ long !== undefined && (c.seconds ?? 0) > long ? 'long' : '' }}</td>
        </tr>
      </tbody>
    </v-table>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 8px 40px;
  align-items: center;
}
.state {
  display: flex;
  gap: 12px;
  align-items: center;
}
.state circle {
  fill: none;
  stroke: var(--signal);
  stroke-width: 3;
}
.state.on circle {
  fill: var(--signal);
}
.state p {
  margin: 0;
}
.name {
  font-size: 22px;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.means {
  font-size: 18px;
  color: var(--signal);
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 32px;
  margin: 0;
}
dt {
  color: var(--second);
  font-size: 14px;
}
dd {
  margin: 0;
}
.big {
  font-size: 28px;
  font-weight: 600;
}
.late {
  color: var(--stop);
}
.strip {
  height: 66px;
  margin: 8px 0 12px;
}
.rail {
  stroke: var(--hairline);
}
.trace {
  fill: none;
  stroke: var(--signal);
  stroke-width: 2.4;
}
.small {
  font-size: 14px;
  fill: var(--second);
}
.end {
  text-anchor: end;
}
.cycles {
  max-width: 480px;
  margin-top: 8px;
}
</style>
