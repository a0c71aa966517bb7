<script setup lang="ts">
// Configurations saved of this device, and one from elsewhere: what loading it would change, before anything is
// written.
import { DeviceFile, type LinkState } from '@calm-loop/contract'
import { toLoad, type Description } from '@calm-loop/core/description'
import { computed, ref, shallowRef } from 'vue'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useSession } from '../../stores/session.ts'
import { dayWords } from '../../widgets/dates.ts'
import { useDoing } from '../../widgets/doing.ts'
import { jsonIn, keepAs } from '../../widgets/files.ts'
import PickFile from '../../widgets/PickFile.vue'
import WordsField from '../../widgets/WordsField.vue'
import { shown, unitOf } from './words.ts'

const props = defineProps<{ state: LinkState }>()
const link = useDeviceLink()
const session = useSession()
const { busy, says, run } = useDoing()
const may = computed(() => session.has('technician') && !link.busy)
const note = ref('')
const save = () =>
  run(async () => {
    await link.save(note.value.trim())
    note.value = ''
  })
const chosen = shallowRef<DeviceFile>()
const withConstants = ref(false)
const same = computed(() => chosen.value?.serial === props.state.device?.serial)
const loads = computed(() => {
  if (!chosen.value || !props.state.device) return undefined
  const description = { parameters: link.parameters } as unknown as Description
  return toLoad(
    description,
    { serial: props.state.device.serial, values: props.state.values },
    chosen.value,
    withConstants.value,
  )
})
const changes = computed(() => link.parameters.filter((p) => loads.value && p.id in loads.value.values))
const load = () => {
  if (!loads.value) return
  for (const [id, value] of Object.entries(loads.value.values)) link.put(id, value)
}
async function pick(file: File): Promise<void> {
  chosen.value = undefined
  await run(async () => {
    const json = await jsonIn(file)
    const { format } = json as { format?: unknown }
    if (typeof format === 'string' && /^calm-loop\/device-file\/(?!1$)/.test(format))
      throw new Error('The file was saved by a later version. Update this installation first.')
    const parsed = DeviceFile.safeParse(json)
    if (!parsed.success) throw new Error('The file is no configuration of a device, or not whole.')
    chosen.value = parsed.data
  })
}
const download = (file: DeviceFile) =>
  keepAs(`${file.tag || file.serial} ${file.at.slice(0, 10)}.json`, JSON.stringify(file, null, 2), 'application/json')
</script>

<template>
  <p v-if="!state.device || !state.readAt" class="quiet">
    Read the device first; then it is saved, or a file is loaded.
  </p>
  <template v-else>
    <form v-if="may" class="save" @submit.prevent="save">
      <WordsField label="Note with the file" :value="note" help="As found, before the trim …" @typed="note = $event" />
      <v-btn type="submit" color="primary" variant="flat" :loading="busy">Save what was read</v-btn>
      <PickFile label="Load a file from elsewhere" accept=".json,application/json" @picked="pick" />
    </form>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <section v-if="chosen && loads" class="load" data-test="load">
      <h2>{{ chosen.tag }}, saved {{ dayWords(chosen.at.slice(0, 10)) }} by {{ chosen.by }}</h2>
      <p v-if="!same" class="caution">
        It was saved of another device ({{ chosen.serial }}). Its constants stay its own: they are never loaded into
        this one.
      </p>
      <v-checkbox v-else v-model="withConstants" label="With the constants of this meter (each is confirmed)" />
      <p v-if="!changes.length" class="quiet">Nothing of it would change this device.</p>
      <v-table v-else aria-label="What loading it would change">
        <tbody>
          <tr v-for="p in changes" :key="p.id">
            <td>{{ p.label }}</td>
            <td class="figures">{{ shown(p, state.values[p.id]) }}</td>
            <td class="figures">
              <b>{{ shown(p, loads.values[p.id]) }}</b> {{ unitOf(p, chosen.values) }}
            </td>
          </tr>
        </tbody>
      </v-table>
      <p v-if="loads.leftOut.length" class="small quiet">
        Left out as constants: {{ loads.leftOut.map((p) => p.label).join(', ') }}.
      </p>
      <div class="do">
        <v-btn v-if="may && changes.length" variant="outlined" @click="load">Put these up to be written</v-btn>
        <v-btn variant="text" @click="chosen = undefined">Close</v-btn>
      </div>
    </section>
    <h2>Saved of this device</h2>
    <p v-if="!link.files.length" class="quiet">Nothing yet.</p>
    <ul v-else class="files">
      <li v-for="f in link.files" :key="f.id">
        <span>{{ dayWords(f.at.slice(0, 10)) }}</span>
        <span>{{ f.note || 'no note' }}</span>
        <span class="quiet">{{ f.by }}</span>
        <span class="do">
          <v-btn variant="text" @click="chosen = f">Load</v-btn>
          <v-btn variant="text" @click="download(f)">Keep as file</v-btn>
        </span>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.save {
  display: grid;
  grid-template-columns: minmax(200px, 1fr) auto minmax(240px, 1fr);
  gap: 8px 24px;
  align-items: center;
}
h2 {
  margin: 20px 0 4px;
}
.files {
  list-style: none;
  padding: 0;
}
.files li {
  display: grid;
  grid-template-columns: minmax(110px, 1fr) 2fr 1fr auto;
  gap: 4px 16px;
  align-items: center;
  border-bottom: 1px solid var(--hairline);
}
.load {
  border-left: 4px solid var(--action);
  padding-left: 16px;
  margin-top: 16px;
}
@media (max-width: 740px) {
  .save,
  .files li {
    grid-template-columns: 1fr;
  }
}
</style>
