<script setup lang="ts">
// Where the meter goes: jack, function, leads, order of steps, what it will show now, and what another display would
// mean.
import { VOLTS_WORDS, voltsMeanings } from '@calm-loop/core/discrete'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { METER, placeMeter, shuntsOf, switchSpots, terminalsOf, type Placement } from '@calm-loop/core/wiring'
import { computed, ref, watch } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { useFolder } from '../stores/folder.ts'
import ChoiceField from '../widgets/ChoiceField.vue'
import GradeMark from '../widgets/GradeMark.vue'
import { useShown } from './shown.ts'
import SpotPick from './SpotPick.vue'
import { sure } from '@calm-loop/core/sure'

type How = 'series' | 'shunt' | 'test' | 'clamp' | 'volts' | 'milliamps'
const ALL: readonly { value: How; label: string }[] = [
  { value: 'series', label: 'mA, in series' },
  { value: 'shunt', label: 'volts, across the shunt' },
  { value: 'test', label: 'mA, at the test terminals' },
  { value: 'clamp', label: 'clamp around a conductor' },
  { value: 'volts', label: 'volts, between two terminals' },
  { value: 'milliamps', label: 'mA, between two terminals' },
]
const desk = useDesk()
const folder = useFolder()
const { volts, milliamps } = useShown()
const discrete = computed(() => folder.kind?.family === 'switch')
const HOWS = computed(() => ALL.filter((h) => !discrete.value || !['shunt', 'test'].includes(h.value)))
const how = ref<How>(discrete.value ? 'volts' : 'shunt')
const conductor = ref('')
const end = ref<'from' | 'to'>('to')
const red = ref('')
const black = ref('')
/** The simulated meter's fuse: once blown it stays so until it is replaced. */
const fuse = ref<'whole' | 'blown'>('whole')

const first = computed(() => {
  const w = desk.wiring
  if (!w) return undefined
  const spots = terminalsOf(w)
  const shunt = shuntsOf(w).find((s) => s.device.id === 'RX') ?? shuntsOf(w)[0]
  const test = [...spots].find(([, s]) => s.does === 'test+')
  const testMinus = test && [...spots].find(([, s]) => s.device === test[1].device && s.does === 'loop-')
  const tx = w.conductors.find((c) => [c.from, c.to].some((r) => ['loop+', 'out+'].includes(spots.get(r)?.does ?? '')))
  const spot = switchSpots(w)
  return { spot, shunt, test: test?.[0], testMinus: testMinus?.[0], conductor: tx?.id ?? w.conductors[0]?.id ?? '' }
})
// A new way of measuring starts where it is usually done.
watch(
  [how, () => folder.view?.loop.id],
  () => {
    const f = first.value
    if (!f) return
    if (how.value === 'series' || how.value === 'clamp') conductor.value ||= f.conductor
    if (how.value === 'volts' && f.spot) [red.value, black.value] = [f.spot.signal, f.spot.minus]
    if (how.value === 'shunt' && f.shunt) [red.value, black.value] = [f.shunt.plus, f.shunt.minus]
    if (how.value === 'test') [red.value, black.value] = [f.test ?? '', f.testMinus ?? '']
  },
  { immediate: true },
)
const placement = computed<Placement | undefined>(() => {
  const w = desk.wiring
  if (!w) return undefined
  if (how.value === 'series' || how.value === 'clamp') {
    if (!w.conductors.some((c) => c.id === conductor.value)) return undefined
    return how.value === 'clamp'
      ? { how: 'clamp', conductor: conductor.value }
      : { how: 'series', conductor: conductor.value, end: end.value }
  }
  const spots = terminalsOf(w)
  if (!spots.has(red.value) || !spots.has(black.value) || red.value === black.value) return undefined
  return {
    how: how.value === 'test' || how.value === 'milliamps' ? 'milliamps' : 'volts',
    red: red.value,
    black: black.value,
  }
})
watch(placement, (p) => (desk.placement = p), { immediate: true })
const reading = computed(() => {
  if (!placement.value || !desk.wiring || !desk.conditions || !desk.energised) return undefined
  return attempt(() => placeMeter(sure(desk.wiring), sure(desk.conditions), sure(placement.value), desk.energised))
})
const shown = computed(() => (reading.value instanceof Refusal ? undefined : reading.value))
watch(
  () => shown.value?.blown,
  (blown) => blown && (fuse.value = 'blown'),
)
const current = computed(() => shown.value?.quantity === 'mA' && how.value !== 'clamp')
const display = computed(() => {
  const r = shown.value
  if (!r) return ''
  if (r.value === null) return r.display
  const value = current.value && fuse.value === 'blown' ? 0 : r.value
  return r.quantity === 'V' ? volts(value) : milliamps(value)
})
/** What another display means: at a discrete point in its own words, as nothing there goes by proportion. */
const meanings = computed(() => {
  const r = shown.value
  const spot = first.value?.spot
  if (!r) return []
  if (!discrete.value || how.value !== 'volts') return r.meanings
  const plan = folder.run?.plan
  if (!plan || red.value !== spot?.signal || black.value !== spot.minus) return r.meanings.slice(0, 2)
  const [own, other] = desk.target ? [plan.present, plan.absent] : [plan.absent, plan.present]
  return voltsMeanings(own.signalV ?? 0, other.signalV ?? 0).map((m) => ({
    shows: m.volts === undefined ? 'anything else' : volts(m.volts),
    means: VOLTS_WORDS[m.shows],
  }))
})
const notOff = computed(() => shown.value?.powerOff && desk.power.power !== 'off')
</script>

