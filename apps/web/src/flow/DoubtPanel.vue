<script setup lang="ts">
// How much each entry's doubt moves the flow (and the spacing), one by one, and all at once by a hundred thousand
// trials.
import { sensitivities, type Sensitivity, type Trials } from '@calm-loop/core/flow'
import { seedFrom } from '@calm-loop/core/device'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { proxy, wrap, type Remote } from 'comlink'
import { computed, onBeforeUnmount, ref, shallowRef, toRaw, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import type { TrialsWorker } from '../workers/trials.worker.ts'
import { sure } from '@calm-loop/core/sure'

const TRIALS = 100_000
const folder = useFolder()
const preferences = usePreferences()
const model = computed(() => folder.current?.doubt?.())
const rows = computed<Sensitivity[] | Refusal | undefined>(
  // What cannot be off moves nothing.
  () => model.value && attempt(() => sensitivities(sure(model.value)).filter((row) => row.input.tolerance > 0)),
)
const outputs = computed(() => model.value?.outputs ?? [])
const most = computed(() =>
  Array.isArray(rows.value) ? Math.max(1e-9, ...rows.value.map((r) => Math.abs(r.changePct[0] ?? 0))) : 1,
)
const result = shallowRef<Trials>()
const share = ref<number>()
const problem = ref('')
let worker: Worker | undefined
let remote: Remote<TrialsWorker> | undefined
let asked = 0
watch(model, () => {
  result.value = undefined
  stop()
})
async function run(): Promise<void> {
  worker ??= new Worker(new URL('../workers/trials.worker.ts', import.meta.url), { type: 'module' })
  remote ??= wrap<TrialsWorker>(worker)
  const mine = ++asked
  share.value = 0
  problem.value = ''
  try {
    const made = await remote.run(
      {
        kindId: sure(folder.kind).id,
        entries: structuredClone(toRaw(folder.entries)),
        trials: TRIALS,
        seed: seedFrom(sure(folder.view).loop.id),
      },
      proxy((s: number) => mine === asked && (share.value = s)),
    )
    if (mine === asked) result.value = made
  } catch (error) {
    problem.value = (error as Error).message
  }
  if (mine === asked) share.value = undefined
}
function stop(): void {
  asked++
  share.value = undefined
  void remote?.stop()
}
onBeforeUnmount(() => worker?.terminate())
const show = (v: number | undefined, unit: string, decimals: number) =>
  v === undefined ? 'no result' : preferences.quantity(v, unit, { decimals, sign: true })
const half = (r: Trials['results'][number]) => (r.high - r.low) / 2
const bars = (r: Trials['results'][number]) => {
  const top = Math.max(...r.histogram.counts)
  return r.histogram.counts.map((n, i) => ({ x: i * 12, h: (90 * n) / top }))
}
const at = (r: Trials['results'][number], v: number) => ((v - r.histogram.from) / r.histogram.step) * 12
</script>

<template>
  <section aria-label="Doubt">
    <p v-if="!model" class="look">The flow cannot be varied yet: pipe, fluid, pair and range come first.</p>
    <p v-else-if="rows instanceof Refusal" class="bad">{{ rows.message }}</p>
    <template v-else-if="rows">
      <p>What each entry alone moves at mid range when it is off by its doubt, the largest first.</p>
      <div class="wide">
        <v-table class="doubts">
          <thead>
            <tr>
              <th scope="col">Entry</th>
              <th scope="col" class="end">if off by</th>
              <th v-for="o in outputs" :key="o.id" scope="col" class="end">{{ o.label }} moves by</th>
              <th scope="col"><span class="visually-hidden">Share of the largest</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.input.key" :data-doubt="r.input.key">
              <th scope="row">{{ r.input.label }}</th>
              <td class="figures end">
                {{ preferences.quantity(r.input.tolerance, r.input.unit, { decimals: 3, trim: true }) }}
              </td>
              <td v-for="(o, i) in outputs" :key="o.id" class="figures end">
                {{ show(r.change[i], o.unit, o.decimals)
                }}<span v-if="r.changePct[i] !== undefined" class="quiet">
                  {{ preferences.quantity(r.changePct[i]!, '%', { decimals: 2, sign: true }) }}</span
                >
              </td>
              <td class="bar" aria-hidden="true">
                <i :style="{ width: `${(100 * Math.abs(r.changePct[0] ?? 0)) / most}%` }" />
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <div class="do">
        <v-btn v-if="share === undefined" color="primary" variant="flat" data-test="run-trials" @click="run"
          >Run {{ TRIALS.toLocaleString('en-GB') }} trials of all at once</v-btn
        >
        <v-btn v-else data-test="stop-trials" @click="stop">Stop</v-btn>
        <v-progress-linear
          v-if="share !== undefined"
          class="progress"
          :model-value="100 * share"
          aria-label="Trials done"
        />
      </div>
      <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      <div v-if="result" class="results" data-test="trials">
        <figure v-for="(r, i) in result.results" :key="r.id">
          <figcaption>
            {{ outputs[i]?.label }}
            <b class="figures">{{
              preferences.quantity(r.value, outputs[i]!.unit, { decimals: outputs[i]!.decimals })
            }}</b>
            ±
            <b class="figures" :data-spread="r.id">{{
              preferences.quantity(half(r), outputs[i]!.unit, { decimals: outputs[i]!.decimals })
            }}</b>
            <span v-if="r.value" class="share"
              >({{ preferences.quantity((100 * half(r)) / Math.abs(r.value), '%', { decimals: 2 }) }})</span
            >
          </figcaption>
          <svg viewBox="-10 -4 512 122" role="img" :aria-label="`Distribution of ${result.trials} trials`">
            <rect v-for="b in bars(r)" :key="b.x" :x="b.x" :y="90 - b.h" width="11" :height="b.h" class="count" />
            <path :d="`M${at(r, r.value)} -4V92`" class="value" />
            <path :d="`M${at(r, r.low)} 80V96M${at(r, r.high)} 80V96`" class="ends" />
            <path d="M0 92H492" class="axis" />
            <text :x="at(r, r.low)" y="112" class="fig mid">
              {{ preferences.number(r.low, { decimals: outputs[i]!.decimals }) }}
            </text>
            <text :x="at(r, r.high)" y="112" class="fig mid">
              {{ preferences.number(r.high, { decimals: outputs[i]!.decimals }) }}
            </text>
          </svg>
        </figure>
        <p class="quiet small">
          95 of 100 trials lie between the two marks. {{ result.trials.toLocaleString('en-GB') }} trials<template
            v-if="result.refused"
            >, of which {{ result.refused }} had no result</template
          >. Source: propagation of distributions, JCGM 101; the doubts are those entered here, the wave speeds’ those
          of the tables.
        </p>
      </div>
    </template>
  </section>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 8px 16px 8px 0;
  border-bottom: 1px solid var(--hairline);
  vertical-align: baseline;
}
thead th {
  color: var(--second);
  font-size: 14px;
}
.end {
  text-align: right;
  white-space: nowrap;
}
.doubts .quiet,
figcaption b {
  margin-left: 8px;
}
.share {
  margin-left: 8px;
}
.bar {
  width: 110px;
}
.bar i {
  display: block;
  height: 8px;
  background: var(--action);
  min-width: 1px;
}
.do {
  display: flex;
  align-items: center;
  gap: 16px;
  margin: 16px 0;
}
.progress {
  max-width: 320px;
}
.results {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(280px, 1fr));
  gap: 8px 32px;
}
.results p {
  grid-column: 1 / -1;
}
figure {
  margin: 0;
  max-width: 520px;
}
.count {
  fill: var(--action);
  opacity: 0.55;
}
.value {
  stroke: var(--ink);
  stroke-width: 2;
}
.ends {
  stroke: var(--look);
  stroke-width: 3;
}
.axis {
  stroke: var(--second);
}
.fig {
  font-family: var(--figures);
  font-size: 20px;
  fill: var(--ink);
}
.mid {
  text-anchor: middle;
}
</style>
