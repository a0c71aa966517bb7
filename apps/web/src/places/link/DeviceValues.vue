<script setup lang="ts">
// What the device holds, group by group; each value that can be written is an entry.
import type { LinkState } from '@calm-loop/contract'
import type { Parameter, Value } from '@calm-loop/core/description'
import { computed } from 'vue'
import { call } from '../../api/client.ts'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useSession } from '../../stores/session.ts'
import { clock } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'
import ValueEntry from './ValueEntry.vue'
import { shown, spell, WRITE_WORDS } from './words.ts'

const props = defineProps<{ state: LinkState }>()
const link = useDeviceLink()
const session = useSession()
const { says, run } = useDoing()
const may = computed(() => session.has('technician'))
const upload = (anew: boolean) => run(() => call('uploadDevice', { params: link.params(), body: { anew } }))
const stop = () => run(() => call('stopLink', { params: link.params() }))
const tell = (what: 'store' | 'release' | 'read-again' | 'seen') =>
  run(() => call('commandDevice', { params: link.params(), body: { do: what } }))
const applies = (p: Parameter) => !p.where || p.where.is.includes(Number(props.state.values[p.where.parameter]))
const groups = computed(() => {
  const by = new Map<string, Parameter[]>()
  for (const p of link.parameters.filter(applies)) by.set(p.group, [...(by.get(p.group) ?? []), p])
  return [...by.entries()]
})
const missing = computed(() => link.parameters.filter((p) => !(p.id in props.state.values)).length)
const written = computed(() => ({ ...props.state.values, ...link.edits }))
const figureOf = (id: string, value: Value) => {
  const p = link.parameters.find((x) => x.id === id)
  return p ? shown(p, value) : String(value ?? '—')
}
const unknown = computed(() => props.state.writes.filter((w) => w.state === 'unknown'))
const fixed = computed(() => props.state.live?.flags.includes('current-fixed'))
const changed = computed(() => props.state.live?.flags.includes('configuration-changed'))
</script>

<template>
  <p v-if="!state.device" class="quiet">Find the device first; then its values are read.</p>
  <template v-else>
    <div v-if="may" class="do">
      <template v-if="state.doing === 'reading'">
        <v-btn variant="outlined" data-test="stop" @click="stop">Stop reading</v-btn>
      </template>
      <template v-else>
        <v-btn color="primary" variant="flat" :disabled="link.busy" data-test="read" @click="upload(!missing)">{{
          !state.readAt && missing === link.parameters.length
            ? 'Read the device'
            : missing
              ? 'Read on'
              : 'Read all anew'
        }}</v-btn>
      </template>
      <v-btn v-if="fixed" variant="outlined" :disabled="link.busy" @click="tell('release')">Release the current</v-btn>
      <v-btn v-if="state.unstored" variant="outlined" :disabled="link.busy" @click="tell('store')">Store it</v-btn>
      <v-btn v-if="changed" variant="text" :disabled="link.busy" @click="tell('seen')"
        >I have compared its changes</v-btn
      >
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <div v-if="state.upload" class="progress" role="status">
      <v-progress-linear :model-value="(100 * state.upload.done) / state.upload.of" aria-label="Read so far" />
      <span class="figures">{{ state.upload.done }} of {{ state.upload.of }}</span>
      <span class="quiet">{{ state.upload.now }}</span>
      <span v-if="state.upload.left_s !== null" class="quiet">about {{ spell(state.upload.left_s) }} left</span>
    </div>
    <p v-else-if="state.readAt" class="small quiet">Read {{ clock(state.readAt) }}.</p>
    <section v-if="unknown.length" class="caution" data-test="unknown">
      <p>
        <b>Unknown: read back first.</b> No answer came to what was written:
        {{ unknown.map((w) => w.label).join(', ') }}. Nothing is written over it before it is known.
      </p>
      <v-btn v-if="may" variant="outlined" :disabled="link.busy" @click="tell('read-again')">Read back now</v-btn>
    </section>
    <section v-for="[group, parameters] in groups" :key="group">
      <h2>{{ link.groups[group] ?? group }}</h2>
      <div class="values">
        <ValueEntry
          v-for="p in parameters"
          :key="p.id"
          :parameter="p"
          :values="state.values"
          :written="written"
          :edit="link.edits[p.id]"
          :may="may && !link.busy"
          @put="link.put(p.id, $event)"
        />
      </div>
    </section>
    <section v-if="state.writes.length">
      <h2>Written lately</h2>
      <ul class="writes">
        <li v-for="w in state.writes.slice(0, 8)" :key="w.id + w.parameter" :data-write="w.state">
          <span>{{ w.label }}</span>
          <span class="figures">{{ figureOf(w.parameter, w.from) }} → {{ figureOf(w.parameter, w.to) }}</span>
          <b :class="{ look: w.state === 'unknown' || w.state === 'differs', bad: w.state === 'refused' }">{{
            WRITE_WORDS[w.state]
          }}</b>
          <span class="small quiet">{{ w.says }} {{ w.by }}, {{ clock(w.at) }}</span>
        </li>
      </ul>
    </section>
  </template>
</template>

<style scoped>
h2 {
  margin: 20px 0 4px;
}
.values {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 8px 28px;
}
.progress {
  display: grid;
  grid-template-columns: minmax(120px, 1fr) auto auto auto;
  gap: 16px;
  align-items: center;
  margin: 12px 0;
}
.writes {
  list-style: none;
  padding: 0;
  margin: 0;
}
.writes li {
  display: grid;
  grid-template-columns: minmax(120px, 1fr) minmax(120px, 1fr) minmax(130px, 1fr) 2.4fr;
  gap: 4px 16px;
  padding: 8px 0;
  border-bottom: 1px solid var(--hairline);
}
@media (max-width: 740px) {
  .writes li,
  .progress {
    grid-template-columns: 1fr;
  }
}
</style>
