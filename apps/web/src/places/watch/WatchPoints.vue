<script setup lang="ts">
// Watch: all discrete points at once, twenty times a second: name, state and its meaning, cycles since watching began,
// the last half minute.
import { PointStates, type WatchedPoint } from '@calm-loop/contract'
import { useRafFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useTheme } from 'vuetify'
import { addressOf, call, type ApiProblem } from '../../api/client.ts'
import { openStream } from '../../api/stream.ts'
import { useSession } from '../../stores/session.ts'
import { sure } from '@calm-loop/core/sure'

const PAST_ms = 30_000
const points = shallowRef<readonly WatchedPoint[]>([])
const says = ref('')
const connected = ref(false)
const theme = useTheme()
const rows = ref<HTMLElement[]>([])
/**
 * State of each point, and its changes of the last half minute; kept out of Vue, which would follow each of fifty
 * every twentieth of a second.
 */
let now: PointStates | undefined
let shown: string[] = []
let past: { t: number; on: boolean }[][] = []

async function load(): Promise<void> {
  try {
    points.value = await call('watchPoints')
    past = points.value.map(() => [])
  } catch (error) {
    says.value = (error as ApiProblem).message
  }
}
const session = useSession()
const unconnected = computed(() => points.value.filter((p) => p.says === 'bench not connected'))
/** Practice at all points at once; then they are listened to anew. */
async function connectAll(): Promise<void> {
  says.value = ''
  try {
    for (const { loopId } of unconnected.value)
      await call('connectBench', { params: { loopId }, body: { connected: true } })
  } catch (error) {
    says.value = (error as ApiProblem).message
  }
  await load()
  listen()
}
onMounted(async () => {
  await load()
  listen()
})
function hear(text: string): void {
  const parsed = PointStates.safeParse(JSON.parse(text))
  if (!parsed.success) return
  connected.value = true
  const before = now
  now = parsed.data
  now.states.forEach((state, i) => {
    if (state >= 0 && state !== before?.states[i]) past[i]?.push({ t: sure(now).at_ms, on: state === 1 })
    while ((past[i]?.[1]?.t ?? Infinity) < sure(now).at_ms - PAST_ms) past[i]!.shift()
  })
}
let close: (() => void) | undefined
function listen(): void {
  close?.()
  now = undefined
  close = openStream(addressOf('watchStream'), { on: { states: hear }, opened: (open) => (connected.value = open) })
}
onBeforeUnmount(() => close?.())

function paint(canvas: HTMLCanvasElement, changes: readonly { t: number; on: boolean }[], at: number): void {
  const pen = canvas.getContext('2d')
  if (!pen) return
  const { width, height } = canvas
  const x = (t: number) => width - ((at - t) / PAST_ms) * width
  pen.clearRect(0, 0, width, height)
  pen.fillStyle = sure((theme.current.value.colors as Record<string, string>)['signal'])
  changes.forEach((c, i) => {
    const from = Math.max(0, x(c.t))
    const to = Math.min(width, i + 1 < changes.length ? x(changes[i + 1]!.t) : width)
    if (to > from) pen.fillRect(from, c.on ? 4 : height - 6, to - from, c.on ? height - 10 : 2)
  })
}
useRafFn(() => {
  if (!now) return
  const at = now.at_ms
  points.value.forEach((p, i) => {
    const row = rows.value[i]
    if (!row) return
    const [lamp, means, counted, canvas] = row.children as unknown as [
      HTMLElement,
      HTMLElement,
      HTMLElement,
      HTMLElement,
    ]
    const state = sure(now).states[i] ?? -1
    const key = `${state} ${sure(now).counts[i]}`
    if (shown[i] !== key) {
      shown[i] = key
      lamp.dataset['on'] = String(state)
      means.textContent = state < 0 ? p.says || 'not known' : state ? p.meansTrue : p.meansFalse
      counted.textContent = String(sure(now).counts[i])
    }
    paint(canvas.firstElementChild as HTMLCanvasElement, past[i] ?? [], at)
  })
})
watch(points, () => (shown = []))
</script>

<template>
  <section class="watch">
    <div class="place-head">
      <h1>Watch</h1>
      <p class="quiet">{{ connected ? 'Live, twenty times a second.' : 'Connecting to the points.' }}</p>
    </div>
    <p v-if="says" class="bad" role="alert">{{ says }}</p>
    <p class="quiet">
      Every discrete point at one glance, the last half minute beside each. Watch from outside the guards; isolate
      before reaching in.
    </p>
    <p v-if="points.length" class="quiet" data-test="watch-bench">
      What moves here is simulated: {{ points.length - unconnected.length }} of {{ points.length }} benches are
      connected.
      <button
        v-if="unconnected.length && session.has('technician')"
        type="button"
        class="link"
        data-test="connect-all"
        @click="connectAll"
      >
        Connect all of them to practise
      </button>
    </p>
    <p v-if="!points.length && !says" class="quiet">No discrete point is entered yet.</p>
    <template v-else>
      <div class="heads small quiet" aria-hidden="true">
        <span>Tag</span><span>Name and service</span>
        <span class="live"><i /><span>State</span><span class="count">Cycles</span><span>30 s ago to now</span></span>
      </div>
      <ul class="points">
        <li v-for="p in points" :key="p.loopId" :data-point="p.tag">
          <router-link :to="`/loops/${p.loopId}/count`" class="tag figures">{{ p.tag }}</router-link>
          <span class="name"
            ><b class="figures">{{ p.name || 'not named' }}</b> <span class="quiet small">{{ p.service }}</span></span
          >
          <span ref="rows" class="live">
            <i class="lamp" data-on="-1" />
            <span class="means">waiting</span>
            <span class="count figures">0</span>
            <span class="strip"><canvas width="300" height="28" aria-hidden="true" /></span>
          </span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.points {
  list-style: none;
  padding: 0;
  margin: 0 0 12px;
}
.heads {
  border-bottom: 1px solid var(--second);
  padding: 8px 0;
}
.heads,
.points li {
  display: grid;
  grid-template-columns: 84px minmax(0, 1fr) minmax(0, 1.9fr);
  gap: 16px;
  align-items: center;
}
.points li {
  min-height: 48px;
  border-bottom: 1px solid var(--hairline);
  contain: layout style;
}
.tag {
  display: inline-flex;
  align-items: center;
  min-height: 44px;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.live {
  display: grid;
  grid-template-columns: 22px minmax(0, 1fr) 56px 300px;
  gap: 12px;
  align-items: center;
}
.lamp {
  width: 18px;
  height: 18px;
  border-radius: 50%;
  border: 2.5px solid var(--signal);
}
.lamp[data-on='1'] {
  background: var(--signal);
}
.lamp[data-on='-1'] {
  border-color: var(--hairline);
}
.means {
  color: var(--signal);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.count {
  text-align: right;
}
.strip canvas {
  display: block;
  width: 100%;
  height: 28px;
}
@media (max-width: 900px) {
  .heads {
    display: none;
  }
  .points li {
    grid-template-columns: 84px minmax(0, 1fr);
  }
  .live {
    grid-column: 1 / -1;
    grid-template-columns: 22px minmax(0, 1fr) 56px minmax(0, 300px);
    padding-bottom: 8px;
  }
}
</style>
