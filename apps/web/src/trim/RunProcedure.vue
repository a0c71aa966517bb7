<script setup lang="ts">
// A guided run: its gates in order, the open one drawn large, what is passed above it with who and when; the same on
// every tablet.
import { isByEye, PROCEDURE_NAMES } from '@calm-loop/core/procedure'
import type { WorkOf } from '@calm-loop/contract'
import { computed, ref, useTemplateRef } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useOutbox } from '../stores/outbox.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useSession } from '../stores/session.ts'
import type { ShownRun } from '../stores/trim.ts'
import { waitsHere } from '../stores/with-waiting.ts'
import { whenDone } from '../widgets/dates.ts'
import { useInSight } from '../widgets/useInSight.ts'
import CancelPanel from './CancelPanel.vue'
import GateNow from './GateNow.vue'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ run: ShownRun }>()
const session = useSession()
const folder = useFolder()
const preferences = usePreferences()
const outbox = useOutbox()
const when = (e: WorkOf<'procedure'>) => whenDone(e, waitsHere(outbox.waiting, e.id))
const state = computed(() => props.run.state)
/** The entry that passed each step last. */
const passed = computed(() => {
  const by = new Map<string, WorkOf<'procedure'>>()
  for (const e of props.run.entries)
    if ('step' in e.event && e.event.do !== 'sent' && e.event.do !== 'again') by.set(e.event.step, e)
  return by
})
const receiverShows = (v: number) => {
  const { receiverUnit, receiverDecimals, unit } = state.value.terms
  return preferences.quantity(v, receiverUnit ?? unit, { decimals: (receiverDecimals ?? 1) + 1 })
}
const words = (e: WorkOf<'procedure'>): string => {
  const event = e.event
  if (
    event.do === 'pass' &&
    event.typed &&
    event.also?.['controller'] !== undefined &&
    e.event.do === 'pass' &&
    state.value.steps.find((x) => 'step' in event && x.id === event.step)?.of === 'current'
  )
    return `${event.typed}; receiver ${receiverShows(event.also['controller'])}`
  if (event.do === 'pass')
    return [
      event.typed,
      event.words,
      event.steady && isByEye(event.steady)
        ? 'seen by eye'
        : event.steady
          ? `slope ${Math.abs(event.steady.driftPct).toFixed(3)} %, noise ${event.steady.noisePct.toFixed(3)} % ` +
            `over ${event.steady.window_s} s`
          : '',
    ]
      .filter(Boolean)
      .join('; ')
  if (event.do === 'read') return event.seen ? `seen: ${event.seen}` : event.held.stored ? 'read, stored' : 'read'
  return ''
}
const whole = ref(false)
/** Long lists are for reading afterwards; at work the last steps and the next ones are enough. */
const shown = computed(() =>
  state.value.steps
    .map((step, i) => ({ step, i }))
    .filter(
      ({ i }) => whole.value || state.value.status === 'done' || (i >= state.value.at - 2 && i <= state.value.at + 2),
    ),
)
// What is done has nothing more to be seen at work.
const work = useTemplateRef('work')
useInSight(computed(() => (state.value.status === 'done' ? null : work.value)))
const began = computed(() => sure(props.run.entries[0]))
</script>

<template>
  <section
    ref="work"
    class="run"
    :aria-label="PROCEDURE_NAMES[state.procedure]"
    :data-run="state.procedure"
    :data-status="state.status"
  >
    <div class="head">
      <h3>{{ PROCEDURE_NAMES[state.procedure] }}</h3>
      <p class="quiet small">
        Begun by {{ began.by.name }}, {{ when(began) }} ·
        {{
          state.status === 'done'
            ? 'all gates passed'
            : state.status === 'ended'
              ? 'cancelled, everything put back'
              : state.status === 'cancelled'
                ? 'cancelled, still to be put back'
                : `gate ${state.at + 1} of ${state.steps.length}`
        }}
      </p>
    </div>
    <v-progress-linear
      :model-value="(100 * state.at) / state.steps.length"
      :aria-label="`${state.at} of ${state.steps.length} gates passed`"
    />
    <CancelPanel v-if="state.status === 'cancelled'" :run="run.id" :state="state" />
    <template v-else>
      <p v-if="state.at > 2 && state.status === 'running'">
        <button type="button" class="link" :aria-expanded="whole" @click="whole = !whole">
          {{ whole ? 'Show only the gates at hand' : `Show all ${state.steps.length} gates` }}
        </button>
      </p>
      <ol class="steps">
        <li
          v-for="{ step, i } in shown"
          :key="step.id"
          :class="{ done: i < state.at, now: i === state.at && state.status === 'running' }"
          :data-step="step.id"
        >
          <span class="mark figures" aria-hidden="true">{{ i < state.at ? '✓' : i + 1 }}</span>
          <div class="body">
            <p class="title">
              {{ step.title }}<span v-if="i < state.at" class="visually-hidden">, passed</span>
              <span v-if="i < state.at && passed.get(step.id)" class="quiet small">
                <b v-if="words(passed.get(step.id)!)" class="figures">{{ words(passed.get(step.id)!) }}</b>
                {{ passed.get(step.id)!.by.name }}, {{ when(passed.get(step.id)!) }}
              </span>
            </p>
            <template v-if="i === state.at && state.status === 'running'">
              <GateNow v-if="session.has('technician')" :run="run.id" :state="state" :step="step" />
              <p v-else class="quiet small">{{ step.says }} Only a technician may pass gates.</p>
            </template>
          </div>
        </li>
      </ol>
      <CancelPanel v-if="state.status === 'running' && session.has('technician')" :run="run.id" :state="state" />
      <p v-if="state.status === 'done'" role="status" class="pass">
        All gates passed.
        <template v-if="state.values['zero-found'] !== undefined && state.values['zero-left'] !== undefined">
          Zero as found
          {{
            preferences.quantity(state.values['zero-found'], state.terms.unit, { decimals: state.terms.decimals + 1 })
          }}, as left
          {{
            preferences.quantity(state.values['zero-left'], state.terms.unit, { decimals: state.terms.decimals + 1 })
          }}.
        </template>
        <template v-if="state.procedure === 'range-change' || state.procedure === 'receiver-scale'">
          Put the same on record under <router-link :to="`/loops/${folder.view!.loop.id}/range`">Range</router-link>, if
          it is not there yet.
        </template>
        Take as left next.
      </p>
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.head {
  margin-bottom: 8px;
}
.head p {
  margin: 0;
}
h3 {
  font-size: 20px;
}
.now .title {
  font-size: 20px;
}
li:not(.now):not(.done) .title {
  color: var(--second);
  font-weight: 400;
}
</style>
