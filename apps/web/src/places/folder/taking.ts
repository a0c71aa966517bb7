// Taking readings, point after point: what is typed, what is live, what is expected, what can hardly be, and what is
// sent.
import { readsVolts, type Check, type CheckReads, type Reading, type TakeReading } from '@calm-loop/contract'
import { atPlace, doubtsAbout } from '@calm-loop/contract/judging'
import { INDICATOR, witnessesBehind, type Witness } from '@calm-loop/core/check'
import type { CurrentStudy } from '@calm-loop/core/loop'
import { entryFrom, entryIn, formatNumber, unitOf, type Entry, type QuantityName } from '@calm-loop/core/quantity'
import { attempt } from '@calm-loop/core/refusal'
import { spread } from '@calm-loop/core/thread'
import { inSentence } from '@calm-loop/core/words'
import { sure } from '@calm-loop/core/sure'
import { computed, nextTick, ref } from 'vue'
import { useFolder } from '../../stores/folder.ts'
import { useLive } from '../../stores/live.ts'
import { usePoints } from './points.ts'

const NOTHING: Entry = { typed: '' }
const isTyped = (entry: Entry | undefined) => !!entry && entry.typed.trim() !== ''

/** A figure that is asked for at a point: the true input first, then each place that is read. */
export interface AskedFigure {
  /** `applied`, or the id of its place. */
  readonly key: string
  readonly name: string
  readonly quantity: QuantityName
  readonly unit: string
  readonly place?: Witness
  /** Volts of a current are read across this, Ω. */
  readonly ohm?: number | undefined
}

/** An entry as a live figure makes it: the text carries its unit, as if it had been typed. */
function fixed(value: number, unit: string, decimals: number): Entry {
  return entryFrom(`${formatNumber(value, { decimals }).replace('−', '-')} ${unit}`, {
    quantity: unitOf(unit).quantity,
    unit,
  })
}

/** What a check reads where it was begun before places were chosen: current, or on a bus the controller. */
function usualReads(known: CurrentStudy): Pick<CheckReads, 'standardAt' | 'reads' | 'resistor'> {
  const { knots } = known.thread
  const ids = knots.some((k) => k.role === 'current') ? ['current', 'controller'] : ['controller']
  return { standardAt: sure(knots[0]).id, reads: ids.map((at) => ({ at, gear: null })) }
}

/** The figures that a check asks for at each point. */
export function askedFigures(known: CurrentStudy, check: Pick<Check, 'terms'>, trueInput: string): AskedFigure[] {
  const terms = check.terms ?? usualReads(known)
  const { thread } = known
  const standard = sure(thread.knots.find((k) => k.id === terms.standardAt) ?? thread.knots[0])
  const first = standard.id === sure(thread.knots[0]).id
  const places = witnessesBehind(thread, standard.id)
  return [
    {
      key: 'applied',
      name: first ? trueInput : `True input: ${inSentence(standard.name)}`,
      quantity: standard.quantity,
      unit: standard.unit,
    },
    ...terms.reads.flatMap(({ at, stand, shows }): AskedFigure[] => {
      const place = places.find((w) => w.id === at)
      if (!place) return []
      const base = { key: at, name: at === 'current' ? 'Loop current read' : place.name, place }
      if (at === 'current' && readsVolts(stand))
        return [
          {
            ...base,
            name: 'Volts across the resistor',
            quantity: 'voltage',
            unit: 'V',
            ohm: terms.resistor && entryIn(terms.resistor.ohm, 'Ohm'),
          },
        ]
      if (at === INDICATOR && shows) return [{ ...base, quantity: 'ratio', unit: '%' }]
      return [{ ...base, quantity: place.quantity, unit: place.unit }]
    }),
  ]
}

/** What a place should show for a true input, as it is asked for; undefined where it is not known. */
export function expectedFor(
  known: CurrentStudy,
  standardAt: string,
  applied: number,
  figure: AskedFigure,
): number | undefined {
  const { place } = figure
  if (!place) return undefined
  const found = spread(known.thread, standardAt, applied)[known.thread.knots.findIndex((k) => k.id === place.knotId)]
  if (!found?.known) return undefined
  if (figure.ohm !== undefined) return (found.value * figure.ohm) / 1000
  return figure.unit === '%' && place.unit !== '%'
    ? (100 * (found.value - place.low)) / (place.high - place.low)
    : found.value
}

