<script setup lang="ts">
// The three factors and their product for a shift or all of them: definition, numbers, source.
import type { Factors } from '@calm-loop/core/discrete'
import { computed } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import { sure } from '@calm-loop/core/sure'

const props = defineProps<{
  title: string
  of: Factors & { count: number; planned_s: number; stopped_s: number; rejected: number }
  /** Ideal cycle, s. */
  ideal: number | undefined
}>()
const preferences = usePreferences()
const pct = (v: number | null) => (v === null ? 'not known' : `${preferences.number(100 * v, { decimals: 1 })} %`)
const time = (s: number) => {
  const m = Math.round(s / 60)
  return `${Math.floor(m / 60)} h ${String(m % 60).padStart(2, '0')} min`
}
const rows = computed(() => {
  const { of, ideal } = props
  const run = of.planned_s - of.stopped_s
  return [
    {
      name: 'Availability',
      value: pct(of.availability),
      is: 'run time over planned time that was watched; run time is that less stops',
      with:
        of.availability === null
          ? 'nothing was watched'
          : `(${time(of.planned_s)} − ${time(of.stopped_s)}) / ${time(of.planned_s)}`,
    },
    {
      name: 'Performance',
      value: pct(of.performance),
      is: 'ideal cycle times count over run time; above 100 % the ideal cycle is entered too long',
      with:
        of.performance === null
          ? ideal === undefined
            ? 'needs the ideal cycle'
            : 'no run time'
          : `${preferences.quantity(sure(ideal), 's', { trim: true })} × ${of.count} / ${time(run)}`,
    },
    {
      name: 'Quality',
      value: pct(of.quality),
      is: 'good pieces over all; a cycle is a piece',
      with: of.quality === null ? 'nothing counted' : `(${of.count} − ${of.rejected}) / ${of.count}`,
    },
    {
      name: 'OEE',
      value: pct(of.oee),
      is: 'availability × performance × quality',
      with:
        of.oee === null
          ? 'a factor is not known'
          : `${pct(of.availability)} × ${pct(of.performance)} × ${pct(of.quality)}`,
    },
  ]
})
</script>

<template>
  <section class="oee" :aria-label="`Effectiveness, ${title}`">
    <h3>{{ title }}</h3>
    <dl>
      <div v-for="r in rows" :key="r.name" :data-factor="r.name">
        <dt>
          <b>{{ r.name }}</b> <span class="small quiet">{{ r.is }}</span>
        </dt>
        <dd>
          <span class="figures big">{{ r.value }}</span> <span class="figures small quiet">= {{ r.with }}</span>
        </dd>
      </div>
    </dl>
    <p class="small quiet">
      Source: ISO 22400-2, key performance indicators. Quality counts what is entered as rejected.
    </p>
  </section>
</template>

<style scoped>
dl {
  margin: 0;
}
dl div {
  border-bottom: 1px solid var(--hairline);
  padding: 8px 0;
}
dd {
  margin: 0;
}
.big {
  font-size: 22px;
  font-weight: 600;
}
</style>
