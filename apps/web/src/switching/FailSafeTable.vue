<script setup lang="ts">
// What runs when: each relay over the whole way of the value, without power and without the sensor; and how to have it
// the other way.
import { runsWhen, turnedRound } from '@calm-loop/core/discrete'
import { TRIP_WORDS, type EnteredTrip } from '@calm-loop/core/kinds'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ trips: readonly EnteredTrip[]; unit: string; lost: number | undefined }>()
const preferences = usePreferences()
const session = useSession()
const folder = useFolder()
const q = (v: number) => preferences.quantity(v, props.unit, { decimals: 3, trim: true })
const rows = computed(() =>
  props.trips.flatMap((t) => (t.use ? [{ trip: t, use: t.use, when: runsWhen(t.use, props.lost, q) }] : [])),
)
const wish = (t: EnteredTrip, when: string) =>
  when === 'power-lost' ? t.powerLost : when === 'sensor-lost' ? t.sensorLost : when === 'echo-lost' ? t.echoLost : ''
const against = (t: EnteredTrip, when: string, runs: boolean | null) =>
  runs !== null && ['runs', 'stands'].includes(wish(t, when)) && runs !== (wish(t, when) === 'runs')
function turn(t: EnteredTrip): void {
  const other = turnedRound(sure(t.use))
  folder.set(`trip${t.number}Kind`, { typed: other.kind })
  folder.set(`trip${t.number}Contact`, { typed: other.contact })
}
</script>

<template>
  <section v-if="rows.length" aria-label="What runs when">
    <h3>What runs when</h3>
    <div v-for="{ trip, use, when } in rows" :key="trip.number" class="relay" :data-relay="trip.number">
      <p>
        <b>Relay {{ trip.number }}, {{ trip.drives }}:</b> {{ TRIP_WORDS[use.kind] }}; contact {{ use.contact }}.
        <template v-if="trip.interlock">Declared safe by: {{ trip.interlock }}.</template>
      </p>
      <ol class="when">
        <li
          v-for="w in when"
          :key="w.when"
          :class="{ against: !trip.interlock && against(trip, w.when, w.runs) }"
          :data-when="w.when"
        >
          <span class="quiet small">{{ w.words }}</span>
          <b>{{
            w.runs !== null ? (w.runs ? 'runs' : 'stands') : w.words.includes('as it was') ? 'as before' : 'not known'
          }}</b>
          <span class="small quiet">{{
            w.runs === null
              ? w.words.includes('as it was')
                ? 'relay as it was'
                : 'needs the fault current'
              : w.energised
                ? 'relay energised'
                : 'relay dropped'
          }}</span>
        </li>
      </ol>
      <v-btn v-if="session.has('technician')" variant="text" @click="turn(trip)"
        >Turn round: {{ turnedRound(use).kind }} on {{ turnedRound(use).contact }}</v-btn
      >
    </div>
  </section>
</template>

<style scoped>
.relay {
  border-top: 1px solid var(--hairline);
  padding: 10px 0;
}
.when {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(120px, 1fr));
  gap: 8px 16px;
}
.when li {
  display: flex;
  flex-direction: column;
  border-bottom: 3px solid var(--hairline);
  padding-bottom: 4px;
}
.when li.against {
  border-bottom-color: var(--stop);
}
.against b {
  color: var(--stop);
}
</style>
