<script setup lang="ts">
// The gate that is open: what it asks, drawn where it can be drawn, and the one thing that passes it.
import { overHart } from '@calm-loop/core/guided'
import { askedOfDevice, type RunState, type Step } from '@calm-loop/core/procedure'
import { plainText } from '@calm-loop/core/quantity'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useTrim } from '../stores/trim.ts'
import PickNames from '../widgets/PickNames.vue'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import { buttonOf, offeredAt, openBuffers, passing, plausibleFacts, readByHand, readingFacts, trendOf } from './gate.ts'
import GateFacts from './GateFacts.vue'
import GivenValue from './GivenValue.vue'
import HeldList from './HeldList.vue'
import ManifoldDrawing from './ManifoldDrawing.vue'
import SeenFields from './SeenFields.vue'
import TakeAgain from './TakeAgain.vue'
import TrendPlot from './TrendPlot.vue'

const props = defineProps<{ run: string; state: RunState; step: Step }>()
const trim = useTrim()
const live = useLive()
const preferences = usePreferences()
const router = useRouter()
const words = ref('')
const typed = ref('')
const t = computed(() => props.state.terms)
watch(
  () => props.step.id,
  () => {
    words.value = typed.value = ''
    shows.value = ['', '']
  },
)
const act = (body: Parameters<typeof trim.act>[1]) => void trim.act(props.run, body)
const quantity = (v: number, unit: string, decimals: number) => preferences.quantity(v, unit, { decimals })
const offered = computed(() => offeredAt(props.step, live.reading, quantity))
const facts = computed(() => [
  ...readingFacts(props.state, props.step, { reading: live.reading, quantity }),
  ...plausibleFacts(props.state, props.step),
])
const trend = computed(() => trendOf(props.step, t.value, quantity))
/** No link: what is written is written at the device itself, and what it shows is typed. */
const folder = useFolder()
const linked = computed(() => folder.answers === 'device')
const byHand = computed(() => !folder.answers || (linked.value && !overHart(props.state.procedure)))
/** A witness that the device itself does not show is looked at by eye. */
const byEye = computed(
  () => props.step.kind === 'steady' && (byHand.value || (linked.value && props.step.of === 'current')),
)
const readsBack = computed(() => byHand.value && (props.step.kind === 'read-back' || !!props.state.pending))
const asked = computed(() => (readsBack.value ? askedOfDevice(props.state) : undefined))
const shows = ref<readonly [string, string]>(['', ''])
const seesWords = computed(() => readsBack.value || byEye.value)
const button = computed(() => buttonOf(props.step, trim.busy, byHand.value || byEye.value))
const pass = () => act(passing(props.step, words.value, typed.value))
const seen = () => act(readByHand(props.step, words.value, asked.value && shows.value))
const press = () =>
  lacks.value
    ? undefined
    : button.value.does === 'pass'
      ? pass()
      : button.value.does === 'read' && byHand.value
        ? seen()
        : act({ do: button.value.does, step: props.step.id })
const lacks = computed(
  () =>
    (seesWords.value && !words.value.trim()) || (asked.value !== undefined && shows.value.some((text) => !text.trim())),
)
const buffers = computed(() => openBuffers(props.state, props.step))
/** Of several buffers the signal tells which; where it did not, or the figure is typed, the person may say it. */
const asksWhich = computed(
  () => props.step.kind === 'reading' && !!props.step.gives && buffers.value.length > 1 && !!trim.problem,
)
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
      <SeenFields
        v-if="byHand"
        v-model:words="words"
        v-model:shows="shows"
        :asked="asked"
        label="What the device shows now"
      />
      <v-btn
        color="primary"
        variant="flat"
        :disabled="trim.busy || lacks"
        data-test="read-back"
        @click="byHand ? seen() : act({ do: 'read', step: step.id })"
        >{{ byHand ? 'It was done: this is what it shows' : 'Read the device back' }}</v-btn
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
        v-if="step.kind === 'steady' && step.of && !byEye"
        :key="step.id"
        :of="step.of"
        :seconds="t.stability.window_s"
        :drift-pct="t.stability.driftPct"
        :noise-pct="t.stability.noisePct"
        :tau="t.stability.tau_s"
        :still-pct="t.stability.stillPct"
        :pct-per="trend.pctPer"
        :show="trend.show"
        :name="trend.name"
      />
      <form class="do" @submit.prevent="press">
        <WordsField v-if="step.kind === 'words'" :label="step.asks!" :value="words" needed @typed="words = $event" />
        <SeenFields
          v-if="seesWords"
          v-model:words="words"
          v-model:shows="shows"
          :asked="asked"
          :label="step.kind === 'steady' ? 'On what it stood still, and for how long' : 'What the device shows now'"
        />
        <GivenValue
          v-if="step.kind === 'apply' || step.kind === 'buffer'"
          v-model="typed"
          :state="state"
          :step="step"
          :at-bench="!byHand && !linked"
          @enter="pass"
        />
        <GateFacts :facts="facts" />
        <template v-if="step.kind === 'reading' && step.reads">
          <WordsField
            v-if="step.reads.what === 'current'"
            label="Meter reads"
            :value="typed"
            help="Milliamps, or volts across the shunt."
            needed
            @typed="typed = $event"
          />
          <QuantityField
            v-else
            label="Reads"
            :quantity="step.reads.quantity"
            :unit="step.reads.unit"
            :entry="{ typed }"
            needed
            @entry="typed = $event.typed"
            @enter="pass"
          />
          <v-btn v-if="offered" data-test="take-live" @click="typed = plainText(offered)">Take {{ offered }}</v-btn>
        </template>
        <PickNames
          v-if="asksWhich"
          label="Where the signal does not tell which buffer it is"
          :names="buffers"
          :chosen="[words]"
          @toggle="words = words === $event ? '' : $event"
        />
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
          v-if="step.kind !== 'valve'"
          :key="step.id"
          color="primary"
          variant="flat"
          type="submit"
          :disabled="trim.busy || lacks"
          data-test="pass-gate"
          >{{ button.says }}</v-btn
        >
      </form>
      <TakeAgain :run="run" :state="state" />
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
