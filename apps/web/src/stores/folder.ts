// The loop folder that is open: its record, the entries being typed, and the study made of them.
import { usePreferences } from './preferences.ts'
import type { Check, FolderView, LoopEvent, Reading, Version, WorkEntry } from '@calm-loop/contract'
import { answering, canonicalJson, inWorld } from '@calm-loop/contract'
import { judgeCheck, judgeSwitchCheck } from '@calm-loop/contract/judging'
import type { WholeJudgement } from '@calm-loop/core/check'
import type { SwitchJudgement } from '@calm-loop/core/discrete'
import { entriesNow, entryWords, kindOf, type Entries } from '@calm-loop/core/kinds'
import { study, type Study } from '@calm-loop/core/loop'
import type { Entry } from '@calm-loop/core/quantity'
import { useDebounceFn, useEventListener } from '@vueuse/core'
import { defineStore, storeToRefs } from 'pinia'
import { v7 as uuid } from 'uuid'
import { computed, ref, shallowRef, watch } from 'vue'
import { addressOf, ApiProblem, call } from '../api/client.ts'
import { openStream } from '../api/stream.ts'
import { fetchForTheSite } from './along.ts'
import { useCoverage } from './coverage.ts'
import { keepFolder } from './kept.ts'
import { mergeEntries, type Clash } from './merge.ts'
import { useOpenLoop } from './open-loop.ts'
import { draftsOf, dropDraft, keepDraftOf } from './draft-notes.ts'
import { useOutbox } from './outbox.ts'
import { oneLook } from './one-look.ts'
import { useSession } from './session.ts'
import { ownVersion, versionToSave } from './version-to-save.ts'
import { comesFirst, withWaiting } from './with-waiting.ts'

const SAVE_AFTER_ms = 700
const AGAIN_AFTER_ms = 1500
/** What else is needed out of coverage is fetched once the page has what it shows. */
const FETCH_AFTER_ms = 2500
const KEEP_AFTER_ms = 300
const NO_ENTRIES: Entries = {}

