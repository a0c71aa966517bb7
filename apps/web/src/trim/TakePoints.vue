<script setup lang="ts">
// One point of the chain: what is applied, and every witness read at the same moment, live from the bench or typed.
import { trimSet } from '@calm-loop/contract'
import { appliedEntry, foundPoint } from '@calm-loop/core/loop'
import { valueFor } from '@calm-loop/core/procedure'
import { parseQuantity, type Entry, type QuantityName } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { knotScales } from '@calm-loop/core/thread'
import { v7 as uuid } from 'uuid'
import { computed, reactive, ref, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useTrim } from '../stores/trim.ts'
import { useWork } from '../stores/work.ts'
import QuantityField from '../widgets/QuantityField.vue'
import WordsField from '../widgets/WordsField.vue'
import { inSentence } from '@calm-loop/core/words'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{ phase: 'as-found' | 'as-left' }>()
const folder = useFolder()
const live = useLive()
const trim = useTrim()
const work = useWork()
const preferences = usePreferences()
const chain = computed(() => trim.known)
const typed = reactive({ applied: '', digital: '', current: '', receiver: '' })
const says = ref('')
/** A set begun anew on purpose; otherwise the newest goes on, unless it was closed by what was left. */
const anew = ref<string>()
const standing = computed(() => trimSet(folder.view?.workLog ?? [], props.phase))
const set = computed(() => {
  if (anew.value) return anew.value
  const open = props.phase === 'as-found' ? trim.foundStands : !trim.foundStands
  return (open ? standing.value.at(-1)?.set : undefined) ?? uuid()
})
watch(
  () => props.phase,
  () => (anew.value = undefined),
)

interface Row {
  readonly key: 'applied' | 'digital' | 'current' | 'receiver'
  readonly label: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly live: string
  readonly help: string
}
const figure = (v: number | undefined, unit: string, decimals: number) =>
  v === undefined ? '' : preferences.quantity(v, unit, { decimals })
const rows = computed<Row[]>(() => {
  const c = chain.value
  if (!c) return []
  const reading = live.reading
  const bench = reading?.transmitter?.bench
  const appliedUnit = bench ? c.digital.unit : c.process.unit
  const applied = {
    key: 'applied',
    label: `Applied: ${inSentence(c.process.name)}`,
    quantity: bench ? c.digital.quantity : c.process.quantity,
    unit: appliedUnit,
    live: figure(reading?.reference, appliedUnit, c.process.decimals + 1),
    help: 'As the standard shows it.',
  } as const
  return [
    applied,
    {
      key: 'digital',
      label: c.digital.name,
      quantity: c.digital.quantity,
      unit: c.digital.unit,
      live: figure(reading?.knots['digital'], c.digital.unit, c.digital.decimals + 1),
      help: 'On the device’s display.',
    },
    ...(c.hasCurrent
      ? [
          {
            key: 'current' as const,
            label: 'Meter in the loop',
            quantity: 'current' as const,
            unit: 'mA',
            live: figure(reading?.knots['current'], 'mA', 3),
            help: 'mA, or volts at the shunt.',
          },
        ]
      : []),
    {
      key: 'receiver',
      label: 'Receiver shows',
      quantity: c.controller.quantity,
      unit: c.controller.unit,
      live: figure(reading?.knots['controller'], c.controller.unit, c.controller.decimals + 1),
      help: 'What the operator reads.',
    },
  ]
})
const plain = (text: string) => text.replace(/[\u00a0\u202f\u2009]/g, ' ').replace('−', '-')
function takeLive(): void {
  for (const row of rows.value) typed[row.key] = plain(row.live)
}
const scale = computed(() => (chain.value ? knotScales(chain.value.thread)[0] : undefined))
const targets = computed(() => {
  const { low, high } = scale.value ?? {}
  return low === undefined || high === undefined
    ? []
    : [0, 25, 50, 75, 100].map((p) => ({ percent: p, value: low + (p / 100) * (high - low) }))
})
const move = (value: number) => void live.move(sure(folder.view).loop.id, value)

