<script setup lang="ts">
// An electrode: its line, the last calibration in this world, and whether the entries follow it.
import { electrodeLine, entriesOfCalibration, holdsCalibration } from '@calm-loop/core/kinds'
import { phFit, phPoints } from '@calm-loop/core/procedure'
import { entryFrom } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { computed } from 'vue'
import { useElectrodes } from '../../stores/electrodes.ts'
import { useFolder } from '../../stores/folder.ts'
import { useThread } from '../../stores/thread.ts'
import { useSession } from '../../stores/session.ts'
import { useTrim } from '../../stores/trim.ts'
import { moment } from '../../widgets/dates.ts'
import ElectrodeHere from './ElectrodeHere.vue'
import ElectrodeLine from './ElectrodeLine.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const electrodes = useElectrodes()
const session = useSession()
const trim = useTrim()
const thread = useThread()
/** The newest calibration that was written and read back. */
const last = computed(() => {
  for (const run of [...trim.runs].reverse()) {
    if (run.state.procedure !== 'ph-calibration' || run.state.status !== 'done') continue
    const fit = attempt(() => phFit(run.state))
    if (!(fit instanceof Refusal))
      return { run, fit, at: sure(run.entries.at(-1)).at, by: sure(run.entries[0]).by.name }
  }
  return undefined
})
const line = computed(() => electrodeLine(sure(folder.reader)))
/** Where the thread stands: its pH, and the voltage that it reckons for it. */
const at = computed(() => {
  const [process, electrode] = thread.expected
  return process?.known && electrode?.known ? { ph: process.value, mV: electrode.value } : undefined
})
/** What the electrode that is plugged in brought with it, where nothing was calibrated here. */
const brought = computed(() => electrodes.at(folder.view?.loop.id)?.now.last)
const points = computed(() =>
  last.value
    ? phPoints(last.value.run.state)
    : (brought.value?.points ?? []).map(({ buffer, is, mV }) => ({ buffer, ph: is, mV })),
)
const stale = computed(() => last.value !== undefined && !holdsCalibration(line.value, last.value.fit))
function takeOver(): void {
  for (const [key, typed] of Object.entries(entriesOfCalibration(sure(last.value).fit))) {
    const field = folder.kind?.fields.find((f) => f.key === key)
    if (field?.type === 'quantity') folder.set(key, entryFrom(typed, field))
  }
}
</script>

<template>
  <div class="electrode">
    <ElectrodeLine :line="line" :points="points" :at="at" />
    <p v-if="last" class="small" data-test="last-calibration">
      Calibrated {{ moment(last.at) }} by {{ last.by }}:
      <b class="figures">{{ last.fit.slopePercent.toFixed(1) }} %</b> of the ideal slope,
      <b class="figures">{{ last.fit.offset_mV.toFixed(1) }} mV</b> at pH 7, {{ last.fit.verdict }}.
      <template v-if="stale && !folder.practising">
        <span class="look">The entries hold another slope or offset.</span>
        <v-btn v-if="session.has('technician')" variant="text" data-test="take-calibration" @click="takeOver"
          >Take it over</v-btn
        >
      </template>
    </p>
    <p v-else-if="brought" class="small" data-test="last-calibration">
      Calibrated {{ moment(brought.at) }}, {{ brought.tag ? `at ${brought.tag}` : 'at the bench' }}; the points are
      those of then.
    </p>
    <p v-else class="small quiet">No calibration is on record: the line is that of the entries.</p>
    <ElectrodeHere sort="ph" />
  </div>
</template>
