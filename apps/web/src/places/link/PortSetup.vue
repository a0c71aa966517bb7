<script setup lang="ts">
// What a serial adapter speaks: protocol, speed and parity as at the device.
import type { Port, PortSetup } from '@calm-loop/contract'
import { ref } from 'vue'
import { call } from '../../api/client.ts'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { useDoing } from '../../widgets/doing.ts'

const props = defineProps<{ port: Port }>()
const emit = defineEmits<{ changed: [] }>()
const link = useDeviceLink()
const session = useSession()
const { busy, says, run } = useDoing()
const setup = ref<PortSetup>({ protocol: props.port.protocol, baud: 1200, parity: 'odd', ...props.port.line })
const PROTOCOLS = [
  { value: 'hart', label: 'HART' },
  { value: 'modbus', label: 'Modbus' },
]
const BAUDS = [1200, 2400, 4800, 9600, 19_200, 38_400, 57_600, 115_200].map((b) => ({
  value: String(b),
  label: `${b} bit/s`,
}))
const PARITIES = [
  { value: 'none', label: 'none' },
  { value: 'even', label: 'even' },
  { value: 'odd', label: 'odd' },
]
/** Another protocol begins with its own usual line. */
function speak(protocol: string): void {
  setup.value =
    protocol === 'hart'
      ? { protocol: 'hart', baud: 1200, parity: 'odd' }
      : { protocol: 'modbus', baud: 9600, parity: 'none' }
}
const save = () =>
  run(async () => {
    link.ports = await call('setUpPort', { params: link.params(), body: setup.value })
    emit('changed')
  })
</script>

<template>
  <p class="quiet">
    HART speaks 1200 bit/s with odd parity. Modbus speaks what is set at the device: look there, then choose the same
    here. Eight data bits, one stop bit.
  </p>
  <form class="edit-grid" @submit.prevent="save">
    <ChoiceField label="Speaks" :options="PROTOCOLS" :value="setup.protocol" @choose="speak" />
    <ChoiceField label="Speed" :options="BAUDS" :value="String(setup.baud)" @choose="setup.baud = Number($event)" />
    <ChoiceField
      label="Parity"
      :options="PARITIES"
      :value="setup.parity"
      @choose="setup.parity = $event as PortSetup['parity']"
    />
    <v-btn v-if="session.has('technician')" type="submit" color="primary" variant="flat" :loading="busy"
      >Use it so</v-btn
    >
  </form>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
</template>
