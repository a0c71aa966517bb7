<script setup lang="ts">
// The loop’s own device over its line: what it tells of itself, and what nobody has seen but it.
import { computed } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useLive } from '../stores/live.ts'
import { usePreferences } from '../stores/preferences.ts'
import { useTrim } from '../stores/trim.ts'
import { FLAG_WORDS } from '../widgets/device-flags.ts'
import HeldByDevice from './HeldByDevice.vue'

const folder = useFolder()
const live = useLive()
const trim = useTrim()
const preferences = usePreferences()
const c = computed(() => trim.known)
const device = computed(() => folder.view?.device)
const value = computed(() => {
  const knot = c.value?.digital
  const v = knot && live.reading?.knots[knot.id]
  return knot && v !== undefined ? preferences.quantity(v, knot.unit, { decimals: knot.decimals + 1 }) : 'no value'
})
const believes = computed(() => {
  const mA = live.reading?.believes?.mA
  return mA === undefined || mA === null ? 'no value' : preferences.quantity(mA, 'mA', { decimals: 3 })
})
/** What the device holds, where the record says otherwise. */
const differs = computed(() => {
  const [held, k] = [trim.device?.held, c.value]
  if (!held || !k) return ''
  const near = (a: number, b: number) => Math.abs(a - b) <= 1e-6 * Math.max(Math.abs(k.lrv), Math.abs(k.urv))
  const q = (v: number) => preferences.quantity(v, k.digital.unit, { trim: true })
  return near(held.lrv, k.lrv) && near(held.urv, k.urv) ? '' : `${q(k.lrv)} to ${q(k.urv)}`
})
const flags = computed(() => (live.reading?.believes?.flags ?? []).map((f) => FLAG_WORDS[f] ?? f))
</script>

<template>
  <div v-if="device && c" data-test="linked-device">
    <figure>
      <svg
        class="worded"
        viewBox="0 0 760 150"
        role="img"
        :aria-label="`Over ${device.port} the device tells ${value}, and believes in ${believes}.`"
      >
        <path d="M150 66 H610" class="line" />
        <circle v-for="x in [230, 270, 310, 450, 490, 530]" :key="x" :cx="x" cy="66" r="2.5" class="bit" />
        <rect x="90" y="38" width="60" height="56" rx="4" class="thing" />
        <path d="M610 44 h44 l12 22 l-12 22 h-44 z" class="thing" />
        <text x="120" y="24" class="mid small">{{ c.digital.name }}</text>
        <text x="120" y="118" class="mid figures live">{{ value }}</text>
        <text x="380" y="44" class="mid small">{{ device.port }}</text>
        <text x="380" y="96" class="mid figures small">{{ device.serial }}</text>
        <text x="638" y="24" class="mid small">current, as it believes</text>
        <text x="638" y="118" class="mid figures live">{{ believes }}</text>
        <text x="380" y="144" class="mid small" :class="{ needs: flags.length }">
          {{ flags.length ? flags.join('; ') : 'what flows in the loop, a meter tells' }}
        </text>
      </svg>
    </figure>
    <p v-if="live.problem" class="bad" role="alert">{{ live.problem }}</p>
    <p v-if="differs" class="look" role="status" data-test="range-differs">
      On record stands another range than in the device: {{ differs }}. Lead a Range change, or correct the record under
      Range.
    </p>
    <p class="small">
      Found, read and written whole under
      <router-link :to="`/link/${device.portId}`">Link</router-link>.
    </p>
    <HeldByDevice />
  </div>
</template>

<style scoped>
figure {
  margin: 0 0 8px;
}
.line {
  stroke: var(--ink);
  stroke-width: 2;
}
.bit {
  fill: var(--signal);
}
.thing {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.live {
  fill: var(--signal) !important;
  font-size: 19px !important;
}

.look {
  color: var(--look);
}
</style>
