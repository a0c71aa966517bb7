<script setup lang="ts">
// Who is there: addresses asked one after the other, or a tag; what came, and what to try when nothing does.
import type { LinkState } from '@calm-loop/contract'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { call } from '../../api/client.ts'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useSession } from '../../stores/session.ts'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'
import TieDevice from './TieDevice.vue'
import { OUTCOMES } from './words.ts'

const props = defineProps<{ state: LinkState }>()
const link = useDeviceLink()
const session = useSession()
const { busy, says, run } = useDoing()
const route = useRoute()
const tag = ref(typeof route.query['tag'] === 'string' ? route.query['tag'] : '')
const may = computed(() => session.has('technician'))
/** The loop of this tag, if there is one: its circuit says what to try. */
async function loopOf(): Promise<{ loopId?: string }> {
  const wanted = tag.value.trim().toLowerCase()
  if (!wanted) return {}
  const { loops } = await call('loops', { query: { q: tag.value.trim(), limit: 12 } }).catch(() => ({ loops: [] }))
  const found = loops.find((l) => l.tag.toLowerCase() === wanted)
  return found ? { loopId: found.id } : {}
}
const ask = (body: { from?: number; to?: number; tag?: string }) =>
  run(async () => call('probePort', { params: link.params(), body: { ...body, ...(await loopOf()) } }))
const probe = (to: number) => ask({ from: 0, to })
const byTag = () => ask({ tag: tag.value.trim().toUpperCase().slice(0, 8) })
const take = (address: number) => run(() => call('connectDevice', { params: link.params(), body: { address } }))
const stop = () => run(() => call('stopLink', { params: link.params() }))
const leave = () => run(() => call('leaveDevice', { params: link.params() }))
const d = computed(() => props.state.device)
</script>

<template>
  <p v-if="!may" class="quiet">A technician finds and reads devices; you see what is there.</p>
  <div v-else class="ask">
    <div class="do">
      <v-btn v-if="state.doing !== 'probing'" color="primary" variant="flat" :disabled="link.busy" @click="probe(15)"
        >Find the device</v-btn
      >
      <v-btn v-else variant="outlined" data-test="stop" @click="stop">Stop asking</v-btn>
      <v-btn v-if="state.doing !== 'probing'" variant="text" :disabled="link.busy" @click="probe(63)"
        >Ask all 64 addresses</v-btn
      >
      <v-btn v-if="state.device" variant="text" :disabled="link.busy" @click="leave">Let the port go</v-btn>
    </div>
    <form class="tag" @submit.prevent="byTag">
      <WordsField label="Its tag" :value="tag" @typed="tag = $event" />
      <v-btn type="submit" variant="text" :disabled="!tag.trim() || link.busy" :loading="busy">Ask for the tag</v-btn>
    </form>
  </div>
  <p v-if="says" class="bad" role="alert">{{ says }}</p>
  <p v-if="state.doing === 'probing'" role="status" class="quiet">
    Asked {{ state.probed.length }} of its addresses, a third of a second each when nothing comes.
  </p>
  <v-table v-if="state.probed.length" class="probed" aria-label="Addresses asked">
    <thead>
      <tr>
        <th class="num">Address</th>
        <th>What came</th>
        <th>Tag</th>
        <th class="num">Took</th>
        <th><span class="visually-hidden">Take it</span></th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="p in state.probed" :key="p.address" :data-address="p.address">
        <td class="num">{{ p.address }}</td>
        <td :class="p.outcome === 'device' ? '' : 'quiet'">{{ OUTCOMES[p.outcome] }}</td>
        <td class="figures">{{ p.tag }}</td>
        <td class="num">{{ p.took_ms }} ms</td>
        <td>
          <v-btn
            v-if="may && p.outcome === 'device' && d?.address !== p.address"
            variant="text"
            :disabled="link.busy"
            @click="take(p.address)"
            >Take it</v-btn
          >
        </td>
      </tr>
    </tbody>
  </v-table>
  <section v-if="state.tryNext.length" class="caution" data-test="next-things">
    <h3>Nothing answers. Try, in this order</h3>
    <ol>
      <li v-for="t in state.tryNext" :key="t">{{ t }}</li>
    </ol>
  </section>
  <dl v-if="d" class="identity">
    <div>
      <dt>Tag</dt>
      <dd class="figures">{{ d.tag || 'none' }}</dd>
    </div>
    <div>
      <dt>Read by</dt>
      <dd>
        {{ d.description.name
        }}<template v-if="d.description.id !== 'universal'">, version {{ d.description.version }}</template>
      </dd>
    </div>
    <div>
      <dt>Unique address</dt>
      <dd class="figures">{{ d.longAddress }}</dd>
    </div>
    <div>
      <dt>Polling address</dt>
      <dd class="figures">{{ d.address ?? 'not told' }}</dd>
    </div>
    <div>
      <dt>Revisions</dt>
      <dd class="figures">
        device {{ d.deviceRevision }}, software {{ d.softwareRevision }}, HART {{ d.universalRevision }}
      </dd>
    </div>
    <div>
      <dt>Changed so far</dt>
      <dd class="figures">
        {{ d.configurationCounter ?? 'not told' }}<template v-if="d.configurationCounter !== null"> times</template>
      </dd>
    </div>
    <div>
      <dt>Keeps what is written</dt>
      <dd>{{ d.forgetful ? 'only when it is told to store' : 'at once' }}</dd>
    </div>
  </dl>
  <TieDevice v-if="d && link.port" :key="d.serial" :device="d" :port="link.port" />
</template>

<style scoped>
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 32px;
  align-items: center;
}
.tag {
  display: flex;
  flex: 0 1 340px;
  align-items: center;
  gap: 8px;
}
.probed {
  max-width: 720px;
}
.identity {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(230px, 1fr));
  gap: 12px 24px;
  margin: 20px 0 0;
}
dt {
  font-size: 14px;
  color: var(--second);
}
dd {
  margin: 0;
}
ol {
  margin: 4px 0 0;
  padding-left: 20px;
}
</style>