export function useTaking(check: () => Check) {
  const folder = useFolder()
  const live = useLive()
  const points = usePoints(check, clear)
  const { point, says } = points

  const known = computed(() => folder.studyOfCheck(check()) as CurrentStudy)
  const thread = computed(() => known.value.thread)
  const process = computed(() => sure(thread.value.knots[0]))
  const standardAt = computed(() => check().terms?.standardAt ?? process.value.id)
  const figures = computed(() => askedFigures(known.value, check(), sure(folder.kind).check.trueInput))
  const typed = ref<Readonly<Record<string, Entry>>>({})
  const entryOf = (key: string): Entry => typed.value[key] ?? NOTHING
  const put = (key: string, entry: Entry) => (typed.value = { ...typed.value, [key]: entry })
  const unsteadyTold = ref(false)
  /** What is odd about the figures typed; empty until they were to be taken. */
  const doubts = ref<readonly string[]>([])

  const nominal = computed(() => {
    const { lrv, urv } = check().range
    return point.value ? lrv + (point.value.percent / 100) * (urv - lrv) : lrv
  })
  /** The same at the knot where the standard stands. */
  const nominalAtStandard = computed(() => {
    const found = spread(thread.value, process.value.id, nominal.value)
    const value = found[thread.value.knots.findIndex((k) => k.id === standardAt.value)]
    return value?.known ? value.value : undefined
  })
  /** Live of the world that the check is of: the bench’s in practice, the loop’s own device’s on record. */
  const liveReading = computed(() =>
    live.connected && (check().practice || (folder.answers === 'device' && !folder.practising))
      ? live.reading
      : undefined,
  )
  function liveEntry(key: string): Entry | undefined {
    const reading = liveReading.value
    if (key === 'applied' && standardAt.value === process.value.id)
      return reading?.reference === undefined
        ? undefined
        : fixed(reading.reference, process.value.unit, process.value.decimals)
    const knot = thread.value.knots.find((k) => k.id === (key === 'applied' ? standardAt.value : key))
    const value = knot && reading?.knots[knot.id]
    return knot && value !== undefined ? fixed(value, knot.unit, knot.decimals) : undefined
  }
  const readKeys = computed(() => figures.value.slice(1).map((f) => f.key))
  const anyTyped = computed(() => readKeys.value.some((key) => isTyped(entryOf(key))))
  /** The true input that counts now: typed, or in practice live. */
  const trueNow = computed(() => (isTyped(entryOf('applied')) ? entryOf('applied') : liveEntry('applied')))
  function expectedAt(figure: AskedFigure): number | undefined {
    const value = entryIn(trueNow.value, sure(figures.value[0]).unit)
    return value === undefined ? undefined : expectedFor(known.value, standardAt.value, value, figure)
  }

  /** What would be taken: typed, and nothing that a link shows of another moment; in practice all of it live. */
  function reads(): TakeReading['reads'] {
    const from = readKeys.value.map((key) => [key, anyTyped.value ? entryOf(key) : liveEntry(key)] as const)
    return Object.fromEntries(
      from.flatMap(([key, entry]) => (entry?.value === undefined ? [] : [[key, entry as Reading['applied']]])),
    )
  }
  /** The first figure that was typed and cannot be read. */
  const unread = () => figures.value.find((f) => isTyped(entryOf(f.key)) && entryOf(f.key).value === undefined)
  const unfit = (figure: AskedFigure) =>
    figure.place && isTyped(entryOf(figure.key))
      ? attempt(() => atPlace(entryOf(figure.key) as Reading['applied'], sure(figure.place), check().terms ?? {}))
      : undefined

  /** What still speaks against taking the reading, in words; empty when nothing does. */
  function objection(): string {
    const odd = unread()
    if (odd) return `${odd.name} cannot be read; see the entry.`
    if (trueNow.value?.value === undefined) return `Enter the true input: ${sure(folder.kind).check.reference}.`
    if (!Object.keys(reads()).length)
      return `Type what was read: ${figures.value
        .slice(1)
        .map((f) => inSentence(f.name))
        .join(' or ')}.`
    const misfit = figures.value.map(unfit).find((r) => r instanceof Error)
    if (misfit) return misfit.message
    if (points.unexplained()) return points.unexplained()
    const said = points.reason.value.trim()
    const take = { applied: trueNow.value as Reading['applied'], reads: reads(), pointIndex: sure(point.value).index }
    doubts.value = said ? [] : doubtsAbout(check(), take, thread.value)
    if (doubts.value.length) return doubts.value.join(' ')
    if (!anyTyped.value && live.steadiness.state !== 'stable' && !unsteadyTold.value) {
      unsteadyTold.value = true
      return 'The current is not steady yet. Wait, or press Enter again to take it as it is.'
    }
    return ''
  }

  function take(): void {
    if (!point.value) return
    says.value = objection()
    if (says.value) return
    points.take({ applied: trueNow.value as Reading['applied'], reads: reads() }, anyTyped.value)
  }
  const focusNow = (key: string) =>
    document.querySelector<HTMLInputElement>(`[data-entry="${key}"] input`)?.focus({ preventScroll: true })
  const focus = (key: string) => void nextTick(() => focusNow(key))
  const begin = () => focusNow('applied')
  /** Enter goes on to what is still to be typed, and takes the reading when nothing is. */
  function enter(key: string): void {
    const keys = figures.value.map((f) => f.key)
    const next = keys.slice(keys.indexOf(key) + 1).find((k) => !isTyped(entryOf(k)))
    const wanting = isTyped(entryOf(key)) && next !== undefined
    if (wanting && !(liveReading.value && key !== 'applied')) focus(next)
    else take()
  }
  function clear(): void {
    typed.value = {}
    doubts.value = []
    unsteadyTold.value = false
    focus('applied')
  }
  const bring = () => void (point.value && live.move(sure(folder.view).loop.id, nominal.value))

  return {
    ...points,
    nominal,
    nominalAtStandard,
    process,
    figures,
    entryOf,
    put,
    liveEntry,
    expectedAt,
    doubts,
    begin,
    take,
    enter,
    bring,
  }
}
