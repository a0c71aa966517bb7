<script setup lang="ts">
// The first reading challenged: measured sound speed against the expected one, the causes ranked with the size each
// would have to have.
import { workOf } from '@calm-loop/contract'
import { clampOnOf, judgeSoundSpeed, knownFluid } from '@calm-loop/core/kinds'
import { entryIn, type Entry } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import { moment } from '../widgets/dates.ts'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ live?: number | undefined }>()
const folder = useFolder()
const session = useSession()
const work = useWork()
const preferences = usePreferences()
const typed = ref<Entry>({ typed: '' })
const note = ref('')
const r = computed(() => sure(folder.reader))
const c = computed(() => clampOnOf(r.value))
const expected = computed(() => knownFluid(c.value)?.soundSpeed_mps)
const measured = computed(() => entryIn(typed.value, 'm/s') ?? props.live)
/** Rounded, so that the verdict does not flicker with the last digit. */
const steady = computed(() => (measured.value === undefined ? undefined : Math.round(measured.value * 5) / 5))
const verdict = computed(() =>
  steady.value === undefined
    ? undefined
    : preferences.speak(() => attempt(() => judgeSoundSpeed(c.value, r.value, sure(steady.value)))),
)
const judged = computed(() => (verdict.value instanceof Refusal ? undefined : verdict.value))
const speed = (v: number) => preferences.quantity(v, 'm/s', { decimals: 1 })
const SAYS = {
  good: 'Pipe and fluid data can be believed. Go on.',
  doubtful: 'Doubtful. Find the cause before the flow is used.',
  wrong: 'Something is wrong. Do not use this flow before the cause is found.',
} as const
const past = computed(() => workOf(work.log, 'sound-speed').slice(-4).reverse())
/** A scale of ± 6 % round the expected speed. */
const at = (pct: number) => 280 + Math.max(-6, Math.min(6, pct)) * 40
async function keep(): Promise<void> {
  const v = judged.value
  if (!v) return
  const saved = await work.add({
    what: 'sound-speed',
    expected_mps: v.expected_mps,
    measured_mps: v.measured_mps,
    grade: v.grade,
    causes: v.causes.slice(0, 8).map((k) => `${k.title}: ${k.size}`),
    note: note.value.trim(),
  })
  if (saved) note.value = ''
}
</script>

<template>
  <section class="check" aria-label="Sound speed">
    <h3>Measured sound speed against the expected one</h3>
    <p v-if="expected === undefined" class="look">The expected sound speed needs pipe and fluid first.</p>
    <template v-else>
      <QuantityField
        label="Measured, typed from the meter"
        quantity="velocity"
        unit="m/s"
        :entry="typed"
        :help="live === undefined ? 'Or start the simulated meter.' : `Live: ${speed(live)}.`"
        class="typed"
        @entry="typed = $event"
      />
      <template v-if="judged">
        <svg
          class="worded scale"
          viewBox="0 0 560 84"
          role="img"
          :aria-label="`Expected ${speed(judged.expected_mps)}, measured ${speed(judged.measured_mps)}`"
        >
          <rect :x="at(-1)" :width="at(1) - at(-1)" y="34" height="18" class="band" />
          <path :d="`M${at(-6)} 43H${at(6)}`" class="axis" />
          <g v-for="p in [-6, -4, -2, 0, 2, 4, 6]" :key="p">
            <path :d="`M${at(p)} 39v8`" class="axis" />
            <text :x="at(p)" y="70" class="mid small">{{ p > 0 ? '+' : '' }}{{ String(p).replace('-', '−') }} %</text>
          </g>
          <circle :cx="at(0)" cy="43" r="7" class="ring" />
          <circle :cx="at(judged.differencePct)" cy="43" r="6" class="dot" />
          <text :x="at(0)" y="20" class="mid small">expected {{ speed(judged.expected_mps) }}</text>
        </svg>
        <p :class="judged.grade" class="verdict" role="status" data-test="sound-verdict">
          <b class="figures">{{ speed(judged.measured_mps) }}</b>,
          <b class="figures">{{ preferences.quantity(judged.differencePct, '%', { decimals: 2, sign: true }) }}</b> from
          the expected. {{ SAYS[judged.grade] }}
        </p>
        <ol v-if="judged.causes.length" class="causes" data-test="causes">
          <li v-for="cause in judged.causes" :key="cause.id" :data-cause="cause.id">
            <p>
              <b>{{ cause.title }}</b> <span class="figures">{{ cause.size }}</span>
              <span class="quiet small">{{
                cause.strain <= 1.5 ? 'quite usual' : cause.strain <= 5 ? 'possible' : 'far-fetched'
              }}</span>
            </p>
            <p class="quiet small">{{ cause.check }}</p>
          </li>
        </ol>
        <div v-if="session.has('technician')" class="do">
          <WordsField label="What was found or decided" :value="note" @typed="note = $event" />
          <v-btn color="primary" variant="flat" :disabled="work.busy" data-test="keep-sound-speed" @click="keep"
            >Put the verdict on record</v-btn
          >
        </div>
      </template>
      <p v-else-if="verdict instanceof Refusal" class="bad">{{ verdict.message }}</p>
      <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
      <ul v-if="past.length" class="past">
        <li v-for="e in past" :key="e.id">
          {{ moment(e.at) }}, {{ e.by.name }}: <span class="figures">{{ speed(e.measured_mps) }}</span> for
          <span class="figures">{{ speed(e.expected_mps) }}</span>, {{ e.grade }}{{ e.note ? `. ${e.note}` : '' }}
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.check {
  border-top: 1px solid var(--hairline);
  margin-top: 16px;
  padding-top: 12px;
}
.typed {
  width: min(320px, 100%);
}
.scale {
  max-width: 620px;
}
.band {
  fill: var(--action);
  opacity: 0.16;
}
.axis {
  stroke: var(--second);
}
.ring {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2.4;
}
.dot {
  fill: var(--signal);
}
.verdict.good {
  color: var(--action);
}
.verdict.doubtful {
  color: var(--look);
}
.verdict.wrong {
  color: var(--stop);
}
.causes {
  padding-left: 24px;
}
.causes li {
  padding: 6px 0;
  border-top: 1px solid var(--hairline);
}
.causes p {
  margin: 0;
}
.causes .figures {
  margin: 0 10px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.past {
  padding-left: 18px;
}
</style>
