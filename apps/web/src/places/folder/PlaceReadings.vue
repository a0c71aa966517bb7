<script setup lang="ts">
// Every reading at every place: expected, read, the error with its uncertainty, how probably it is inside, and where
// each figure came from.
import type { Check } from '@calm-loop/contract'
import { originOf } from '@calm-loop/contract/judging'
import { pointWords, type LoopVerdict } from '@calm-loop/core/check'
import { computed } from 'vue'
import { usePreferences } from '../../stores/preferences.ts'
import { clock } from '../../widgets/dates.ts'

const props = defineProps<{ check: Check; loop: LoopVerdict }>()
const preferences = usePreferences()
const byId = computed(() => new Map(props.check.readings.map((r) => [r.id, r])))
const rows = computed(() =>
  props.loop.judged.flatMap(({ reading, knots }) => {
    const full = byId.value.get(reading.id)
    return full
      ? knots.map((knot, i) => ({ id: `${reading.id} ${knot.knotId}`, reading, full, knot, first: i === 0 }))
      : []
  }),
)
const pct = (v: number) => `${preferences.number(v, { decimals: 3, sign: true })} %`
const quantity = (v: number, unit: string, decimals: number) => preferences.quantity(v, unit, { decimals })
</script>

<template>
  <v-table class="readings">
    <thead>
      <tr>
        <th>Point</th>
        <th class="num">True input</th>
        <th>Read at</th>
        <th class="num">Expected</th>
        <th class="num">Read</th>
        <th class="num">Error of span</th>
        <th class="num">U (k = 2)</th>
        <th class="num">Inside</th>
        <th>Origin</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="{ id, reading, full, knot, first } in rows" :key="id">
        <td>{{ first ? pointWords(reading) : '' }}</td>
        <td class="num">
          {{ first ? preferences.quantity(full.applied.value, full.applied.unit, { trim: true }) : '' }}
        </td>
        <td>{{ knot.name }}</td>
        <td class="num">{{ quantity(knot.expected, knot.unit, knot.decimals) }}</td>
        <td class="num read">{{ quantity(knot.read, knot.unit, knot.decimals) }}</td>
        <td class="num" :class="{ bad: Math.abs(knot.errorPct) > knot.tolerancePct }">{{ pct(knot.errorPct) }}</td>
        <td class="num">
          {{ knot.u_pct ? `±${preferences.number(2 * knot.u_pct, { decimals: 3 })} %` : 'not known' }}
        </td>
        <td class="num">
          {{
            knot.probabilityInside === undefined
              ? ''
              : `${preferences.number(100 * knot.probabilityInside, { decimals: 0 })} %`
          }}
        </td>
        <td>
          {{ originOf(full, knot.knotId) }}
          <span v-if="first" class="quiet small">{{ full.by.name }}, {{ clock(full.takenAt) }}</span>
          <span v-if="first && full.reason" class="quiet small">: {{ full.reason }}</span>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.readings {
  overflow-x: auto;
}
.read {
  color: var(--signal);
}
</style>
