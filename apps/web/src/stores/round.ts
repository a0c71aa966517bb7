// The round of a day as it is planned on this page: what the server told, with what waits here to be sent.
import type { EndJob, Job, KitMove, MoveKit, NewJob, PutRound, Round, RoundState } from '@calm-loop/contract'
import { planOfRound, roundPut, usualState } from '@calm-loop/contract/round-plan'
import { lackLines, packLines, tellings, timed, type PackLine } from '@calm-loop/core/round'
import { defineStore } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef, watch } from 'vue'
import { call, isAway, type ApiProblem } from '../api/client.ts'
import { dayWords, today } from '../widgets/dates.ts'
import { useOutbox, type Pending } from './outbox.ts'
import { useSession } from './session.ts'

/** What waits of this place, the last written last. */
const bodiesOf = <T>(waiting: readonly Pending[], endpoint: Pending['endpoint']) =>
  waiting.filter((w) => w.endpoint === endpoint).map((write) => ({ write, body: write.body as T }))

/** A job that waits here, as it will stand. */
const jobHere = ({ write, body }: { write: Pending; body: NewJob }): Job => ({
  ...body,
  id: write.id,
  tag: write.tag,
  made: new Date(write.at).toISOString(),
  madeBy: { id: write.by, name: write.byName },
  ended: null,
})

export const useRound = defineStore('round', () => {
  const session = useSession()
  const outbox = useOutbox()
  const day = ref(today())
  const told = shallowRef<Round>()
  const problem = ref('')
  const loading = ref(false)
  /** As it was put last on this page, where the server has not told it back yet. */
  const put = shallowRef<RoundState>()

  const state = computed<RoundState>(() => {
    const here = bodiesOf<PutRound>(outbox.waiting, 'saveRound').filter((w) => w.write.params['day'] === day.value)
    return put.value ?? here.reduce((s, w) => roundPut(s, w.body), told.value?.mine ?? usualState(day.value))
  })
  const round = computed<Round | undefined>(() => {
    if (!told.value) return undefined
    const known = new Set(told.value.jobs.map((j) => j.id))
    const made = bodiesOf<NewJob>(outbox.waiting, 'makeJob').map(jobHere)
    const ended = new Set(bodiesOf(outbox.waiting, 'endJob').map((w) => w.write.params['jobId']))
    const moved = new Map(bodiesOf<MoveKit>(outbox.waiting, 'moveKit').map((w) => [w.write.params['gearId'], w]))
    const moveOf = (id: string, move: KitMove | null): KitMove | null => {
      const here = moved.get(id)
      if (!here) return move
      const by = { id: here.write.by, name: here.write.byName }
      const { taken, place } = here.body
      return { id: here.write.id, holder: taken ? by : null, place, by, at: new Date(here.write.at).toISOString() }
    }
    return {
      ...told.value,
      jobs: [...told.value.jobs, ...made.filter((j) => !known.has(j.id))].filter((j) => !ended.has(j.id)),
      kit: told.value.kit.map((k) => ({ ...k, move: moveOf(k.id, k.move) })),
    }
  })
  const plan = computed(() => round.value && planOfRound(round.value, state.value))
  const times = computed(() => (plan.value ? timed(plan.value.stops, state.value.begins) : []))
  const people = computed(() => tellings(times.value))
  const pack = computed(() =>
    plan.value && round.value ? packLines(plan.value, round.value.wanted, { ...round.value, say: dayWords }) : [],
  )
  const lacks = computed(() => lackLines(plan.value?.missing ?? []))
  const holderOf = (line: PackLine): KitMove | undefined => {
    const move = round.value?.kit.find((k) => k.id === line.piece?.id)?.move
    return move?.holder ? move : undefined
  }
  const isMine = (line: PackLine) => holderOf(line)?.holder?.id === session.person?.id
  const isPacked = (line: PackLine) => (line.piece ? isMine(line) : state.value.packed.includes(line.key))

  let turn = 0
  async function load(): Promise<void> {
    const mine = ++turn
    loading.value = true
    // An answer of before what was put here was saved does not tell of it.
    const seen = put.value
    const isSaved = !outbox.waiting.some((w) => w.endpoint === 'saveRound')
    try {
      const answer = await call('round', { query: { day: day.value, until: state.value.until } })
      if (mine !== turn) return
      told.value = answer
      problem.value = ''
      if (isSaved && put.value === seen) put.value = undefined
    } catch (error) {
      if (mine === turn) problem.value = (error as ApiProblem).message
    } finally {
      if (mine === turn) loading.value = false
    }
  }
  /** Nobody begins with the day of who was here before. */
  watch(
    () => session.person?.id,
    () => {
      told.value = put.value = undefined
      if (session.person) void load()
    },
  )
  async function show(next: string): Promise<void> {
    if (next === day.value && told.value) return load()
    day.value = next
    put.value = undefined
    told.value = undefined
    return load()
  }

  /** Puts some of the day otherwise: kept here, and sent when the server is reached. */
  function change(body: PutRound): void {
    put.value = roundPut(state.value, body)
    outbox.put({ id: uuid(), endpoint: 'saveRound', params: { day: day.value }, body, tag: 'the round' })
    if (body.until) void load()
  }
  const packed = (key: string, on: boolean) => change({ pack: { key, on } })

  /** Sends at once, or keeps it until the server is reached. @throws ApiProblem where the server refuses it */
  async function sendOrKeep<T>(
    send: () => Promise<T>,
    write: Pick<Pending, 'id' | 'endpoint' | 'params' | 'body' | 'tag'>,
  ): Promise<T | undefined> {
    try {
      return await send()
    } catch (error) {
      if (!isAway(error as ApiProblem)) throw error
      outbox.put(write, () => void load())
      return undefined
    }
  }
  async function makeJob(body: NewJob, tag: string, jobId = uuid()): Promise<void> {
    const params = { jobId }
    await sendOrKeep(() => call('makeJob', { params, body }), { id: jobId, endpoint: 'makeJob', params, body, tag })
    if (told.value) await load()
  }
  async function endJob({ id: jobId, tag }: Pick<Job, 'id' | 'tag'>, body: EndJob): Promise<void> {
    const params = { jobId }
    await sendOrKeep(() => call('endJob', { params, body }), { id: uuid(), endpoint: 'endJob', params, body, tag })
    await load()
  }
  /** Takes a piece, or lays it down, as it stands on this page. @throws ApiProblem `kit-moved` */
  async function moveKit(line: PackLine, taken: boolean, place = ''): Promise<void> {
    const { piece } = line
    if (!piece) return
    const after = round.value?.kit.find((k) => k.id === piece.id)?.move?.id ?? null
    const params = { gearId: piece.id, moveId: uuid() }
    const body: MoveKit = { taken, place, after }
    const write = { id: params.moveId, endpoint: 'moveKit' as const, params, body, tag: piece.name }
    try {
      await sendOrKeep(() => call('moveKit', { params, body }), write)
    } finally {
      // Whether it went or not: who has it is looked at anew.
      await load()
    }
  }
  return {
    ...{ day, round, state, plan, times, people, pack, lacks, problem, loading },
    ...{ load, show, change, packed, holderOf, isMine, isPacked, makeJob, endJob, moveKit },
  }
})
