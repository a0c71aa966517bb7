<script setup lang="ts">
// One knot of the thread: its expected value, which can be typed over in any unit, and under it the value read.
import { parseQuantity, unitOf, convertUnit } from '@calm-loop/core/quantity'
import type { Knot, KnotValue } from '@calm-loop/core/thread'
import { computed, ref, watch } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import { useThread } from '../stores/thread.ts'
import { useWorking } from '../stores/working.ts'

const props = defineProps<{
  knot: Knot
  expected: KnotValue
  read: number | undefined
  low: number | undefined
  high: number | undefined
}>()
const store = useThread()
const working = useWorking()
const preferences = usePreferences()

const show = (value: number) => preferences.number(value, { decimals: props.knot.decimals })
const typing = ref(false)
const text = ref('')
const says = ref('')
const unit = computed(() => unitOf(props.knot.unit).label)
/** The conditions that a unit names stand under it: beside it they would take the figure’s room. */
const parts = computed(() => /^(.*?) (\(.*\))$/.exec(unit.value) ?? [unit.value, unit.value, ''])
const shown = computed(() => (typing.value ? text.value : props.expected.known ? show(props.expected.value) : ''))
watch(
  () => props.knot.unit,
  () => ((typing.value = false), (says.value = '')),
)
watch(
  () => store.held,
  (held) => {
    if (!held) {
      typing.value = false
      says.value = ''
    }
  },
)

function typed(value: string): void {
  typing.value = true
  text.value = value
  const parsed = parseQuantity(value, { quantity: props.knot.quantity, unit: props.knot.unit })
  says.value = parsed.ok || parsed.code === 'empty' ? '' : parsed.says
  if (parsed.ok) store.hold(props.knot.id, convertUnit(parsed.value, parsed.unit, props.knot.unit), value)
}
function nudge(by: number): void {
  if (props.low === undefined || props.high === undefined || !props.expected.known) return
  typing.value = false
  store.hold(
    props.knot.id,
    Number((props.expected.value + (by * (props.high - props.low)) / 100).toFixed(props.knot.decimals)),
  )
}
function left(): void {
  if (!says.value) typing.value = false
}
</script>

<template>
  <div class="knot" :data-knot="knot.id">
    <div class="line">
      <input
        class="figures"
        :class="{ refused: says, held: store.source?.knotId === knot.id }"
        :value="shown"
        :aria-label="`${knot.name}, expected, ${unit || 'counts'}`"
        :aria-invalid="!!says"
        :placeholder="expected.known ? '' : '?'"
        inputmode="decimal"
        autocomplete="off"
        spellcheck="false"
        @input="typed(($event.target as HTMLInputElement).value)"
        @focus="($event.target as HTMLInputElement).select()"
        @blur="left"
        @keydown.up.prevent="nudge(1)"
        @keydown.down.prevent="nudge(-1)"
        @keydown.esc="((typing = false), (says = ''))"
      />
      <button
        type="button"
        class="unit"
        :aria-label="`${knot.name}: show the working`"
        :disabled="!expected.known"
        @click="working.show({ knot: knot.id })"
      >
        {{ parts[1] }}<span v-if="parts[2]" class="of">{{ parts[2] }}</span>
      </button>
    </div>
    <div v-if="says" class="says" role="alert">{{ says }}</div>
    <div v-else-if="!expected.known" class="lacking">{{ expected.says }}</div>
    <div v-else-if="read !== undefined" class="line read">
      <span class="visually-hidden">read</span>
      <span class="figures figure">{{ show(read) }}</span><span class="unit" aria-hidden="true">{{ parts[1] }}</span>
    </div>
    <div v-else class="read blank">not read</div>
  </div>
</template>

<style scoped>
.knot {
  padding: 0 4px;
  text-align: center;
  min-width: 0;
}
.line {
  display: flex;
  align-items: baseline;
  justify-content: center;
  gap: 4px;
}
input {
  width: min(100%, 9ch);
  min-width: 0;
  min-height: 44px;
  text-align: right;
  font-size: 17px;
  font-weight: 600;
  color: var(--ink);
  background: none;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  border-radius: 0;
}
input:hover {
  border-bottom-color: var(--second);
}
input.held {
  border-bottom: 2px solid var(--action);
}
input.refused {
  border-bottom: 2px solid var(--stop);
}
.figure {
  width: min(100%, 9ch);
  text-align: right;
  font-size: 17px;
}
button.unit {
  min-height: 44px;
  padding: 0;
  border: 0;
  border-bottom: 1px dotted var(--second);
  background: none;
  font: inherit;
  font-size: 14px;
  cursor: pointer;
}
.of {
  display: block;
  font-size: 12px;
  line-height: 1.1;
}
.read .unit {
  visibility: hidden;
}
.unit {
  color: var(--second);
  font-size: 14px;
  flex: none;
}
.read {
  color: var(--signal);
  font-size: 16px;
  min-height: 24px;
}
.read.blank {
  color: var(--second);
  font-size: 14px;
}
.says {
  color: var(--stop);
  font-size: 14px;
  line-height: 1.2;
}
.lacking {
  color: var(--look);
  font-size: 14px;
  line-height: 1.2;
}
/* Eight knots on a tablet: every digit still has its place. */
@media (max-width: 1000px) {
  input,
  .figure {
    font-size: 14px;
  }
  .line {
    gap: 2px;
  }
  .unit,
  button.unit {
    font-size: 14px;
    letter-spacing: -0.02em;
  }
}
</style>
