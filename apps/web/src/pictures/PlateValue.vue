<script setup lang="ts">
// One value of a plate: its cutting enlarged, its signs with those that are in doubt marked, and what it is entered as.
import type { Box, Proposal } from '@calm-loop/core/plate'
import { computed, onMounted, ref, useTemplateRef } from 'vue'
import { sure } from '@calm-loop/core/sure'
import ChoiceField from '../widgets/ChoiceField.vue'
import WordsField from '../widgets/WordsField.vue'

const props = defineProps<{
  proposal: Proposal
  picture: ImageBitmap | undefined
  box: Box
  times: number
  options: readonly { readonly value: string; readonly label: string }[]
  now: (key: string) => string
}>()
const emit = defineEmits<{ take: [key: string, text: string] }>()
/** Points of the page that a cutting is high, and how much of its surroundings it shows, of its own height. */
const HIGH = 56
const AROUND = 0.35
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const key = ref(props.options.some((o) => o.value === props.proposal.key) ? (props.proposal.key ?? '') : '')
const text = ref(props.proposal.typed)
const signs = computed(() => [...props.proposal.typed].map((sign, i) => ({ sign, doubt: props.proposal.doubt[i] })))
const doubted = computed(() => props.proposal.doubt.filter(Boolean).length)
const stands = computed(() => (key.value ? props.now(key.value) : ''))
const done = computed(() => stands.value === text.value && text.value !== '')
onMounted(() => {
  const [of, picture] = [canvas.value, props.picture]
  const at = of?.getContext('2d')
  if (!of || !at || !picture) return
  const { x0, y0, x1, y1 } = props.box
  const more = (y1 - y0) * AROUND
  const [x, y] = [(x0 - more) * props.times, (y0 - more) * props.times]
  const [width, height] = [(x1 - x0 + 2 * more) * props.times, (y1 - y0 + 2 * more) * props.times]
  of.width = Math.max(1, Math.round((2 * HIGH * width) / height))
  of.height = 2 * HIGH
  at.drawImage(picture, x, y, width, height, 0, 0, of.width, of.height)
})
const take = () => emit('take', sure(key.value), text.value.trim())
</script>

<template>
  <li :data-value="proposal.typed" :class="{ done }">
    <canvas ref="canvas" role="img" :aria-label="`Cutting of the plate: ${proposal.typed}`" />
    <p class="read figures">
      <span class="quiet small">{{ proposal.label || 'on the plate' }}</span>
      <template v-for="(s, i) in signs" :key="i"
        ><mark v-if="s.doubt">{{ s.sign }}</mark
        ><template v-else>{{ s.sign }}</template></template
      >
      <span v-if="doubted" class="look small">{{ doubted === 1 ? 'one sign' : `${doubted} signs` }} to look at</span>
    </p>
    <WordsField
      :label="proposal.label ? `${proposal.label}, as it stands on the plate` : 'As it stands on the plate'"
      :value="text"
      @typed="text = $event.slice(0, 80)"
    />
    <ChoiceField label="It is" :options="options" :value="key" needed @choose="key = $event" />
    <p class="small quiet now">
      <template v-if="done">Entered.</template>
      <template v-else-if="stands">Now: {{ stands }}</template>
    </p>
    <v-btn :disabled="!key || !text.trim() || done" data-test="take-value" @click="take">
      {{ done ? 'Taken' : 'Take it' }}
    </v-btn>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 4px 16px;
  align-items: center;
  border-top: 1px solid var(--hairline);
  padding: 10px 0;
}
canvas {
  height: 56px;
  max-width: 100%;
  object-fit: contain;
  object-position: left;
  grid-column: 1 / -1;
  justify-self: start;
}
.read {
  margin: 0;
  font-size: 20px;
  overflow-wrap: anywhere;
}
.read .small {
  display: block;
}
mark {
  background: none;
  color: var(--look);
  border-bottom: 3px solid var(--look);
}
.look {
  color: var(--look);
}
.now {
  grid-column: 2 / 4;
  grid-row: 3;
  margin: 0;
}
@media (max-width: 740px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
  .now {
    grid-column: 1;
    grid-row: auto;
  }
}
</style>
