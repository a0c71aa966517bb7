// Taking the readings of a discrete check: which point is at hand, what each witness showed, where it changed, and
// what is sent.
import type { Check, Reading, TakeReading } from '@calm-loop/contract'
import { withTarget } from '@calm-loop/core/check'
import { WITNESSES, type WitnessId } from '@calm-loop/core/discrete'
import type { SwitchStudy } from '@calm-loop/core/loop'
import { entryFrom, type Entry } from '@calm-loop/core/quantity'
import { computed, ref, watch } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { usePoints } from './points.ts'
import { sure } from '@calm-loop/core/sure'

const NOTHING: Entry = { typed: '' }
export type Look = 'lit' | 'dark' | 'not seen' | ''
const stateEntry = (on: boolean) => ({ typed: `${on ? 1 : 0} state`, value: on ? 1 : 0, unit: 'state' })

export function useTakingStates(check: () => Check) {
  const folder = useFolder()
  const live = useLive()
  const points = usePoints(check, clear)
  const { point, says } = points
  const run = computed(() => (folder.studyOfCheck(check()) as SwitchStudy).run)

  const looks = ref<Record<WitnessId, Look>>({ sensorLamp: '', inputLamp: '', controller: '' })
  const distance = ref<Entry>(NOTHING)
  const signal = ref<Entry>(NOTHING)
  /** Where it changed last since this point came up, from the link. */
  const changedAt = ref<number>()

  const there = computed(() => !!point.value && withTarget(point.value))
  const expected = computed(() => {
    const plan = run.value.plan
    return plan && (there.value ? plan.present : plan.absent)
  })
  const hasDistance = computed(() => !!run.value.plan?.distance)
  watch(
    () => live.reading,
    (reading) => {
      const edge = reading?.edges?.at(-1)
      if (edge) changedAt.value = edge.at
    },
    { flush: 'sync' },
  )
  const liveState = (id: WitnessId): boolean | undefined => {
    const v = live.connected ? live.reading?.knots[id] : undefined
    return v === undefined ? undefined : v >= 0.5
  }
  const mm = (v: number) => entryFrom(`${v.toFixed(2)} mm`, { quantity: 'length', unit: 'mm' })
  const liveDistance = computed(() =>
    changedAt.value === undefined || !live.connected ? undefined : mm(changedAt.value),
  )
  const liveSignal = computed(() => {
    const v = live.connected ? live.reading?.knots['signal'] : undefined
    return v === undefined ? undefined : entryFrom(`${v.toFixed(2)} V`, { quantity: 'voltage', unit: 'V' })
  })
  const typed = (e: Entry) => e.typed.trim() !== ''

  /** What a witness showed: as looked at, else as it is live; undefined where nobody saw it. */
  const seen = (id: WitnessId): boolean | undefined =>
    looks.value[id] === 'lit'
      ? true
      : looks.value[id] === 'dark'
        ? false
        : looks.value[id] === 'not seen'
          ? undefined
          : liveState(id)

  /** Whether this point has been done anything for: before that nothing can disagree. */
  const acted = computed(() => {
    if (Object.values(looks.value).some((l) => l !== '') || changedAt.value !== undefined || !live.connected)
      return true
    const [at_mm, far] = [live.reading?.reference ?? 0, live.limits?.highest ?? 0]
    return there.value ? at_mm < far / 20 : at_mm > (far * 19) / 20
  })

  function objection(): string {
    if (seen('controller') === undefined) return 'Say what the controller shows: it is the witness that counts.'
    if (typed(distance.value) && distance.value.value === undefined)
      return 'The distance cannot be read; see the entry.'
    if (hasDistance.value && !typed(distance.value) && !liveDistance.value)
      return live.connected
        ? `Move the target until the sensor changes: nothing has changed yet.`
        : 'Enter the distance at which it changed.'
    if (typed(signal.value) && signal.value.value === undefined) return 'The volts cannot be read; see the entry.'
    return points.unexplained()
  }

  function take(): void {
    if (!point.value) return
    says.value = objection()
    if (says.value) return
    const reads: TakeReading['reads'] = {}
    for (const { id } of WITNESSES) {
      const on = seen(id)
      if (on !== undefined) reads[id] = stateEntry(on)
    }
    const volts = typed(signal.value) ? signal.value : liveSignal.value
    if (volts?.value !== undefined) reads['signal'] = volts as Reading['applied']
    const changed = typed(distance.value) ? distance.value : hasDistance.value ? liveDistance.value : undefined
    const anyTyped = Object.values(looks.value).some((l) => l !== '') || typed(distance.value) || typed(signal.value)
    points.take({ applied: (changed ?? stateEntry(there.value)) as Reading['applied'], reads }, anyTyped)
  }
  function clear(): void {
    looks.value = { sensorLamp: '', inputLamp: '', controller: '' }
    distance.value = signal.value = NOTHING
    changedAt.value = undefined
  }
  /** Brings the target to the face, or takes it away. */
  function bring(): void {
    if (point.value) void live.move(sure(folder.view).loop.id, there.value ? 0 : (live.limits?.highest ?? 0))
  }
  return {
    ...points,
    run,
    there,
    expected,
    hasDistance,
    looks,
    distance,
    signal,
    liveState,
    liveDistance,
    liveSignal,
    seen,
    acted,
    take,
    bring,
  }
}
