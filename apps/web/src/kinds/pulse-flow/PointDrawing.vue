<script setup lang="ts">
// The meter in its pipe, the train of its pulses, and the counter and card that take them.
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
const principle = computed(() => r.value.text('principle'))
const known = (role: string) => {
  const i = thread.thread?.knots.findIndex((k) => k.role === role) ?? -1
  const k = thread.expected[i]
  const knot = thread.thread?.knots[i]
  return k?.known && knot
    ? { value: k.value, words: preferences.quantity(k.value, knot.unit, { decimals: knot.decimals }) }
    : undefined
}
const hertz = computed(() => known('sensor'))
const current = computed(() => known('current'))
const factor = computed(() => folder.study?.figures.find((f) => f.id === 'one-pulse')?.value)
const most = computed(() => r.value.in('inputMost', 'Hz'))
const tooFast = computed(() => folder.study?.findings.some((f) => f.code === 'pulses-too-fast') ?? false)
/** As many pulses as fit to be seen: the train is drawn denser the nearer the counter's limit. */
const pulses = computed(() => {
  if (!hertz.value || hertz.value.value <= 0) return ''
  const full = most.value ?? convertUnit(1, 'kHz', 'Hz')
  const count = Math.max(2, Math.min(24, Math.round(24 * Math.sqrt(hertz.value.value / full))))
  const width = 220 / count
  return Array.from({ length: count }, (_, i) => `M${370 + i * width} 132v-34h${width / 2}v34h${width / 2}`).join('')
})
const title = computed(
  () =>
    `${principle.value || 'Flow'} meter: ${known('process')?.words ?? ''}, ` +
    `${hertz.value?.words ?? 'frequency not known'}, ${current.value?.words ?? ''}`,
)
</script>

<template>
  <figure class="meter">
    <svg class="worded" viewBox="0 0 780 290" role="img" :aria-label="title">
      <path d="M20 150H330M20 230H330" class="pipe" />
      <path d="M40 190H96M86 183l12 7l-12 7" class="flow" />
      <text x="40" y="172" class="small">flow</text>
      <rect x="150" y="132" width="110" height="116" rx="4" class="body" />
      <path v-if="principle === 'turbine'" d="M205 190L205 156M205 190L234 207M205 190L176 207" class="part" />
      <path
        v-else-if="principle === 'vortex'"
        d="M176 170L196 190L176 210ZM212 178a8 8 0 1 1 8 8M226 204a8 8 0 1 1 8 8"
        class="part"
      />
      <path
        v-else-if="principle === 'magnetic'"
        d="M178 152H232M178 228H232M186 152V160M224 152V160M186 228V220M224 228V220"
        class="part"
      />
      <circle v-if="principle === 'magnetic'" cx="205" cy="190" r="7" class="body" />
      <circle v-else-if="principle === 'turbine'" cx="205" cy="190" r="6" class="body" />
      <text x="205" y="272" class="mid">{{ principle ? `${principle} meter` : '' }}</text>
      <text v-if="!principle" x="205" y="272" class="mid needs">needs its principle</text>
      <text x="90" y="272" class="mid live figures">{{ known('process')?.words }}</text>

      <rect x="170" y="52" width="70" height="50" rx="4" class="body" />
      <path d="M205 102V132" class="lead" />
      <path d="M240 66H360V132" class="lead" />
      <path v-if="pulses" :d="pulses" class="train" :class="{ bad: tooFast }" />
      <text v-else x="480" y="120" class="mid needs">needs flow and factor</text>
      <path d="M360 132H604" class="axis" />
      <text x="480" y="84" class="mid figures">{{ hertz?.words }}</text>
      <text x="480" y="160" class="mid small">
        {{
          factor === undefined ? '' : `one pulse is ${preferences.quantity(factor, 'l', { decimals: 4, trim: true })}`
        }}
      </text>
      <rect x="610" y="88" width="120" height="58" rx="4" class="body" />
      <text x="670" y="112" class="mid">counter</text>
      <text x="670" y="134" class="mid figures small" :class="{ badword: tooFast }">
        {{ most === undefined ? '' : `to ${preferences.quantity(most, 'Hz', { trim: true })}` }}
      </text>
      <path d="M240 88H300V210H610" class="lead" />
      <rect x="610" y="182" width="120" height="58" rx="4" class="body" />
      <text x="670" y="206" class="mid">input card</text>
      <text x="670" y="228" class="mid figures small">{{ current?.words }}</text>
      <text x="480" y="200" class="mid small">4–20 mA beside the pulses</text>
    </svg>
  </figure>
</template>

<style scoped>
.meter {
  margin: 0;
  max-width: 800px;
}
.pipe,
.body,
.part {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2.2;
}
.body {
  fill: var(--sheet);
}
.lead,
.axis,
.flow {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.4;
}
.train {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
}
.train.bad {
  stroke: var(--stop);
}
.badword {
  fill: var(--stop);
}
</style>
