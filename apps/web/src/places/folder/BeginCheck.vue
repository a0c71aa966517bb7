<script setup lang="ts">
// Before a check: what it will be, with which gear, and the gate: operations told, loop in manual.
import { stopBefore } from '@calm-loop/core/findings'
import type { Gear } from '@calm-loop/contract'
import { planOfCheck } from '@calm-loop/contract/judging'
import { gateWording } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { computed, onMounted, ref, watch } from 'vue'
import { call } from '../../api/client.ts'
import { useFolder } from '../../stores/folder.ts'
import { useLater } from '../../stores/later.ts'
import { savedNow } from '../../stores/saved-now.ts'
import { useSession } from '../../stores/session.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useSite } from '../../stores/site.ts'
import { today } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import GradeMark from '../../widgets/GradeMark.vue'
import QuantityField from '../../widgets/QuantityField.vue'
import WordsField from '../../widgets/WordsField.vue'
import { entryIn, type Entry } from '@calm-loop/core/quantity'
import { checkBegun } from './check-begun.ts'
import AtHand from './AtHand.vue'
import EquipmentTicks from './EquipmentTicks.vue'
import ExpiredReason from './ExpiredReason.vue'
import { gearOf, readsOf, usualChoice, type Chosen } from './atHand.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const celsius = (v: number) => preferences.quantity(v, 'degC', { trim: true })
const ambientHelp = computed(() => `The kit’s figures hold from ${celsius(18)} to ${celsius(28)}.`)
const checkId = uuid()
const gateId = uuid()
const phase = ref<'as-found' | 'as-left'>('as-found')
const points = ref('0, 25, 50, 75, 100')
const ambient = ref('')
const told = ref('')
const kit = ref<Gear[]>([])
const chosen = ref<string[]>([])
const { busy, says, run } = useDoing()
const site = useSite()
const hand = ref<Chosen>()
onMounted(async () => {
  const [pieces] = await Promise.all([call('gear').catch(() => []), site.loadJudging()])
  kit.value = pieces
})
/** Offered anew when the kit has come, until something was chosen; and when the thread's places are others. */
const touched = ref(false)
const offer = () => (hand.value = folder.current && usualChoice(folder.current, kit.value, today()))
watch(kit, () => touched.value || offer())
watch(
  () => folder.current?.thread.knots.map((k) => k.id).join(),
  () => {
    touched.value = false
    offer()
  },
  { immediate: true },
)
function choose(chosenNow: Chosen): void {
  touched.value = true
  hand.value = chosenNow
}
const reads = computed(() => {
  const made =
    folder.current && hand.value ? readsOf(folder.current, { ...hand.value, ambient_C: ambient_C.value }) : undefined
  return typeof made === 'string' ? undefined : made
})
const temperature = ref<Entry>({ typed: '' })
const ambient_C = computed(() => entryIn(temperature.value, 'degC'))

const discrete = computed(() => folder.kind?.family === 'switch')
const times = ref('3')
const percents = computed(() => {
  if (discrete.value) return Array.from({ length: 2 * Number(times.value) }, (_, i) => (i % 2 ? 0 : 100))
  const list = points.value
    .split(/[\s;]+|,\s*/)
    .filter(Boolean)
    .map(Number)
  return list.length && list.length <= 30 && list.every((p) => p >= 0 && p <= 100) && new Set(list).size === list.length
    ? list
    : undefined
})
const blocked = computed(() => {
  const stop = stopBefore(phase.value, folder.study?.findings ?? [])
  if (stop) return `${stop.what} ${stop.action}`
  const missing = Object.entries(folder.study?.missing ?? {}).flatMap(([id, labels]) => (id === 'count' ? [] : labels))
  return missing.length ? `Still to be entered: ${missing.join(', ')}.` : ''
})
const expiredReason = ref('')
const words = computed(() => gateWording('loop-in-manual', discrete.value ? 'switch' : 'current'))
/** Pieces that are used: those of the places read, or those ticked. */
const used = computed(() => (discrete.value ? chosen.value : reads.value ? gearOf(reads.value) : []))
const expired = computed(() => kit.value.filter((g) => used.value.includes(g.id) && g.due < today()))
const later = useLater()
const session = useSession()
const begin = () =>
  run(async () => {
    const on = await savedNow(
      'What was typed here is not saved yet: a check is judged by what is. It begins once that is saved.',
    )
    const { view, kind, study } = folder
    const loopId = sure(view).loop.id
    const start = {
      phase: phase.value,
      percents: sure(percents.value),
      gearIds: used.value,
      ...(reads.value ? { reads: reads.value } : {}),
      ambient: ambient.value.trim(),
      told: told.value.trim(),
      gateId,
      words: words.value,
      expiredReason: expired.value.length ? expiredReason.value.trim() : '',
      on,
    }
    const at = { site: site.judging, kit: kit.value, today: today() }
    const plan = planOfCheck({ kind: sure(kind), study: sure(study) }, start, at)
    const by = { id: session.person?.id ?? '', name: session.person?.name ?? '' }
    const shown = checkBegun({ id: checkId, versionId: on.version, by, at: new Date().toISOString() }, start, plan)
    try {
      await later.write({ endpoint: 'startCheck', id: checkId, params: { loopId, checkId }, body: start, shown })
    } finally {
      // Refused because somebody saved meanwhile: what they saved is shown before it is begun anew.
      await folder.refresh().catch(() => undefined)
    }
  })
