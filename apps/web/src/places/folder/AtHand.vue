<script setup lang="ts">
// What is at hand for a check, along the thread: where the standard stands, what is read and with what, and how well
// each place can be proved.
import type { Gear, SiteJudging } from '@calm-loop/contract'
import { readsVolts } from '@calm-loop/contract'
import { INDICATOR, standardKnots, witnessesBehind, type Witness } from '@calm-loop/core/check'
import type { CurrentStudy } from '@calm-loop/core/loop'
import { entryIn, unitOf, type Entry } from '@calm-loop/core/quantity'
import { computed, ref } from 'vue'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { dayWords, today } from '../../widgets/dates.ts'
import GradeMark from '../../widgets/GradeMark.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import {
  NOT_READ,
  piecesFor,
  proofLines,
  quantityAt,
  readsOf,
  STANDS,
  type Chosen,
  type ChosenPlace,
} from './atHand.ts'

const props = defineProps<{
  known: CurrentStudy
  kit: readonly Gear[]
  judging: SiteJudging
  percents: readonly number[]
}>()
const chosen = defineModel<Chosen>({ required: true })

const standards = computed(() =>
  standardKnots(props.known.thread).map((k) => ({ value: k.id, label: `${k.name}, ${unitOf(k.unit).label}` })),
)
const standard = computed(() => props.known.thread.knots.find((k) => k.id === chosen.value.standardAt))
const places = computed(() => witnessesBehind(props.known.thread, chosen.value.standardAt))
const of = (w: Witness): ChosenPlace => chosen.value.places[w.id] ?? NOT_READ
function change(w: Witness, more: Partial<ChosenPlace>): void {
  chosen.value = { ...chosen.value, places: { ...chosen.value.places, [w.id]: { ...of(w), ...more } } }
}
const words = (g: Gear) =>
  `${g.name}, ${g.serial}${g.due < today() ? ' — expired' : ''}${g.ranges?.length ? '' : ' — no figures'}`
const pieces = (quantity: Witness['quantity'], own: string) => [
  { value: '', label: own },
  ...piecesFor(props.kit, quantity).map((g) => ({ value: g.id, label: words(g) })),
]
/** What reads a place when no piece of the kit does: a meter of somebody else's, or what stands there itself. */
const ownOf = (w: Witness) =>
  w.id === 'current' || w.id === 'volts' ? 'not in the kit' : 'nothing: as it is shown there'
const readWith = (w: Witness) => pieces(quantityAt(w, of(w)), ownOf(w))
const reads = computed(() => readsOf(props.known, chosen.value))
const proof = computed(() =>
  typeof reads.value === 'string'
    ? []
    : proofLines(props.known, reads.value, props.kit, {
        percents: props.percents,
        judging: props.judging,
        today: today(),
      }),
)
const proofOf = (w: Witness) => proof.value.find((p) => p.witness.id === w.id)
const volts = computed(() => places.value.some((w) => w.id === 'current' && of(w).read && readsVolts(of(w).stand)))
const ohm = ref<Entry>({ typed: '' })
const pct = ref<Entry>({ typed: '' })
function resistor(entry: Entry): void {
  ohm.value = entry
  const value = entryIn(entry, 'Ohm')
  chosen.value = {
    ...chosen.value,
    resistor:
      value === undefined || entry.value === undefined || entry.unit === undefined
        ? undefined
        : { typed: entry.typed, value: entry.value, unit: entry.unit },
  }
}
function tolerance(entry: Entry): void {
  pct.value = entry
  chosen.value = { ...chosen.value, resistorPct: entryIn(entry, '%') }
}
const dueOf = (id: string) => props.kit.find((g) => g.id === id)?.due
const isExpired = (id: string) => (dueOf(id) ?? '9999') < today()
</script>

