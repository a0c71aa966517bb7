<script setup lang="ts">
// Which guided work is to be begun, and what it must be told first.
import { Refusal } from '@calm-loop/core/refusal'
import { redoxElectrode } from '@calm-loop/core/kinds'
import { sure } from '@calm-loop/core/sure'
import { receiverWanted } from '@calm-loop/core/loop'
import { PROCEDURE_NAMES, type ProcedureId } from '@calm-loop/core/procedure'
import type { Knot } from '@calm-loop/core/thread'
import { computed, reactive } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useFolder } from '../stores/folder.ts'
import { useTrim } from '../stores/trim.ts'
import QuantityField from '../widgets/QuantityField.vue'
import BufferChoice from './BufferChoice.vue'
import { inSentence } from '@calm-loop/core/words'

const trim = useTrim()
const folder = useFolder()
const session = useSession()
const route = useRoute()
const router = useRouter()
const preferences = usePreferences()
const SAYS: Record<ProcedureId, string> = {
  'zero-trim': 'True zero on the sensor; the device takes it as zero. The usual cure for a mounting shift.',
  'sensor-trim': 'A known value near each end of the range; the device makes its digital value agree.',
  'current-trim': 'A meter in the loop at 4 and 20 mA; the device makes its output agree.',
  'forced-current':
    'The device drives 4, 8, 12, 16, 20 mA and both fault currents; meter, card and screen must follow.',
  'range-change': 'What 4 and 20 mA mean, written to the device and read back.',
  'receiver-scale': 'What the receiver shows at 4 and 20 mA.',
  'ph-calibration':
    'One to five buffers, in any order; slope and offset of the electrode, and whether it can still be used.',
  'redox-offset': 'A solution of known potential; the device takes it, and the slope stays.',
  'flow-zero': 'No flow, pipe full; the meter takes what it measures as zero.',
  'damping-change': 'How slowly the output follows, written to the device and read back.',
  'health-check': 'The device looks into itself; what its output does meanwhile is chosen and said first.',
}
const chosen = computed<ProcedureId | undefined>(() => trim.procedures.find((p) => p === route.query['procedure']))
/** Inside a sentence; “pH” stays as it is. */
const choose = (p: ProcedureId) => void router.replace({ query: { do: 'guided', procedure: p } })
const choice = reactive({
  lower: '',
  upper: '',
  low: '',
  high: '',
  damping: '',
  buffers: ['4.00', '7.00'] as readonly string[],
})
const c = computed(() => trim.known)
const standingBy = computed(() =>
  chosen.value === 'receiver-scale' ? 'as the transmitter means it,' : 'as on record,',
)
const figure = (v: number, unit: string) => preferences.quantity(v, unit, { trim: true })
interface Pair {
  readonly key: 'lower' | 'upper' | 'low' | 'high' | 'damping'
  readonly label: string
  readonly knot: Pick<Knot, 'quantity' | 'unit'>
  /** What counts where nothing is entered, and by what. */
  readonly standing: number
  readonly standingBy?: string
}
const pairs = computed((): readonly Pair[] => {
  const now = c.value
  if (!now) return []
  if (chosen.value === 'sensor-trim')
    return [
      { key: 'lower', label: 'Lower trim point', knot: now.digital, standing: now.lrv },
      { key: 'upper', label: 'Upper trim point', knot: now.digital, standing: now.urv },
    ]
  if (chosen.value === 'redox-offset') {
    const { solution_mV } = redoxElectrode(sure(folder.reader))
    return [
      {
        key: 'lower',
        label: 'The solution, as on its bottle',
        knot: { quantity: 'voltage', unit: 'mV' },
        standing: solution_mV,
        standingBy: 'hexacyanoferrates at 25 °C against this reference,',
      },
    ]
  }
  if (chosen.value === 'range-change')
    return [
      { key: 'low', label: 'New value at 4 mA', knot: now.digital, standing: now.lrv },
      { key: 'high', label: 'New value at 20 mA', knot: now.digital, standing: now.urv },
    ]
  if (chosen.value === 'receiver-scale')
    return [
      { key: 'low', label: 'Shown at 4 mA', knot: now.controller, standing: receiverWanted(now).low },
      { key: 'high', label: 'Shown at 20 mA', knot: now.controller, standing: receiverWanted(now).high },
    ]
  if (chosen.value === 'damping-change')
    return [
      {
        key: 'damping',
        label: 'New damping',
        knot: { quantity: 'time', unit: 's' },
        standing: folder.current?.reader.in('damping', 's') ?? 0,
      },
    ]
  return []
})
async function begin(): Promise<void> {
  if (!chosen.value) return
  const typed = Object.fromEntries(pairs.value.map((p) => [p.key, choice[p.key]]).filter(([, v]) => v))
  const done = await trim.begin(chosen.value, {
    ...typed,
    ...(chosen.value === 'ph-calibration' ? { buffers: [...choice.buffers] } : {}),
  })
  // The run stands in sight from now on, and stays there when it is over.
  if (done) await router.replace({ query: { do: 'guided' } })
}
</script>

<template>
  <section aria-label="Begin guided work">
    <p v-if="trim.chain instanceof Refusal" class="look">{{ trim.chain.message }}</p>
    <ul class="choices">
      <li v-for="p in trim.procedures" :key="p">
        <button type="button" class="choice" :aria-pressed="p === chosen" :data-procedure="p" @click="choose(p)">
          <b>{{ PROCEDURE_NAMES[p] }}</b>
          <span class="small">{{ SAYS[p] }}</span>
        </button>
      </li>
    </ul>
    <form v-if="chosen" class="terms" @submit.prevent="begin">
      <h3>{{ PROCEDURE_NAMES[chosen] }}</h3>
      <div v-if="pairs.length" class="pair">
        <QuantityField
          v-for="p in pairs"
          :key="p.key"
          :label="p.label"
          :quantity="p.knot.quantity"
          :unit="p.knot.unit"
          :entry="{ typed: choice[p.key] }"
          :help="`${figure(p.standing, p.knot.unit)}, ${p.standingBy ?? standingBy} unless entered.`"
          @entry="choice[p.key] = $event.typed"
        />
      </div>
      <BufferChoice v-if="chosen === 'ph-calibration'" v-model="choice.buffers" />
      <p v-if="trim.problem" class="bad" role="alert">{{ trim.problem }}</p>
      <v-btn
        v-if="session.has('technician')"
        color="primary"
        variant="flat"
        type="submit"
        :disabled="trim.busy"
        data-test="begin-run"
        >Begin: {{ inSentence(PROCEDURE_NAMES[chosen]) }}</v-btn
      >
      <p v-else class="quiet small">Only a technician may begin guided work.</p>
    </form>
  </section>
</template>

<style scoped>
.choices {
  list-style: none;
  padding: 0;
  margin: 0 0 16px;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 0 24px;
}
.choice {
  display: block;
  width: 100%;
  min-height: 92px;
  padding: 10px 0;
  background: none;
  border: 0;
  border-top: 1px solid var(--hairline);
  font: inherit;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.choice span {
  display: block;
  color: var(--second);
}
.choice[aria-pressed='true'] {
  border-top: 3px solid var(--action);
}
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  gap: 0 24px;
  max-width: 640px;
}
.terms {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
}
.terms h3 {
  margin-bottom: 8px;
}
</style>
