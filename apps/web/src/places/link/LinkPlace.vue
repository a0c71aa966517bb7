<script setup lang="ts">
// Link: the ways to devices, and the one at hand with the device on it.
import { computed, onBeforeUnmount, onMounted, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useDoing } from '../../widgets/doing.ts'
import WorkTabs from '../../widgets/WorkTabs.vue'
import CompareValues from './CompareValues.vue'
import DescriptionList from './DescriptionList.vue'
import DeviceFiles from './DeviceFiles.vue'
import DeviceValues from './DeviceValues.vue'
import FindDevice from './FindDevice.vue'
import HistoryWork from './HistoryWork.vue'
import LineLog from './LineLog.vue'
import LinkDrawing from './LinkDrawing.vue'
import ModbusLine from './ModbusLine.vue'
import PortList from './PortList.vue'
import PortSetup from './PortSetup.vue'
import WriteBar from './WriteBar.vue'

const link = useDeviceLink()
const route = useRoute()
const { says, run } = useDoing()
const portId = computed(() => String(route.params['portId'] ?? ''))
const look = () => run(async () => (portId.value ? link.open(portId.value) : (link.leave(), link.load())))
onMounted(look)
watch(portId, look)
onBeforeUnmount(() => link.leave())
const setup = computed(() => (link.port?.line ? [{ id: 'setup', name: 'Speed and parity' }] : []))
const works = computed(() =>
  link.port?.protocol === 'modbus'
    ? [{ id: 'line', name: 'Line and registers' }, ...setup.value, { id: 'log', name: 'What was said' }]
    : [
        { id: 'find', name: 'Find' },
        { id: 'values', name: 'Values' },
        { id: 'compare', name: 'Compare' },
        { id: 'files', name: 'Files' },
        { id: 'past', name: 'Its past' },
        { id: 'descriptions', name: 'Descriptions' },
        ...setup.value,
        { id: 'log', name: 'What was said' },
      ],
)
</script>

<template>
  <section>
    <div class="place-head">
      <h1>Link</h1>
      <router-link v-if="portId" to="/link" class="back">all ports</router-link>
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <PortList v-if="!portId" />
    <template v-else-if="link.port">
      <LinkDrawing v-if="link.state" :port="link.port" :state="link.state" />
      <WorkTabs v-slot="{ work }" :works="works" label="Work on this link">
        <ModbusLine v-if="work === 'line'" :port="link.port" />
        <PortSetup v-else-if="work === 'setup'" :key="link.port.id" :port="link.port" @changed="look" />
        <LineLog v-else-if="work === 'log'" :port-id="link.port.id" />
        <template v-else-if="link.state">
          <FindDevice v-if="work === 'find'" :state="link.state" />
          <DeviceValues v-else-if="work === 'values'" :state="link.state" />
          <CompareValues v-else-if="work === 'compare'" :state="link.state" />
          <DeviceFiles v-else-if="work === 'files'" :state="link.state" />
          <HistoryWork v-else-if="work === 'past'" :state="link.state" />
          <DescriptionList v-else />
        </template>
      </WorkTabs>
      <WriteBar v-if="link.state && link.changes.length" :state="link.state" />
    </template>
  </section>
</template>

<style scoped>
.back {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
</style>
