<script setup lang="ts">
// The pipe cut lengthwise, to scale: wall, liner and fluid, the pair on it, the beam between them, the spacing on its
// index bar.
import { beamOf, beamPoints, clampOnOf, knownFluid, spacingOf } from '@calm-loop/core/kinds'
import { Refusal } from '@calm-loop/core/refusal'
import { computed } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { usePreferences } from '../../stores/preferences.ts'
import { convertUnit } from '@calm-loop/core/quantity'
import { sure } from '@calm-loop/core/sure'

const folder = useFolder()
const preferences = usePreferences()
const W = 760
const LEFT = 150
const RIGHT = 720
const TOP = 92
const LOW = 338
const r = computed(() => sure(folder.reader))
const twoPaths = computed(() => r.value.text('paths') === '2')
const H = computed(() => (twoPaths.value ? 434 : 412))
const c = computed(() => clampOnOf(r.value))
const beam = computed(() => beamOf(c.value))
const fluid = computed(() => knownFluid(c.value))
const spacing = computed(() => spacingOf(c.value, r.value))
const points = computed(() => beamPoints(c.value))
const od = computed(() => c.value.od_mm)
const wall = computed(() => c.value.wall_mm ?? 0)
const liner = computed(() => c.value.liner_mm)
const hasBore = computed(() => od.value !== undefined && od.value - 2 * wall.value - 2 * liner.value > 0)
/** From the mark that the maker measures from to where the beam leaves the wedge. */
const offset = computed(() => r.value.in('faceOffset', 'mm') ?? 0)
/** Most of the way along the pipe that the pair takes: between the marks, or where the beam crosses the surface. */
const along = computed(() => Math.max(beam.value?.spacing_mm ?? 0, spacing.value?.spacing_mm ?? 0))
/** One scale along and across. */
const scale = computed(() => {
  const tall = (LOW - TOP) / (od.value ?? 100)
  const wide = (RIGHT - LEFT - 130) / Math.max(along.value, 1)
  return Math.min(tall, wide)
})
const x0 = computed(() => (LEFT + RIGHT - (beam.value?.spacing_mm ?? 0) * scale.value) / 2)
const middle = (TOP + LOW) / 2
const yTop = computed(() => middle - ((od.value ?? 100) * scale.value) / 2)
const px = (mm: number) => x0.value + mm * scale.value
const py = (mm: number) => yTop.value + mm * scale.value
const band = (mm: number) => Math.max(mm > 0 ? 2.5 : 0, mm * scale.value)
const path = computed(() =>
  points.value.map((p, i) => `${i ? 'L' : 'M'}${px(p.x).toFixed(1)} ${py(p.y).toFixed(1)}`).join(''),
)
const last = computed(() => points.value.at(-1))
const opposite = computed(() => c.value.traverses % 2 === 1)
const gas = computed(() => r.value.text('medium') === 'gas')
/** A wedge on the pipe’s outside, its beam leaving towards the other one; it holds the mark and the beam’s exit. */
const wedge = (x: number, y: number, up: boolean, mirrored: boolean) => {
  const s = up ? -1 : 1
  const m = mirrored ? -1 : 1
  const reach = offset.value * scale.value
  const [back, front] = [x - m * Math.max(30, reach + 14), x + m * Math.max(16, -reach + 8)]
  return `M${back} ${y}H${front}V${y + s * 8}L${front - 20 * m} ${y + s * 24}H${back}Z`
}
/** The two marks that the spacing is measured between, px along the pipe. */
const marks = computed(() => [px(-offset.value), px((last.value?.x ?? 0) + offset.value)] as const)
const mm = (v: number, decimals = 1) => preferences.quantity(v, 'mm', { decimals, trim: true })
const holes = computed(() => {
  const pitch = r.value.in('barPitch', 'mm')
  const n = spacing.value?.holes
  if (!pitch || n === undefined || n < 1) return []
  const every = Math.max(1, Math.ceil(n / 40))
  return Array.from({ length: n + 3 }, (_, i) => i)
    .filter((i) => i % every === 0 || i === n)
    .map((i) => ({ n: i, x: px(i * pitch - offset.value), chosen: i === n }))
    .filter((h) => h.chosen || h.x < RIGHT + 30)
})
const hole = computed(() => holes.value.find((h) => h.chosen))
const says = computed(() => {
  if (c.value.beam instanceof Refusal) return c.value.beam.message
  if (od.value !== undefined && c.value.wall_mm !== undefined && !hasBore.value) return 'Wall and liner leave no bore.'
  return c.value.needs.length ? `The beam needs ${c.value.needs.join(', ')}` : ''
})
const labels = computed(() => {
  const out: { y: number; words: string }[] = []
  if (od.value === undefined) return []
  const top = yTop.value
  out.push({
    y: top + band(wall.value) / 2,
    words: c.value.wall_mm === undefined ? 'wall' : `wall ${mm(wall.value, 2)}`,
  })
  const byTable = c.value.tableWall_mm
  if (byTable !== undefined && !c.value.wallFromTable && byTable !== wall.value)
    out.push({ y: top + band(wall.value) / 2, words: `schedule ${mm(byTable, 2)}` })
  if (liner.value > 0)
    out.push({ y: top + band(wall.value) + band(liner.value) / 2, words: `liner ${mm(liner.value)}` })
  if (beam.value) out.push({ y: middle, words: `bore ${mm(beam.value.id_mm, 1)}` })
  out.push({ y: py(od.value), words: `outside ${mm(od.value, 1)}` })
  let lastY = -Infinity
  return out.map((l) => ({ ...l, text: (lastY = Math.max(l.y + 5, lastY + 19)) }))
})
const title = computed(() =>
  beam.value && spacing.value
    ? `Pipe cut lengthwise: ${c.value.traverses} traverses, spacing ${mm(spacing.value.spacing_mm)}, angle in ` +
      `the fluid ${beam.value.fluidAngle_deg.toFixed(1)} degrees`
    : says.value || 'Pipe, nothing entered yet',
)
</script>

