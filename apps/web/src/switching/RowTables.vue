<script setup lang="ts">
// The rows that the entries choose from, with their sources: input types, connector pins and lead colours.
import { CONNECTOR_PINS, coreColour, INPUT_TYPES } from '@calm-loop/core/discrete'
import { COLOUR_CONVENTIONS, INSULATION } from '@calm-loop/core/wiring'
import { usePreferences } from '../stores/preferences.ts'

const preferences = usePreferences()
const leads = COLOUR_CONVENTIONS.filter((c) => c.id.includes('sensor'))
const q = (v: number, unit: string) => preferences.quantity(v, unit, { trim: true })
const swatch = (terminal: string) => INSULATION[coreColour(terminal)]
</script>

<template>
  <details class="rows">
    <summary>Rows these entries choose from, with their sources</summary>
    <h3>Input types</h3>
    <div class="scroll" tabindex="0" role="region" aria-label="Input types">
      <v-table class="small">
        <thead>
          <tr>
            <th>Type</th>
            <th class="num">On from</th>
            <th class="num">and</th>
            <th class="num">Off up to</th>
            <th class="num">Taken as</th>
            <th>For</th>
            <th>Source</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in INPUT_TYPES" :key="t.id">
            <td>{{ t.name }}</td>
            <td class="num">{{ q(t.onMinV, 'V') }}</td>
            <td class="num">{{ q(t.least_mA, 'mA') }}</td>
            <td class="num">{{ q(t.offMaxV, 'V') }}</td>
            <td class="num">{{ q(t.ohm, 'Ohm') }}</td>
            <td>{{ t.for }}</td>
            <td>{{ t.source }}</td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <h3>Pins and leads</h3>
    <div class="scroll" tabindex="0" role="region" aria-label="Pins and leads">
      <v-table class="small">
        <thead>
          <tr>
            <th>Connected by</th>
            <th>Plus</th>
            <th>Minus</th>
            <th>Output NO</th>
            <th>Output NC</th>
            <th>Second output</th>
            <th>Source</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in CONNECTOR_PINS" :key="p.id">
            <td>{{ p.name }}</td>
            <td v-for="(terminal, i) in [p.plus, p.minus, p.no, p.nc, p.second]" :key="i">
              <template v-if="terminal">
                <span class="swatch" :style="{ background: swatch(terminal) }" />
                <span class="figures">{{ terminal }}</span> {{ coreColour(terminal) }}
              </template>
              <span v-else class="quiet">no room</span>
            </td>
            <td>{{ p.source }}</td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <h3>Lead colours</h3>
    <ul class="small">
      <li v-for="c in leads" :key="c.id">
        <b>{{ c.name }}:</b>
        {{
          Object.entries(c.colours)
            .map(([colour, means]) => `${colour} ${means}`)
            .join(', ')
        }}.
        <span class="quiet">{{ c.source }}</span>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.rows {
  margin-top: 8px;
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
  color: var(--second);
}
.scroll {
  overflow-x: auto;
  margin-bottom: 16px;
}
.swatch {
  display: inline-block;
  width: 18px;
  height: 8px;
  border: 1px solid var(--ink);
  margin-right: 6px;
}
</style>
