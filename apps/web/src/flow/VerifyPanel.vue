<script setup lang="ts">
// In-place verification: what the nozzle passes at each pressure, what the meter must show for it, what it showed, and
// the verdict.
import { workOf } from '@calm-loop/contract'
import { verification, type VerificationStep } from '@calm-loop/core/kinds'
import { entryIn } from '@calm-loop/core/quantity'
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useWork } from '../stores/work.ts'
import OffBand from './OffBand.vue'
import { useGate } from './useGate.ts'
import { useMeter } from './useMeter.ts'
import { sure } from '@calm-loop/core/sure'

const ATMOSPHERE_kPa = 101.325
const folder = useFolder()
const work = useWork()
const session = useSession()
const preferences = usePreferences()
const { meter, command } = useMeter()
const gate = useGate('gas')
const r = computed(() => sure(folder.reader))
const done = computed(() => {
  const log = workOf(work.log, 'step').filter((e) => e.sheet === 'verify')
  const run = log.at(-1)?.run
  return new Map(log.filter((e) => e.run === run).map((e) => [e.step, e.value]))
})
const temp = computed(() => {
  const v = done.value.get('temp')
  return v ? entryIn(v, 'degC') : undefined
})
const readings = computed(() => {
  const found: Record<number, number> = {}
  for (const [step, value] of done.value) {
    const n = Number(step.replace('point-', ''))
    const kgph = value ? entryIn(value, 'kg/h') : undefined
    if (n && kgph !== undefined) found[n] = kgph
  }
  return found
})
const steps = computed(() => verification(r.value, temp.value, readings.value))
const limit = computed(() => r.value.in('repeat', '%') ?? 2)
const read = computed(() => steps.value.filter((s) => s.reading_kgph !== undefined))
const good = computed(() => read.value.every((s) => s.inside))
const kg = (v: number) => preferences.quantity(v, 'kg/h', { decimals: 1 })
const set = (s: VerificationStep) =>
  command({
    do: 'gas',
    pressure_kPa: s.pressure_bar * 100 + ATMOSPHERE_kPa,
    temp_C: temp.value ?? r.value.in('baseTemp', 'degC') ?? 20,
  })
const most = computed(() => Math.max(limit.value * 2, ...read.value.map((s) => Math.abs(s.offPct ?? 0))))
</script>

<template>
  <section class="verify" aria-label="Verification against the baseline">
    <p v-if="!steps.length" class="look">
      The baseline certificate and the nozzle are still to be entered (Certificate and baseline).
    </p>
    <template v-else>
      <p>
        Corrected to a gas temperature of
        {{ preferences.quantity(temp ?? r.in('baseTemp', 'degC')!, 'degC', { decimals: 1 })
        }}{{ temp === undefined ? ', that of the baseline day, until the sheet has today’s' : '' }}. Must repeat within
        ± {{ preferences.quantity(limit, '%', { decimals: 1, trim: true }) }}.
      </p>
      <p v-if="gate && meter" class="look small" data-test="gate-before">{{ gate }}</p>
      <div class="wide">
        <v-table>
          <thead>
            <tr>
              <th scope="col">Step</th>
              <th scope="col" class="end">Pressure, gauge</th>
              <th scope="col" class="end">Nozzle passes</th>
              <th scope="col" class="end">Meter must show</th>
              <th scope="col" class="end">It showed</th>
              <th scope="col" class="end">Off by</th>
              <th scope="col"><span class="visually-hidden">Drawn</span></th>
              <th scope="col"><span class="visually-hidden">Bench</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in steps" :key="s.n" :data-verify="s.n">
              <td>{{ s.n }}</td>
              <td class="figures end">
                {{ preferences.quantity(s.pressure_bar, 'bar', { decimals: 2, trim: true }) }}
              </td>
              <td class="figures end">{{ preferences.quantity(s.nozzle_kgph, 'kg/h', { decimals: 2 }) }}</td>
              <td class="figures end">{{ kg(s.expected_kgph) }}</td>
              <td class="figures end">
                {{ s.reading_kgph === undefined ? '' : kg(s.reading_kgph)
                }}<span v-if="s.reading_kgph === undefined" class="lacking small">not read</span>
              </td>
              <td class="figures end" :class="s.inside === false ? 'bad' : ''">
                {{ s.offPct === undefined ? '' : preferences.quantity(s.offPct, '%', { decimals: 2, sign: true }) }}
              </td>
              <td class="plot">
                <OffBand :off="s.offPct" :limit="limit" :most="most" />
              </td>
              <td>
                <v-btn
                  v-if="session.has('technician') && meter"
                  variant="text"
                  :disabled="!!gate"
                  :data-test="`gas-${s.n}`"
                  @click="set(s)"
                  >Set on the bench</v-btn
                >
              </td>
            </tr>
          </tbody>
        </v-table>
      </div>
      <v-btn v-if="meter?.gas && session.has('technician')" @click="command({ do: 'process' })"
        >Bench back to the process</v-btn
      >
      <p v-if="read.length" :class="good ? 'ok' : 'bad'" role="status" data-test="verify-verdict">
        {{ read.length < steps.length ? `So far, ${read.length} of ${steps.length} steps: ` : ''
        }}{{
          good
            ? 'the meter repeats its baseline.'
            : 'the meter does not repeat its baseline: look for deposits on the wells, then have it recalibrated.'
        }}
      </p>
    </template>
  </section>
</template>

<style scoped>
.wide {
  overflow-x: auto;
}
th,
td {
  text-align: left;
  font-weight: 400;
  padding: 4px 12px 4px 0;
  border-bottom: 1px solid var(--hairline);
  height: 48px;
}
thead th {
  color: var(--second);
  font-size: 14px;
}
.end {
  text-align: right;
  white-space: nowrap;
}
.ok {
  color: var(--action);
}
.lacking {
  color: var(--look);
}
</style>
