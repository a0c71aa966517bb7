<script setup lang="ts">
// Descriptions of devices that are here, and one taken in as a file.
import { DescriptionFile, type DescriptionHead } from '@calm-loop/contract'
import { onMounted, ref } from 'vue'
import { addressOf, call } from '../../api/client.ts'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useSession } from '../../stores/session.ts'
import { useDoing } from '../../widgets/doing.ts'
import { firstWrong, jsonIn } from '../../widgets/files.ts'
import PickFile from '../../widgets/PickFile.vue'

const link = useDeviceLink()
const session = useSession()
const { says, run } = useDoing()
const all = ref<DescriptionHead[]>([])
const done = ref('')
onMounted(() => run(async () => (all.value = await call('descriptions'))))
async function pick(file: File): Promise<void> {
  done.value = ''
  await run(async () => {
    const json = await jsonIn(file)
    const parsed = DescriptionFile.safeParse(json)
    if (!parsed.success) throw new Error(`The file is no description: ${firstWrong(parsed.error.issues)}`)
    all.value = await call('importDescription', { body: parsed.data })
    done.value = `${parsed.data.name}, version ${parsed.data.version}, is here.`
    // The device at hand is read by it from now on.
    const device = link.state?.device
    if (device && device.address !== null && device.expandedType === parsed.data.matches.expandedType)
      await link.hear(await call('connectDevice', { params: link.params(), body: { address: device.address } }))
  })
}
</script>

<template>
  <p class="quiet">
    A description says which values a device has and where each is read and written. A device without one is read by its
    universal commands. The form of these files is published at
    <a :href="addressOf('descriptionSchema')">{{ addressOf('descriptionSchema') }}</a>.
  </p>
  <PickFile
    v-if="session.has('technician')"
    label="Import a description"
    accept=".json,application/json"
    @picked="pick"
  />
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <p v-if="done" class="pass" role="status">{{ done }}</p>
  <v-table aria-label="Descriptions that are here">
    <thead>
      <tr>
        <th>Device</th>
        <th class="num">Version</th>
        <th class="num">Values</th>
        <th class="num">Type</th>
        <th>From</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="d in all" :key="`${d.id} ${d.version}`">
        <td>{{ d.name }}</td>
        <td class="num">{{ d.version }}</td>
        <td class="num">{{ d.parameters }}</td>
        <td class="num">{{ d.expandedType.toString(16).padStart(4, '0') }}</td>
        <td class="quiet">{{ d.origin === 'shipped' ? 'this application' : 'imported' }}</td>
      </tr>
    </tbody>
  </v-table>
</template>
