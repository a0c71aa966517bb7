<script setup lang="ts">
// The lift-off margin along the loop: a stair that falls from supply to return, at 4, 20 and the highest current. What
// it still has at the end is to spare; where it ends below zero the transmitter starves.
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { marginsOf, stairOf, takes, type StairStep } from '@calm-loop/core/wiring'
import { computed } from 'vue'
import { useDesk } from '../../stores/desk.ts'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useAfterFrame } from '../../widgets/afterFrame.ts'
import { spreadLabels } from './labels.ts'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const desk = useDesk()
const preferences = usePreferences()
const [LEFT, TOP, BASE, STEP, END] = [92, 40, 226, 96, 150]
/** Steps that lose less than this are no step that anybody sees, V. */
const SEEN_V = 0.01
const electrical = computed(() => sure(folder.current).electrical)
const liftOff = computed(() => electrical.value.liftOffV)
const needs = computed(() => [
  ...(desk.study?.needs ?? []),
  ...(liftOff.value === undefined ? sure(folder.reader).missing('liftOff') : []),
])
const stair = useAfterFrame(() => {
  const study = desk.study
  if (!study || needs.value.length) return undefined
  const made = attempt(() => stairOf(study.wiring, study.conditions, [4, 20, electrical.value.maxmA]))
  return made instanceof Refusal ? undefined : made
})
const volts = (v: number) => preferences.quantity(v, 'V', { decimals: 2 })
const current = (mA: number) => preferences.quantity(mA, 'mA', { decimals: 1, trim: true })
const falls = (step: StairStep, i: number) => takes(step, i, liftOff.value ?? 0)
/** Those that can be seen; what the others take is counted all the same. */
const seen = computed(() =>
  (stair.value?.steps ?? []).flatMap((step, i) =>
    Math.max(...step.volts.map((_, k) => falls(step, k))) > SEEN_V ? [{ step, behind: i + 1 }] : [],
  ),
)
const steps = computed(() => seen.value.map((s) => s.step))
const lines = computed(() =>
  stair.value
    ? marginsOf(stair.value, liftOff.value ?? 0).map((m) => {
        const drawn = [sure(m.at[0]), ...seen.value.map((s) => sure(m.at[s.behind]))]
        return { mA: m.mA, spare: m.spare, at: [...drawn.slice(0, -1), m.spare] }
      })
    : [],
)
const bounds = computed(() => {
  const all = lines.value.flatMap((l) => l.at)
  return { high: Math.max(1, ...all), low: Math.min(0, ...all) }
})
const y = (v: number) => BASE - ((v - bounds.value.low) / (bounds.value.high - bounds.value.low)) * (BASE - TOP)
const xOf = (i: number) => LEFT + i * STEP
const width = computed(() => LEFT + (steps.value.length + 1) * STEP + END)
const path = (at: readonly number[]) =>
  at.map((v, i) => `${i ? 'H' : 'M'}${xOf(i)}${i ? `V${y(v)}` : ` ${y(v)}`}H${xOf(i + 1)}`).join('')
const marks = computed(() =>
  spreadLabels(
    lines.value.map((l) => y(l.spare)),
    19,
  ).map((at, i) => ({ y: at, ...sure(lines.value[i]) })),
)
const most = computed(() => lines.value.at(-1))
const dropWords = (step: StairStep) => volts(falls(step, step.volts.length - 1))
/** A name in at most two lines under its step. */
function named(name: string): string[] {
  const words = name.split(' ')
  const half = Math.ceil(words.length / 2)
  return name.length > 12 && words.length > 1 ? [words.slice(0, half).join(' '), words.slice(half).join(' ')] : [name]
}
const title = computed(() =>
  lines.value.length
    ? `Lift-off margin along the loop, from ${volts(sure(stair.value).feedV)}. ` +
      steps.value.map((s) => `${s.name} takes ${dropWords(s)}`).join(', ') +
      `. ${lines.value.map((l) => `At ${current(l.mA)} ${volts(l.spare)} are to spare`).join('. ')}.`
    : 'Lift-off margin along the loop: not known yet.',
)
</script>

