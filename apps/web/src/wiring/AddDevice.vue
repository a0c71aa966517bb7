<script setup lang="ts">
// Another device at the desk: of a known type, with its own terminal names if it has any, or from a device file.
import { attempt, Refusal } from '@calm-loop/core/refusal'
import {
  addDevice,
  channelKind,
  DEVICE_TYPES,
  readDeviceType,
  removeDevice,
  renamedType,
  setChannel,
  setDeviceFigure,
  typeOf,
  type ChannelKind,
  type Device,
} from '@calm-loop/core/wiring'
import { useFileDialog } from '@vueuse/core'
import { computed, reactive, ref } from 'vue'
import { useDesk } from '../stores/desk.ts'
import WordsField from '../widgets/WordsField.vue'
import DeviceEditor from './DeviceEditor.vue'
import { sure } from '@calm-loop/core/sure'

const desk = useDesk()
const typeId = ref('fuse')
const name = ref('')
const names = reactive<Record<string, string>>({})
const own = ref(false)
const says = ref('')
const base = computed(() => sure(DEVICE_TYPES.find((t) => t.id === typeId.value)))

function add(): void {
  says.value = ''
  const type = own.value
    ? attempt(() =>
        renamedType(base.value, `own-${base.value.id}`.slice(0, 16), name.value.trim() || base.value.name, names),
      )
    : base.value.id
  if (type instanceof Refusal) {
    says.value = type.message
    return
  }
  desk.change((w) => addDevice(w, type, name.value.trim() || undefined))
  name.value = ''
}
const { open, onChange, reset } = useFileDialog({ accept: '.json,application/json', multiple: false })
onChange(async (files) => {
  const file = files?.[0]
  if (!file) return
  const read = await file.text().then((text) => attempt(() => readDeviceType(text)))
  says.value = read instanceof Refusal ? `${read.message} Nothing was added.` : ''
  if (!(read instanceof Refusal)) desk.change((w) => addDevice(w, read))
  reset()
})
const channelsOf = (d: Device) => typeOf(d)?.channels ?? []
const figures = computed(() =>
  (desk.wiring?.devices ?? []).flatMap((d) => {
    const type = typeOf(d)
    return Object.keys({ ...type?.figures, ...d.figures })
      .filter((key) => key === 'termination')
      .map((key) => ({ device: d, key, value: d.figures?.[key] ?? type?.figures?.[key] ?? 0 }))
  }),
)
</script>

<template>
  <section aria-label="Devices">
    <h3>Devices</h3>
    <ul class="devices">
      <li v-for="d in desk.wiring?.devices" :key="d.id">
        <span
          ><b class="figures">{{ d.id }}</b> {{ d.name }}
          <span class="quiet small">{{ typeOf(d)?.name ?? 'type not known here' }}</span></span
        >
        <span>
          <button
            v-for="f in figures.filter((x) => x.device === d)"
            :key="f.key"
            type="button"
            class="link"
            @click="desk.change((w) => setDeviceFigure(w, d.id, f.key, f.value > 0 ? 0 : 120))"
          >
            termination {{ f.value > 0 ? 'on' : 'off' }}
          </button>
          <label v-for="c in channelsOf(d)" :key="c.id" class="channel">
            <span class="small quiet">channel {{ c.id }}</span>
            <select
              :aria-label="`${d.id}, channel ${c.id}`"
              :value="channelKind(d, c)"
              :disabled="!desk.mayChange"
              @change="
                desk.change((w) => setChannel(w, d.id, c.id, ($event.target as HTMLSelectElement).value as ChannelKind))
              "
            >
              <option v-for="k in c.can" :key="k" :value="k">{{ k }}</option>
            </select>
          </label>
          <button
            type="button"
            class="link"
            :aria-label="`Take out device ${d.id}`"
            @click="desk.change((w) => removeDevice(w, d.id))"
          >
            take out
          </button>
        </span>
      </li>
    </ul>
    <form class="edit-grid" @submit.prevent="add">
      <div class="entry">
        <label for="device-type">Add a device that is or behaves like</label>
        <select id="device-type" v-model="typeId">
          <option v-for="t in DEVICE_TYPES" :key="t.id" :value="t.id">
            {{ t.name }}{{ t.power?.from === 'ac' ? ', mains' : '' }}
          </option>
        </select>
      </div>
      <WordsField
        label="Its name"
        :value="name"
        help="As on its label; empty takes the type’s."
        @typed="name = $event"
      />
      <label class="own"><input v-model="own" type="checkbox" /> It has its own terminal names</label>
      <template v-if="own">
        <WordsField
          v-for="t in base.terminals"
          :key="t.id"
          :label="`Terminal ${t.id} is marked`"
          :value="names[t.id] ?? ''"
          @typed="names[t.id] = $event"
        />
      </template>
      <div class="do">
        <v-btn type="submit" variant="outlined">Add device</v-btn>
        <v-btn variant="text" @click="open()">From a device file</v-btn>
      </div>
    </form>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <DeviceEditor />
  </section>
</template>

<style scoped>
.devices {
  list-style: none;
  padding: 0;
  margin: 8px 0 0;
}
.devices li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  min-height: 44px;
  border-bottom: 1px solid var(--hairline);
}
.link {
  background: none;
  border: 0;
  color: var(--action);
  text-decoration: underline;
  text-underline-offset: 3px;
  font: inherit;
  min-height: 44px;
  min-width: 44px;
  margin-left: 12px;
  cursor: pointer;
}
select {
  width: 100%;
  min-height: 44px;
  background: none;
  border: 0;
  border-bottom: 1px solid var(--second);
  color: var(--ink);
  font: inherit;
}
option {
  background: var(--sheet);
  color: var(--ink);
}
.channel {
  display: inline-grid;
  width: 230px;
  margin-left: 16px;
}
.devices li {
  flex-wrap: wrap;
}
.own {
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
}
.own input {
  width: 24px;
  height: 24px;
  accent-color: var(--action);
}
</style>
