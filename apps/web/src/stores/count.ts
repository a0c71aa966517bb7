// What the point that is open has counted: its changes on record, the report a worker makes of them, and how far it is.
import { inWorld, standingCount, type AddCountEntry, type EdgeTrain } from '@calm-loop/contract'
import type { CountReport } from '@calm-loop/core/discrete'
import { countTerms } from '@calm-loop/core/kinds'
import { useDebounceFn } from '@vueuse/core'
import { proxy, wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import type { CountWorker } from '../workers/count.worker.ts'
import { useFolder } from './folder.ts'
import { sure } from '@calm-loop/core/sure'

export const useCount = defineStore('count', () => {
  const folder = useFolder()
  const trains = shallowRef<readonly EdgeTrain[]>([])
  const report = shallowRef<CountReport>()
  /** Share of the counting done; undefined when nothing is being counted. */
  const progress = ref<number>()
  const problem = ref('')
  let worker: Worker | undefined
  /** One for the worker's whole life: when a wrapping is forgotten, the worker is told to listen no more. */
  let wrapped: Remote<CountWorker> | undefined
  const counter = () => {
    worker ??= new Worker(new URL('../workers/count.worker.ts', import.meta.url), { type: 'module' })
    return (wrapped ??= wrap<CountWorker>(worker))
  }
  const standing = computed(() => standingCount(folder.here.countLog))
  const terms = computed(() => countTerms(folder.entries))
  const heads = computed(() => folder.here.trains)

  let asked = 0
  async function recount(): Promise<void> {
    const mine = ++asked
    if (!trains.value.length) {
      report.value = undefined
      progress.value = undefined
      return
    }
    progress.value = 0
    const { patterns, days, idealCycle_s, longCycle_s } = terms.value
    const made = await counter().report(
      trains.value.map(({ startMs, startState, gaps }) => ({ startMs, startState, gaps })),
      {
        patterns,
        days: [...days],
        idealCycle_s,
        longCycle_s,
        stops: standing.value.stops.map((s) => ({ from_ms: Date.parse(s.from), to_ms: Date.parse(s.to) })),
        rejected: { ...standing.value.rejected },
      },
      proxy((share: number) => mine === asked && (progress.value = share)),
    )
    if (mine !== asked) return
    report.value = made
    progress.value = undefined
  }
  const recountSoon = useDebounceFn(recount, 250)

  /** Fetches the changes on record, when there are others than those known, and counts. */
  async function load(): Promise<void> {
    const loopId = folder.view?.loop.id
    if (!loopId) return
    problem.value = ''
    const same = heads.value.length === trains.value.length && heads.value.every((h, i) => h.id === trains.value[i]!.id)
    if (!same)
      try {
        trains.value = heads.value.length ? inWorld(await call('edges', { params: { loopId } }), folder.practising) : []
      } catch (error) {
        problem.value = (error as ApiProblem).message
        return
      }
    await recount()
  }
  const readFile = (file: File, told: (share: number) => void) => counter().readFile(file, proxy(told))

  /** Adds to the count log; what is wrong is said. */
  async function add(entry: AddCountEntry): Promise<boolean> {
    problem.value = ''
    try {
      await call('addCountEntry', { params: { loopId: sure(folder.view).loop.id, entryId: uuid() }, body: entry })
      await folder.refresh()
      return true
    } catch (error) {
      problem.value = (error as ApiProblem).message
      return false
    }
  }
  function close(): void {
    worker?.terminate()
    worker = wrapped = undefined
    trains.value = []
    report.value = undefined
    progress.value = undefined
  }
  return { trains, heads, report, progress, problem, standing, terms, load, recount, recountSoon, readFile, add, close }
})
