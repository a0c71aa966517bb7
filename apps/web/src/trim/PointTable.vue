<script setup lang="ts">
// The points on record: each can be held on the thread, and withdrawn with a reason.
import { departures } from '@calm-loop/core/thread'
import { convertUnit, unitOf } from '@calm-loop/core/quantity'
import { appliedKnots, currentOf, type Chain } from '@calm-loop/core/loop'
import { Refusal } from '@calm-loop/core/refusal'
import { computed, ref, watch } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import { useThread } from '../stores/thread.ts'
import { useTrim, type ShownPoint } from '../stores/trim.ts'
import { useWork } from '../stores/work.ts'
import { moment } from '../widgets/dates.ts'
import WordsField from '../widgets/WordsField.vue'
import { inSentence } from '@calm-loop/core/words'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ points: readonly ShownPoint[]; phase: 'as-found' | 'as-left'; pinnable?: boolean }>()
const trim = useTrim()
const thread = useThread()
const session = useSession()
const work = useWork()
const preferences = usePreferences()
const show = (e: { value: number; unit: string } | null) =>
  e ? preferences.quantity(e.value, e.unit, { trim: true }) : 'not read'
const pinned = ref<string>()
/** What was applied, at the knot that it was stated for. */
function givenIn(c: Chain, { value, unit }: { value: number; unit: string }, anyhow: boolean): Record<string, number> {
  const knot = appliedKnots(c).find((k) => k.quantity === unitOf(unit).quantity)
  if (!knot || knot === c.digital) return anyhow ? { [c.process.id]: value } : {}
  return { [knot.id]: convertUnit(value, unit, knot.unit) }
}
const reads = (p: ShownPoint): Record<string, number> => {
  const c = sure(trim.known)
  const { applied, digital, current, receiver } = p.entry
  const own = p.point instanceof Refusal ? undefined : p.point
  return {
    ...givenIn(c, applied, own === undefined),
    ...(digital ? { digital: convertUnit(digital.value, digital.unit, c.digital.unit) } : {}),
    ...(current ? { current: currentOf(current, c.shunt_Ohm) } : {}),
    ...(receiver ? { controller: convertUnit(receiver.value, receiver.unit, c.controller.unit) } : {}),
  }
}
function pin(p: ShownPoint): void {
  if (pinned.value === p.entry.id) {
    pinned.value = undefined
    thread.pinned = undefined
    return
  }
  pinned.value = p.entry.id
  thread.release()
  thread.pinned = {
    reads: reads(p),
    caption:
      `As ${props.phase === 'as-found' ? 'found' : 'left'}, ${moment(p.entry.at)}: ${show(p.entry.applied)} ` +
      'applied.',
  }
}
watch(
  () => thread.pinned,
  (now) => !now && (pinned.value = undefined),
)
/** The first stage at which this point parts from what is expected. */
const parts = (p: ShownPoint): string => {
  if (p.point instanceof Refusal) return p.point.message
  const limit = trim.diagnosis && !(trim.diagnosis instanceof Refusal) ? trim.diagnosis.limitPct : trim.tolerancePct
  const found = departures(sure(trim.known).thread, reads(p)).find((d) => Math.abs(d.errorPct) > limit)
  const name = (id: string) => inSentence(sure(trim.known).thread.knots.find((k) => k.id === id)?.name ?? id)
  return found
    ? `parts at the ${name(found.to)}, ${found.errorPct > 0 ? '+' : '−'}${Math.abs(found.errorPct).toFixed(2)} %`
    : 'follows'
}
const leaving = ref<string>()
const reason = ref('')
async function withdraw(): Promise<void> {
  if (!leaving.value || !reason.value.trim()) return
  const done = await work.add({ what: 'trim-point-withdrawn', point: leaving.value, reason: reason.value.trim() })
  if (done) leaving.value = undefined
  reason.value = ''
}
const rows = computed(() => props.points)
</script>

<template>
  <v-table v-if="rows.length" :data-points="phase">
    <thead>
      <tr>
        <th>Applied</th>
        <th>Digital value</th>
        <th v-if="trim.known?.hasCurrent">Meter</th>
        <th>Receiver</th>
        <th>Thread</th>
        <th>By</th>
        <th v-if="session.has('technician')"><span class="visually-hidden">Work</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in rows" :key="p.entry.id" :class="{ pinned: pinned === p.entry.id }">
        <td class="figures">{{ show(p.entry.applied) }}</td>
        <td class="figures">{{ show(p.entry.digital) }}</td>
        <td v-if="trim.known?.hasCurrent" class="figures">{{ show(p.entry.current) }}</td>
        <td class="figures">{{ show(p.entry.receiver) }}</td>
        <td>
          <button v-if="pinnable" type="button" class="link" :aria-pressed="pinned === p.entry.id" @click="pin(p)">
            {{ parts(p) }}
          </button>
          <template v-else>{{ parts(p) }}</template>
        </td>
        <td class="small quiet">
          {{ p.entry.by.name }}, {{ moment(p.entry.at) }}, {{ p.entry.source === 'bench' ? 'bench' : 'typed' }}
        </td>
        <td v-if="session.has('technician')">
          <button type="button" class="link" @click="leaving = p.entry.id">Withdraw</button>
        </td>
      </tr>
    </tbody>
  </v-table>
  <form v-if="leaving" class="withdraw" @submit.prevent="withdraw">
    <WordsField label="Why this point does not count" :value="reason" needed @typed="reason = $event" />
    <v-btn type="submit" :disabled="!reason.trim()">Withdraw this point</v-btn>
    <v-btn variant="text" @click="leaving = undefined">Keep it</v-btn>
  </form>
</template>

<style scoped>
.pinned td {
  border-bottom: 2px solid var(--signal);
}
.withdraw {
  display: flex;
  gap: 8px 16px;
  align-items: center;
  flex-wrap: wrap;
}
.withdraw > :deep(.entry) {
  width: min(360px, 100%);
}
.link {
  text-align: left;
}
</style>
