// A survey of the open loop as the server logs it: begun, followed while its page is open, ended. It goes on without
// one.
import { workOf, type SurveyNow } from '@calm-loop/contract'
import { useIntervalFn } from '@vueuse/core'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef, watch } from 'vue'
import { call, type ApiProblem } from '../api/client.ts'
import { useFolder } from '../stores/folder.ts'
import { useWork } from '../stores/work.ts'
import { sure } from '@calm-loop/core/sure'

const LOOK_EVERY_ms = 1000

export function useSurvey() {
  const folder = useFolder()
  const work = useWork()
  const now = shallowRef<SurveyNow>()
  const problem = ref('')
  /** The same wish until it is answered, so that it is begun once. */
  let wanted: { key: string; id: string } | undefined

  const surveys = computed(() =>
    workOf(work.log, 'survey')
      .map((s) => ({ ...s, ended: workOf(work.log, 'survey-end').find((e) => e.survey === s.id) }))
      .reverse(),
  )
  /** The newest without an end; one of before, which its page logged, only waits to be ended. */
  const open = computed(() => surveys.value.find((s) => !s.ended))
  const loopId = computed(() => sure(folder.view).loop.id)

  async function asking<T>(what: () => Promise<T>): Promise<T | undefined> {
    try {
      const answer = await what()
      problem.value = ''
      return answer
    } catch (error) {
      problem.value = (error as ApiProblem).message
      return undefined
    }
  }
  async function look(): Promise<void> {
    const survey = open.value
    if (!survey) return
    const seen = await asking(() => call('surveyNow', { params: { loopId: loopId.value, surveyId: survey.id } }))
    if (seen && open.value?.id === survey.id) now.value = seen
    // It has ended by itself: its end is in the log.
    if (seen && !seen.running && survey.hours !== undefined) await folder.refresh()
  }
  const looking = useIntervalFn(() => void look(), LOOK_EVERY_ms, { immediate: false })
  watch(
    () => open.value?.id,
    (id) => {
      now.value = undefined
      looking.pause()
      if (!id) return
      looking.resume()
      void look()
    },
    { immediate: true },
  )

  async function begin(wish: { interval_s: number; hours: number; note: string }): Promise<void> {
    const key = JSON.stringify([loopId.value, wish])
    if (wanted?.key !== key) wanted = { key, id: uuid() }
    const { id } = wanted
    const begun = await asking(() =>
      call('beginSurvey', { params: { loopId: loopId.value, surveyId: id }, body: wish }),
    )
    if (!begun) return
    wanted = undefined
    await folder.refresh()
  }
  async function end(survey: string): Promise<void> {
    const ended = await asking(() => call('endSurvey', { params: { loopId: loopId.value, surveyId: survey } }))
    if (ended) await folder.refresh()
  }
  return { surveys, open, now, problem, begin, end }
}
