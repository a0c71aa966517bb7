<script setup lang="ts">
// Whose device this is: tied to its loop, guided work and readings there go over this line.
import type { FoundDevice, LoopDevice, LoopRow, Port } from '@calm-loop/contract'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { call } from '../../api/client.ts'
import { useSession } from '../../stores/session.ts'
import { useDoing } from '../../widgets/doing.ts'
import WordsField from '../../widgets/WordsField.vue'

const props = defineProps<{ device: FoundDevice; port: Port }>()
const session = useSession()
const { busy, says, run } = useDoing()
const tag = ref(props.device.tag)
const loop = shallowRef<LoopRow>()
const tie = shallowRef<LoopDevice | null>()
const asked = ref('')
const isIts = computed(() => tie.value?.serial === props.device.serial && tie.value.portId === props.port.id)

/** The loop of the tag, and what is tied to it. */
async function look(): Promise<void> {
  const wanted = tag.value.trim().toLowerCase()
  loop.value = tie.value = undefined
  asked.value = tag.value.trim()
  if (!wanted) return
  const { loops } = await call('loops', { query: { q: tag.value.trim(), limit: 12 } })
  loop.value = loops.find((l) => l.tag.toLowerCase() === wanted)
  if (loop.value) tie.value = (await call('folder', { params: { loopId: loop.value.id } })).device
}
onMounted(() => run(look))
const say = (device: { portId: string; serial: string } | null) =>
  run(async () => {
    if (!loop.value) return
    tie.value = (await call('tieDevice', { params: { loopId: loop.value.id }, body: { device } })).device
  })
</script>

<template>
  <section class="tie" aria-label="Whose device it is">
    <h3>Whose device it is</h3>
    <form class="row" @submit.prevent="run(look)">
      <WordsField label="Tag of its loop" :value="tag" @typed="tag = $event" />
      <v-btn type="submit" variant="text" :loading="busy">Look for the loop</v-btn>
    </form>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <p v-else-if="asked && !loop && !busy" class="quiet">No loop has the tag {{ asked }}.</p>
    <template v-if="loop">
      <p>
        <router-link :to="`/loops/${loop.id}/range`">{{ loop.tag }}</router-link>, {{ loop.service }}.
        <template v-if="isIts">
          This is its device.
          {{
            port.kind === 'stand-in'
              ? 'It is a stand-in: it answers there once the bench is connected, and all it says is practice.'
              : 'Guided work and live values there go over this line, on record.'
          }}
        </template>
        <template v-else-if="tie">Another device is tied to it, by {{ tie.port }}.</template>
      </p>
      <div v-if="session.has('technician')" class="row">
        <v-btn
          v-if="!isIts"
          variant="outlined"
          :loading="busy"
          data-test="tie"
          @click="say({ portId: port.id, serial: device.serial })"
          >This is {{ loop.tag }}’s device</v-btn
        >
        <v-btn v-if="tie" variant="text" :loading="busy" data-test="untie" @click="say(null)"
          >Take it off the loop</v-btn
        >
      </div>
    </template>
  </section>
</template>

<style scoped>
.tie {
  margin-top: 24px;
  padding-top: 12px;
  border-top: 1px solid var(--hairline);
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
}
</style>
