// A survey being logged: a row at every interval while this page is open, sent in batches that are kept until the
// server has them.
import { SURVEY_CHUNK, workOf, type SurveyRow } from '@calm-loop/contract'
import { totalOf } from '@calm-loop/core/quantity'
import { useIntervalFn } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import { useWork } from '../stores/work.ts'
import type { useMeter } from './useMeter.ts'

const SEND_EVERY_s = 10

export function useSurvey(bench: ReturnType<typeof useMeter>) {
  const work = useWork()
  const survey = ref<string>()
  const interval_s = ref(1)
  const unit = ref('m3/h')
  const rows = shallowRef<SurveyRow[]>([])
  const total = ref(0)
  /** Sent and not yet answered, under the id they were sent with; the same again changes nothing. */
  let waiting: { id: string; rows: SurveyRow[] } | undefined
  let sent = 0
  /** The loop that is surveyed, also when another has been opened since. */
  let loopId = ''
  let last = 0
  const running = computed(() => survey.value !== undefined)

  function take(): void {
    const meter = bench.meter.value
    if (!survey.value || !meter) return
    const now = Date.now()
    const flow = meter.digital
    if (last && flow !== null) total.value += flow * totalOf(unit.value).perSecond * ((now - last) / 1000)
    last = now
    rows.value = [
      ...rows.value,
      [now, flow, total.value, bench.tell('sound-speed') ?? null, bench.tell('signal') ?? null],
    ]
  }
  async function send(): Promise<boolean> {
    if (!survey.value) return true
    waiting ??= sent < rows.value.length ? { id: uuid(), rows: rows.value.slice(sent, sent + SURVEY_CHUNK) } : undefined
    if (!waiting) return true
    const saved = await work.add({ what: 'survey-rows', survey: survey.value, rows: waiting.rows }, waiting.id, loopId)
    if (!saved) return false
    sent += waiting.rows.length
    waiting = undefined
    return send()
  }
  const taking = useIntervalFn(take, () => interval_s.value * 1000, { immediate: false })
  const sending = useIntervalFn(() => void send(), SEND_EVERY_s * 1000, { immediate: false })

  async function begin(seconds: number, flowUnit: string, note: string): Promise<void> {
    const id = uuid()
    loopId = bench.loopId.value
    if (!(await work.add({ what: 'survey', interval_s: seconds, unit: flowUnit, note }, id))) return
    rows.value = []
    total.value = sent = last = 0
    interval_s.value = seconds
    unit.value = flowUnit
    survey.value = id
    take()
    taking.resume()
    sending.resume()
  }
  /** Ends it; while the server cannot be reached it goes on waiting with its rows. */
  async function end(): Promise<void> {
    taking.pause()
    if (!(await send()) || !survey.value) return
    if (
      !(await work.add(
        { what: 'survey-end', survey: survey.value, total: total.value, rows: rows.value.length },
        uuid(),
        loopId,
      ))
    )
      return
    sending.pause()
    survey.value = undefined
  }
  /** Ends a survey that was cut off: the page that logged it was closed. Its total is that of its last row. */
  async function close(of: string, id: string): Promise<void> {
    const log = await call('survey', { params: { loopId: of, surveyId: id } }).catch((error: ApiProblem) => {
      work.problem = error.message
      return undefined
    })
    if (!log) return
    const all = workOf(log, 'survey-rows').flatMap((chunk) => chunk.rows)
    await work.add({ what: 'survey-end', survey: id, total: all.at(-1)?.[2] ?? 0, rows: all.length })
  }
  // A survey lasts as long as its page: going elsewhere ends it, with all its rows.
  onBeforeUnmount(() => void end())
  return { running, survey, rows, total, unit, begin, end, close, unsent: () => rows.value.length - sent }
}
