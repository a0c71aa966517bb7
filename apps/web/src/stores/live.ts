// Live readings of the loop's link: the newest one, and how steady the current is.
import { LiveReading, TrendSample, type CommandMeter, type MeterHeld, type MoveProcess } from '@calm-loop/contract'
import { lookBack_s, stability, type Sample, type Stability } from '@calm-loop/core/check'
import { restOf } from '@calm-loop/core/loop'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { addressOf, ApiProblem, call } from '../api/client.ts'
import { openStream } from '../api/stream.ts'
import { useFolder } from './folder.ts'

/** Site's limits for a steady loop current: 0.1 % of span drift and 0.06 % noise over 4 s. */
const LIMITS = { window_s: 4, drift: 0.016, noise: 0.01 }
const MA_PER_PCT = 0.16
const KEPT_s = 12

export const useLive = defineStore('live', () => {
  const folder = useFolder()
  const reading = shallowRef<LiveReading>()
  const samples = shallowRef<Sample[]>([])
  const connected = ref(false)
  const problem = ref('')
  const limits = shallowRef<{ unit: string; lowest: number; highest: number }>()
  /** With the damping of the loop at hand, and a tenth of its tolerance. */
  const rest = computed(() => {
    const known = folder.current && restOf(folder.current)
    return known ? { ...LIMITS, tau_s: known.tau_s, still: known.stillPct * MA_PER_PCT } : LIMITS
  })
  /** A process that is on its way is not steady, however quiet the current has been so far. */
  const steadiness = computed<Stability>(() => {
    const quiet = stability(samples.value, rest.value)
    return reading.value?.moving && quiet.state === 'stable' ? { ...quiet, state: 'moving' } : quiet
  })
  let closeStream: (() => void) | undefined

  /** The newest samples of the trend, twenty a second; not watched by anything, but drawn anew each frame. */
  const trend: TrendSample[] = []
  function hearTrend(text: string | null): void {
    const parsed = TrendSample.safeParse(JSON.parse(text ?? 'null'))
    if (!parsed.success) return
    if (parsed.data.t_s < (trend.at(-1)?.t_s ?? 0)) trend.length = 0
    trend.push(parsed.data)
    if (trend.length > 1600) trend.splice(0, 400)
  }

  let opened = 0
  /** What a page listens to: from when something answers there, for as long as it does. */
  let wanted: { readonly loopId: string; readonly withTrend: boolean } | undefined
  async function open(loopId: string, withTrend = false): Promise<void> {
    close()
    wanted = { loopId, withTrend }
    if (folder.answers) await listen(wanted)
  }
  watch(
    () => folder.answers && `${folder.answers} ${folder.view?.device?.serial ?? ''}`,
    (on) => {
      const was = wanted
      hangUp()
      if (on && was) void listen(was)
    },
  )
  async function listen({ loopId, withTrend }: NonNullable<typeof wanted>): Promise<void> {
    const mine = opened
    problem.value = ''
    try {
      const described = await call('link', { params: { loopId } })
      // Closed, or opened for another loop, while the answer was on its way.
      if (mine !== opened) return
      limits.value = described
    } catch (error) {
      if (mine === opened) problem.value = (error as ApiProblem).message
      return
    }
    closeStream = openStream(addressOf('linkStream', { loopId }, withTrend ? { trend: '1' } : {}), {
      on: { reading: hear, trend: hearTrend },
      opened: (open) => (connected.value = open),
    })
  }
  /** At once: two messages in one turn of the page are two readings, and an edge in either counts. */
  function hear(text: string): void {
    const parsed = LiveReading.safeParse(JSON.parse(text))
    if (!parsed.success) return
    connected.value = true
    reading.value = parsed.data
    const t = parsed.data.t_s
    const before = samples.value.at(-1)?.t_s ?? 0
    const kept = t < before ? [] : samples.value.filter((s) => s.t_s > t - Math.max(KEPT_s, lookBack_s(rest.value) + 1))
    // Over a line no meter is seen: how steady it is, the device’s own current says, which follows its value.
    const { knots, signal_mA, believes } = parsed.data
    const value = knots['current'] ?? signal_mA ?? believes?.mA ?? undefined
    samples.value = value === undefined ? [] : [...kept, { t_s: t, value }]
  }
  function close(): void {
    wanted = undefined
    hangUp()
  }
  function hangUp(): void {
    opened++
    closeStream?.()
    closeStream = undefined
    reading.value = undefined
    samples.value = []
    trend.length = 0
    connected.value = false
    limits.value = undefined
  }
  async function ask(loopId: string, body: MoveProcess): Promise<void> {
    problem.value = ''
    await call('moveProcess', { params: { loopId }, body }).catch(
      (error: ApiProblem) => (problem.value = error.message),
    )
  }
  const move = (loopId: string, wanted: number) => ask(loopId, { wanted })
  /** Lets a discrete point's machine run by itself, or stops it. */
  const run = (loopId: string, running: boolean) => ask(loopId, { running })
  /** What the meter behind the link holds, and its practice cases. */
  const held = shallowRef<MeterHeld>()
  async function readHeld(loopId: string): Promise<void> {
    held.value = !folder.practising
      ? undefined
      : await call('meterHeld', { params: { loopId } }).catch((error: ApiProblem) => {
          problem.value = error.message
          return undefined
        })
  }
  /** Says whether the meter took the command; what is wrong stands in `problem`. */
  async function command(loopId: string, body: CommandMeter): Promise<boolean> {
    problem.value = ''
    try {
      held.value = await call('commandMeter', { params: { loopId }, body })
      return true
    } catch (error) {
      problem.value = (error as ApiProblem).message
      return false
    }
  }
  return {
    trend,
    held,
    readHeld,
    command,
    reading,
    samples,
    steadiness,
    connected,
    problem,
    limits,
    open,
    close,
    move,
    run,
  }
})
