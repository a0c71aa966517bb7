<script setup lang="ts">
// The zero of a meter: as found first, averaged for a chosen time, judged by its scatter, put on record. Without a link
// its figures are typed.
import { workOf } from '@calm-loop/contract'
import { parseNumber, unitOf } from '@calm-loop/core/quantity'
import { computed, reactive, ref, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import { moment } from '../widgets/dates.ts'
import WordsField from '../widgets/WordsField.vue'
import { useGate } from './useGate.ts'
import { useMeter } from './useMeter.ts'

const props = defineProps<{
  /** The meter's own measure, and what its internal figure is multiplied by to be in it. */
  unit: 'ns' | 'mbar' | 'K'
  times: number
  /** Scatter above which a zero is not worth having, in the unit. */
  limit?: number | undefined
  /** How this school sees it. */
  says: string
}>()
const folder = useFolder()
const session = useSession()
const work = useWork()
const preferences = usePreferences()
const { meter, live, command } = useMeter()
const length = ref('30')
const still = computed(
  () => live.reading !== undefined && Math.abs(live.reading.reference ?? NaN) < 1e-9 && !live.reading.moving,
)
const zeroed = computed(() => meter.value?.zeroed)
const show = (v: number) => preferences.quantity(v * props.times, props.unit, { decimals: 3, sign: true })
const plain = (v: number) => preferences.quantity(v, props.unit, { decimals: 3 })
const kept = ref(true)
watch(zeroed, (now, before) => {
  if (now && JSON.stringify(now) !== JSON.stringify(before)) kept.value = false
})
const wanders = computed(
  () => zeroed.value !== undefined && props.limit !== undefined && zeroed.value.spread * props.times > props.limit,
)
const past = computed(() => workOf(work.log, 'zero').slice(-5).reverse())
const gate = useGate('zero')
const gateToKeep = useGate('zero', true)
const put = (figures: { before: number; after: number; spread: number }) =>
  work.add({
    what: 'zero',
    unit: props.unit,
    ...figures,
    limit: props.limit ?? null,
    note: props.limit !== undefined && figures.spread > props.limit ? 'scatter above its limit' : '',
  })
async function keep(): Promise<void> {
  const z = zeroed.value
  if (z && (await put({ before: z.before * props.times, after: 0, spread: z.spread * props.times }))) kept.value = true
}
/** Without a link: what the meter itself shows, typed. */
const NAMES = { before: 'Zero as found', after: 'Zero as left', spread: 'Scatter while averaging' } as const
const typed = reactive({ before: '', after: '', spread: '' })
const figures = computed(() => {
  const read = (text: string) => {
    const n = parseNumber(text, { decimalMark: preferences.decimalMark })
    return 'value' in n ? n.value : undefined
  }
  const [before, after, spread] = [read(typed.before), read(typed.after), read(typed.spread)]
  return before === undefined || after === undefined || spread === undefined || spread < 0
    ? undefined
    : { before, after, spread }
})
async function keepTyped(): Promise<void> {
  if (figures.value && (await put(figures.value))) Object.assign(typed, { before: '', after: '', spread: '' })
}
</script>

<template>
  <section class="zero" aria-label="Zero of the meter">
    <h3>Zero of the meter</h3>
    <p>{{ says }}</p>
    <template v-if="meter">
      <div v-if="session.has('technician')" class="do">
        <ChoiceField
          label="Average for"
          :options="['10', '30', '60'].map((s) => ({ value: s, label: `${s} s` }))"
          :value="length"
          @choose="length = $event || '30'"
        />
        <v-btn
          color="primary"
          variant="flat"
          :disabled="meter.phase !== 'running' || !still || !!gate"
          data-test="take-zero"
          @click="command({ do: 'zero', length_s: Number(length) })"
          >Average at no flow</v-btn
        >
        <span v-if="gate" class="look small" data-test="gate-before">{{ gate }}</span>
        <span v-else-if="!still" class="look small"
          >The bench’s flow is not stopped: a zero taken now would hide that much flow for ever.</span
        >
        <span v-else-if="meter.phase === 'zeroing'" role="status"
          >{{ Math.round(meter.phase_s) }} of {{ Math.round(meter.lasts_s) }} s</span
        >
        <span v-else-if="meter.phase !== 'running'" class="look small"
          >The meter does not measure: start it first.</span
        >
      </div>
      <dl v-if="zeroed" data-test="zeroed">
        <div>
          <dt>As found</dt>
          <dd class="figures">{{ show(zeroed.before) }}</dd>
        </div>
        <div>
          <dt>Scatter while averaging</dt>
          <dd class="figures" :class="{ bad: wanders }">
            {{ plain(zeroed.spread * times) }}<template v-if="limit !== undefined">, limit {{ plain(limit) }}</template>
          </dd>
        </div>
        <div>
          <dt>As left</dt>
          <dd class="figures">{{ show(0) }}</dd>
        </div>
      </dl>
      <p v-if="wanders" class="bad">
        The zero wanders more than its limit: gas, vibration, or a valve that passes. Find that first.
      </p>
      <v-btn v-if="zeroed && !kept && session.has('technician')" data-test="keep-zero" @click="keep"
        >Put this zero on record</v-btn
      >
    </template>
    <form v-else-if="!folder.practising && session.has('technician')" class="do" @submit.prevent="keepTyped">
      <WordsField
        v-for="(name, key) in NAMES"
        :key="key"
        :label="`${name}, ${unitOf(unit).label}`"
        :value="typed[key]"
        needed
        @typed="typed[key] = $event"
      />
      <v-btn type="submit" :disabled="!figures || !!gateToKeep" :loading="work.busy" data-test="keep-typed-zero"
        >Put this zero on record</v-btn
      >
      <span v-if="gateToKeep" class="look small" data-test="gate-before">{{ gateToKeep }}</span>
    </form>
    <p v-else class="look">{{ live.problem || 'Connecting to the meter.' }}</p>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
    <ul v-if="past.length">
      <li v-for="e in past" :key="e.id">
        {{ moment(e.at) }}, {{ e.by.name }}: as found
        <span class="figures">{{ preferences.quantity(e.before, e.unit, { decimals: 3, sign: true }) }}</span>, scatter
        <span class="figures">{{ preferences.quantity(e.spread, e.unit, { decimals: 3 }) }}</span>{{
          e.note ? `; ${e.note}` : ''
        }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.zero {
  border-top: 1px solid var(--hairline);
  margin-top: 16px;
  padding-top: 12px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
dl div {
  display: flex;
  gap: 24px;
  border-bottom: 1px solid var(--hairline);
  padding: 8px 0;
}
dt {
  width: 200px;
  color: var(--second);
}
dd {
  margin: 0;
}
</style>