</script>

<template>
  <section aria-label="Begin a check">
    <h2>Begin a check</h2>
    <p v-if="blocked" class="blocked">
      <GradeMark grade="stop" /> <span>Not yet. {{ blocked }}</span>
    </p>
    <form class="form" @submit.prevent="begin">
      <div class="two">
        <ChoiceField
          label="Readings are taken"
          :options="[
            { value: 'as-found', label: 'as found' },
            { value: 'as-left', label: 'as left' },
          ]"
          :value="phase"
          help="As found: before anything is adjusted. As left: after."
          @choose="phase = $event as typeof phase"
        />
        <ChoiceField
          v-if="discrete"
          label="The target is brought up and taken away"
          :options="['1', '2', '3', '5'].map((n) => ({ value: n, label: n === '1' ? 'once' : `${n} times` }))"
          :value="times"
          help="Repeats show how exactly it switches."
          @choose="times = $event"
        />
        <WordsField
          v-else
          label="Points, % of range, up and then down"
          :value="points"
          :says="percents ? '' : 'Numbers from 0 to 100, each once, with commas between.'"
          @typed="points = $event"
        />
        <WordsField label="Surroundings" :value="ambient" help="Such as outdoors, dry." @typed="ambient = $event" />
        <QuantityField
          v-if="!discrete"
          label="Temperature there"
          quantity="temperature"
          unit="degC"
          :entry="temperature"
          :help="ambientHelp"
          @entry="temperature = $event"
        />
      </div>
      <AtHand
        v-if="folder.current && hand"
        :model-value="hand"
        :known="folder.current"
        :kit="kit"
        :judging="site.judging"
        :percents="percents ?? []"
        @update:model-value="choose"
      />
      <EquipmentTicks v-if="discrete" v-model="chosen" :kit="kit" />
      <ExpiredReason v-model="expiredReason" :expired="expired" />
      <div class="gate">
        <svg width="40" height="56" viewBox="0 0 40 56" aria-hidden="true"><path d="M9 6V50M31 6V50M2 24H38" /></svg>
        <div>
          <h3>{{ discrete ? 'Gate: machine safe to move' : 'Gate: loop in manual' }}</h3>
          <p>{{ folder.kind?.check.cautions.join(' ') }}</p>
          <p>
            By beginning you confirm: <b>{{ words }}</b>
          </p>
          <p v-if="folder.entries['tell']?.typed" class="quiet">
            To be told: {{ folder.entries['tell']?.typed }}. It controls:
            {{ folder.entries['controls']?.typed || 'not entered' }}.
          </p>
          <WordsField label="Who in operations was told" :value="told" needed @typed="told = $event" />
        </div>
      </div>
      <p v-if="says" class="bad" role="alert">{{ says }}</p>
      <v-btn
        type="submit"
        color="primary"
        variant="flat"
        size="large"
        :disabled="
          !!blocked ||
          !percents ||
          !told.trim() ||
          (!discrete && !reads) ||
          (expired.length > 0 && !expiredReason.trim())
        "
        :loading="busy"
      >
        {{ discrete ? 'Confirm machine safe and begin' : 'Confirm loop in manual and begin' }}</v-btn
      >
    </form>
  </section>
</template>

<style scoped>
.blocked {
  display: flex;
  gap: 12px;
  align-items: baseline;
  padding: 8px 0;
}
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 240px), 1fr));
  gap: 4px 24px;
  margin-top: 12px;
}
.gate {
  display: grid;
  grid-template-columns: 56px minmax(0, 1fr);
  margin: 20px 0;
}
.gate svg path {
  fill: none;
  stroke: var(--action);
  stroke-width: 5;
}
@media (max-width: 740px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
