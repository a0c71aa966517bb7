<script setup lang="ts">
// What was really read at the terminals, and the single fault that explains it best; and where to measure next.
import type { LoopSpot } from '@calm-loop/contract'
import type { Entry } from '@calm-loop/core/quantity'
import { isThere, readAt } from '@calm-loop/core/wiring'
import { computed, ref, shallowRef } from 'vue'
import { useDesk } from '../stores/desk.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import { useExplained } from './explained.ts'
import { useReadings } from './readings.ts'
import { useShown } from './shown.ts'
import FaultList from './FaultList.vue'
import PriorsPanel from './PriorsPanel.vue'
import SpotPick from './SpotPick.vue'

const emit = defineEmits<{ show: [where: readonly string[]] }>()
const desk = useDesk()
const { volts, milliamps } = useShown()
const { readings, refused, at, put, startAfresh, dismiss } = useReadings()
const { explained, working } = useExplained(readings)

const of = ref<LoopSpot['of']>('volts')
const red = ref('')
const black = ref('')
const conductor = ref('')
const entry = shallowRef<Entry>({ typed: '' })
const reason = ref('')
const afreshReason = ref('')
const unit = computed(() => (of.value === 'volts' ? 'V' : 'mA'))
const spot = computed<LoopSpot | undefined>(() => {
  if (of.value === 'current') return conductor.value ? { of: 'current', conductor: conductor.value } : undefined
  return red.value && black.value && red.value !== black.value
    ? { of: 'volts', red: red.value, black: black.value }
    : undefined
})
const replaces = computed(() => (spot.value ? at(spot.value) : undefined))
const ready = computed(() => spot.value && entry.value.value !== undefined && (!replaces.value || reason.value.trim()))
const words = (s: LoopSpot) => (s.of === 'volts' ? `${s.red} to ${s.black}` : `along ${s.conductor}`)
const show = (v: number, s: LoopSpot) => (s.of === 'volts' ? volts(v) : milliamps(v))
/** What the wiring as drawn would read there; mains and data lines are not computed. */
function expectedAt(s: LoopSpot | undefined): number | undefined {
  if (
    !s ||
    !desk.energised ||
    (desk.wiring && !isThere(desk.wiring, s)) ||
    (s.of === 'volts' && !(desk.told(s.red) && desk.told(s.black)))
  )
    return undefined
  return readAt(desk.energised, s)
}
const expected = computed(() => expectedAt(spot.value))
const help = computed(() =>
  expected.value === undefined || !spot.value ? 'With its sign.' : `Expected ${show(expected.value, spot.value)}.`,
)

function record(): void {
  if (!ready.value || !spot.value) return
  put({
    spot: spot.value,
    read: entry.value,
    expected: expected.value ?? null,
    signal_mA: desk.energised ? desk.mA : null,
    reason: reason.value.trim(),
  })
  entry.value = { typed: '' }
  reason.value = ''
}
function afresh(): void {
  startAfresh(afreshReason.value.trim())
  afreshReason.value = ''
}
function measure(next: LoopSpot): void {
  of.value = next.of
  if (next.of === 'volts') [red.value, black.value] = [next.red, next.black]
  else conductor.value = next.conductor
  entry.value = { typed: '' }
}
</script>

<template>
  <section aria-label="Explain readings">
    <p v-if="desk.study?.needs.length" class="look">
      Explaining readings still needs: {{ desk.study.needs.join(', ') }}.
    </p>
    <div class="two">
      <div>
        <h3>What was read</h3>
        <v-table v-if="readings.length">
          <thead>
            <tr>
              <th>Where</th>
              <th class="num">Expected now</th>
              <th class="num">Read</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in readings" :key="r.id">
              <td class="figures">
                {{ words(r.spot) }}
                <span v-if="desk.wiring && !isThere(desk.wiring, r.spot)" class="gone"
                  >no longer there: does not count</span
                >
              </td>
              <td class="num">{{ expectedAt(r.spot) === undefined ? '' : show(expectedAt(r.spot)!, r.spot) }}</td>
              <td class="num read">{{ r.read.typed }}{{ /[a-zΩ]/i.test(r.read.typed) ? '' : ` ${r.read.unit}` }}</td>
            </tr>
          </tbody>
        </v-table>
        <p v-else class="quiet">Nothing yet. Measure anywhere, type what the meter showed.</p>
        <p class="small quiet">
          Readings are explained at the thread’s current, {{ milliamps(desk.mA) }}: take them while the process stands
          still.
        </p>
        <form v-if="desk.mayChange" @submit.prevent="record">
          <ChoiceField
            label="Measured"
            :options="[
              { value: 'volts', label: 'volts between terminals' },
              { value: 'current', label: 'mA along a conductor' },
            ]"
            :value="of"
            @choose="of = $event as LoopSpot['of']"
          />
          <template v-if="of === 'volts'">
            <SpotPick label="Red lead at" of="terminal" :value="red" @choose="red = $event" />
            <SpotPick label="Black lead at" of="terminal" :value="black" @choose="black = $event" />
          </template>
          <SpotPick
            v-else
            label="Conductor, from its first end to its second"
            of="conductor"
            :value="conductor"
            @choose="conductor = $event"
          />
          <QuantityField
            label="The meter showed"
            :quantity="of === 'volts' ? 'voltage' : 'current'"
            :unit="unit"
            :entry="entry"
            :help="help"
            @entry="entry = $event"
            @enter="record"
          />
          <WordsField
            v-if="replaces"
            label="Why it is read again"
            :value="reason"
            needed
            :help="`It replaces ${replaces.read.typed}, which stays on record.`"
            @typed="reason = $event"
          />
          <v-btn type="submit" color="primary" variant="flat" :disabled="!ready">Put on record</v-btn>
        </form>
        <p v-for="p in refused" :key="p.id" class="bad" role="alert">
          Not taken: {{ p.refused }} <button type="button" class="link" @click="dismiss(p.id)">Seen</button>
        </p>
        <form v-if="readings.length && desk.mayChange" class="afresh" @submit.prevent="afresh">
          <WordsField
            label="Start afresh, because"
            :value="afreshReason"
            help="After a repair: the readings so far stay on record and no longer count."
            @typed="afreshReason = $event"
          />
          <v-btn type="submit" variant="text" :disabled="!afreshReason.trim()">Start afresh</v-btn>
        </form>
      </div>
      <FaultList
        :explained="explained"
        :working="working"
        :where="words"
        :show="show"
        @show="emit('show', $event)"
        @measure="measure"
      />
    </div>
    <PriorsPanel />
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 16px 40px;
}
.read {
  color: var(--signal);
  font-weight: 600;
}
.gone {
  display: block;
  font-family: var(--words);
  font-size: 14px;
  color: var(--look);
}
.afresh {
  margin-top: 24px;
}
.look {
  color: var(--look);
}
@media (max-width: 740px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
