// How still a device stands, by what it has shown of late.
import { lookBack_s, stability, type Sample } from '@calm-loop/core/check'
import type { RunState, SteadyEvidence } from '@calm-loop/core/procedure'
import { sure } from '@calm-loop/core/sure'
import type { Device } from '../link/links.ts'

/** How steady a witness is now, by the run's own limits. */
export function steadyNow({ recorder }: Device, state: RunState): SteadyEvidence {
  const step = sure(state.steps[state.at])
  const { window_s, driftPct, noisePct, tau_s, stillPct } = state.terms.stability
  const limits = { window_s, drift: driftPct, noise: noisePct, tau_s, still: stillPct }
  const of = step.of ?? 'digital'
  // An electrode is judged by the pH that its voltage means: 100 % of span over the range.
  const samples = recorder
    .samples(of)
    .map((s) =>
      of === 'electrode' ? { ...s, value: (100 * s.value) / (59 * Math.abs(state.terms.urv - state.terms.lrv)) } : s,
    )
  const found = stability(samples.slice(-Math.ceil((lookBack_s(limits) + 1) * 20) - 5), limits)
  return {
    state: found.state,
    driftPct: found.drift,
    noisePct: found.noise,
    ...(stillPct === undefined ? {} : { toGoPct: found.toGo }),
    window_s,
    samples: samples.length,
    ...(of === 'electrode' ? warmthOf(recorder.samples('temperature'), window_s) : {}),
  }
}

/** Temperature of an electrode over the window, where it is seen. */
function warmthOf(samples: readonly Sample[], window_s: number): Pick<SteadyEvidence, 'temp_C' | 'tempDrift_K'> {
  const last = samples.at(-1)
  const first = last && samples.find((s) => s.t_s >= last.t_s - window_s)
  return last && first ? { temp_C: last.value, tempDrift_K: last.value - first.value } : {}
}
