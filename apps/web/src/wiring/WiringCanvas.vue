<script setup lang="ts">
// The wiring as terminals and conductors. Dragging from terminal to terminal connects; dragging a conductor's end
// lands it elsewhere.
import { landConductor, connect, terminalsOf, typeOf } from '@calm-loop/core/wiring'
import { boxHeight, sidesOf } from '@calm-loop/drawing'
import {
  ConnectionMode,
  VueFlow,
  useVueFlow,
  type Connection,
  type Edge,
  type EdgeUpdateEvent,
  type Node,
} from '@vue-flow/core'
import '@vue-flow/core/dist/style.css'
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { useDesk } from '../stores/desk.ts'
import ConductorEdge from './ConductorEdge.vue'
import DeviceNode from './DeviceNode.vue'
import { useWiringLayout } from './layout.ts'
import { useShown } from './shown.ts'
import { sure } from '@calm-loop/core/sure'

const desk = useDesk()
const { volts } = useShown()
const { fitView, setViewport, viewport } = useVueFlow('wiring')
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
// In steps, so that a scroll bar that comes and goes does not lay everything out again.
const room = computed(() => Math.floor(width.value / 40) * 40)
const layout = useWiringLayout(toRef(desk, 'wiring'), room)

/**
 * As high as the devices need: the tallest of each place, and in the cabinet earth bar and mains feed below it. It
 * follows from the
 * devices alone, at once: a height that came with the layout would move the entries below away from under the finger.
 */
const GAP = 28
const height = computed(() => {
  const devices = desk.wiring?.devices ?? []
  const below = devices.filter((d) => ['earth', 'mains'].includes(typeOf(d)?.role ?? ''))
  const stacked = below.reduce((sum, d) => sum + boxHeight(d) + GAP, 0)
  const needs = devices
    .filter((d) => !below.includes(d))
    .map((d) => boxHeight(d) + (typeOf(d)?.place === 'cabinet' ? stacked : 0) + GAP)
  return Math.min(680, Math.max(420, ...needs))
})

// The graph library measures a device anew whenever it is handed over anew: only when it, or its place, is another one.
let handed = ''
const nodes = computed<Node[]>((before) => {
  const w = desk.wiring
  if (!w || !layout.value) return []
  const key = JSON.stringify([w.devices, layout.value.devices, desk.mayChange])
  if (before && key === handed) return before
  handed = key
  return w.devices.map((device, i) => {
    const placed = sure(layout.value).devices.find((p) => p.id === device.id)
    return {
      id: device.id,
      type: 'device',
      // A device that the layout does not know yet stands below until it does.
      position: placed ? { x: placed.x, y: placed.y } : { x: 20 + i * 24, y: sure(layout.value).height },
      data: { device },
      draggable: false,
      selectable: false,
      focusable: false,
      connectable: desk.mayChange,
    }
  })
})
const edges = computed<Edge[]>(() => {
  const w = desk.wiring
  if (!w || !layout.value) return []
  const spots = terminalsOf(w)
  return w.conductors
    .filter((c) => spots.has(c.from) && spots.has(c.to))
    .map((conductor) => {
      const sides = sidesOf(w, conductor.from, conductor.to)
      return {
        id: conductor.id,
        type: 'conductor',
        source: sure(conductor.from.split(':')[0]),
        target: sure(conductor.to.split(':')[0]),
        sourceHandle: `${conductor.from}|${sides.fromSide}`,
        targetHandle: `${conductor.to}|${sides.toSide}`,
        data: {
          conductor,
          placed: sure(layout.value).conductors.find((p) => p.id === conductor.id),
        },
        updatable: desk.mayChange,
        focusable: false,
        interactionWidth: 0,
      }
    })
})
const terminal = (handle: string | null | undefined) => handle?.split('|')[0] ?? ''

function connected({ sourceHandle, targetHandle }: Connection): void {
  desk.drawingFrom = ''
  if (desk.change((w) => connect(w, terminal(sourceHandle), terminal(targetHandle))))
    desk.choose('conductor', sure(sure(desk.wiring).conductors.at(-1)).id)
}
function moved({ edge, connection }: EdgeUpdateEvent): void {
  const conductor = desk.wiring?.conductors.find((c) => c.id === edge.id)
  if (!conductor) return
  // In loose mode the two ends may come back exchanged: the one that is no longer there was moved to the one that is
  // new.
  const ends = [terminal(connection.sourceHandle), terminal(connection.targetHandle)]
  const end = ends.includes(conductor.from) ? 'to' : 'from'
  const kept = end === 'to' ? conductor.from : conductor.to
  const landed = ends.find((ref) => ref !== kept) ?? kept
  if (desk.change((w) => landConductor(w, edge.id, end, landed))) desk.choose('conductor', edge.id)
}

