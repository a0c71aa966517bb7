<script setup lang="ts">
// The couple from its hot junction through the head and the cable to the terminals: what each part gives, where its
// metals change, and what arrives.
import { coupleOf } from '@calm-loop/core/kinds/thermocouple'
import { convertUnit } from '@calm-loop/core/quantity'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const thread = useThread()
const preferences = usePreferences()
const r = computed(() => sure(folder.reader))
const couple = computed(() => coupleOf(r.value))
const unit = computed(() => thread.thread?.knots[0]?.unit ?? 'degC')
const show = (c: number | undefined) =>
  c === undefined
    ? ''
    : preferences.quantity(convertUnit(c, 'degC', unit.value), unit.value, { decimals: 1, trim: true })
const known = (i: number) => {
  const k = thread.expected[i]
  const knot = thread.thread?.knots[i]
  return k?.known && knot ? preferences.quantity(k.value, knot.unit, { decimals: knot.decimals }) : ''
}
const inHead = computed(() => r.value.text('cable') === 'none')
const crossed = computed(() => (inHead.value ? 'right' : r.value.text('crossed')))
const cableName = computed(() => {
  const c = couple.value
  if (inHead.value) return 'no cable: transmitter in the head'
  if (!c) return ''
  return c.cable === 'copper' ? 'copper' : `cable of type ${c.cable}`
})
const wrong = computed(() => !!couple.value && couple.value.cable !== couple.value.type)
/** Where a core lies at each end of the cable: upper or lower. */
const ends = computed(() => ({
  left: crossed.value === 'right' ? 0 : 1,
  right: crossed.value === 'both' ? 1 : 0,
}))
const title = computed(
  () =>
    `Thermocouple type ${r.value.text('type') || 'not entered'}, ${cableName.value || 'cable not entered'}, ` +
    `head at ${show(couple.value?.head)}, terminals at ${show(couple.value?.terminals)}; process ${known(0)}, ` +
    `at the terminals ${known(1)}`,
)
</script>

<template>
  <figure class="couple">
    <svg class="worded" viewBox="0 0 780 300" role="img" :aria-label="title">
      <path d="M30 40V260M150 40V260" class="pipe" />
      <path d="M60 248V196M54 204l6 -10l6 10" class="flow" />
      <text x="90" y="30" class="mid small">process</text>
      <circle cx="104" cy="150" r="6" class="junction" />
      <path d="M104 150C130 150 130 132 160 132H262" class="plus" />
      <path d="M104 150C130 150 130 168 160 168H262" class="minus" />
      <text x="206" y="120" class="mid small">+</text>
      <text x="206" y="190" class="mid small">−</text>
      <text x="206" y="226" class="mid">
        {{ r.text('type') ? `type ${r.text('type')}` : '' }}
      </text>
      <text v-if="!r.text('type')" x="206" y="226" class="mid needs">needs its type</text>

      <rect x="262" y="104" width="70" height="92" rx="4" class="head" />
      <text x="297" y="92" class="mid">head</text>
      <text x="297" y="220" class="mid figures small">{{ show(couple?.head) }}</text>

      <template v-if="!inHead">
        <path
          :d="`M332 ${ends.left ? 168 : 132}H520L548 ${ends.right ? 168 : 132}H566`"
          class="cable"
          :class="{ wrong }"
        />
        <path
          :d="`M332 ${ends.left ? 132 : 168}H520L548 ${ends.right ? 132 : 168}H566`"
          class="cable thin"
          :class="{ wrong }"
        />
        <text x="440" y="112" class="mid" :class="{ bad: wrong }">{{ cableName }}</text>
        <text v-if="!cableName" x="440" y="112" class="mid needs">needs its cable</text>
        <text v-if="crossed !== 'right'" x="440" y="204" class="mid bad">
          crossed at {{ crossed === 'both' ? 'both ends' : 'one end' }}
        </text>
      </template>
      <text v-else x="440" y="155" class="mid small">{{ cableName }}</text>

      <rect x="566" y="96" width="150" height="108" rx="4" class="head" />
      <text x="641" y="84" class="mid">terminals, transmitter</text>
      <circle cx="578" cy="132" r="4" class="terminal" />
      <circle cx="578" cy="168" r="4" class="terminal" />
      <text x="590" y="137" class="small">+</text>
      <text x="590" y="173" class="small">−</text>
      <text x="652" y="156" class="mid figures">{{ known(1) }}</text>
      <text x="641" y="228" class="mid figures small">{{ show(couple?.terminals) }}</text>
      <text x="641" y="250" class="mid small">
        {{ r.text('compensation') === 'fixed' ? `taken as ${show(couple?.compensated)}` : 'measured, and added' }}
      </text>
      <text x="90" y="284" class="mid live figures">{{ known(0) }}</text>
      <text x="641" y="284" class="mid figures">reported {{ known(2) }}</text>
    </svg>
  </figure>
</template>

<style scoped>
.couple {
  margin: 0;
  max-width: 800px;
}
.pipe,
.head {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.head {
  fill: var(--sheet);
}
.plus,
.minus,
.cable {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.4;
}
.minus,
.thin {
  stroke-dasharray: 7 3;
}
.cable.wrong {
  stroke: var(--stop);
}
.flow {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.4;
}
.junction,
.terminal {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.bad {
  fill: var(--stop);
}
</style>
