// A study in the units that its loop is spoken of in: figures, sensor knots and every word.
import type { CurrentLook, Figure } from '../kinds/index.ts'
import { convertUnit, speaking, spokenFigure, spokenUnit, type Spoken } from '../quantity/index.ts'
import type { Stage, Thread } from '../thread/index.ts'
import type { Working } from '../working/index.ts'

/** A working that is worded when it is asked for. */
const worded =
  <A extends unknown[]>(spoken: Spoken | undefined, working: (...of: A) => Working) =>
  (...of: A): Working =>
    speaking(spoken, () => working(...of))

/** Figures in the units spoken, with decimals that tell as much. */
export const spokenFigures = (figures: readonly Figure[], spoken: Spoken): Figure[] =>
  figures.map((f) => {
    const working = f.working ? { working: worded(spoken, f.working) } : {}
    if (f.value === undefined) return { ...f, unit: spokenUnit(f.unit, spoken), ...working }
    const { value, unit, decimals } = spokenFigure(f.value, f.unit, f.decimals, spoken)
    return { ...f, value, unit, ...(decimals === undefined ? {} : { decimals }), ...working }
  })

/**
 * The thread with its sensor knots in the units spoken. What the loop reports and shows is in the unit of its own
 * range.
 */
export function spokenThread(thread: Thread, spoken: Spoken): Thread {
  const knots = thread.knots.map((knot) => {
    const { unit, decimals } = spokenFigure(1, knot.unit, knot.decimals, spoken)
    return knot.role !== 'sensor' || unit === knot.unit ? knot : { ...knot, unit, decimals: decimals ?? knot.decimals }
  })
  const stages = thread.stages.map((stage, i): Stage => {
    const [from, to] = [i, i + 1].map((k) => ({ was: thread.knots[k]?.unit ?? '', is: knots[k]?.unit ?? '' }))
    if (!stage.ready || !from || !to) return stage
    const { forward, inverse, working } = stage
    const inner = (v: number) => convertUnit(v, from.is, from.was)
    const outer = (v: number) => convertUnit(v, to.was, to.is)
    return {
      ...stage,
      forward: from.is === from.was && to.is === to.was ? forward : (v) => outer(forward(inner(v))),
      inverse:
        from.is === from.was && to.is === to.was
          ? inverse
          : (v) => convertUnit(inverse(convertUnit(v, to.is, to.was)), from.was, from.is),
      ...(working ? { working: worded(spoken, (v: number) => working(inner(v))) } : {}),
    }
  })
  return { ...thread, knots, stages }
}

/** Answers that are worded when they are asked for. The bench's meter is keyed in its own units. */
export function spokenAnswers(look: CurrentLook, spoken: Spoken): Partial<CurrentLook> {
  const { sheets, setup, doubt, meter } = look
  return {
    ...(sheets ? { sheets: () => speaking(spoken, sheets) } : {}),
    ...(setup ? { setup: () => speaking(spoken, setup) } : {}),
    ...(doubt ? { doubt: () => speaking(spoken, doubt) } : {}),
    ...(meter ? { meter: () => speaking(undefined, meter) } : {}),
  }
}