const fit = () => fitView({ padding: 0.02, maxZoom: 1.15, minZoom: 0.3 })
watch([layout, width, height], () => void nextTick(() => setTimeout(() => void fit(), 0)), { flush: 'post' })
const zoom = (by: number) => void setViewport({ ...viewport.value, zoom: viewport.value.zoom * by })
const count = computed(() => `${desk.wiring?.devices.length ?? 0} devices, ${edges.value.length} conductors`)
const words = computed(() => `Wiring, ${count.value}. The terminal list below says the same in words.`)
</script>

<template>
  <div
    ref="box"
    class="canvas"
    :style="{ height: `${height}px` }"
    role="group"
    :aria-label="words"
    :data-ready="layout ? 'yes' : 'no'"
  >
    <VueFlow
      id="wiring"
      :nodes="nodes"
      :edges="edges"
      :connection-mode="ConnectionMode.Loose"
      :nodes-draggable="false"
      :elements-selectable="false"
      :edges-updatable="desk.mayChange"
      :edge-updater-radius="14"
      :connection-radius="26"
      :zoom-on-scroll="false"
      :prevent-scrolling="false"
      :zoom-on-double-click="false"
      :min-zoom="0.3"
      :max-zoom="2"
      :connect-on-click="false"
      :delete-key-code="null"
      fit-view-on-init
      @connect="connected"
      @edge-update="moved"
      @pane-click="desk.drawingFrom = ''"
    >
      <template #node-device="node"><DeviceNode :data="node.data" /></template>
      <template #edge-conductor="edge"><ConductorEdge v-bind="edge" /></template>
    </VueFlow>
    <p v-if="!layout" class="quiet waiting" role="status">Laying out the drawing</p>
  </div>
  <div class="foot">
    <div>
      <p class="small quiet"><slot /></p>
      <p v-if="desk.potentials" class="small scale" aria-label="Shades of the conductors">
        <span class="figures">{{ volts(desk.potentials.low) }}</span>
        <i aria-hidden="true"></i>
        <span class="figures">{{ volts(desk.potentials.high) }}</span>
        <span class="quiet">a conductor in one shade loses nothing; where the shade jumps, the volts are</span>
      </p>
      <p v-else-if="desk.shaded" class="small quiet">No volts can be told, so nothing is shaded.</p>
    </div>
    <div class="zoom" role="group" aria-label="Size of the drawing">
      <button type="button" aria-label="Larger" @click="zoom(1.25)">+</button>
      <button type="button" aria-label="Smaller" @click="zoom(0.8)">−</button>
      <button type="button" class="whole" @click="fit()">whole</button>
    </div>
  </div>
</template>

<style scoped>
.canvas {
  position: relative;
  contain: strict;
  width: 100%;
}
.canvas :deep(.vue-flow__edges) {
  overflow: visible;
}
.canvas :deep(.vue-flow__pane) {
  cursor: default;
}
.canvas :deep(.vue-flow__connection-path) {
  stroke: var(--action);
  stroke-width: 4;
  stroke-dasharray: 6 5;
}
.canvas :deep(.vue-flow__edgeupdater) {
  cursor: grab;
}
.zoom {
  display: flex;
}
.foot {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
}
.foot p {
  margin: 0;
}
.scale {
  display: flex;
  gap: 8px;
  align-items: center;
  flex-wrap: wrap;
}
.scale i {
  width: 140px;
  height: 12px;
  border-radius: 6px;
  background: linear-gradient(in oklab to right, var(--low), var(--high));
}
.zoom button {
  min-width: 44px;
  min-height: 44px;
  border: 0;
  background: none;
  color: var(--second);
  font: inherit;
  font-size: 18px;
  cursor: pointer;
}
.zoom .whole {
  font-size: 14px;
  text-decoration: underline;
  text-underline-offset: 3px;
}
.waiting {
  position: absolute;
  inset: 40% 0 auto;
  text-align: center;
}
</style>