const entryOf = (key: Row['key']): Entry => ({ typed: typed[key] })
const read = (row: Row) => {
  const text = typed[row.key].trim()
  if (!text) return null
  if (row.key === 'applied') return appliedEntry(sure(chain.value), text)
  // Judged as the record will judge it, so that nothing is refused after it has been sent.
  valueFor(
    text,
    row.quantity,
    row.unit,
    sure(chain.value).shunt_Ohm === undefined ? {} : { shunt_Ohm: sure(chain.value).shunt_Ohm },
  )
  const own = parseQuantity(text, { quantity: row.quantity, unit: row.unit })
  const volts = own.ok ? own : parseQuantity(text, { quantity: 'voltage', unit: 'V' })
  if (!volts.ok) throw new Refusal('not-a-figure', volts.says)
  return { typed: text, value: volts.value, unit: volts.unit }
}
async function take(): Promise<void> {
  says.value = ''
  if (!typed.applied.trim()) takeLive()
  const made = attempt(() => {
    const by = Object.fromEntries(rows.value.map((row) => [row.key, read(row)])) as Record<
      Row['key'],
      ReturnType<typeof read>
    >
    if (!by.applied) throw new Refusal('value-missing', 'What is applied is not entered.')
    const entry = {
      applied: by.applied,
      digital: by.digital ?? null,
      current: by.current ?? null,
      receiver: by.receiver ?? null,
    }
    if (!entry.digital && !entry.current && !entry.receiver)
      throw new Refusal('no-witness', 'Read at least one witness: digital value, meter or receiver.')
    foundPoint(sure(chain.value), entry)
    return entry
  })
  if (made instanceof Refusal) return void (says.value = made.message)
  const mine = set.value
  const fromBench = rows.value.every((row) => plain(row.live) === typed[row.key])
  const saved = await work.add({
    what: 'trim-point',
    set: mine,
    phase: props.phase,
    source: fromBench ? 'bench' : 'typed',
    ...made,
  })
  if (!saved) return
  for (const row of rows.value) typed[row.key] = ''
}
const fieldSays = (row: Row): string => {
  if (!typed[row.key].trim()) return ''
  const tried = attempt(() => read(row))
  if (tried instanceof Refusal) return tried.message
  const shunt_Ohm = chain.value?.shunt_Ohm
  if (row.key !== 'current' || !tried || tried.unit === 'mA' || !shunt_Ohm) return ''
  const current = preferences.quantity(valueFor(typed.current, 'current', 'mA', { shunt_Ohm }), 'mA')
  return `= ${current} through ${preferences.quantity(shunt_Ohm, 'Ohm', { trim: true })}`
}
</script>

<template>
  <form
    v-if="chain"
    class="take"
    :aria-label="`Take a point ${phase === 'as-found' ? 'as found' : 'as left'}`"
    @submit.prevent="take"
  >
    <div class="targets" role="group" aria-label="Move the bench">
      <span class="small quiet">Move the bench to</span>
      <v-btn
        v-for="t in targets"
        :key="t.percent"
        :data-target="t.percent"
        :disabled="!live.connected || !!live.reading?.transmitter?.bench"
        @click="move(t.value)"
        >{{ t.percent }} %</v-btn
      >
      <span v-if="live.reading" class="small quiet" data-test="bench-state">{{
        live.reading.moving ? 'moving' : live.steadiness.state === 'stable' ? 'steady' : 'settling'
      }}</span>
    </div>
    <div class="rows">
      <div v-for="row in rows" :key="row.key" class="row" :data-witness="row.key">
        <WordsField
          v-if="row.key === 'current'"
          :label="row.label"
          :value="typed.current"
          :help="fieldSays(row) || row.help"
          @typed="typed.current = $event"
        />
        <QuantityField
          v-else
          :label="row.label"
          :quantity="row.quantity"
          :unit="row.unit"
          :entry="entryOf(row.key)"
          :help="row.help"
          @entry="typed[row.key] = $event.typed"
          @enter="take"
        />
        <p class="live figures" :class="{ none: !row.live }">{{ row.live || 'no live value' }}</p>
      </div>
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <p v-if="work.problem" class="bad" role="alert">{{ work.problem }}</p>
    <div class="do">
      <v-btn color="primary" variant="flat" type="submit" :disabled="work.busy" data-test="take-point">{{
        rows.some((r) => typed[r.key].trim()) ? 'Put this point on record' : 'Take all from the bench'
      }}</v-btn>
      <v-btn :disabled="!live.connected" data-test="fill-live" @click="takeLive">Fill in the live values</v-btn>
      <v-btn v-if="standing.length" variant="text" data-test="new-set" @click="anew = uuid()"
        >Begin {{ phase === 'as-found' ? 'as found' : 'as left' }} anew</v-btn
      >
      <span v-if="anew" class="small quiet">The next point begins a new set; the old one stays on record.</span>
    </div>
  </form>
</template>

<style scoped>
.take {
  margin-bottom: 16px;
}
.targets {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin-bottom: 8px;
}
.rows {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 0 24px;
}
.live {
  color: var(--signal);
  font-size: 20px;
  margin: 0 0 8px;
}
.live.none {
  color: var(--second);
  font-size: 14px;
}
.do {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>
