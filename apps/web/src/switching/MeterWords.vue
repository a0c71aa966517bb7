<script setup lang="ts">
// A meter on DC volts at a discrete point: which lead where, what it should show with the target and without, and what
// else it may show.
import { judgeVolts, VOLTS_SPARE, VOLTS_WORDS, voltsMeanings, type SwitchPlan } from '@calm-loop/core/discrete'
import { switchSpots } from '@calm-loop/core/wiring'
import { computed } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { usePreferences } from '../stores/preferences.ts'

const props = defineProps<{ plan: SwitchPlan; target: boolean; read: number | undefined }>()
const desk = useDesk()
const preferences = usePreferences()
const V = (v: number) => preferences.quantity(Math.abs(v) < 0.05 ? 0 : v, 'V', { decimals: 1 })
const own = computed(() => (props.target ? props.plan.present : props.plan.absent).signalV)
const other = computed(() => (props.target ? props.plan.absent : props.plan.present).signalV)
const spots = computed(() => (desk.wiring ? switchSpots(desk.wiring) : undefined))
const meanings = computed(() =>
  own.value === undefined || other.value === undefined ? [] : voltsMeanings(own.value, other.value),
)
const says = computed(() =>
  props.read === undefined || own.value === undefined || other.value === undefined
    ? undefined
    : judgeVolts(props.read, own.value, other.value, VOLTS_SPARE * props.plan.supplyV),
)
</script>

<template>
  <section class="meter" aria-label="With a meter">
    <h3>With a meter, on DC volts</h3>
    <svg
      class="worded"
      viewBox="0 0 420 96"
      role="img"
      :aria-label="`Red on ${spots?.signal ?? 'the signal wire'}, black on ${spots?.minus ?? 'the negative pole'}`"
    >
      <rect x="150" y="12" width="120" height="62" class="case" />
      <text x="210" y="52" class="mid figures big">{{ own === undefined ? '' : V(own) }}</text>
      <path d="M150 30H112" class="red" />
      <path d="M270 30H308" class="black" />
      <text x="104" y="26" class="end">red</text>
      <text x="104" y="44" class="end figures">{{ spots?.signal ?? 'signal' }}</text>
      <text x="316" y="26">black</text>
      <text x="316" y="44" class="figures">{{ spots?.minus ?? 'minus' }}</text>
      <text x="210" y="90" class="mid small">expected, target {{ target ? 'there' : 'away' }}</text>
    </svg>
    <p v-if="own !== undefined && other !== undefined">
      Target there: <b class="figures">{{ V(plan.present.signalV!) }}</b>; away:
      <b class="figures">{{ V(plan.absent.signalV!) }}</b>.
    </p>
    <ul class="means">
      <li v-for="m in meanings" :key="m.shows" :class="{ now: m.shows === says }">
        <span class="figures">{{ m.volts === undefined ? 'else' : V(m.volts) }}</span>
        <span>{{ VOLTS_WORDS[m.shows] }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.meter {
  border-bottom: 1px solid var(--hairline);
  margin-bottom: 12px;
}
.case {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.big {
  font-size: 24px !important;
}
.red,
.black {
  fill: none;
  stroke-width: 4;
}
.red {
  stroke: #c8261f;
}
.black {
  stroke: #1b1b1b;
  paint-order: stroke;
}
.v-theme--dark .black {
  stroke: #77807c;
}
.means {
  list-style: none;
  padding: 0;
  margin: 0 0 8px;
}
.means li {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr);
  padding: 6px 0 6px 8px;
  border-top: 1px solid var(--hairline);
  border-left: 4px solid transparent;
}
.means li.now {
  border-left-color: var(--signal);
}
</style>
