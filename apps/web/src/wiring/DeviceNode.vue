<script setup lang="ts">
// A device at the wiring desk: its name, and a row for each terminal with its expected volts.
import { functionWords, typeOf, type Device } from '@calm-loop/core/wiring'
import { Handle, Position } from '@vue-flow/core'
import { computed } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { useShown } from './shown.ts'

const props = defineProps<{ data: { device: Device } }>()
const desk = useDesk()
const shown = useShown()
const type = computed(() => typeOf(props.data.device))
const rows = computed(() =>
  (type.value?.terminals ?? []).map((t) => {
    const ref = `${props.data.device.id}:${t.id}`
    const v = desk.told(ref) ? desk.energised?.volts(ref) : undefined
    const mains = desk.mains?.live.has(ref) ? 'live' : desk.mains?.neutral.has(ref) ? 'neutral' : ''
    const lead =
      desk.placement && 'red' in desk.placement
        ? desk.placement.red === ref
          ? 'red'
          : desk.placement.black === ref
            ? 'black'
            : ''
        : ''
    return {
      ref,
      id: t.id,
      words: functionWords(t.does),
      reads: mains || (v === undefined ? '' : shown.volts(v)),
      lead,
      chosen: desk.chosen?.what === 'terminal' && desk.chosen.id === ref,
      from: desk.drawingFrom === ref,
    }
  }),
)
const unpowered = computed(() => desk.energised?.powered.get(props.data.device.id) === false)

function press(ref: string): void {
  if (desk.drawingFrom) desk.finish(ref)
  else desk.choose('terminal', ref)
}
</script>

<template>
  <section
    class="device"
    :class="{ marked: desk.marked.includes(data.device.id), unpowered }"
    :aria-label="`${data.device.name}, ${data.device.id}`"
  >
    <header>
      <b>{{ data.device.name }}</b>
      <span class="figures id">{{ data.device.id }}<template v-if="unpowered">, no power</template></span>
    </header>
    <div v-for="row in rows" :key="row.ref" class="row">
      <Handle :id="`${row.ref}|left`" type="source" :position="Position.Left" class="pin" />
      <button
        type="button"
        class="terminal nodrag nopan"
        :class="{ chosen: row.chosen, from: row.from }"
        :data-terminal="row.ref"
        :aria-label="`Terminal ${row.ref}, ${row.words}${row.reads ? `, ${row.reads}` : ''}`"
        @click="press(row.ref)"
        @keydown.c.prevent="desk.begin(row.ref)"
      >
        <span class="figures name">{{ row.id }}</span>
        <span v-if="row.lead" class="lead" :class="row.lead">{{ row.lead === 'red' ? 'R' : 'B' }}</span>
        <span class="figures volts">{{ row.reads }}</span>
      </button>
      <Handle :id="`${row.ref}|right`" type="source" :position="Position.Right" class="pin" />
    </div>
    <p v-if="!type" class="small bad unknown">Type not known here</p>
  </section>
</template>

<style scoped>
.device {
  width: 156px;
  box-sizing: border-box;
  background: var(--sheet);
  border: 1.5px solid var(--ink);
  border-radius: 4px;
  padding-bottom: 8px;
}
.device.marked {
  outline: 3px solid var(--stop);
}
.device.unpowered {
  border-style: dashed;
}
header {
  height: 44.5px;
  box-sizing: border-box;
  padding: 5px 12px 0;
  border-bottom: 1px solid var(--hairline);
  line-height: 17px;
  font-size: 14px;
  display: flex;
  flex-direction: column;
  white-space: nowrap;
  overflow: hidden;
}
.id {
  color: var(--second);
  font-size: 13px;
}
.row {
  position: relative;
  height: 44px;
}
.terminal {
  width: 100%;
  height: 44px;
  padding: 0 14px;
  display: flex;
  align-items: center;
  gap: 6px;
  background: none;
  border: 0;
  border-radius: 0;
  color: var(--ink);
  font: inherit;
  cursor: pointer;
}
.terminal:hover,
.terminal.chosen {
  background: color-mix(in srgb, var(--action) 12%, transparent);
}
.terminal.from {
  background: var(--action);
  color: var(--sheet);
}
.terminal:focus-visible {
  outline-offset: -3px;
}
.name {
  font-weight: 650;
  font-size: 15px;
}
.volts {
  margin-left: auto;
  font-size: 13px;
  color: var(--second);
}
.from .volts {
  color: inherit;
}
.lead {
  width: 20px;
  height: 20px;
  border-radius: 50%;
  font-size: 12px;
  line-height: 20px;
  text-align: center;
  border: 1.5px solid var(--ink);
}
.lead.red {
  background: #c8261f;
  color: #fff;
}
.lead.black {
  background: #1b1b1b;
  color: #fff;
}
.pin {
  width: 13px;
  height: 13px;
  background: var(--sheet);
  border: 2px solid var(--ink);
  border-radius: 50%;
  min-width: 0;
  min-height: 0;
  z-index: 2;
}
/* A finger finds it too. */
.pin::after {
  content: '';
  position: absolute;
  inset: -10px -12px;
}
.unknown {
  padding: 8px 12px 0;
}
</style>
