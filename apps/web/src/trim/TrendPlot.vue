<script setup lang="ts">
// The trend of a witness, twenty samples a second, with how steady it is: slope and noise over the window against the
// limits, and seconds to go.
import { lookBack_s, type Stability } from '@calm-loop/core/check'
import { useElementSize, useRafFn } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useLive } from '../stores/live.ts'
import { sure } from '@calm-loop/core/sure'
import { axisOf, inSight, steadySince, steadyWords, type Witness } from './trend.ts'

const props = defineProps<{
  of: Witness
  /** Window, s. */
  seconds: number
  driftPct: number
  noisePct: number
  /** Time constant to be expected, s; what may still be to go, % of span. */
  tau?: number | undefined
  stillPct?: number | undefined
  /** From the witness's own measure to what is written at the axis. */
  show: (value: number) => string
  /** Per cent of span that one of its own measure is. */
  pctPer?: number
  name: string
}>()
const live = useLive()
const box = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const { width } = useElementSize(box)
const HEIGHT = 170
/** At least so far back; further where the reading comes to rest slowly. */
const SHOWN_s = Math.max(20, lookBack_s({ window_s: props.seconds, tau_s: props.tau, still: props.stillPct }))
const steady = shallowRef<Stability>()
const last = ref<number>()
const limits = computed(() => ({ ...props, pctPer: props.pctPer ?? 1 }))
const tone = (name: string) => getComputedStyle(sure(box.value)).getPropertyValue(name)
let colours: Record<'ink' | 'second' | 'hairline' | 'signal' | 'sheet' | 'ground', string>
onMounted(() => {
  colours = {
    ink: tone('--ink'),
    second: tone('--second'),
    hairline: tone('--hairline'),
    signal: tone('--signal'),
    sheet: tone('--sheet'),
    ground: tone('--ground'),
  }
})
let drawn = -1
/** The window begins when the gate opens: what was measured before belongs to another state of the plant. */
let since: number | undefined
let told = 0
function draw(): void {
  const c = canvas.value
  const newest = live.trend.at(-1)
  if (!c || !newest || newest.t_s === drawn || width.value < 50) return
  drawn = newest.t_s
  since = Math.min(since ?? newest.t_s, newest.t_s)
  const ratio = window.devicePixelRatio || 1
  const [w, h] = [Math.round(width.value), HEIGHT]
  if (c.width !== w * ratio) {
    c.width = w * ratio
    c.height = h * ratio
  }
  const g = sure(c.getContext('2d'))
  g.setTransform(ratio, 0, 0, ratio, 0, 0)
  g.clearRect(0, 0, w, h)
  const points = inSight(live.trend, props.of, SHOWN_s)
  if (!points.length) return
  const { middle, half } = axisOf(points, limits.value)
  const [left, right, top, bottom] = [86, w - 8, 10, h - 24]
  const x = (t: number) => right - ((newest.t_s - t) / SHOWN_s) * (right - left)
  const y = (v: number) => (top + bottom) / 2 - ((v - middle) / half) * ((bottom - top) / 2)
  g.fillStyle = colours.sheet
  g.fillRect(x(newest.t_s - props.seconds), top, right - x(newest.t_s - props.seconds), bottom - top)
  g.strokeStyle = colours.hairline
  g.lineWidth = 1
  g.font = `14px ${getComputedStyle(c).fontFamily}`
  g.fillStyle = colours.second
  g.textAlign = 'right'
  g.textBaseline = 'middle'
  for (const v of [middle + half * 0.8, middle, middle - half * 0.8]) {
    g.beginPath()
    g.moveTo(left, y(v))
    g.lineTo(right, y(v))
    g.stroke()
    g.fillText(props.show(v), left - 6, y(v))
  }
  g.textAlign = 'center'
  g.fillText('now', right - 14, h - 10)
  g.fillText(`−${props.seconds} s`, x(newest.t_s - props.seconds), h - 10)
  g.fillText(`−${SHOWN_s} s`, left + 16, h - 10)
  g.strokeStyle = colours.signal
  g.lineWidth = 1.6
  g.beginPath()
  points.forEach((p, i) => (i ? g.lineTo(x(p.t_s), y(p.value)) : g.moveTo(x(p.t_s), y(p.value))))
  g.stroke()
  // The words beside it are for reading: four times a second is enough.
  if (newest.t_s - told < 0.25 && newest.t_s > told) return
  told = newest.t_s
  last.value = newest[props.of] ?? undefined
  steady.value = steadySince(points, since, limits.value)
}
useRafFn(draw)
const words = computed(() => steadyWords(steady.value))
defineExpose({ steady })
const num = (v: number) => Math.abs(v).toFixed(3)
</script>

<template>
  <figure ref="box" class="trend" :data-steady="steady?.state ?? 'waiting'">
    <canvas
      ref="canvas"
      :style="{ width: '100%', height: `${HEIGHT}px` }"
      role="img"
      :aria-label="`Trend of ${name}: ${words}`"
    />
    <figcaption>
      <b class="figures now">{{ last === undefined ? '' : show(last) }}</b>
      <span class="state" :class="steady?.state">{{ words }}</span>
      <span v-if="steady" class="small quiet figures">
        slope {{ num(steady.drift) }} % over {{ seconds }} s, limit {{ driftPct }} %; noise {{ num(steady.noise) }} %,
        limit {{ noisePct }} %
      </span>
    </figcaption>
  </figure>
</template>

<style scoped>
.trend {
  margin: 8px 0;
  font-family: var(--figures);
}
.trend canvas {
  display: block;
}
figcaption {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 20px;
  align-items: baseline;
  font-family: var(--words);
}
.now {
  font-size: 28px;
  color: var(--signal);
  font-weight: 500;
}
.stable {
  color: var(--action);
  font-weight: 650;
}
.moving,
.noisy {
  color: var(--look);
  font-weight: 650;
}
</style>