<template>
  <section aria-label="Meter">
    <div class="meter">
      <div>
        <ChoiceField label="How to measure" :options="HOWS" :value="how" @choose="how = $event as How" />
        <template v-if="how === 'series' || how === 'clamp'">
          <SpotPick label="Conductor" of="conductor" :value="conductor" @choose="conductor = $event" />
          <ChoiceField
            v-if="how === 'series'"
            label="Lifted at"
            :options="[
              { value: 'from', label: 'its first end' },
              { value: 'to', label: 'its second end' },
            ]"
            :value="end"
            @choose="end = $event as 'from' | 'to'"
          />
        </template>
        <template v-else>
          <SpotPick label="Red lead" of="terminal" :value="red" @choose="red = $event" />
          <SpotPick label="Black lead" of="terminal" :value="black" @choose="black = $event" />
        </template>
      </div>
      <div v-if="shown">
        <p class="quiet small">Expected on the display at this moment</p>
        <p class="display figures" data-display>{{ display }}</p>
        <p v-if="current && fuse === 'blown'" class="bad" role="alert">
          The simulated meter’s {{ METER.fusemA }} mA fuse is blown: it shows 0 whatever flows.
          <button type="button" class="link" @click="fuse = 'whole'">Put in a new fuse</button>
        </p>
        <dl class="set">
          <dt>Jack</dt>
          <dd>{{ shown.jack }}</dd>
          <dt>Function</dt>
          <dd>{{ shown.function }}</dd>
          <dt>Red</dt>
          <dd>{{ shown.redTo }}</dd>
          <dt>Black</dt>
          <dd>{{ shown.blackTo }}</dd>
        </dl>
      </div>
      <p v-else-if="desk.study?.needs.length" class="look">
        What it will show still needs: {{ desk.study.needs.join(', ') }}.
      </p>
      <p v-else-if="how === 'test' && !first?.test" class="look">No device of this wiring has test terminals.</p>
      <p v-else class="look">Choose where the meter goes.</p>
    </div>
    <template v-if="shown">
      <p v-if="shown.danger" class="danger" role="alert">
        <GradeMark grade="stop" /> <span>{{ shown.danger }}</span>
      </p>
      <p v-if="notOff" class="danger">
        <GradeMark grade="look" />
        <span>Power is not confirmed off. A meter goes in series, and comes out, with the power off.</span>
      </p>
      <div class="meter">
        <div>
          <h3>In this order</h3>
          <ol>
            <li v-for="step in shown.steps" :key="step">{{ step }}</li>
          </ol>
        </div>
        <div v-if="meanings.length">
          <h3>If it shows something else</h3>
          <dl class="means">
            <template v-for="m in meanings" :key="m.shows">
              <dt class="figures">{{ m.shows }}</dt>
              <dd>{{ m.means }}</dd>
            </template>
          </dl>
        </div>
      </div>
    </template>
  </section>
</template>

<style scoped>
.meter {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 8px 40px;
}
.display {
  font-size: 40px;
  line-height: 1.1;
  font-weight: 600;
  margin: 0 0 12px;
}
dl {
  margin: 0;
}
.set {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  gap: 4px 12px;
}
dt {
  color: var(--second);
}
dd {
  margin: 0;
}
.means dt {
  font-size: 15px;
  color: var(--ink);
  font-weight: 600;
}
.means dd {
  margin-bottom: 8px;
}
ol {
  padding-left: 22px;
}
li {
  margin-bottom: 4px;
}
.danger {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
}
.look {
  color: var(--look);
}
@media (max-width: 740px) {
  .meter {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
