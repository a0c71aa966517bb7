// Where everything on the thread stands: a column for each knot, the lines that join rings and dots, and the segments
// where read parts from expected.
import { placeOnScale } from '@calm-loop/drawing'
import { computed, type Ref } from 'vue'
import { usePreferences } from '../stores/preferences.ts'
import { useThread } from '../stores/thread.ts'

export const HEIGHT = 114
const TOP = 38
const BOTTOM = 104
/** Departures smaller than this are not worth a word, % of span. */
const WORTH_SAYING_PCT = 0.05

export function useColumns(width: Ref<number>) {
  const store = useThread()
  const preferences = usePreferences()

  const columns = computed(() =>
    (store.thread?.knots ?? []).map((knot, i) => {
      const { low, high } = store.scales[i] ?? { low: undefined, high: undefined }
      const expected = store.expected[i] ?? {
        known: false as const,
        why: 'needs' as const,
        says: 'needs a value at any knot',
      }
      const read = store.reads[knot.id]
      return {
        knot,
        low,
        high,
        expected,
        read,
        ring: expected.known ? placeOnScale(expected.value, low, high) : undefined,
        dot: read === undefined ? undefined : placeOnScale(read, low, high),
      }
    }),
  )
  const x = (i: number) => (width.value / Math.max(1, columns.value.length)) * (i + 0.5)
  const y = (at: number) => BOTTOM - at * (BOTTOM - TOP)

  /** Joins the rings, broken where one is not known; or the dots, straight on to the next one read. */
  function path(which: 'ring' | 'dot'): string {
    let open = false
    return columns.value
      .map((c, i) => {
        const place = c[which]
        if (!place) {
          if (which === 'ring') open = false
          return ''
        }
        const part = `${open ? 'L' : 'M'}${x(i).toFixed(1)} ${y(place.at).toFixed(1)}`
        open = true
        return part
      })
      .join('')
  }

  const marks = computed(() => {
    const index = (id: string) => columns.value.findIndex((c) => c.knot.id === id)
    return store.parted
      .filter((d) => Math.abs(d.errorPct) >= WORTH_SAYING_PCT)
      .map((d) => ({
        ...d,
        x1: x(index(d.from)),
        x2: x(index(d.to)),
        short: `${preferences.number(d.errorPct, { decimals: 2, sign: true })} %`,
        words: `${preferences.number(d.errorPct, { decimals: 2, sign: true })} % of span`,
      }))
  })

  /** Holds the knot's value at the height `fromTop` of the drawing: dragging its ring. */
  function holdAt(i: number, fromTop: number): void {
    const c = columns.value[i]
    if (!c || c.low === undefined || c.high === undefined) return
    const at = Math.min(1.06, Math.max(-0.06, (BOTTOM - fromTop) / (BOTTOM - TOP)))
    store.hold(c.knot.id, Number((c.low + at * (c.high - c.low)).toFixed(c.knot.decimals)))
  }
  return { columns, marks, x, y, path, holdAt }
}
