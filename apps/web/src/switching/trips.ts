// The switch points in motion: which scene runs, its state, and its recent past, stepped by the page's frames or by
// hand.
import {
  startTrips,
  stepTrips,
  tripAfter,
  contactCloses,
  type SimulatedRelay,
  type TripScene,
  type TripState,
} from '@calm-loop/core/discrete'
import { seedFrom } from '@calm-loop/core/device'
import { enteredTrips, lostAt } from '@calm-loop/core/kinds'
import { useRafFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useFolder } from '../stores/folder.ts'
import { useThread } from '../stores/thread.ts'
import { sure } from '@calm-loop/core/sure'

const STEP_s = 0.1
/** How much of the past is shown, s. */
export const PAST_s = 90
/** Simulated seconds in one of the page's. */
const FAST = 3

export interface Scene {
  readonly id: string
  readonly name: string
  readonly unit: string
  readonly scene: TripScene
  readonly names: readonly string[]
  readonly begin: number
}

/** What runs when the value is high empties; what runs when it is low fills. */
function effectOf(use: Omit<SimulatedRelay, 'effect'>, size: number): number {
  const at = (reading: number) => contactCloses(use.contact, tripAfter(use, false, reading))
  const [low, high] = [at(use.set - 1e6), at(use.set + use.band + 1e6)]
  return high === low ? 0 : high ? -size : size
}

const relay = (kind: SimulatedRelay['kind'], set: number, band: number, effect: number): SimulatedRelay => ({
  kind,
  set,
  band,
  contact: 'NO',
  effect,
})

/** Scenes that show what trips can do, in per cent of some way or tank. */
const SHOWN: readonly Scene[] = [
  {
    id: 'to-and-fro',
    name: 'To and fro',
    unit: '%',
    begin: 30,
    names: ['forward', 'back'],
    scene: { relays: [relay('near', 20, 60, 9), relay('far', 20, 60, -9)], drift: 0, least: 0, most: 100, noise: 0.5 },
  },
  {
    id: 'two-pumps',
    name: 'Two pumps in stages',
    unit: '%',
    begin: 30,
    names: ['pump A', 'pump B'],
    scene: {
      relays: [relay('far', 40, 25, -2.2), relay('far', 60, 20, -2.2)],
      drift: 3,
      least: 0,
      most: 100,
      noise: 1,
    },
  },
  {
    id: 'chatter',
    name: 'Band smaller than the noise',
    unit: '%',
    begin: 49,
    names: ['pump'],
    scene: { relays: [relay('far', 50, 0.6, -1.2)], drift: 0.6, least: 0, most: 100, noise: 3 },
  },
]

export function useTrips() {
  const folder = useFolder()
  const thread = useThread()
  const r = computed(() => sure(folder.reader))
  const unit = computed(() => thread.thread?.knots[0]?.unit ?? '%')
  const trips = computed(() => enteredTrips(r.value, unit.value))
  /** In per cent of span a second, and of span peak to peak. */
  const inflow = ref(1.5)
  const noise = ref(0.4)
  const lost = computed(() => lostAt(r.value, unit.value))
  const own = computed<Scene | undefined>(() => {
    const uses = trips.value.flatMap((t) => (t.use ? [{ use: t.use, name: t.drives }] : []))
    const [a, b] = [r.value.in('lrv', unit.value), r.value.in('urv', unit.value)]
    if (!uses.length || a === undefined || b === undefined || a === b) return undefined
    const span = Math.abs(b - a)
    const least = Math.min(a, b)
    return {
      id: 'own',
      name: 'As entered',
      unit: unit.value,
      names: uses.map((u) => u.name),
      begin: least + span * 0.3,
      scene: {
        relays: uses.map(({ use }) => ({ ...use, effect: effectOf(use, span * 0.011) })),
        drift: (inflow.value / 100) * span,
        least,
        most: least + span,
        noise: (noise.value / 100) * span,
        lostAt: lost.value,
      },
    }
  })
  const scenes = computed(() => [...(own.value ? [own.value] : []), ...SHOWN])
  const chosen = ref('own')
  const scene = computed(() => scenes.value.find((s) => s.id === chosen.value) ?? sure(scenes.value[0]))
  const past = shallowRef<readonly TripState[]>([])
  const now = computed(() => sure(past.value.at(-1)))
  const running = ref(false)

  function restart(): void {
    const { scene: s, begin } = scene.value
    past.value = [startTrips(s, begin, seedFrom(scene.value.id))]
  }
  // Another scene, or other relays in it, begin anew; what is turned while it runs does not.
  watch(
    () => JSON.stringify([scene.value.id, scene.value.scene.relays, scene.value.scene.least, scene.value.scene.most]),
    restart,
    { immediate: true },
  )
  function step(seconds: number): void {
    const next = [...past.value]
    for (let t = 0; t < seconds - 1e-9; t += STEP_s) next.push(stepTrips(scene.value.scene, sure(next.at(-1)), STEP_s))
    const from = sure(next.at(-1)).t_s - PAST_s
    past.value = next.filter((s) => s.t_s >= from)
  }
  let owed = 0
  const loop = useRafFn(
    ({ delta }) => {
      owed += (Math.min(200, delta) / 1000) * FAST
      const whole = Math.floor(owed / STEP_s) * STEP_s
      if (whole > 0) step(whole)
      owed -= whole
    },
    { immediate: false },
  )
  watch(running, (on) => (on ? loop.resume() : loop.pause()))
  /** Takes power, sensor or echo away, or gives it back. */
  function lose(what: 'power' | 'sensor' | 'echo'): void {
    past.value = [...past.value.slice(0, -1), { ...now.value, [what]: !now.value[what] }]
    if (!running.value) step(STEP_s)
  }
  return { unit, trips, lost, inflow, noise, own, scenes, chosen, scene, past, now, running, restart, step, lose }
}
