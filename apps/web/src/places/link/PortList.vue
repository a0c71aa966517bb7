<script setup lang="ts">
// The ways to devices: adapters by what they carry, gateways, and stand-ins to practise on.
import { ref } from 'vue'
import { useRoute } from 'vue-router'
import { call } from '../../api/client.ts'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useSession } from '../../stores/session.ts'
import ChoiceField from '../../widgets/ChoiceField.vue'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'

const link = useDeviceLink()
const route = useRoute()
const session = useSession()
const { busy, says, run } = useDoing()
const adding = ref<{ label: string; host: string; port: string; protocol: 'hart' | 'modbus' }>()
const KINDS = { serial: 'adapter', gateway: 'gateway', 'stand-in': 'stand-in, to practise' }
const PROTOCOLS = [
  { value: 'hart', label: 'HART' },
  { value: 'modbus', label: 'Modbus' },
]
const save = () =>
  run(async () => {
    if (!adding.value) return
    link.ports = await call('addGateway', { body: { ...adding.value, port: Number(adding.value.port) } })
    adding.value = undefined
  })
</script>

<template>
  <p class="quiet">
    Take the port that your modem or adapter hangs on. An adapter is known again by its own serial number, whatever name
    it gets where it is plugged in.
  </p>
  <ul class="ports">
    <li v-for="p in link.ports" :key="p.id">
      <router-link :to="{ path: `/link/${p.id}`, query: route.query }" class="port" :data-port="p.label">
        <b>{{ p.label }}</b>
        <span class="quiet">{{ KINDS[p.kind] }}, {{ p.protocol === 'hart' ? 'HART' : 'Modbus' }}</span>
        <span class="figures quiet">{{ p.at }}</span>
        <span v-if="p.adapter" class="small quiet figures">{{ p.adapter }}</span>
        <span v-if="p.movedFrom" class="small look">was at {{ p.movedFrom }}</span>
      </router-link>
    </li>
  </ul>
  <p v-if="!link.ports.length" class="quiet">No port is here. Plug in a modem or an adapter, then look again.</p>
  <div class="do">
    <v-btn variant="outlined" :loading="busy" @click="run(link.load)">Look again</v-btn>
    <v-btn
      v-if="session.hasDuty('limits') && !adding"
      variant="text"
      @click="adding = { label: '', host: '', port: '', protocol: 'hart' }"
      >Add a gateway</v-btn
    >
  </div>
  <form v-if="adding" class="edit-grid" @submit.prevent="save">
    <WordsField label="Name" :value="adding.label" needed @typed="adding.label = $event" />
    <WordsField label="Host" :value="adding.host" needed @typed="adding.host = $event" />
    <WordsField label="Port" :value="adding.port" needed @typed="adding.port = $event" />
    <ChoiceField
      label="Speaks"
      :options="PROTOCOLS"
      :value="adding.protocol"
      @choose="adding.protocol = $event as 'hart' | 'modbus'"
    />
    <div class="do">
      <v-btn type="submit" color="primary" variant="flat" :loading="busy">Save gateway</v-btn>
      <v-btn variant="text" @click="adding = undefined">Leave it</v-btn>
    </div>
  </form>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
</template>

<style scoped>
.ports {
  list-style: none;
  padding: 0;
  margin: 12px 0;
}
.port {
  display: grid;
  grid-template-columns: minmax(150px, 1fr) minmax(150px, 1fr) minmax(0, 1.4fr) auto auto;
  gap: 4px 20px;
  align-items: center;
  min-height: 56px;
  border-bottom: 1px solid var(--hairline);
  text-decoration: none;
  color: var(--ink) !important;
  overflow-wrap: anywhere;
}
.port:hover b {
  text-decoration: underline;
}
@media (max-width: 740px) {
  .port {
    grid-template-columns: 1fr;
    padding: 8px 0;
  }
}
</style>