<template>
  <figure class="stair">
    <figcaption>
      <b>Lift-off margin along the loop</b>
      <span class="quiet small">
        what each part takes at {{ current(electrical.maxmA)
        }}<template v-if="lines.length"
          >; to spare: {{ lines.map((l) => `${volts(l.spare)} at ${current(l.mA)}`).join(', ') }}</template
        >
      </span>
    </figcaption>
    <p v-if="electrical.cheapest" class="cheapest">
      <b>Cheapest single change.</b> {{ electrical.cheapest.says }} {{ volts(electrical.cheapest.spareV) }} are then to
      spare.
    </p>
    <div v-if="lines.length" class="scroll" tabindex="0" role="group" aria-label="The stair, to be scrolled sideways">
      <svg
        :viewBox="`0 0 ${width} 282`"
        :style="{ minWidth: `${Math.min(width, 900) * 0.92}px` }"
        role="img"
        :aria-label="title"
      >
        <text :x="LEFT - 8" :y="y(bounds.high) + 5" class="end figure">{{ volts(bounds.high) }}</text>
        <line :x1="LEFT" :x2="width - END" :y1="y(0)" :y2="y(0)" class="zero" />
        <text :x="LEFT - 8" :y="y(0) + 5" class="end small">none left</text>
        <path
          v-for="(l, i) in lines"
          :key="l.mA"
          :d="path(l.at)"
          :class="['line', `of-${i}`, { short: l.spare < 0 }]"
        />
        <g v-for="(s, i) in steps" :key="i" :data-step="s.name" :class="{ own: s.kind === 'transmitter' }">
          <line :x1="xOf(i + 1)" :x2="xOf(i + 1)" :y1="TOP - 8" :y2="BASE + 8" class="place" />
          <text :x="xOf(i + 1)" :y="TOP - 16" class="middle figure">−{{ dropWords(s) }}</text>
          <text
            v-for="(word, k) in named(s.name)"
            :key="word"
            :x="xOf(i + 1)"
            :y="BASE + 26 + 17 * k"
            class="middle small"
          >
            {{ word }}
          </text>
          <text
            v-if="s.kind === 'transmitter'"
            :x="xOf(i + 1)"
            :y="BASE + 26 + 17 * named(s.name).length"
            class="middle small"
          >
            its lift-off
          </text>
        </g>
        <text
          v-for="m in marks"
          :key="m.mA"
          :x="width - END + 8"
          :y="m.y + 5"
          :class="['figure', { short: m.spare < 0, strong: m === marks.at(-1) }]"
        >
          {{ current(m.mA) }}: {{ volts(m.spare) }}
        </text>
      </svg>
    </div>
    <p v-else class="lacking">
      {{ needs.length ? `needs ${needs.join(', ')}` : 'nothing feeds the loop as drawn, or more than one supply does' }}
    </p>
    <p v-if="most && most.spare < 0" class="bad small">
      At {{ current(most.mA) }} the transmitter is short of {{ volts(-most.spare) }}.
    </p>
  </figure>
</template>

<style scoped>
.stair {
  margin: 8px 0 16px;
}
figcaption {
  display: flex;
  gap: 10px;
  align-items: baseline;
  flex-wrap: wrap;
}
.cheapest {
  border-left: 4px solid var(--look);
  padding-left: 12px;
  margin: 8px 0;
}
.scroll {
  overflow-x: auto;
}
svg {
  width: 100%;
  max-width: 1000px;
  display: block;
}
text {
  font-size: 14px;
  fill: var(--ink);
}
.figure {
  font-family: var(--figures);
}
.small {
  fill: var(--second);
}
.strong {
  font-weight: 650;
}
.middle {
  text-anchor: middle;
}
.end {
  text-anchor: end;
}
.zero {
  stroke: var(--look);
  stroke-width: 2;
  stroke-dasharray: 4 3;
}
.place {
  stroke: var(--hairline);
}
.line {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.5;
}
.line.of-1 {
  stroke: var(--ink);
}
.line.of-2 {
  stroke: var(--signal);
  stroke-width: 3;
}
.line.short {
  stroke: var(--stop);
}
text.short {
  fill: var(--stop);
}
.lacking {
  color: var(--look);
}
</style>
