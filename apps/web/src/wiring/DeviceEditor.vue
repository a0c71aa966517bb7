<script setup lang="ts">
// A device template made from another one: terminals, resistances, limits. It goes into the wiring, or into a file that
// another desk reads.
import { attempt, Refusal } from '@calm-loop/core/refusal'
import {
  addDevice,
  DEVICE_TYPES,
  draftOf,
  editedType,
  FUNCTIONS,
  readDeviceType,
  writeDeviceType,
  type DeviceType,
  type Draft,
  type TerminalFunction,
} from '@calm-loop/core/wiring'
import { useFileDialog } from '@vueuse/core'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { addressOf } from '../api/client.ts'
import { useDesk } from '../stores/desk.ts'
import WordsField from '../widgets/WordsField.vue'
import { sure } from '@calm-loop/core/sure'

type Mutable = Omit<Draft, 'terminals' | 'ohms' | 'figures'> & {
  terminals: { was: string; id: string; does: TerminalFunction }[]
  ohms: Record<string, number | undefined>
  figures: Record<keyof Draft['figures'], number | undefined>
}
const FIGURES = { feedLeast: 'Feed, at least', feedMost: 'Feed, at most', maxV: 'Drives at most' } as const
const PLACES = { field: 'at the process', way: 'on the way', cabinet: 'in the cabinet' } as const

const desk = useDesk()
const base = shallowRef<DeviceType>(sure(DEVICE_TYPES[0]))
const fresh = (type: DeviceType): Mutable => {
  const d = draftOf(type)
  return {
    ...{ ...d, id: `my-${d.id}`.slice(0, 16) },
    ...{ terminals: d.terminals.map((t) => ({ ...t })), ohms: { ...d.ohms }, figures: { ...d.figures } },
  }
}
const draft = reactive<Mutable>(fresh(base.value))
watch(base, (type) => Object.assign(draft, fresh(type)))
const begin = (id: string) => (base.value = sure(DEVICE_TYPES.find((t) => t.id === id)))
const numbered = (event: Event) => {
  const text = (event.target as HTMLInputElement).value.trim().replace(',', '.')
  return text === '' ? undefined : Number(text)
}
const made = computed(() => attempt(() => editedType(base.value, draft as Draft)))
const refused = computed(() => (made.value instanceof Refusal ? made.value.message : ''))
const read = ref('')
const { open, onChange, reset } = useFileDialog({ accept: '.json,application/json', multiple: false })
onChange(async (files) => {
  const type = await files?.[0]?.text().then((text) => attempt(() => readDeviceType(text)))
  read.value = type instanceof Refusal ? `${type.message} Nothing was taken.` : ''
  if (type && !(type instanceof Refusal)) {
    base.value = type
    Object.assign(draft, fresh(type), { id: type.id })
  }
  reset()
})
function put(): void {
  const type = made.value
  if (!(type instanceof Refusal)) desk.change((w) => addDevice(w, type, type.name))
}
const file = computed(() =>
  made.value instanceof Refusal
    ? ''
    : `data:application/json;charset=utf-8,${encodeURIComponent(writeDeviceType(made.value))}`,
)
</script>

<template>
  <details class="editor fold plain">
    <summary>Make a device template</summary>
    <p class="quiet small">
      Begin with the device that is nearest, and change what differs. Its file follows a
      <a :href="addressOf('deviceSchema')" target="_blank">published schema</a>.
    </p>
    <div class="edit-grid">
      <div class="entry">
        <label for="template-base">Begin with</label>
        <select id="template-base" :value="base.id" @change="begin(($event.target as HTMLSelectElement).value)">
          <option v-if="!DEVICE_TYPES.includes(base)" :value="base.id">{{ base.name }}, from a file</option>
          <option v-for="t in DEVICE_TYPES" :key="t.id" :value="t.id">{{ t.name }}</option>
        </select>
      </div>
      <WordsField label="Name" :value="draft.name" @typed="Object.assign(draft, { name: $event })" />
      <div class="entry">
        <label for="template-place">Stands</label>
        <select
          id="template-place"
          :value="draft.place"
          @change="Object.assign(draft, { place: ($event.target as HTMLSelectElement).value })"
        >
          <option v-for="(words, place) in PLACES" :key="place" :value="place">{{ words }}</option>
        </select>
      </div>
    </div>
    <h3>Terminals</h3>
    <div v-for="(t, i) in draft.terminals" :key="i" class="line">
      <label
        ><span class="small quiet">Terminal {{ i + 1 }}</span>
        <input v-model="t.id" class="figures" maxlength="10" />
      </label>
      <label
        ><span class="small quiet">is for</span>
        <select v-model="t.does">
          <option v-for="(f, key) in FUNCTIONS" :key="key" :value="key">{{ f.words }}</option>
        </select>
      </label>
      <button
        type="button"
        class="link"
        :aria-label="`Take terminal ${i + 1} out`"
        @click="draft.terminals.splice(i, 1)"
      >
        out
      </button>
    </div>
    <v-btn variant="text" @click="draft.terminals.push({ was: '', id: '', does: 'through' })">One more terminal</v-btn>
    <h3>Resistances and limits</h3>
    <div class="edit-grid">
      <label v-for="(ohm, part) in draft.ohms" :key="part" class="entry"
        ><span>{{ part }}, Ω</span>
        <input
          class="figures"
          inputmode="decimal"
          :value="ohm ?? ''"
          placeholder="as entered for the loop"
          @change="draft.ohms[part] = numbered($event)"
        />
      </label>
      <template v-if="base.power">
        <label
          v-for="(words, key) in { leastV: 'Own supply, at least', mostV: 'Own supply, at most' }"
          :key="key"
          class="entry"
          ><span>{{ words }}, V</span>
          <input
            class="figures"
            inputmode="decimal"
            :value="draft[key] ?? ''"
            @change="Object.assign(draft, { [key]: numbered($event) })"
          />
        </label>
      </template>
      <label v-for="(words, key) in FIGURES" :key="key" class="entry"
        ><span>{{ words }}, V</span>
        <input
          class="figures"
          inputmode="decimal"
          :value="draft.figures[key] ?? ''"
          @change="draft.figures[key] = numbered($event)"
        />
      </label>
    </div>
    <p v-if="refused || read" class="bad" role="alert">{{ read || refused }}</p>
    <div class="do">
      <v-btn v-if="desk.mayChange" variant="outlined" :disabled="!!refused" @click="put">Put it into the wiring</v-btn>
      <v-btn variant="outlined" :disabled="!file" :href="file || undefined" :download="`${draft.id}.json`"
        >Save as a file</v-btn
      >
      <v-btn variant="text" @click="open()">Open a device file here</v-btn>
    </div>
  </details>
</template>

<style scoped>
h3 {
  margin: 16px 0 4px;
}
.line {
  display: grid;
  grid-template-columns: 130px minmax(0, 320px) 44px;
  gap: 16px;
  align-items: end;
}
label {
  display: block;
}
.link {
  min-height: 44px;
}
</style>
