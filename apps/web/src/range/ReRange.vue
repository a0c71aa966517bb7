<script setup lang="ts">
// A new range: what the mounting makes of it, what it does to the signal, and the two places where it must be set.
import { zeroWords } from '@calm-loop/core/kinds'
import { convertUnit, entryFrom, entryIn, type Entry } from '@calm-loop/core/quantity'
import { Refusal } from '@calm-loop/core/refusal'
import { computed, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useTrim } from '../stores/trim.ts'
import QuantityField from '../widgets/QuantityField.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const trim = useTrim()
const session = useSession()
const preferences = usePreferences()
const router = useRouter()
const c = computed(() => trim.known)
const typed = reactive<Record<'low' | 'high' | 'height' | 'sg', Entry>>({
  low: { typed: '' },
  high: { typed: '' },
  height: { typed: '' },
  sg: { typed: '' },
})
const written = ref(false)
const unit = computed(() => c.value?.digital.unit ?? 'mbar')
const pressure = computed(() => c.value?.digital.quantity === 'pressure')
const show = (v: number) => preferences.quantity(v, unit.value, { trim: true, decimals: 2 })
/** What the mounting makes of the range, where it does. */
const vessel = computed(() => folder.current?.rangeFromMounting?.(unit.value))
/** A column of liquid on the cell shifts both ends alike. */
const head = computed(() => {
  const h = entryIn(typed.height, 'mm')
  const sg = entryIn(typed.sg, '1') ?? 1
  return pressure.value && h !== undefined ? convertUnit(h * sg, 'mmH2O', unit.value) : 0
})
const wanted = computed(() => {
  const now = c.value
  if (!now) return undefined
  const low = (entryIn(typed.low, unit.value) ?? vessel.value?.low ?? now.lrv) + head.value
  const high = (entryIn(typed.high, unit.value) ?? vessel.value?.high ?? now.urv) + head.value
  return { low, high }
})
const verdict = computed(() => {
  const [now, w] = [c.value, wanted.value]
  if (!now || !w) return []
  const lines: string[] = []
  if (w.low === w.high) return ['The two ends are equal: there is no span.']
  if (pressure.value) lines.push(zeroWords(w.low, show))
  if (w.low > w.high) lines.push('The current falls while the value rises: reverse acting.')
  const [sl, sh] = [now.sensorLow, now.sensorHigh]
  if (sl !== undefined && sh !== undefined) {
    const out = Math.min(w.low, w.high) < sl || Math.max(w.low, w.high) > sh
    lines.push(
      out
        ? `Outside the sensor’s limits, ${show(sl)} to ${show(sh)}: it cannot be set.`
        : `Within the sensor’s limits; ${((sh - sl) / Math.abs(w.high - w.low)).toFixed(1)} times turned down.`,
    )
  }
  return lines
})
/** The same values on the old range and on the new one. */
const moved = computed(() => {
  const [now, w] = [c.value, wanted.value]
  if (!now || !w || w.low === w.high) return []
  return [0, 25, 50, 75, 100].map((p) => {
    const v = now.lrv + (p / 100) * (now.urv - now.lrv)
    return { value: v, before: 4 + 0.16 * p, after: 4 + (16 * (v - w.low)) / (w.high - w.low) }
  })
})
const clipped = (mA: number) =>
  mA < 3.8 ? 'below 3.8 mA' : mA > 20.5 ? 'above 20.5 mA' : preferences.quantity(mA, 'mA')
async function write(): Promise<void> {
  const w = wanted.value
  if (!w) return
  // The record changes at once; the device and the receiver only when somebody tells them.
  if (!(await trim.bench({ do: 'keep' }))) return
  for (const [key, value] of [
    ['lrv', w.low],
    ['urv', w.high],
  ] as const) {
    const field = sure(folder.kind).fields.find((f) => f.key === key)
    if (field?.type === 'quantity') folder.set(key, entryFrom(`${Number(value.toFixed(4))} ${unit.value}`, field))
  }
  written.value = true
}
const plainRange = computed(() => {
  const f = sure(folder.kind).fields.find((x) => x.key === 'lrv')
  return f?.type === 'quantity' && f.quantity === c.value?.digital.quantity
})
const lead = (procedure: string) =>
  void router.push({ path: `/loops/${sure(folder.view).loop.id}/trim`, query: { do: 'guided', procedure } })
</script>

<template>
  <section aria-label="Re-range">
    <h2 class="visually-hidden">Re-range</h2>
    <p v-if="!c || !wanted" class="look">
      {{ trim.chain instanceof Refusal ? trim.chain.message : 'Finish Point and Range first.' }}
    </p>
    <template v-else>
      <div class="pair">
        <QuantityField
          label="Value at 4 mA"
          :quantity="c.digital.quantity"
          :unit="unit"
          :entry="typed.low"
          :help="`${show(vessel?.low ?? c.lrv)}, ${vessel ? 'as vessel and leg make it' : 'as now'}, unless entered.`"
          @entry="typed.low = $event"
        />
        <QuantityField
          label="Value at 20 mA"
          :quantity="c.digital.quantity"
          :unit="unit"
          :entry="typed.high"
          :help="`${show(vessel?.high ?? c.urv)}, ${vessel ? 'as vessel and leg make it' : 'as now'}, unless entered.`"
          @entry="typed.high = $event"
        />
        <template v-if="pressure && !vessel">
          <QuantityField
            label="Liquid standing on the cell"
            quantity="length"
            unit="mm"
            :entry="typed.height"
            help="Suppresses the zero; negative elevates it, as a filled leg on the low side."
            @entry="typed.height = $event"
          />
          <QuantityField
            label="Its specific gravity"
            quantity="ratio"
            unit="1"
            :entry="typed.sg"
            help="1, water, unless entered."
            @entry="typed.sg = $event"
          />
        </template>
      </div>
      <p class="result" data-test="re-range">
        <span class="figures">{{ show(wanted.low) }}</span> at 4 mA,
        <span class="figures">{{ show(wanted.high) }}</span> at 20 mA
      </p>
      <p v-for="line in verdict" :key="line">{{ line }}</p>
      <v-table v-if="moved.length">
        <thead>
          <tr>
            <th class="num">{{ c.digital.name }}</th>
            <th class="num">Current now</th>
            <th class="num">Current then</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="m in moved" :key="m.value">
            <td class="num">{{ show(m.value) }}</td>
            <td class="num">{{ preferences.quantity(m.before, 'mA') }}</td>
            <td class="num">{{ clipped(m.after) }}</td>
          </tr>
        </tbody>
      </v-table>
      <div v-if="session.has('technician')" class="do">
        <v-btn
          v-if="plainRange"
          color="primary"
          variant="flat"
          :disabled="wanted.low === wanted.high"
          data-test="write-range"
          @click="write"
          >Put it on record</v-btn
        >
        <v-btn @click="lead('range-change')">Lead me through the device</v-btn>
        <v-btn @click="lead('receiver-scale')">Lead me through the receiver</v-btn>
      </div>
      <p v-if="trim.problem" class="bad" role="alert">{{ trim.problem }}</p>
      <p v-if="written" role="status" class="pass">
        On record. The device and the receiver still hold what they held: change both.
      </p>
    </template>
  </section>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
  gap: 0 24px;
  max-width: 760px;
}
.result {
  font-size: 22px;
}
.do {
  margin-top: 16px;
}
.look {
  color: var(--look);
}
.plain {
  max-width: 560px;
}
</style>
