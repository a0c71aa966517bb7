<script setup lang="ts">
// Both ends of the wire as one scale against another: the transmitter's, the current's, and every receiver's, joined
// at 4, 12 and 20 mA. Where they disagree, the reading that it would cause.
import { receiverMeans } from '@calm-loop/core/loop'
import { convertUnit } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { spread } from '@calm-loop/core/thread'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { useThread } from '../../stores/thread.ts'
import { useTrim } from '../../stores/trim.ts'
import { inSentence } from '@calm-loop/core/words'

const folder = useFolder()
const thread = useThread()
const trim = useTrim()
const preferences = usePreferences()
const [TOP, BOTTOM] = [60, 226]
const r = computed(() => folder.reader!)
const has = (key: string) => folder.kind!.fields.some((f) => f.key === key)
const digital = computed(() => thread.thread?.knots.find((k) => k.role === 'digital'))
const unit = computed(() => digital.value?.unit ?? 'mm')
const carries = computed(() => thread.thread?.knots.some((k) => k.role === 'current') ?? true)
const quantityOf = (key: string) => {
  const f = folder.kind!.fields.find((x) => x.key === key)
  return f?.type === 'quantity' ? f.quantity : undefined
}

interface Scale {
  readonly id: string
  readonly name: string
  readonly unit: string
  readonly low: number | undefined
  readonly high: number | undefined
  readonly needs: string
  /** What a value of it means in the digital value's unit. */
  readonly means: (v: number) => number | undefined
}
const own = (v: number) => v
function scale(id: string, name: string, lowKey: string, highKey: string): Scale {
  const same = quantityOf(lowKey) === quantityOf('lrv')
  const u = same ? (r.value.missing(highKey).length ? unit.value : r.value.unit(highKey)) : r.value.unit(highKey)
  const means = (v: number): number | undefined => {
    if (same && digital.value?.quantity === quantityOf('lrv')) return convertUnit(v, u, unit.value)
    const c = trim.known
    if (!c) return undefined
    const found = attempt(() => receiverMeans(c, convertUnit(v, u, c.controller.unit)))
    return found instanceof Refusal ? undefined : found
  }
  return {
    id,
    name,
    unit: u,
    low: r.value.in(lowKey, u),
    high: r.value.in(highKey, u),
    needs: r.value.missing(lowKey, highKey).join(', '),
    means,
  }
}
const transmitter = computed<Scale>(() => {
  const c = trim.known
  const plain = digital.value?.quantity === quantityOf('lrv')
  const [low, high] = plain || !c ? [r.value.in('lrv', unit.value), r.value.in('urv', unit.value)] : [c.lrv, c.urv]
  return {
    id: 'transmitter',
    name: 'Transmitter',
    unit: unit.value,
    low,
    high,
    needs: r.value
      .missing('lrv', 'urv')
      .map((m) => m.replace(/ \(.*/, ''))
      .join(', '),
    means: own,
  }
})
const receivers = computed<Scale[]>(() =>
  !carries.value
    ? []
    : [
        ...(r.value.text('receiver').startsWith('converter') && has('channelLow')
          ? [scale('channel', 'Converter channel', 'channelLow', 'channelHigh')]
          : []),
        scale('controller', 'Controller', 'receiverLow', 'receiverHigh'),
        ...(r.value.text('second') === 'loop indicator' && has('indicatorLow')
          ? [scale('indicator', 'Loop indicator', 'indicatorLow', 'indicatorHigh')]
          : []),
      ],
)
const columns = computed(() => [transmitter.value, ...receivers.value])
const width = computed(() => 440 + 190 * receivers.value.length)
const xOf = (i: number) => (i === 0 ? 170 : 330 + 190 * (i - 1) + 170)
const CURRENT = 330
const curved = computed(() => ['receiver', 'both'].includes(has('rootAt') ? r.value.text('rootAt') : ''))

const rungs = computed(() =>
  [4, 12, 20].map((mA) => {
    const f = (mA - 4) / 16
    const at = (s: Scale, i: number) => {
      if (s.low === undefined || s.high === undefined) return undefined
      const share = i > 0 && curved.value ? Math.sqrt(f) : f
      const value = s.low + share * (s.high - s.low)
      // A scale that bends on purpose is judged by what the thread says of it.
      const means = i > 0 && curved.value ? meantBy(mA) : s.means(value)
      return { value, means }
    }
    const all = columns.value.map(at)
    const span = Math.abs((transmitter.value.high ?? 1) - (transmitter.value.low ?? 0)) || 1
    const base = all[0]?.means
    return {
      mA,
      all: all.map((v, i) => ({
        ...v,
        apart:
          i > 0 && v?.means !== undefined && base !== undefined && Math.abs(v.means - base) > 1e-6 * span
            ? (100 * (v.means - base)) / span
            : 0,
      })),
    }
  }),
)
function meantBy(mA: number): number | undefined {
  const t = thread.thread
  const i = t?.knots.findIndex((k) => k.role === 'digital') ?? -1
  const v = t && i >= 0 && carries.value ? spread(t, 'current', mA)[i] : undefined
  return v?.known ? v.value : undefined
}
/** All scales share one axis of meaning, so that a disagreement is a slope. */
const axis = computed(() => {
  const all = rungs.value
    .flatMap((g) => g.all.map((a) => a.means))
    .filter((v): v is number => v !== undefined && Number.isFinite(v))
  if (!all.length) return undefined
  const [low, high] = [Math.min(...all), Math.max(...all)]
  return high > low ? { low, high } : undefined
})
const reversed = computed(() => (transmitter.value.low ?? 0) > (transmitter.value.high ?? 0))
const y = (v: number) => {
  const a = axis.value!
  const f = (v - a.low) / (a.high - a.low)
  return BOTTOM - (reversed.value ? 1 - f : f) * (BOTTOM - TOP)
}
const currentY = (mA: number) => BOTTOM - ((mA - 4) / 16) * (BOTTOM - TOP)
const show = (s: Scale, v: number) => preferences.quantity(v, s.unit, { trim: true, decimals: 3 })
const now = computed(() => {
  const i = thread.thread?.knots.findIndex((k) => k.role === 'current') ?? -1
  const v = i < 0 ? undefined : thread.expected[i]
  return v?.known ? v.value : undefined
})
const fault = computed(() => r.value.in('faultCurrent', 'mA'))
const wrong = computed(() =>
  receivers.value.flatMap((s, k) => {
    const at = rungs.value[1]!.all[k + 1]!
    const worst = rungs.value.reduce(
      (most, g) => (Math.abs(g.all[k + 1]!.apart) > Math.abs(most) ? g.all[k + 1]!.apart : most),
      0,
    )
    const base = rungs.value[1]!.all[0]
    if (!worst || at.value === undefined || base?.value === undefined) return []
    const sign = worst > 0 ? 'high' : 'low'
    return [
      `At 12 mA the ${inSentence(s.name)} shows ${show(s, at.value)} where the transmitter means ` +
        `${show(transmitter.value, base.value)}; at worst it reads ${Math.abs(worst).toFixed(1)} % of span too ` +
        `${sign}.`,
    ]
  }),
)
const rungWords = (s: (typeof columns.value)[number], at: (typeof rungs.value)[number]['all'][number] | undefined) =>
  `${at?.value === undefined ? 'not entered' : show(s, at.value)}${at?.apart ? ', disagrees' : ''}`
const title = computed(() =>
  rungs.value
    .map(
      (g) => `${g.mA} mA: ` + columns.value.map((s, i) => `${inSentence(s.name)} ${rungWords(s, g.all[i])}`).join(', '),
    )
    .join('; '),
)
</script>

<template>
  <figure class="ends">
    <svg
      class="worded"
      :viewBox="`0 0 ${width} 268`"
      role="img"
      :aria-label="title"
      :style="{ maxWidth: `${width * 1.1}px` }"
    >
      <text :x="CURRENT" y="22" class="head">{{ carries ? 'Loop current' : 'Bus' }}</text>
      <line v-if="carries" :x1="CURRENT" :x2="CURRENT" :y1="TOP" :y2="BOTTOM" class="scale" />
      <g v-for="(s, i) in columns" :key="s.id" :data-scale="s.id">
        <text :x="xOf(i)" y="22" class="head">{{ s.name }}</text>
        <line :x1="xOf(i)" :x2="xOf(i)" :y1="TOP" :y2="BOTTOM" class="scale" />
        <text v-if="s.needs" :x="xOf(i)" y="130" class="middle needs">needs {{ s.needs }}</text>
      </g>
      <g v-for="g in rungs" :key="g.mA">
        <template v-for="(a, i) in g.all" :key="i">
          <template v-if="axis && a.means !== undefined && a.value !== undefined">
            <line
              v-if="i < 2"
              :x1="CURRENT"
              :x2="xOf(i)"
              :y1="carries ? currentY(g.mA) : y(a.means)"
              :y2="y(a.means)"
              class="rung"
              :class="{ apart: a.apart }"
            />
            <line
              v-else-if="g.all[i - 1]?.means !== undefined"
              :x1="xOf(i - 1)"
              :x2="xOf(i)"
              :y1="y(g.all[i - 1]!.means!)"
              :y2="y(a.means)"
              class="rung"
              :class="{ apart: a.apart }"
            />
            <circle :cx="xOf(i)" :cy="y(a.means)" r="4" class="end-dot" :class="{ apart: a.apart }" />
            <text
              :x="xOf(i) + (i ? 12 : -12)"
              :y="y(a.means) + (i ? -8 : 5)"
              class="figures"
              :class="{ left: !i, apart: a.apart }"
            >
              {{ show(columns[i]!, a.value) }}
            </text>
          </template>
        </template>
        <template v-if="carries">
          <rect :x="CURRENT - 30" :y="currentY(g.mA) - 12" width="60" height="24" class="tag" />
          <text :x="CURRENT" :y="currentY(g.mA) + 5" class="middle figures">{{ g.mA }} mA</text>
        </template>
      </g>
      <circle
        v-if="now !== undefined && now >= 3.5 && now <= 22"
        :cx="CURRENT + 44"
        :cy="currentY(Math.min(20.6, Math.max(3.4, now)))"
        r="6"
        class="ring"
      />
      <text v-if="carries" :x="CURRENT" y="258" class="middle small">
        {{
          fault === undefined
            ? 'fault current to be entered'
            : `on a fault ${preferences.quantity(fault, 'mA', { trim: true })}`
        }}
      </text>
      <text v-else :x="CURRENT" y="130" class="middle small">the value itself</text>
    </svg>
    <p v-for="w in wrong" :key="w" class="look" data-test="disagrees">{{ w }}</p>
  </figure>
</template>

<style scoped>
.ends {
  margin: 0;
}
.head {
  text-anchor: middle;
  font-weight: 650;
}
.middle {
  text-anchor: middle;
}
.left {
  text-anchor: end;
}
.scale {
  stroke: var(--second);
}
.rung {
  stroke: var(--ink);
  stroke-width: 1.2;
}
.rung.apart {
  stroke: var(--look);
  stroke-width: 2.4;
  stroke-dasharray: 6 4;
}
.end-dot {
  fill: var(--ink);
}
.end-dot.apart {
  fill: var(--look);
}
text.apart {
  fill: var(--look) !important;
  font-weight: 650;
}
.tag {
  fill: var(--ground);
}
.ring {
  fill: var(--ground);
  stroke: var(--ink);
  stroke-width: 2;
}
.look {
  color: var(--look);
  max-width: 80ch;
}
</style>
