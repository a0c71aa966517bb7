// Taking readings, point after point: what is typed, what is live, what is expected, and what is sent.
import type { Check, Reading, TakeReading } from '@calm-loop/contract'
import type { CurrentStudy } from '@calm-loop/core/loop'
import { entryFrom, entryIn, formatNumber, unitOf, type Entry } from '@calm-loop/core/quantity'
import { spread } from '@calm-loop/core/thread'
import { computed, nextTick, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { usePoints } from './points.ts'
import { inSentence } from '@calm-loop/core/words'
import { sure } from '@calm-loop/core/sure'

const NOTHING: Entry = { typed: '' }
const isTyped = (entry: Entry) => entry.typed.trim() !== ''

/** An entry as a live figure makes it: the text carries its unit, as if it had been typed. */
function fixed(value: number, unit: string, decimals: number): Entry {
  return entryFrom(`${formatNumber(value, { decimals }).replace('−', '-')} ${unit}`, {
    quantity: unitOf(unit).quantity,
    unit,
  })
}

export function useTaking(check: () => Check) {
  const folder = useFolder()
  const live = useLive()
  const points = usePoints(check, clear)
  const { point, says } = points

  const known = computed(() => folder.studyOfCheck(check()) as CurrentStudy)
  const thread = computed(() => known.value.thread)
  const process = computed(() => sure(thread.value.knots[0]))
  const controller = computed(() => sure(thread.value.knots.at(-1)))
  /** What the check is judged by: the loop current, or on a bus what the controller shows. */
  const witness = computed(() => thread.value.knots.find((k) => k.role === 'current') ?? controller.value)

  const applied = ref<Entry>(NOTHING)
  const current = ref<Entry>(NOTHING)
  const shown = ref<Entry>(NOTHING)
  const unsteadyTold = ref(false)

  const nominal = computed(() => {
    const { lrv, urv } = check().range
    return point.value ? lrv + (point.value.percent / 100) * (urv - lrv) : lrv
  })
  const liveEntry = (knotId: string): Entry | undefined => {
    const knot = thread.value.knots.find((k) => k.id === knotId)
    if (!knot) return undefined
    const value = live.connected ? live.reading?.knots[knotId] : undefined
    return value === undefined ? undefined : fixed(value, knot.unit, knot.decimals)
  }
  const liveApplied = computed(() =>
    live.connected && live.reading
      ? fixed(live.reading.reference, process.value.unit, process.value.decimals)
      : undefined,
  )
  /** The true input that counts now: typed, else live. */
  const trueNow = computed(() => (isTyped(applied.value) ? applied.value : liveApplied.value))
  const expected = computed(() => {
    const value = entryIn(trueNow.value, process.value.unit)
    if (value === undefined) return undefined
    const index = thread.value.knots.indexOf(witness.value)
    const found = spread(thread.value, process.value.id, value)[index]
    return found?.known ? found.value : undefined
  })

  /** What still speaks against taking the reading, in words; empty when nothing does. */
  function objection(currentEntry: Entry | undefined): string {
    const typed = isTyped(current.value)
    if (trueNow.value?.value === undefined)
      return isTyped(applied.value)
        ? 'The true input cannot be read; see the entry.'
        : `Enter the true input first: there is no live ${sure(folder.kind).check.reference}.`
    if (currentEntry?.value === undefined)
      return typed
        ? 'What was read cannot be understood; see the entry.'
        : `Type the reading: there is no live ${inSentence(witness.value.name)} to take.`
    if (isTyped(shown.value) && shown.value.value === undefined)
      return 'What the controller shows cannot be read; see the entry.'
    if (points.unexplained()) return points.unexplained()
    if (!typed && live.steadiness.state !== 'stable' && !unsteadyTold.value) {
      unsteadyTold.value = true
      return 'The current is not steady yet. Wait, or press Enter again to take it as it is.'
    }
    return ''
  }

  function take(): void {
    if (!point.value) return
    const typed = isTyped(current.value)
    const currentEntry = typed ? current.value : liveEntry(witness.value.id)
    says.value = objection(currentEntry)
    if (says.value) return
    const reads: TakeReading['reads'] = { [witness.value.id]: currentEntry as Reading['applied'] }
    for (const id of ['digital', 'volts', 'counts', controller.value.id]) {
      if (id === witness.value.id) continue
      // A typed reading holds what was typed, and nothing that a link shows of another moment.
      const seen = typed ? undefined : liveEntry(id)
      const entry = id === controller.value.id && isTyped(shown.value) ? shown.value : seen
      if (entry?.value !== undefined) reads[id] = entry as Reading['applied']
    }
    points.take({ applied: trueNow.value as Reading['applied'], reads }, typed)
  }
  function clear(): void {
    applied.value = current.value = shown.value = NOTHING
    unsteadyTold.value = false
    void nextTick(() =>
      document.querySelector<HTMLInputElement>('[data-entry="current"] input')?.focus({ preventScroll: true }),
    )
  }
  const bring = () => void (point.value && live.move(sure(folder.view).loop.id, nominal.value))

  return {
    ...points,
    nominal,
    process,
    controller,
    witness,
    applied,
    current,
    shown,
    liveApplied,
    expected,
    take,
    bring,
  }
}
