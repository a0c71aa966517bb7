<script setup lang="ts">
// The gate that is open: what it asks, drawn where it can be drawn, and the one thing that passes it.
import { inSentence } from '@calm-loop/core/words'
import { correctionPct, expectedAt, phPoints, type RunState, type Step } from '@calm-loop/core/procedure'
import { idealSlope_mV, phCalibration } from '@calm-loop/core/analysis'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { unitOf } from '@calm-loop/core/quantity'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useTrim } from '../stores/trim.ts'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import HeldList from './HeldList.vue'
import ManifoldDrawing from './ManifoldDrawing.vue'
import TrendPlot from './TrendPlot.vue'
import { signed } from './words.ts'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ run: string; state: RunState; step: Step }>()
const trim = useTrim()
const live = useLive()
const preferences = usePreferences()
const router = useRouter()
const words = ref('')
const typed = ref('')
const t = computed(() => props.state.terms)
const span = computed(() => t.value.urv - t.value.lrv)
watch(
  () => props.step.id,
  () => {
    words.value = ''
    typed.value = ''
  },
)
const act = (body: Parameters<typeof trim.act>[1]) => trim.act(props.run, body)
const quantity = (v: number, unit: string, decimals: number) => preferences.quantity(v, unit, { decimals })
const expected = computed(() => expectedAt(props.state, props.step))
/** What is live at the witness this step reads. */
const offered = computed(() => {
  const reads = props.step.reads
  const reading = live.reading
  if (!reads || !reading) return ''
  const v =
    reads.what === 'electrode'
      ? reading.transmitter?.electrode_mV
      : reads.what === 'digital'
        ? digital.value
        : reading.knots['current']
  return v === undefined ? '' : quantity(v, reads.unit, reads.what === 'current' ? 3 : reads.decimals + 1)
})
const digital = computed(() => live.reading?.knots['digital'])
const plain = (text: string) => text.replace(/[\u00a0\u202f\u2009]/g, ' ').replace('−', '-')
const pass = () =>
  void act({
    do: 'pass',
    step: props.step.id,
    ...(props.step.kind === 'words' ? { words: words.value.trim() } : {}),
    ...(['apply', 'buffer', 'reading'].includes(props.step.kind) ? { typed: typed.value.trim() } : {}),
  })
const correction = computed(() => correctionPct(props.state, props.step))
const fit = computed(() => {
  const points = phPoints(props.state)
  if (props.step.kind !== 'plausible' || props.state.procedure !== 'ph-calibration' || points.length < 2)
    return undefined
  const temp = points.reduce((sum, _, i) => sum + props.state.values[`buffer-${i + 1}`]!, 0) / points.length
  const made = attempt(() => phCalibration({ points, temp_C: temp }))
  return made instanceof Refusal ? undefined : { ...made, ideal: idealSlope_mV(temp) }
})
const showTrend = (v: number) =>
  props.step.of === 'electrode'
    ? quantity(v, 'mV', 1)
    : props.step.of === 'current'
      ? quantity(4 + 0.16 * v, 'mA', 3)
      : quantity(t.value.lrv + (v / 100) * span.value, t.value.unit, t.value.decimals + 1)
const target = computed(() =>
  props.step.target === undefined
    ? ''
    : `${Number(props.step.target.toFixed(t.value.decimals + 2))} ${unitOf(t.value.unit).label}`,
)
const pump = () =>
  void trim.bench({
    do: 'apply',
    value: props.step.kind === 'buffer' ? Number(props.step.asks) : sure(props.step.target),
  })
const CONFIRM: Partial<Record<Step['kind'], string>> = {
  words: 'Confirm',
  confirm: 'Confirm',
  'as-found': 'As found stands',
  steady: 'It is stable',
  plausible: 'Go on',
}
</script>

