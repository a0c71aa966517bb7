// What explains the readings, ranked in a worker; the last answer stays until the next is there.
import type { WireReading } from '@calm-loop/contract'
import { convertUnit } from '@calm-loop/core/quantity'
import type { LoopReading } from '@calm-loop/core/wiring'
import { proxy, wrap } from 'comlink'
import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { useDesk } from '../stores/desk.ts'
import { useSite } from '../stores/site.ts'
import { plain } from '../workers/plain.ts'
import type { Explained, ExplainWorker } from '../workers/explain.worker.ts'

export function useExplained(readings: Ref<readonly WireReading[]>) {
  const desk = useDesk()
  const site = useSite()
  void site.loadPriors()
  const worker = new Worker(new URL('../workers/explain.worker.ts', import.meta.url), { type: 'module' })
  const explainer = wrap<ExplainWorker>(worker)
  onScopeDispose(() => worker.terminate())
  const explained = shallowRef<Explained>()
  const working = ref(false)
  let asked = 0
  watch(
    [readings, () => desk.wiring, () => desk.conditions, () => site.priors],
    async () => {
      const mine = ++asked
      const { wiring, conditions } = desk
      if (!readings.value.length || !wiring || !conditions || desk.study?.needs.length) {
        explained.value = undefined
        working.value = false
        return
      }
      working.value = true
      const list = readings.value.map((r): LoopReading => {
        const value = convertUnit(r.read.value, r.read.unit, r.spot.of === 'volts' ? 'V' : 'mA')
        return { ...r.spot, value }
      })
      const ask = plain({ wiring, conditions, readings: list, priors: site.priors })
      let done = false
      const look = proxy((first: Explained) => {
        if (mine === asked && !done) explained.value = first
      })
      const answer = await explainer.explain(ask, look).catch(() => undefined)
      done = true
      if (mine !== asked) return
      explained.value = answer
      working.value = false
    },
    { immediate: true },
  )
  return { explained, working }
}
