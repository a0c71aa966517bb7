<script setup lang="ts">
// The wiring in words: one line for each conductor. Everything that dragging does can be done here by choosing
// terminals.
import {
  describe as describeConductor,
  functionWords,
  INSULATION,
  landConductor,
  takeOut,
  terminalsOf,
  wiringSheet,
} from '@calm-loop/core/wiring'
import { computed } from 'vue'
import { useDesk } from '../stores/desk.ts'
import CableLegends from './CableLegends.vue'
import { useShown } from './shown.ts'
import { sure } from '@calm-loop/core/sure'

const desk = useDesk()
const { volts, milliamps } = useShown()
const lines = computed(() => (desk.wiring ? wiringSheet(desk.wiring, desk.energised) : []))
const devices = computed(() => {
  const spots = desk.wiring ? [...terminalsOf(desk.wiring)] : []
  return (desk.wiring?.devices ?? []).map((d) => ({
    name: `${d.name}, ${d.id}`,
    refs: spots.filter(([, s]) => s.device === d).map(([ref, s]) => ({ ref, words: functionWords(s.does) })),
  }))
})
const known = computed(() => new Set(devices.value.flatMap((d) => d.refs.map((r) => r.ref))))
const conductor = (id: string) => sure(sure(desk.wiring).conductors.find((c) => c.id === id))
const colours = computed(() => Object.keys(INSULATION))
const locked = computed(() => !desk.mayChange)

function land(id: string, end: 'from' | 'to', event: Event): void {
  const select = event.target as HTMLSelectElement
  const before = conductor(id)[end]
  if (!desk.change((w) => landConductor(w, id, end, select.value))) select.value = before
}
</script>

<template>
  <section aria-label="Terminal list">
    <div class="scroll" tabindex="0" role="region" aria-label="Conductors">
      <v-table>
        <thead>
          <tr>
            <th>Conductor</th>
            <th>From</th>
            <th>To</th>
            <th>Colour, and what it means</th>
            <th>Ferrule</th>
            <th>Function</th>
            <th class="num">Volts</th>
            <th class="num">Current</th>
            <th><span class="visually-hidden">Take out</span></th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="line in lines"
            :key="line.id"
            :class="{ chosen: desk.chosen?.what === 'conductor' && desk.chosen.id === line.id }"
            :data-line="line.id"
          >
            <td>
              <button type="button" class="link figures" @click="desk.choose('conductor', line.id)">
                {{ line.id }}
              </button>
            </td>
            <td v-for="end in ['from', 'to'] as const" :key="end">
              <select
                class="figures"
                :aria-label="`${line.id}, ${end === 'from' ? 'from' : 'to'} terminal`"
                :value="conductor(line.id)[end]"
                :disabled="locked"
                @change="land(line.id, end, $event)"
              >
                <option value="">cut back</option>
                <option
                  v-if="conductor(line.id)[end] && !known.has(conductor(line.id)[end])"
                  :value="conductor(line.id)[end]"
                >
                  {{ conductor(line.id)[end] }}, not there
                </option>
                <optgroup v-for="d in devices" :key="d.name" :label="d.name">
                  <option v-for="r in d.refs" :key="r.ref" :value="r.ref" :title="r.words">{{ r.ref }}</option>
                </optgroup>
              </select>
            </td>
            <td>
              <span class="colour">
                <i class="swatch" :style="{ background: INSULATION[line.colour] ?? 'transparent' }" />
                <select
                  :aria-label="`${line.id}, colour`"
                  :value="line.colour"
                  :disabled="locked"
                  @change="
                    desk.change((w) =>
                      describeConductor(w, line.id, { colour: ($event.target as HTMLSelectElement).value }),
                    )
                  "
                >
                  <option value="">not stated</option>
                  <option v-for="c in colours" :key="c" :value="c">{{ c }}</option>
                </select>
              </span>
              <span class="quiet small means">{{ line.convention }}</span>
            </td>
            <td>
              <input
                class="figures ferrule"
                :aria-label="`${line.id}, ferrule text`"
                :value="conductor(line.id).ferrule ?? ''"
                :placeholder="line.ferrule"
                maxlength="24"
                :disabled="locked"
                @change="
                  desk.change((w) =>
                    describeConductor(w, line.id, { ferrule: ($event.target as HTMLInputElement).value }),
                  )
                "
              />
            </td>
            <td class="small quiet">{{ line.function }}</td>
            <td :class="line.says ? 'small' : 'num'">
              {{ line.says || (line.volts === null ? '' : volts(line.volts)) }}
              <span v-if="line.countedFrom && line.volts !== null" class="quiet small">to {{ line.countedFrom }}</span>
            </td>
            <td class="num">{{ line.mA === null ? '' : milliamps(line.mA) }}</td>
            <td>
              <button
                v-if="!locked"
                type="button"
                class="link"
                :aria-label="`Take out ${line.id}`"
                @click="desk.change((w) => takeOut(w, line.id))"
              >
                out
              </button>
            </td>
          </tr>
        </tbody>
      </v-table>
    </div>
    <CableLegends />
  </section>
</template>

<style scoped>
.scroll {
  position: relative;
  overflow-x: auto;
}
:deep(table) {
  min-width: 840px;
}
td {
  padding-top: 2px !important;
  padding-bottom: 2px !important;
  vertical-align: middle !important;
}
select,
input {
  min-height: 44px;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  color: var(--ink);
  font: inherit;
  font-size: 15px;
  max-width: 100%;
}
select.figures,
input.figures {
  font-family: var(--figures);
}
td select.figures {
  width: 104px;
}
select option {
  background: var(--sheet);
  color: var(--ink);
}
.ferrule {
  width: 112px;
}
.ferrule::placeholder {
  color: var(--second);
  opacity: 1;
}
.colour {
  display: flex;
  align-items: center;
  gap: 8px;
}
.means {
  display: block;
  max-width: 190px;
  line-height: 1.25;
  padding-bottom: 4px;
}
.swatch {
  width: 22px;
  height: 10px;
  border: 1.5px solid var(--ink);
  border-radius: 2px;
  flex: none;
}
.chosen td {
  background: color-mix(in srgb, var(--action) 10%, transparent);
}
.num {
  font-size: 15px;
}
.link {
  background: none;
  border: 0;
  color: var(--action);
  text-decoration: underline;
  text-underline-offset: 3px;
  font-family: inherit;
  font-size: 15px;
  min-height: 44px;
  min-width: 44px;
  padding: 0;
  cursor: pointer;
  text-align: left;
  white-space: nowrap;
}
.link.figures {
  font-family: var(--figures);
}
</style>
