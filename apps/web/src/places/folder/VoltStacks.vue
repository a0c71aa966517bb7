<script setup lang="ts">
// Where the volts go: the supply as a column at 4, 20 and the highest current, cut into shunt, cable, other parts, and
// what is left for the transmitter against its lift-off.
import { voltsSpent } from '@calm-loop/core/circuit'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useAfterFrame } from '../../widgets/afterFrame.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const BASE = 212
const TOP = 30
const reader = computed(() => sure(folder.reader))
const wiring = computed(() => sure(folder.current).electrical)
const supply = computed(() => wiring.value.supplied?.openV ?? reader.value.in('supply', 'V'))
const liftOff = computed(() => reader.value.in('liftOff', 'V'))
const volts = (v: number) => preferences.quantity(v, 'V', { decimals: 1 })
const scale = computed(() => (BASE - TOP) / Math.max(1, supply.value ?? 0, liftOff.value ?? 0))

const stacks = useAfterFrame(() => {
  const supplyV = supply.value
  if (supplyV === undefined || supplyV <= 0) return []
  const { supplied, cableOhm, maxmA } = wiring.value
  const named = [
    { name: 'shunt', ohm: reader.value.in('shunt', 'Ohm') },
    { name: 'cable', ohm: cableOhm },
  ]
  const top = BASE - supplyV * scale.value
  return voltsSpent({ supplyV, named, outsideOhm: supplied?.outsideOhm, currents_mA: [4, 20, maxmA] }).map((s, i) => {
    let at = BASE
    const cut = s.parts.map(({ name, V }) => {
      const h = Math.min(V * scale.value, at - TOP)
      at -= h
      return { name, y: at, h }
    })
    return {
      ...s,
      x: 78 + i * 122,
      cut,
      y: top,
      h: Math.max(0, at - top),
      short: s.leftV < (liftOff.value ?? -Infinity),
    }
  })
})
const title = computed(
  () =>
    stacks.value.map((s) => `At ${s.mA} mA ${volts(s.leftV)} are left for the transmitter.`).join(' ') ||
    'Where the volts go: enter the loop supply first.',
)
</script>

<template>
  <svg viewBox="0 0 440 250" role="img" :aria-label="title" class="stacks">
    <text x="0" y="16" class="head">Where the volts go</text>
    <template v-if="stacks.length">
      <g v-for="s in stacks" :key="s.x">
        <rect :x="s.x" :y="s.y" width="64" :height="s.h" class="left" :class="{ short: s.short }" />
        <text :x="s.x + 32" :y="s.y + 24" class="figure" :class="{ short: s.short }">
          {{ volts(s.leftV) }}
        </text>
        <g v-for="c in s.cut" :key="c.name">
          <rect :x="s.x" :y="c.y" width="64" :height="c.h" class="part" :class="c.name" />
          <text v-if="c.h > 11" :x="s.x + 70" :y="c.y + c.h / 2 + 5" class="small">{{ c.name }}</text>
        </g>
        <template v-if="liftOff !== undefined">
          <line :x1="s.x - 8" :x2="s.x + 72" :y1="s.y + liftOff * scale" :y2="s.y + liftOff * scale" class="lift" />
        </template>
        <text :x="s.x + 32" y="234" class="figure">
          {{ preferences.quantity(s.mA, 'mA', { decimals: 1, trim: true }) }}
        </text>
      </g>
      <text x="70" :y="(stacks[0]?.y ?? 0) + 14" class="end small">left for the</text>
      <text x="70" :y="(stacks[0]?.y ?? 0) + 31" class="end small">transmitter</text>
      <text v-if="liftOff !== undefined" x="66" :y="(stacks[0]?.y ?? 0) + liftOff * scale + 5" class="end small look">
        lift-off
      </text>
    </template>
    <text v-else x="0" y="120" class="lacking">needs loop supply</text>
  </svg>
</template>

<style scoped>
.stacks {
  width: 100%;
  max-width: 520px;
}
text {
  font-size: 15px;
  fill: var(--ink);
}
.head {
  font-weight: 650;
  font-size: 16px;
}
.small {
  font-size: 14px;
  fill: var(--second);
}
.end {
  text-anchor: end;
}
.figure {
  font-family: var(--figures);
  text-anchor: middle;
  font-weight: 600;
}
.left {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.6;
}
.left.short {
  stroke: var(--stop);
  stroke-dasharray: 5 3;
}
text.short {
  fill: var(--stop);
}
.part {
  stroke: var(--ink);
  stroke-width: 1;
  fill: var(--hairline);
}
.cable {
  fill: var(--second);
}
.other {
  fill: var(--sheet);
}
.lift {
  stroke: var(--look);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.look {
  fill: var(--look);
}
.lacking {
  fill: var(--look);
}
</style>
