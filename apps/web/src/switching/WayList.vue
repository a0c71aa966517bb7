<script setup lang="ts">
// Make it work: every way that does, with its current's path and its wiring before it is taken; and the ways that do
// not, with why.
import { switchKindOf, waysOf, withChanges, type Way } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import { wiringSheet } from '@calm-loop/core/wiring'
import { computed, ref } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useSession } from '../stores/session.ts'
import FitDrawing from './FitDrawing.vue'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const session = useSession()
const ways = computed(() => waysOf(folder.entries))
const chosen = ref<string>()
const way = computed(() => ways.value?.possible.find((w) => w.id === chosen.value) ?? ways.value?.possible[0])
const kind = computed(() => switchKindOf(sure(folder.kind).id))
const after = computed(() => {
  if (!way.value) return undefined
  const entries = withChanges(folder.entries, way.value.changes)
  const { run, reader, desk } = study(kind.value, entries)
  return {
    run,
    output: reader.text('output'),
    lines: wiringSheet(desk.wiring),
  }
})
const holds = (w: Way) =>
  Object.entries(w.changes).every(
    ([key, typed]) => (folder.entries[key]?.typed ?? (key === 'between' ? 'nothing' : '')) === typed,
  )
const done = ref('')
function take(w: Way): void {
  const next = withChanges(folder.entries, w.changes)
  for (const key of Object.keys(w.changes)) folder.set(key, next[key]!)
  if (folder.entries['wiring']) folder.set('wiring', { typed: '' })
  done.value = `Taken: ${w.title}. The entries are changed; the wiring is proposed anew.`
}
</script>

<template>
  <section aria-label="Make it work">
    <p v-if="!ways" class="need">What can be done needs sensor and input first.</p>
    <div v-else class="ways">
      <div role="radiogroup" aria-label="Ways that work">
        <label
          v-for="w in ways.possible"
          :key="w.id"
          class="way"
          :class="{ chosen: w.id === way?.id }"
          :data-way="w.id"
        >
          <input type="radio" name="way" :value="w.id" :checked="w.id === way?.id" @change="chosen = w.id" />
          <span>
            <b>{{ w.title }}</b>
            <span class="logic" :class="{ turned: w.after.inverted }">{{
              w.after.inverted ? 'logic inverted' : 'logic kept'
            }}</span>
            <span v-if="holds(w)" class="quiet">, as entered</span><br />
            <span>{{ w.says }}</span> <span class="quiet">{{ w.price }}</span>
          </span>
        </label>
        <p v-if="!ways.possible.length" class="need">No way is known that works with this sensor here.</p>
        <details v-if="ways.ruledOut.length">
          <summary>What does not work, and why</summary>
          <ul>
            <li v-for="x in ways.ruledOut" :key="x.title">
              <b>{{ x.title }}:</b> {{ x.why }}
            </li>
          </ul>
        </details>
      </div>
      <div v-if="way && after" class="preview">
        <FitDrawing :run="after.run" :output="after.output" />
        <h3>Wired terminal by terminal</h3>
        <v-table class="small">
          <thead>
            <tr>
              <th>From</th>
              <th>To</th>
              <th>Colour</th>
              <th>Function</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in after.lines" :key="l.id">
              <td class="figures">{{ l.from }}</td>
              <td class="figures">{{ l.to }}</td>
              <td>{{ l.colour }}</td>
              <td>{{ l.function }}</td>
            </tr>
          </tbody>
        </v-table>
        <div class="do">
          <v-btn
            v-if="session.has('technician')"
            color="primary"
            variant="flat"
            :disabled="holds(way)"
            @click="take(way)"
            >Take this way</v-btn
          >
        </div>
        <p v-if="done" role="status">{{ done }}</p>
      </div>
    </div>
    <p class="caution small">
      <b>Caution.</b> A coil switched off answers with some hundred volts: its diode goes with it, the ring at plus.
      Power off and proved dead before a conductor is moved. A safety function is never made with an ordinary sensor and
      relay: the site’s functional-safety procedure decides. Site procedure, local codes and licensed practice come
      first.
    </p>
  </section>
</template>

<style scoped>
.ways {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.9fr);
  gap: 32px;
}
.way {
  display: grid;
  grid-template-columns: 36px minmax(0, 1fr);
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
  cursor: pointer;
}
.way.chosen {
  border-bottom: 2px solid var(--action);
}
.way input {
  width: 24px;
  height: 24px;
  accent-color: var(--action);
}
.logic {
  margin-left: 8px;
  color: var(--action);
}
.logic.turned {
  color: var(--look);
}
.do {
  margin: 12px 0;
}
.need {
  color: var(--look);
}
summary {
  min-height: 44px;
  padding: 10px 0;
  cursor: pointer;
}
@media (max-width: 1000px) {
  .ways {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