<template>
  <figure class="pipe">
    <svg class="worded" :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="title" data-test="beam">
      <template v-if="od !== undefined">
        <rect :x="LEFT" :width="RIGHT - LEFT" :y="yTop" :height="od * scale" class="fluid" :class="{ gas }" />
        <g v-for="side in [0, 1]" :key="side">
          <rect
            :x="LEFT"
            :width="RIGHT - LEFT"
            :height="band(wall)"
            :y="side ? py(od) - band(wall) : yTop"
            class="wall"
          />
          <rect
            v-if="liner > 0"
            :x="LEFT"
            :width="RIGHT - LEFT"
            :height="band(liner)"
            :y="side ? py(od) - band(wall) - band(liner) : yTop + band(wall)"
            class="liner"
          />
        </g>
        <path :d="`M${RIGHT - 96} ${middle}h62m-10 -6l10 6l-10 6`" class="flow" />
        <text :x="RIGHT - 96" :y="middle - 10" class="small">flow</text>
        <g v-for="(l, i) in labels" :key="i">
          <path :d="`M${LEFT - 12} ${l.text - 5}L${LEFT - 3} ${l.y}`" class="lead" />
          <text :x="LEFT - 16" :y="l.text" class="end">{{ l.words }}</text>
        </g>
      </template>
      <template v-if="beam && last && spacing">
        <path :d="path" class="beam" />
        <path :d="wedge(px(0), yTop, true, false)" class="wedge" />
        <path :d="wedge(px(last.x), opposite ? py(od!) : yTop, !opposite, true)" class="wedge" />
        <text :x="Math.min(px(0) - 34, marks[0] - 18)" :y="yTop - 12" class="end small">
          {{ r.text('serialA') || 'upstream' }}
        </text>
        <text :x="Math.max(px(last.x) + 34, marks[1] + 18)" :y="opposite ? py(od!) + 22 : yTop - 12" class="small">
          {{ r.text('serialB') || 'downstream' }}
        </text>
        <path
          v-if="offset"
          :d="`M${marks[0]} ${yTop - 24}V${yTop}M${marks[1]} ${opposite ? py(od!) : yTop - 24}v24`"
          class="mark"
        />
        <g v-if="hole">
          <path :d="`M${marks[0]} 30H${holes.at(-1)!.x + 8}`" class="bar" />
          <g v-for="h in holes" :key="h.n">
            <circle :cx="h.x" cy="30" :r="h.chosen ? 6 : 2.4" :class="h.chosen ? 'chosen' : 'hole'" />
          </g>
          <path :d="`M${hole.x} 38V${opposite ? py(od!) : yTop - 26}`" class="drop" />
          <text :x="marks[0]" y="18" class="mid fig">0</text>
          <text :x="hole.x" y="18" class="mid fig strong">hole {{ spacing.holes }}</text>
        </g>
        <g :transform="`translate(0 ${LOW + 24})`">
          <path :d="`M${marks[0]} 0H${marks[1]}M${marks[0]} -8V8M${marks[1]} -8V8`" class="dim" />
          <text :x="(marks[0] + marks[1]) / 2" y="22" class="mid fig strong" data-test="spacing">
            spacing {{ mm(spacing.spacing_mm) }} ·
            {{ preferences.quantity(convertUnit(spacing.spacing_mm, 'mm', 'in'), 'in', { decimals: 3 }) }}
          </text>
        </g>
        <text :x="LEFT + 8" :y="LOW + 68" class="small">
          θ {{ preferences.quantity(beam.fluidAngle_deg, 'deg', { decimals: 1 }) }} in the fluid
        </text>
        <text v-if="fluid" :x="RIGHT" :y="LOW + 68" class="small end">
          {{ fluid.name }}, {{ preferences.quantity(fluid.soundSpeed_mps, 'm/s', { decimals: 1 }) }}
        </text>
        <text v-if="twoPaths" :x="RIGHT" :y="LOW + 90" class="small end">second pair turned by 90°, same spacing</text>
      </template>
      <text v-if="says" x="0" y="18" class="needs">{{ says }}</text>
    </svg>
  </figure>
</template>

<style scoped>
.pipe {
  margin: 0;
  max-width: 860px;
}
.fluid {
  fill: var(--action);
  opacity: 0.12;
}
.fluid.gas {
  opacity: 0.05;
}
.wall {
  fill: var(--second);
  stroke: var(--ink);
  stroke-width: 1.2;
}
.liner {
  fill: var(--hairline);
  stroke: var(--second);
  stroke-width: 1;
}
.beam {
  fill: none;
  stroke: var(--action);
  stroke-width: 3;
  stroke-linejoin: round;
}
.wedge {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.8;
}
.flow,
.lead {
  fill: none;
  stroke: var(--second);
  stroke-width: 1.4;
}
.dim {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
.bar {
  stroke: var(--second);
  stroke-width: 8;
  opacity: 0.25;
  stroke-linecap: round;
}
.hole {
  fill: var(--sheet);
  stroke: var(--second);
}
.chosen {
  fill: var(--action);
}
.mark {
  fill: none;
  stroke: var(--action);
  stroke-width: 2;
}
.drop {
  stroke: var(--second);
  stroke-dasharray: 3 4;
}
.fig {
  font-family: var(--figures);
}
.strong {
  font-weight: 650;
}
</style>
