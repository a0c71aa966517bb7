<script setup lang="ts">
// Stops: the standstills that nobody has named yet, those that were named, and one entered by hand. Nothing is
// removed; a wrong one is withdrawn with its reason.
import { computed, ref } from 'vue'
import AskForJob from '../round/AskForJob.vue'
import { useCount } from '../stores/count.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { moment } from '../widgets/dates.ts'
import WordsField from '../widgets/WordsField.vue'

const count = useCount()
const session = useSession()
const preferences = usePreferences()
const reasons = ref<Record<string, string>>({})
const from = ref('')
const to = ref('')
const reason = ref('')
const says = ref('')
const minutes = (ms: number) => preferences.quantity(ms / 60_000, 'min', { decimals: 1 })
const iso = (ms: number) => new Date(ms).toISOString()
const stops = computed(() => [...count.standing.stops].sort((a, b) => (a.from < b.from ? 1 : -1)))
const unnamed = computed(() => count.report?.unnamed ?? [])

async function nameIt(key: string, from_ms: number, to_ms: number): Promise<void> {
  const words = reasons.value[key]?.trim()
  if (!words) return
  if (await count.add({ what: 'stop', from: iso(from_ms), to: iso(to_ms), reason: words })) delete reasons.value[key]
}
async function enterOwn(): Promise<void> {
  const [a, b] = [Date.parse(from.value), Date.parse(to.value)]
  says.value =
    !Number.isFinite(a) || !Number.isFinite(b)
      ? 'Choose day and time of both ends.'
      : a >= b
        ? 'A stop ends after it begins.'
        : !reason.value.trim()
          ? 'Say why it stood.'
          : ''
  if (says.value) return
  if (await count.add({ what: 'stop', from: iso(a), to: iso(b), reason: reason.value.trim() }))
    from.value = to.value = reason.value = ''
}
const withdrawing = ref('')
const why = ref('')
async function withdraw(id: string): Promise<void> {
  if (!why.value.trim()) return
  if (await count.add({ what: 'withdrawn', entry: id, reason: why.value.trim() })) withdrawing.value = why.value = ''
}
</script>

<template>
  <section aria-label="Stops">
    <p v-if="count.problem" class="bad" role="alert">{{ count.problem }}</p>
    <template v-if="unnamed.length && count.report">
      <h3>Standstills nobody has named</h3>
      <p class="quiet small">
        No cycle for more than {{ preferences.quantity(count.report.stillFrom_s, 's', { trim: true }) }} within a shift.
        Unnamed, they count as run time and lower the performance.
      </p>
      <ul class="list">
        <li v-for="u in unnamed.slice(0, 8)" :key="u.from_ms" :data-unnamed="u.from_ms">
          <span
            >{{ moment(iso(u.from_ms)) }}, <span class="figures">{{ minutes(u.to_ms - u.from_ms) }}</span></span
          >
          <form
            v-if="session.has('technician')"
            class="row"
            @submit.prevent="nameIt(String(u.from_ms), u.from_ms, u.to_ms)"
          >
            <WordsField label="Why it stood" :value="reasons[u.from_ms] ?? ''" @typed="reasons[u.from_ms] = $event" />
            <v-btn type="submit" variant="outlined" :disabled="!reasons[u.from_ms]?.trim()">Name this stop</v-btn>
          </form>
        </li>
      </ul>
      <p v-if="unnamed.length > 8" class="quiet small">and {{ unnamed.length - 8 }} shorter ones.</p>
    </template>
    <template v-if="session.has('technician')">
      <h3>A stop of your own</h3>
      <form class="own" @submit.prevent="enterOwn">
        <WordsField label="From" type="datetime-local" :value="from" @typed="from = $event" />
        <WordsField label="To" type="datetime-local" :value="to" @typed="to = $event" />
        <WordsField label="Reason" :value="reason" @typed="reason = $event" />
        <v-btn type="submit" variant="outlined">Enter stop</v-btn>
      </form>
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
    </template>
    <h3>Stops on record</h3>
    <p class="quiet small">Where two overlap, the time counts once.</p>
    <div class="scroll" tabindex="0" role="region" aria-label="Stops on record">
      <v-table v-if="stops.length" class="small">
        <thead>
          <tr>
            <th>From</th>
            <th class="num">Lasted</th>
            <th>Reason</th>
            <th>By</th>
            <th><span class="visually-hidden">Withdraw</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in stops" :key="s.id">
            <td>{{ moment(s.from) }}</td>
            <td class="num">{{ minutes(Date.parse(s.to) - Date.parse(s.from)) }}</td>
            <td>{{ s.reason }}</td>
            <td>{{ s.by.name }}</td>
            <td>
              <form v-if="withdrawing === s.id" class="row" @submit.prevent="withdraw(s.id)">
                <WordsField label="Why it is wrong" :value="why" needed @typed="why = $event" />
                <v-btn type="submit" variant="outlined" :disabled="!why.trim()">Withdraw</v-btn>
              </form>
              <button v-else-if="session.has('technician')" type="button" class="link" @click="withdrawing = s.id">
                Withdraw<span class="visually-hidden"> the stop of {{ moment(s.from) }}</span>
              </button>
              <AskForJob
                :what="`After a stop: ${s.reason}`"
                :why="`It stood on ${moment(s.from)} for ${minutes(Date.parse(s.to) - Date.parse(s.from))}`"
                origin="stop"
              />
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-else class="quiet">None yet.</p>
    </div>
  </section>
</template>

<style scoped>
h3 {
  margin: 16px 0 4px;
}
.list {
  list-style: none;
  padding: 0;
}
.list li {
  display: grid;
  grid-template-columns: 260px minmax(0, 1fr);
  gap: 16px;
  align-items: center;
  border-bottom: 1px solid var(--hairline);
}
.row {
  display: grid;
  grid-template-columns: minmax(140px, 1fr) auto;
  gap: 12px;
  align-items: center;
}
.own {
  display: grid;
  grid-template-columns: 1fr 1fr 1.4fr auto;
  gap: 16px;
  align-items: center;
}
.scroll {
  max-height: 420px;
  overflow: auto;
}
@media (max-width: 740px) {
  .list li,
  .own {
    grid-template-columns: minmax(0, 1fr);
    gap: 4px;
  }
}
</style>