export const useFolder = defineStore('folder', () => {
  const session = useSession()
  /** As the server told it last. */
  const told = shallowRef<FolderView>()
  const outbox = useOutbox()
  const view = computed({
    get: () => told.value && withWaiting(told.value, outbox.waiting),
    set: (next) => void (told.value = next),
  })
  const entries = shallowRef<Entries>(NO_ENTRIES)
  /** The newest version known to be on the server. */
  const base = shallowRef<Version>()
  // The frame shows how the entries stand without loading what this store does.
  const frame = useOpenLoop()
  const { status, savedAt } = storeToRefs(frame)
  const refusal = ref('')
  const clashes = ref<Clash[]>([])
  const news = ref('')
  let closeStream: (() => void) | undefined
  let nextId: string | undefined

  const kind = computed(() => (view.value ? kindOf(view.value.loop.kind) : undefined))
  /** The one study of the loop: made once for each change, from the one before. */
  const known = computed<Study | undefined>((before) =>
    kind.value ? study(kind.value, entries.value, before) : undefined,
  )
  const preferences = usePreferences()
  watch(
    () => known.value?.spoken,
    (spoken) => (preferences.spoken = spoken),
    { immediate: true, flush: 'sync' },
  )
  const reader = computed(() => known.value?.reader)
  const current = computed(() => (known.value?.family === 'current' ? known.value : undefined))
  const thread = computed(() => current.value?.thread)
  /** Of a discrete point: both states of its target, followed to the controller. */
  const run = computed(() => (known.value?.family === 'switch' ? known.value.run : undefined))
  watch(kind, (k) => (frame.family = k?.family), { immediate: true, flush: 'sync' })
  const head = computed(() => view.value?.versions.at(-1))
  /** The bench is connected: what is shown and put on record is practice. */
  const practising = computed(() => !!view.value?.bench)
  /** What answers in this loop: the bench, its own device over a line, or nothing. */
  const answers = computed(() => view.value && answering(view.value))
  /** What is on record in the world that the loop is in: what was measured, or what was practised. */
  const here = computed(() => {
    const of = <T extends { practice?: boolean | undefined }>(log: readonly T[] | undefined) =>
      inWorld(log ?? [], practising.value)
    const { checks, workLog, wireLog, countLog, trains } = view.value ?? {}
    return {
      checks: of(checks),
      workLog: of(workLog),
      wireLog: of(wireLog),
      countLog: of(countLog),
      trains: of(trains),
    }
  })
  const latestCheck = computed<Check | undefined>(() => here.value.checks.at(-1))
  const openCheck = computed(() =>
    latestCheck.value && !latestCheck.value.signatures.length && !latestCheck.value.imported
      ? latestCheck.value
      : undefined,
  )
  const entriesOf = (version: Version | undefined): Entries =>
    version && kind.value ? entriesNow(kind.value, version) : NO_ENTRIES
  const dirty = () => canonicalJson(entries.value) !== canonicalJson(entriesOf(base.value))

  /** Studies of recorded versions, by version and how far it was saved: what checks are judged by. */
  const ofVersions = new Map<string, Study>()
  function studyOfCheck(check: Pick<Check, 'versionId'>): Study | undefined {
    const version = view.value?.versions.find((v) => v.id === check.versionId)
    if (!kind.value || !version) return undefined
    const key = `${version.id} ${version.revision}`
    const made = ofVersions.get(key) ?? study(kind.value, entriesOf(version))
    ofVersions.set(key, made)
    return made
  }
  /** The verdict of a check of a current so far; null without readings, or where its entries are not here. */
  function judged(check: Check): WholeJudgement | null {
    const made = studyOfCheck(check)
    return made?.family === 'current' ? judgeCheck(check, made.thread) : null
  }
  /** The same of a discrete point. */
  function judgedStates(check: Check): SwitchJudgement | null {
    const made = studyOfCheck(check)
    return made?.family === 'switch' ? judgeSwitchCheck(check, made.run) : null
  }

  /** What one person typed is not kept as another's. */
  const me = () => session.person?.id ?? ''
  function keepDraft(): void {
    if (!view.value) return
    const { id: loopId, tag } = view.value.loop
    if (dirty())
      outbox.draftKept(keepDraftOf(me(), { loopId, base: entriesOf(base.value), entries: entries.value, tag }))
    else dropDraft(me(), loopId)
  }

  async function open(loopId: string): Promise<void> {
    if (view.value?.loop.id !== loopId) {
      close()
      view.value = undefined
    }
    const fresh = await call('folder', { params: { loopId } })
    view.value = fresh
    base.value = fresh.versions.at(-1)
    entries.value = entriesOf(base.value)
    savedAt.value = base.value?.savedAt
    status.value = 'saved'
    clashes.value = []
    news.value = ''
    frame.id = loopId
    restoreDraft(loopId)
    listen(loopId)
    setTimeout(() => void fetchForTheSite(), FETCH_AFTER_ms)
  }

  function restoreDraft(loopId: string): void {
    const draft = draftsOf(me()).find((d) => d.loopId === loopId)
    if (!draft) return
    const merged = mergeEntries(draft.base, draft.entries, entriesOf(base.value))
    entries.value = merged.entries
    clashes.value = merged.clashes
    if (dirty()) void save()
  }

  function listen(loopId: string): void {
    closeStream?.()
    closeStream = openStream(addressOf('loopEvents', { loopId }), {
      on: { change: (text) => void heard(JSON.parse(text) as LoopEvent) },
      opened: (open) => {
        // What happened since the folder was read, or since the stream broke, was not heard.
        if (open) void refresh().catch(() => undefined)
      },
    })
  }

  function close(): void {
    closeStream?.()
    closeStream = undefined
    frame.id = undefined
    preferences.spoken = undefined
    ofVersions.clear()
  }

  let asked = 0
  let seen = 0
  /** How often this page has changed the folder itself: what was asked for before then is older than what stands. */
  let changed = 0
  /**
   * Looks at the folder on the server again. Answers may overtake each other, and a reading may have been saved since
   * one was asked for: an older answer is left aside, one from before a change of this page is asked for again, and
   * what is on record already stays.
   */
  async function look(loopId: string): Promise<FolderView | undefined> {
    const mine = ++asked
    const before = changed
    const fresh = await call('folder', { params: { loopId }, fresh: true })
    if (before !== changed) return look(loopId)
    const known = told.value
    if (known?.loop.id !== loopId || mine < seen) return undefined
    seen = mine
    const checks = fresh.checks.map((check) => {
      const before = known.checks.find((c) => c.id === check.id)?.readings ?? []
      const more = before.filter((r) => !check.readings.some((x) => x.id === r.id))
      return more.length ? { ...check, readings: [...check.readings, ...more].sort((a, b) => a.seq - b.seq) } : check
    })
    view.value = { ...fresh, checks }
    return view.value
  }

  /** Someone (perhaps this page) changed the loop. */
  const lookOnce = oneLook(look)
  async function heard(event: LoopEvent): Promise<void> {
    if (event.what === 'clash') {
      news.value = event.says ?? ''
      return
    }
    if (
      event.what === 'version' &&
      (status.value === 'saving' || event.id === nextId) &&
      event.by === session.person?.name
    )
      return
    const fresh = await (event.what === 'version' ? look(event.loopId) : lookOnce(event.loopId)).catch(() => undefined)
    if (fresh) takeUp(fresh)
  }

  /** However a newer version became known: what it changed is brought together with what is typed here. */
  function takeUp(fresh: FolderView): void {
    const theirs = fresh.versions.at(-1)
    if (!theirs) return
    if (canonicalJson(entriesOf(theirs)) === canonicalJson(entriesOf(base.value))) {
      if (!dirty()) base.value = theirs
      return
    }
    // One's own that is on its way, or whose answer was lost: saving settles it.
    const own = theirs.author.id === session.person?.id && (status.value === 'saving' || theirs.id === nextId)
    if (!own) meet(theirs)
  }

  /** Brings together what is typed here and what someone else has saved. */
  function meet(theirs: Version): void {
    const merged = mergeEntries(entriesOf(base.value), entries.value, entriesOf(theirs))
    const label = (key: string) => kind.value?.fields.find((f) => f.key === key)?.label ?? key
    const words = (key: string, typed: string) =>
      entryWords(
        kind.value?.fields.find((f) => f.key === key),
        typed,
      )
    if (merged.taken.length)
      news.value =
        `${theirs.author.name} changed ` +
        `${merged.taken.map((k) => `${label(k)} to ${words(k, theirs.entries[k]?.typed ?? '')}`).join(', ')}.`
    clashes.value = merged.clashes.map((c) => ({
      ...c,
      mine: words(c.key, c.mine),
      theirs: words(c.key, c.theirs),
      label: label(c.key),
      who: theirs.author.name,
    }))
    base.value = theirs
    nextId = undefined
    entries.value = merged.entries
    keepDraft()
    if (dirty() && !clashes.value.length) void save()
  }

  function set(key: string, entry: Entry): void {
    const next = { ...entries.value }
    if (entry.typed === '') delete next[key]
    else next[key] = entry
    entries.value = next
    status.value = 'typing'
    void keepDraftSoon()
    if (!clashes.value.length) void saveSoon()
  }

  function settle(clash: Clash, take: 'mine' | 'theirs'): void {
    clashes.value = clashes.value.filter((c) => c.key !== clash.key)
    if (take === 'theirs') {
      const next = { ...entries.value }
      const theirs = entriesOf(base.value)[clash.key]
      if (theirs) next[clash.key] = theirs
      else delete next[clash.key]
      entries.value = next
    }
    keepDraft()
    if (!clashes.value.length) void save()
  }

  // Not at once: the frame that shows what was typed comes first.
  const keepDraftSoon = useDebounceFn(keepDraft, 100, { maxWait: 300 })
  useEventListener(window, 'pagehide', keepDraft)
  const saveSoon = useDebounceFn(() => save(), SAVE_AFTER_ms)

  /** Saves what has been entered; with a reason it is recorded as a finished version. */
  async function save(reason?: string): Promise<boolean> {
    const loop = view.value?.loop
    if (!loop || status.value === 'saving' || clashes.value.length) return false
    if (!dirty() && (reason === undefined || base.value?.sealedAt)) {
      status.value = 'saved'
      return true
    }
    // A check that waits was begun by what is saved: what was typed since comes after it.
    if (comesFirst(outbox.waiting, loop.id)) {
      status.value = 'offline'
      return false
    }
    const mine = ownVersion(base.value, session.person?.id)
    // A version that was closed meanwhile, as by a check begun on it, is gone on from and never written again.
    if (nextId === base.value?.id) nextId = undefined
    const versionId = mine?.id ?? nextId ?? uuid()
    nextId = versionId
    const body = versionToSave({ kind: kind.value, head: base.value, own: mine, entries: entries.value, reason })
    status.value = 'saving'
    try {
      stored(loop.id, await call('saveVersion', { params: { loopId: loop.id, versionId }, body }))
      return true
    } catch (error) {
      notStored(error as ApiProblem, mine, reason)
      return false
    }
  }

  function stored(loopId: string, version: Version): void {
    changed++
    base.value = version
    if (version.sealedAt) nextId = undefined
    if (told.value?.loop.id === loopId) {
      const others = told.value.versions.filter((v) => v.id !== version.id)
      told.value = { ...told.value, versions: [...others, version] }
    }
    savedAt.value = version.savedAt
    refusal.value = ''
    status.value = 'saved'
    keepDraft()
    if (dirty()) {
      status.value = 'typing'
      void saveSoon()
    }
  }

  function notStored(problem: ApiProblem, mine: Version | undefined, reason: string | undefined): void {
    const ended = problem.status === 401
    status.value = problem.status === 0 || problem.status >= 500 || ended ? 'offline' : 'refused'
    refusal.value = problem.message
    if (problem.code === 'version-conflict' && problem.current) {
      const theirs = problem.current as Version
      status.value = 'typing'
      // An earlier save of this very page whose answer was lost: go on from it.
      if (!mine && theirs.id === nextId) {
        base.value = theirs
        void saveSoon()
      } else meet(theirs)
    } else if (status.value === 'offline' && !ended)
      setTimeout(() => status.value === 'offline' && void save(reason), AGAIN_AFTER_ms)
  }

  async function refresh(): Promise<void> {
    const id = view.value?.loop.id
    if (!id) return
    const fresh = await look(id)
    if (fresh) takeUp(fresh)
  }

  /** Connects the simulated bench of this loop, or ends it. @throws ApiProblem */
  async function connectBench(connected: boolean): Promise<void> {
    if (!view.value) return
    const { id } = view.value.loop
    const { bench } = await call('connectBench', { params: { loopId: id }, body: { connected } })
    changed++
    if (told.value?.loop.id === id) told.value = { ...told.value, bench }
  }

  /** A reading that the server has just said it has. */
  function addReading(checkId: string, reading: Reading): void {
    if (!told.value) return
    const checks = told.value.checks.map((c) =>
      c.id === checkId && !c.readings.some((r) => r.id === reading.id)
        ? { ...c, readings: [...c.readings, reading] }
        : c,
    )
    told.value = { ...told.value, checks }
  }

  /** An entry of the work that the server has just said it has. */
  function addEntry(loopId: string, entry: WorkEntry): void {
    const known = told.value
    if (known?.loop.id !== loopId || known.workLog.some((e) => e.id === entry.id)) return
    told.value = { ...known, workLog: [...known.workLog, entry] }
  }

  // What this page has saved since it opened the folder is kept with it: a reload out of coverage has it too.
  const coverage = useCoverage()
  const keepSoon = useDebounceFn(
    () => {
      const { person } = session
      if (told.value && person && !coverage.away) void keepFolder(person.id, told.value).catch(() => undefined)
    },
    KEEP_AFTER_ms,
    { maxWait: 2000 },
  )
  watch(told, () => void keepSoon())

  /** A check that the server has just said it has. */
  function addCheck(loopId: string, check: Check): void {
    const known = told.value
    if (known?.loop.id !== loopId || known.checks.some((c) => c.id === check.id)) return
    told.value = { ...known, checks: [...known.checks, check] }
  }

  watch(
    () => !!told.value && comesFirst(outbox.waiting, told.value.loop.id),
    (waits, waited) => waited && !waits && dirty() && void save(),
  )

  // Signed in again on this page: what was typed meanwhile is sent.
  watch(
    () => session.ended,
    (ended) => {
      if (ended || !view.value) return
      if (dirty()) void save()
      else void refresh().catch(() => undefined)
    },
  )

  return {
    view,
    entries,
    base,
    head,
    kind,
    study: known,
    current,
    reader,
    thread,
    run,
    studyOfCheck,
    judged,
    judgedStates,
    status,
    savedAt,
    refusal,
    clashes,
    news,
    practising,
    answers,
    here,
    latestCheck,
    openCheck,
    connectBench,
    open,
    close,
    set,
    settle,
    save,
    refresh,
    addReading,
    addEntry,
    addCheck,
  }
})
