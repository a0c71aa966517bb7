<script setup lang="ts">
// What is to be written, at the foot of the page: its cautions, constant by constant, and the act.
import type { DeviceWrite, LinkState, WriteRegister } from '@calm-loop/contract'
import { computed, ref, watch } from 'vue'
import { useDeviceLink } from '../../stores/device-link.ts'
import { useDoing } from '../../widgets/doing.ts'
import CautionBoxes from './CautionBoxes.vue'
import { BY_SITE, CAUTIONS, shown, unitOf, WRITE_WORDS } from './words.ts'

const props = defineProps<{ state: LinkState }>()
const link = useDeviceLink()
const { busy, says, run } = useDoing()
const said = ref<WriteRegister['cautions']>([])
const constants = ref<string[]>([])
const results = ref<DeviceWrite[]>([])
watch(
  () => link.changes.map((p) => p.id).join(),
  () => (constants.value = constants.value.filter((id) => link.changes.some((p) => p.id === id))),
)
const own = computed(() => link.changes.filter((p) => p.characterization))
const guarded = computed(() => props.state.values['protection'] === 1)
const ready = computed(
  () =>
    (!link.movesOutput || CAUTIONS.every(([id]) => said.value.includes(id))) &&
    own.value.every((p) => constants.value.includes(p.id)),
)
const write = () =>
  run(async () => {
    results.value = await link.write(said.value, constants.value)
    said.value = []
  })
</script>

<template>
  <form class="bar" data-test="write-bar" @submit.prevent="write">
    <h2>{{ link.changes.length }} {{ link.changes.length === 1 ? 'value' : 'values' }} to write</h2>
    <ul class="changes">
      <li v-for="p in link.changes" :key="p.id">
        {{ p.label }}
        <span class="figures"
          >{{ shown(p, state.values[p.id]) }} {{ unitOf(p, state.values) }} → <b>{{ shown(p, link.edits[p.id]) }}</b>
          {{ unitOf(p, { ...state.values, ...link.edits }) }}</span
        >
      </li>
    </ul>
    <p v-if="guarded" class="look">The device says that it is write-protected: it will refuse.</p>
    <CautionBoxes
      v-if="link.movesOutput"
      v-model="said"
      legend="The loop current moves."
      :how="BY_SITE"
      :boxes="CAUTIONS"
    />
    <CautionBoxes
      v-if="own.length"
      v-model="constants"
      legend="Constants of this one meter"
      how="are overwritten only one by one:"
      :boxes="own.map((p) => [p.id, `Overwrite ${p.label}`])"
    />
    <ul v-if="results.some((r) => r.state !== 'held')" class="changes">
      <li v-for="r in results.filter((x) => x.state !== 'held')" :key="r.parameter" class="bad">
        {{ r.label }}: {{ WRITE_WORDS[r.state] }}. {{ r.says }}
      </li>
    </ul>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <div class="do">
      <v-btn type="submit" color="primary" variant="flat" :disabled="!ready || link.busy" :loading="busy"
        >Write and read back</v-btn
      >
      <v-btn variant="text" @click="link.edits = {}">Take all back</v-btn>
    </div>
  </form>
</template>

<style scoped>
.bar {
  position: sticky;
  bottom: 0;
  z-index: 4;
  max-height: 60vh;
  overflow-y: auto;
  background: var(--sheet);
  border-top: 2px solid var(--action);
  padding: 12px 16px;
  margin-top: 24px;
}
.changes {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
@media (max-width: 1000px) {
  .bar {
    bottom: 68px;
  }
}
</style>
