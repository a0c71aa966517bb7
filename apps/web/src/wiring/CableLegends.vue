<script setup lang="ts">
// Each cable with the convention that its colours follow, or a legend of its own: a colour says nothing without it.
import {
  COLOUR_CONVENTIONS,
  conventionOf,
  INSULATION,
  MEANINGS,
  OWN_LEGEND,
  setLegend,
  setOwnLegend,
  type Cable,
} from '@calm-loop/core/wiring'
import { ref } from 'vue'
import { useDesk } from '../stores/desk.ts'

const desk = useDesk()
/** The cable whose own legend is being entered, and its rows so far. */
const editing = ref('')
const rows = ref<{ colour: string; means: string }[]>([])
const colours = Object.keys(INSULATION).filter((c) => c !== 'shield')

function choose(cable: Cable, legend: string): void {
  if (legend !== OWN_LEGEND) {
    editing.value = ''
    desk.change((w) => setLegend(w, cable.id, legend))
    return
  }
  edit(cable)
}
/** Begins with what the cable has, or with the cores that are drawn in it. */
function edit(cable: Cable): void {
  const drawn = desk.wiring?.conductors.filter((c) => c.cable === cable.id && c.colour && c.colour !== 'shield') ?? []
  const known = cable.own ?? [...new Set(drawn.map((c) => c.colour ?? ''))].map((colour) => ({ colour, means: '' }))
  rows.value = known.length ? known.map((r) => ({ ...r })) : [{ colour: '', means: '' }]
  editing.value = cable.id
}
function keep(cable: Cable): void {
  if (desk.change((w) => setOwnLegend(w, cable.id, rows.value))) editing.value = ''
}
const meanings = (cable: Cable) =>
  Object.entries(conventionOf(cable).colours)
    .map(([c, m]) => `${c} ${m}`)
    .join(', ') || 'no meanings known'
</script>

<template>
  <section aria-label="Cables">
    <h3 class="mt-4">Cables and their colours</h3>
    <div v-for="cable in desk.wiring?.cables" :key="cable.id" class="cable plain">
      <span
        ><b class="figures">{{ cable.id }}</b> {{ cable.name }}</span
      >
      <select
        :aria-label="`${cable.id}, colour convention`"
        :value="editing === cable.id || cable.own ? OWN_LEGEND : cable.legend"
        :disabled="!desk.mayChange"
        @change="choose(cable, ($event.target as HTMLSelectElement).value)"
      >
        <option v-for="c in COLOUR_CONVENTIONS" :key="c.id" :value="c.id">{{ c.name }}</option>
        <option :value="OWN_LEGEND">A legend of its own</option>
      </select>
      <span class="quiet small">
        {{ meanings(cable) }}. {{ conventionOf(cable).source }}.
        <button
          v-if="cable.own && desk.mayChange && editing !== cable.id"
          type="button"
          class="link"
          @click="edit(cable)"
        >
          Change it
        </button>
      </span>
      <form
        v-if="editing === cable.id"
        class="legend"
        :aria-label="`Legend of ${cable.id}`"
        @submit.prevent="keep(cable)"
      >
        <div v-for="(row, i) in rows" :key="i" class="row">
          <label>
            <span class="small quiet">Colour {{ i + 1 }}</span>
            <select v-model="row.colour">
              <option v-for="c in colours" :key="c" :value="c">{{ c }}</option>
            </select>
          </label>
          <label>
            <span class="small quiet">means</span>
            <input v-model="row.means" list="meanings" maxlength="30" />
          </label>
          <button type="button" class="link" :aria-label="`Take colour ${i + 1} out`" @click="rows.splice(i, 1)">
            out
          </button>
        </div>
        <datalist id="meanings">
          <option v-for="m in MEANINGS" :key="m" :value="m" />
        </datalist>
        <div class="do">
          <v-btn variant="text" @click="rows.push({ colour: '', means: '' })">One more colour</v-btn>
          <v-btn type="submit" variant="outlined">Keep the legend</v-btn>
          <v-btn variant="text" @click="editing = ''">Leave it</v-btn>
        </div>
      </form>
    </div>
  </section>
</template>

<style scoped>
.cable {
  display: grid;
  grid-template-columns: 160px 240px minmax(0, 1fr);
  gap: 0 16px;
  align-items: center;
  border-bottom: 1px solid var(--hairline);
  min-height: 48px;
}
.legend {
  grid-column: 2 / -1;
  padding-bottom: 12px;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 160px) minmax(0, 220px) 44px;
  gap: 16px;
  align-items: end;
}
label {
  display: block;
}
.link {
  min-height: 44px;
}
@media (max-width: 740px) {
  .cable {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
  .legend {
    grid-column: 1;
  }
}
</style>
