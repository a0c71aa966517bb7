<script setup lang="ts">
// Factors that shorten the operating distance for other metals than steel, with their source.
import { TARGET_METALS } from '@calm-loop/core/discrete'
import { usePreferences } from '../stores/preferences.ts'

const preferences = usePreferences()
const n = (v: number) => preferences.number(v, { decimals: 2 })
</script>

<template>
  <details>
    <summary>Factors of the target’s metal, with their source</summary>
    <v-table class="small">
      <thead>
        <tr>
          <th>Target</th>
          <th class="num">Taken</th>
          <th class="num">Usual range</th>
          <th>Source</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in TARGET_METALS" :key="m.id">
          <td>{{ m.name }}</td>
          <td class="num">{{ n(m.typical) }}</td>
          <td class="num">{{ m.low === m.high ? 'by definition' : `${n(m.low)} to ${n(m.high)}` }}</td>
          <td>{{ m.source }}</td>
        </tr>
      </tbody>
    </v-table>
  </details>
</template>

<style scoped>
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  color: var(--second);
}
</style>