<template>
  <div class="gate" :data-gate="step.id" :data-kind="step.kind">
    <p class="says">{{ step.says }}</p>
    <p v-if="step.caution" class="caution small"><b>Caution.</b> {{ step.caution }}</p>
    <p v-if="state.note" class="look" role="status" data-test="note">{{ state.note }}</p>

    <div v-if="state.pending" class="unknown" role="alert" data-test="unknown">
      <p>
        <b>Unknown: read back first.</b> The command went out and was never answered. Until the device is read, nobody
        knows what it holds.
      </p>
      <v-btn
        color="primary"
        variant="flat"
        :disabled="trim.busy"
        data-test="read-back"
        @click="act({ do: 'read', step: step.id })"
        >Read the device back</v-btn
      >
    </div>

    <template v-else>
      <ManifoldDrawing
        v-if="step.kind === 'valve'"
        :type="t.manifold"
        :state="state.world.manifold"
        :wanted="step.move"
        :busy="trim.busy"
        @move="act({ do: 'valve', step: step.id, move: $event })"
      />
      <TrendPlot
        v-if="step.kind === 'steady' && step.of"
        :key="step.id"
        :of="step.of"
        :seconds="t.stability.window_s"
        :drift-pct="t.stability.driftPct"
        :noise-pct="t.stability.noisePct"
        :pct-per="step.of === 'electrode' ? 100 / (59 * Math.abs(span)) : 1"
        :show="showTrend"
        :name="
          step.of === 'current' ? 'the loop current' : step.of === 'electrode' ? 'the electrode' : 'the digital value'
        "
      />
      <form class="do" @submit.prevent="pass">
        <WordsField v-if="step.kind === 'words'" :label="step.asks!" :value="words" needed @typed="words = $event" />
        <template v-if="step.kind === 'apply' || step.kind === 'buffer'">
          <v-btn data-test="pump" :disabled="trim.busy" @click="pump">{{
            step.kind === 'buffer' ? 'Put the bench’s electrode in it' : `Pump the bench to ${target}`
          }}</v-btn>
          <p v-if="live.reading?.transmitter?.bench" class="figures bench">
            {{ step.kind === 'buffer' ? '' : quantity(live.reading.transmitter.bench.value, t.unit, t.decimals + 1) }}
          </p>
          <QuantityField
            :label="step.kind === 'buffer' ? 'Temperature of the buffer' : 'Applied, as the standard shows it'"
            :quantity="step.kind === 'buffer' ? 'temperature' : t.quantity"
            :unit="step.kind === 'buffer' ? 'degC' : t.unit"
            :entry="{ typed }"
            needed
            @entry="typed = $event.typed"
            @enter="pass"
          />
        </template>
        <template v-if="step.kind === 'reading'">
          <dl class="facts">
            <div v-if="expected !== undefined">
              <dt>Expected</dt>
              <dd class="figures">{{ quantity(expected, step.reads!.unit, step.reads!.decimals) }}</dd>
            </div>
            <div v-if="offered">
              <dt>Live</dt>
              <dd class="figures signal">{{ offered }}</dd>
            </div>
            <div v-if="step.reads!.what === 'current' && live.reading?.knots['controller'] !== undefined">
              <dt>Receiver</dt>
              <dd class="figures signal">
                {{
                  quantity(live.reading.knots['controller'], t.receiverUnit ?? t.unit, (t.receiverDecimals ?? 1) + 1)
                }}
              </dd>
            </div>
          </dl>
          <WordsField
            v-if="step.reads!.what === 'current'"
            label="Meter reads"
            :value="typed"
            help="Milliamps, or volts across the shunt."
            needed
            @typed="typed = $event"
          />
          <QuantityField
            v-else
            label="Reads"
            :quantity="step.reads!.quantity"
            :unit="step.reads!.unit"
            :entry="{ typed }"
            needed
            @entry="typed = $event.typed"
            @enter="pass"
          />
          <v-btn v-if="offered" data-test="take-live" @click="typed = plain(offered)">Take {{ offered }}</v-btn>
        </template>
        <dl v-if="step.kind === 'plausible'" class="facts">
          <div v-if="correction !== undefined">
            <dt>Correction</dt>
            <dd class="figures">{{ signed(-correction) }} % of span</dd>
          </div>
          <div v-if="correction !== undefined">
            <dt>Limit</dt>
            <dd class="figures">± {{ t.plausiblePct }} %</dd>
          </div>
          <template v-if="fit">
            <div>
              <dt>Slope</dt>
              <dd class="figures">{{ fit.slope_mVperPh.toFixed(2) }} mV per pH</dd>
            </div>
            <div>
              <dt>Of the ideal {{ fit.ideal.toFixed(2) }} mV per pH</dt>
              <dd class="figures">{{ fit.slopePercent.toFixed(1) }} %</dd>
            </div>
            <div>
              <dt>Offset at pH 7</dt>
              <dd class="figures">{{ signed(fit.offset_mV, 1) }} mV</dd>
            </div>
            <div>
              <dt>Electrode</dt>
              <dd>
                {{
                  fit.verdict === 'good' ? 'good' : fit.verdict === 'worn' ? 'worn: order a spare' : 'to be replaced'
                }}
              </dd>
            </div>
          </template>
        </dl>
        <HeldList v-if="step.kind === 'read-back' && state.held" :held="state.held" :terms="t" />
        <p v-if="step.kind === 'as-found'" class="small">
          <template v-if="trim.foundStands">{{ trim.found.length }} points stand on record.</template>
          <template v-else>
            No point stands on record.
            <button type="button" class="link" @click="router.replace({ query: { do: 'found' } })">
              Take as found first
            </button>
          </template>
        </p>

        <v-btn
          v-if="step.kind === 'command'"
          color="primary"
          variant="flat"
          :disabled="trim.busy"
          data-test="pass-gate"
          @click="act({ do: 'send', step: step.id })"
          >{{ trim.busy ? 'Waiting for the device' : `Send: ${inSentence(step.title)}` }}</v-btn
        >
        <v-btn
          v-else-if="step.kind === 'read-back'"
          color="primary"
          variant="flat"
          :disabled="trim.busy"
          data-test="pass-gate"
          @click="act({ do: 'read', step: step.id })"
          >Read the device back</v-btn
        >
        <v-btn
          v-else-if="step.kind !== 'valve'"
          color="primary"
          variant="flat"
          type="submit"
          :disabled="trim.busy"
          data-test="pass-gate"
          >{{
            CONFIRM[step.kind]
              ? step.kind === 'steady'
                ? 'It is stable: go on'
                : `${CONFIRM[step.kind]}: ${inSentence(step.title)}`
              : 'Put it on record'
          }}</v-btn
        >
      </form>
    </template>
    <p v-if="trim.problem" class="bad problem" role="alert" data-test="refused">{{ trim.problem }}</p>
  </div>
</template>

<style scoped>
.gate {
  padding: 4px 0 8px;
}
.says {
  max-width: 72ch;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
  align-items: center;
}
.do > :deep(.entry) {
  width: min(320px, 100%);
}
.facts {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 32px;
  margin: 0;
  flex-basis: 100%;
}
.facts dt {
  font-size: 14px;
  color: var(--second);
}
.facts dd {
  margin: 0;
  font-size: 22px;
}
.signal,
.bench {
  color: var(--signal);
}
.bench {
  font-size: 22px;
  margin: 0;
}
.unknown {
  border-left: 4px solid var(--stop);
  padding-left: 12px;
}
.look {
  color: var(--look);
}
.problem {
  margin: 8px 0 0;
  max-width: 72ch;
}
</style>
