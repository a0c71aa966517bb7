// What the code makes of a recorded folder: thread, figures, findings, verdicts, and where each run stands. Held
// against what an earlier release saw.
import { study } from '@calm-loop/core/loop'
import { runsOf, type Bundle } from '@calm-loop/contract'
import { verdictOfCheck } from '@calm-loop/contract/judging'
import { entriesNow, kindOf, type Entries } from '@calm-loop/core/kinds'
import { replay, toUndo, type ProcedureEvent } from '@calm-loop/core/procedure'
import { spread, knotScales, type Thread } from '@calm-loop/core/thread'

/** Twelve figures are more than any meter has, and fewer than what another order of adding moves. */
const round = (value: number): number => Number(value.toPrecision(9))

function threadSeen(thread: Thread) {
  const scales = knotScales(thread)
  const { low, high } = scales[0] ?? {}
  if (low === undefined || high === undefined) return null
  const at = (share: number) =>
    spread(thread, thread.knots[0]!.id, low + share * (high - low)).map((v) => (v.known ? round(v.value) : v.why))
  return { knots: thread.knots.map((k) => `${k.id} ${k.unit}`), at: [0, 0.25, 0.5, 0.75, 1].map(at) }
}

function runSeen(events: readonly ProcedureEvent[]) {
  const state = replay(events)
  return {
    procedure: state.procedure,
    status: state.status,
    at: state.steps[state.at]?.id ?? null,
    steps: state.steps.map((s) => `${s.id} ${s.kind}`),
    values: Object.fromEntries(Object.entries(state.values).map(([k, v]) => [k, round(v)])),
    world: { ...state.world, written: state.world.written.length },
    pending: state.pending?.command.do ?? null,
    undo: toUndo(state).map((u) => u.id),
    events: state.events,
  }
}

/** Everything that must be seen the same for as long as the record lasts. */
export function seenOf({ folder }: Bundle) {
  const kind = kindOf(folder.loop.kind)
  const studyOf = (entries: Entries) => {
    const known = study(kind, entries)
    return {
      thread: known.family === 'current' ? threadSeen(known.thread) : null,
      states: known.family === 'switch' ? (known.run.verdict ?? null) : null,
      figures: Object.fromEntries(known.figures.map((f) => [f.id, f.value === undefined ? null : round(f.value)])),
      findings: known.findings.map((f) => `${f.grade} ${f.code}`).sort(),
    }
  }
  return {
    kind: folder.loop.kind,
    versions: folder.versions.map((v) => studyOf(entriesNow(kind, v))),
    checks: folder.checks.map((c) => {
      const version = folder.versions.find((v) => v.id === c.versionId)
      const verdict = verdictOfCheck(study(kind, entriesNow(kind, version)), c)
      return verdict && { pass: verdict.pass, errorPct: verdict.errorPct === null ? null : round(verdict.errorPct) }
    }),
    runs: runsOf(folder.workLog).map(({ entries }) => runSeen(entries.map((e) => e.event))),
  }
}
