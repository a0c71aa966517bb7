<script setup lang="ts">
// Before power: what is wrong with the wiring, and the two gates: power off and proved dead; safe to energise.
import type { Finding } from '@calm-loop/core/findings'
import { GATE_WORDS, refuseGate, type WireGate } from '@calm-loop/core/wiring'
import { v7 as uuid } from 'uuid'
import { ref } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import { useDesk } from '../stores/desk.ts'
import { useFolder } from '../stores/folder.ts'
import { moment } from '../widgets/dates.ts'
import FindingList from '../widgets/FindingList.vue'
import WordsField from '../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'

defineProps<{ findings: readonly Finding[] }>()
const desk = useDesk()
const folder = useFolder()
const told = ref('')
const says = ref('')
const busy = ref<WireGate>()
const GATES: readonly { gate: WireGate; title: string; action: string }[] = [
  { gate: 'power-off', title: 'Gate: power off', action: 'Confirm power off and proved dead' },
  { gate: 'safe-to-energise', title: 'Gate: safe to energise', action: 'Confirm safe to energise' },
]
const refused = (gate: WireGate) =>
  refuseGate({
    gate,
    log: desk.gates,
    wiring: desk.text,
    findings: desk.study?.findings ?? [],
    needs: desk.study?.needs ?? [],
  })?.message
const last = (gate: WireGate) => [...desk.gates].reverse().find((g) => g.gate === gate)
const ids = new Map<string, string>()

async function confirm(gate: WireGate): Promise<void> {
  busy.value = gate
  says.value = ''
  try {
    if (!(await folder.save())) {
      says.value = folder.refusal || 'What was drawn is not saved yet. Try again when the line above says saved.'
      return
    }
    // The same try again is the same entry: a lost answer does not confirm twice.
    const key = `${gate} ${desk.gates.length}`
    if (!ids.has(key)) ids.set(key, uuid())
    await call('addWireEntry', {
      params: { loopId: sure(folder.view).loop.id, entryId: sure(ids.get(key)) },
      body: { what: 'gate', gate, words: GATE_WORDS[gate], told: told.value.trim(), wiring: desk.text },
    })
    await folder.refresh()
  } catch (error) {
    says.value = (error as ApiProblem).message
  } finally {
    busy.value = undefined
  }
}
</script>

<template>
  <section aria-label="Before power">
    <p v-if="desk.study?.needs.length" class="need">
      Volts and milliamps still need: {{ desk.study.needs.join(', ') }}.
    </p>
    <FindingList :findings="findings" />
    <p v-if="!findings.length" class="clear">Nothing found against this wiring.</p>
    <p class="quiet">
      <template v-if="desk.power.power === 'off'">Power is confirmed off.</template>
      <template v-else-if="desk.power.power === 'on'"
        >Confirmed safe to energise, for the wiring as it stands.</template
      >
      <template v-else-if="desk.power.lapsed"
        >The wiring was changed after it was confirmed safe: that confirmation no longer holds.</template
      >
      <template v-else>Nobody has confirmed anything about the power yet. Treat every conductor as live.</template>
    </p>
    <template v-if="desk.mayChange">
      <WordsField
        label="Who in operations was told, and by which lock or permit"
        :value="told"
        help="Stands on the record with the gate."
        @typed="told = $event"
      />
      <div class="gates">
        <div v-for="g in GATES" :key="g.gate" class="gate" :data-gate="g.gate">
          <svg width="40" height="56" viewBox="0 0 40 56" aria-hidden="true"><path d="M9 6V50M31 6V50M2 24H38" /></svg>
          <div>
            <h3>{{ g.title }}</h3>
            <p>{{ GATE_WORDS[g.gate] }}</p>
            <p v-if="refused(g.gate)" class="small look">Not yet. {{ refused(g.gate) }}</p>
            <v-btn
              variant="outlined"
              :disabled="!!refused(g.gate) || !told.trim()"
              :loading="busy === g.gate"
              @click="confirm(g.gate)"
              >{{ g.action }}</v-btn
            >
            <p v-if="last(g.gate)" class="small quiet done">
              Last confirmed {{ moment(last(g.gate)!.at) }} by {{ last(g.gate)!.by.name }}. Told:
              {{ last(g.gate)!.told }}.
            </p>
          </div>
        </div>
      </div>
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
    </template>
    <p v-else class="quiet small">Only a technician may confirm these.</p>
  </section>
</template>

<style scoped>
.clear,
.need {
  border-top: 1px solid var(--hairline);
  padding-top: 12px;
}
.need,
.look {
  color: var(--look);
}
.gates {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 24px;
  margin: 12px 0;
}
.gate {
  display: grid;
  grid-template-columns: 52px minmax(0, 1fr);
}
.gate path {
  fill: none;
  stroke: var(--action);
  stroke-width: 5;
}
.done {
  margin-top: 6px;
}
@media (max-width: 740px) {
  .gates {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