<template>
  <div role="group" aria-label="What is at hand" class="hand">
    <h3>What is at hand</h3>
    <ol class="places">
      <li class="knot-row" data-place="applied">
        <svg aria-hidden="true" class="line">
          <line x1="15" x2="15" y1="22" y2="100%" />
          <circle cx="15" cy="22" r="8" class="ring" />
        </svg>
        <div class="fields">
          <ChoiceField
            label="The standard gives or shows the true input at"
            :options="standards"
            :value="chosen.standardAt"
            @choose="chosen = { ...chosen, standardAt: $event, standardGear: '' }"
          />
          <ChoiceField
            v-if="standard"
            label="Standard"
            :options="pieces(standard.quantity, 'not in the kit')"
            :value="chosen.standardGear"
            :help="isExpired(chosen.standardGear) ? `Was due ${dayWords(dueOf(chosen.standardGear)!)}.` : ''"
            @choose="chosen = { ...chosen, standardGear: $event }"
          />
        </div>
      </li>
      <li v-for="w in places" :key="w.id" class="knot-row" :class="{ off: !of(w).read }" :data-place="w.id">
        <svg aria-hidden="true" class="line">
          <line x1="15" x2="15" y1="0" y2="100%" />
          <circle cx="15" cy="24" r="7" :class="of(w).read ? 'dot' : 'ring'" />
        </svg>
        <div>
          <label class="tick">
            <input type="checkbox" :checked="of(w).read" @change="change(w, { read: !of(w).read })" />
            <span
              >{{ w.name }} <span class="quiet small">{{ unitOf(w.unit).label }}</span></span
            >
          </label>
          <div v-if="of(w).read" class="fields">
            <ChoiceField
              v-if="w.id === 'current'"
              label="How the meter stands"
              :options="STANDS"
              :value="of(w).stand"
              @choose="change(w, { stand: $event as ChosenPlace['stand'], gear: '' })"
            />
            <ChoiceField
              v-if="w.id === INDICATOR"
              label="It shows"
              :options="[
                { value: 'unit', label: unitOf(w.unit).label },
                { value: '%', label: '% of range' },
              ]"
              :value="of(w).percent ? '%' : 'unit'"
              @choose="change(w, { percent: $event === '%' })"
            />
            <ChoiceField
              v-if="readWith(w).length > 1"
              label="Read with"
              :options="readWith(w)"
              :value="of(w).gear"
              :help="isExpired(of(w).gear) ? `Was due ${dayWords(dueOf(of(w).gear)!)}.` : ''"
              @choose="change(w, { gear: $event })"
            />
            <template v-if="w.id === 'current' && volts">
              <QuantityField label="Resistor" quantity="resistance" unit="Ohm" :entry="ohm" needed @entry="resistor" />
              <QuantityField
                label="Its tolerance, ±"
                quantity="ratio"
                unit="%"
                :entry="pct"
                needed
                @entry="tolerance"
              />
            </template>
          </div>
          <p v-if="proofOf(w)" class="proof" :class="{ look: !proofOf(w)!.enough }" :data-proof="w.id" role="status">
            <GradeMark v-if="!proofOf(w)!.enough" grade="look" wordless /> {{ proofOf(w)!.says }}
          </p>
        </div>
      </li>
    </ol>
    <p v-if="typeof reads === 'string'" class="look" role="status">{{ reads }}</p>
  </div>
</template>

<style scoped>
.hand {
  margin-top: 16px;
}
.places {
  list-style: none;
  margin: 0;
  padding: 0;
}
.knot-row {
  position: relative;
  padding: 4px 0 4px 42px;
  border-bottom: 1px solid var(--hairline);
}
.line {
  position: absolute;
  left: 0;
  top: 0;
  width: 30px;
  height: 100%;
}
.line line {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.ring {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.dot {
  fill: var(--signal);
}
.off .line line {
  stroke: var(--hairline);
}
.tick {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: 48px;
  cursor: pointer;
}
.tick input {
  width: 24px;
  height: 24px;
  accent-color: var(--action);
}
.off .tick {
  color: var(--second);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 250px), 1fr));
  gap: 0 24px;
}
.proof {
  margin: 0 0 8px;
}
.look {
  color: var(--look);
}
</style>
