// Trim work of the loop that is open: what was found, what it means, the guided run under way, and what the device
// says that it holds.
import {
  asFoundStanding,
  runsOf,
  trimSet,
  workOf,
  type CommandBench,
  type DoProcedure,
  type ProcedureChoices,
  type TransmitterView,
  type WorkOf,
} from '@calm-loop/contract'
import { chainOf, foundPoint, proceduresFor, type Chain } from '@calm-loop/core/loop'
import { replay, type ProcedureId, type RunState } from '@calm-loop/core/procedure'
import { entryIn } from '@calm-loop/core/quantity'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { diagnoseOr, type FoundPoint, type TrimDiagnosis } from '@calm-loop/core/trim'
import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef, watch } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import { useFolder } from './folder.ts'
import { useSite } from './site.ts'
import { leadByHand } from './lead-by-hand.ts'
import { sure } from '@calm-loop/core/sure'

export interface ShownPoint {
  readonly entry: WorkOf<'trim-point'>
  readonly point: FoundPoint | Refusal
}
export interface ShownRun {
  readonly id: string
  readonly entries: readonly WorkOf<'procedure'>[]
  readonly state: RunState
}

export const useTrim = defineStore('trim', () => {
  const folder = useFolder()
  const problem = ref('')
  const busy = ref(false)
  const site = useSite()
  const limits = computed(() => site.limits)
  const device = shallowRef<TransmitterView>()
  const log = computed(() => folder.here.workLog)
  const kind = computed(() => (folder.kind?.family === 'current' ? folder.kind : undefined))
  const chain = computed<Chain | Refusal | undefined>(
    () => folder.current && attempt(() => chainOf(sure(folder.current))),
  )
  const known = computed(() => (chain.value instanceof Refusal ? undefined : chain.value))
  const procedures = computed<readonly ProcedureId[]>(() => {
    const list = folder.current && attempt(() => proceduresFor(sure(folder.current)))
    return list instanceof Refusal || !list ? [] : list
  })
  const tolerancePct = computed(() => folder.current?.reader.in('tolerance', '%') ?? 0.5)

  const shown = (entries: readonly WorkOf<'trim-point'>[]): ShownPoint[] =>
    known.value ? entries.map((entry) => ({ entry, point: attempt(() => foundPoint(sure(known.value), entry)) })) : []
  const found = computed(() => shown(trimSet(log.value, 'as-found')))
  /** As found still counts: nothing was left since. */
  const foundStands = computed(() => asFoundStanding(log.value).length > 0)
  /** As left of the work at hand; that of earlier work does not belong beside a newer as found. */
  const left = computed(() => (foundStands.value ? [] : shown(trimSet(log.value, 'as-left'))))
  /** The range that the device shows: asked at the bench, else as somebody last typed it. */
  const heldRange = computed(() => {
    const typed = workOf(log.value, 'device-range').at(-1)
    if (device.value) return { lrv: device.value.held.lrv, urv: device.value.held.urv }
    const unit = known.value?.digital.unit
    if (!typed || !unit) return undefined
    const [lrv, urv] = [typed.lrv, typed.urv].map((e) => entryIn(e, unit))
    return lrv === undefined || urv === undefined ? undefined : { lrv, urv }
  })
  const good = (points: readonly ShownPoint[]) =>
    points.map((p) => p.point).filter((p): p is FoundPoint => !(p instanceof Refusal))
  const judge = (points: readonly ShownPoint[], held: boolean): TrimDiagnosis | Refusal | undefined => {
    const c = known.value
    if (!c || !points.length) return undefined
    return diagnoseOr({
      lrv: c.lrv,
      urv: c.urv,
      points: good(points),
      tolerancePct: tolerancePct.value,
      adjustAbovePct: limits.value.adjustAbovePct,
      hasCurrent: c.hasCurrent,
      ...(held && heldRange.value ? { held: heldRange.value } : {}),
    })
  }
  const diagnosis = computed(() => judge(found.value, !left.value.length))
  const leftDiagnosis = computed(() => judge(left.value, true))

  const runs = computed<ShownRun[]>(() =>
    runsOf(log.value).flatMap(({ run, entries }) => {
      // A run that a later version can no longer follow stays on record and out of the way.
      const state = attempt(() => replay(entries.map((e) => e.event)))
      return state instanceof Refusal ? [] : [{ id: run, entries, state }]
    }),
  )
  const open = computed(() => runs.value.find((r) => r.state.status === 'running' || r.state.status === 'cancelled'))
  const last = computed(() => runs.value.at(-1))

  const line = computed<{ mark: 'done' | 'open' | 'stop' | 'look'; words: string }>(() => {
    const run = open.value
    if (run)
      return run.state.status === 'cancelled'
        ? { mark: 'look', words: 'to be put back' }
        : { mark: 'look', words: `gate ${run.state.at + 1} of ${run.state.steps.length}` }
    const judged = left.value.length && !foundStands.value ? leftDiagnosis.value : diagnosis.value
    if (!judged || judged instanceof Refusal) return { mark: 'open', words: 'as found not taken' }
    if (judged.verdict === 'leave')
      return { mark: 'done', words: left.value.length && !foundStands.value ? 'left inside' : 'leave alone' }
    return judged.verdict === 'service'
      ? { mark: 'stop', words: 'no trim helps' }
      : { mark: 'look', words: 'to adjust' }
  })

  const loopId = () => sure(folder.view).loop.id
  async function load(): Promise<void> {
    await site.loadLimits()
    await readDevice()
  }
  async function readDevice(): Promise<void> {
    device.value = !folder.answers
      ? undefined
      : await call('transmitter', { params: { loopId: loopId() } }).catch(() => undefined)
  }
  async function tried<T>(what: () => Promise<T>): Promise<T | undefined> {
    problem.value = ''
    busy.value = true
    try {
      return await what()
    } catch (error) {
      problem.value = (error as ApiProblem).message
      return undefined
    } finally {
      busy.value = false
    }
  }
  const bench = (body: CommandBench) =>
    tried(async () => (device.value = await call('commandBench', { params: { loopId: loopId() }, body })))
  /** Asks for an event of a run; what was refused stands in `problem`. The id lets a lost answer be asked for again. */
  const act = (run: string, body: DoProcedure, eventId = uuid()): Promise<boolean> =>
    tried(async () => {
      if (!folder.answers) {
        const state = runs.value.find((r) => r.id === run)?.state
        await leadByHand(body, { run, id: eventId, state, limits: limits.value })
        await folder.refresh().catch(() => undefined)
        return true
      }
      await call('doProcedure', { params: { loopId: loopId(), runId: run, eventId }, body })
      await folder.refresh()
      await readDevice()
      return true
    }).then(async (done) => {
      // What was refused may be refused because somebody went on, or changed the limits: see what stands now.
      if (!done) {
        await site.loadLimits()
        await folder.refresh().catch(() => undefined)
      }
      return done === true
    })
  const begin = (procedure: ProcedureId, choices: ProcedureChoices) => act(uuid(), { do: 'begin', procedure, choices })

  // What the device says is asked for anew when the bench comes or goes.
  watch(
    () => folder.answers,
    () => folder.view && void readDevice(),
  )

  return {
    problem,
    busy,
    limits,
    device,
    heldRange,
    kind,
    chain,
    known,
    procedures,
    tolerancePct,
    found,
    left,
    foundStands,
    diagnosis,
    leftDiagnosis,
    runs,
    open,
    last,
    line,
    load,
    readDevice,
    bench,
    act,
    begin,
    good,
  }
})
