// A list of instruments on its way in: opened, matched, tried, sent. All but the sending is done on this device.
import type { ErrandWish } from '@calm-loop/contract'
import type { Column, Mapping } from '@calm-loop/core/intake'
import { proxy, wrap } from 'comlink'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import { call } from '../../api/client.ts'
import { sendErrandFile } from '../../api/errand-file.ts'
import { useDoing } from '../../widgets/doing.ts'
import { plain } from '../../workers/plain.ts'
import type { IntakeWorker, SheetLook, Tried } from '../../workers/intake.worker.ts'

function openWorker() {
  const worker = new Worker(new URL('../../workers/intake.worker.ts', import.meta.url), { type: 'module' })
  return { intake: wrap<IntakeWorker>(worker), end: () => worker.terminate() }
}

/** How the last list with these heads was read at this site; undefined where none was, or it cannot be asked. */
async function mappingFor(heads: readonly string[]): Promise<Mapping | undefined> {
  const told = await call('listMapping', { body: { heads: [...heads] } }).catch(() => undefined)
  return told?.mapping ?? undefined
}

export function useIntake() {
  let worker = openWorker()
  onScopeDispose(() => worker.end())
  const { busy, says, run } = useDoing()
  const name = ref('')
  const sheets = shallowRef<readonly { name: string; lines: number }[]>([])
  const sheet = ref(0)
  const mapping = shallowRef<Mapping>()
  const look = shallowRef<SheetLook>()
  const tried = shallowRef<Tried>()
  const taken = shallowRef<readonly string[]>([])
  const share = ref(0)
  /** It was matched as the last list with these heads was. */
  const asBefore = ref(false)

  async function settle(next: Mapping): Promise<void> {
    mapping.value = next
    tried.value = undefined
    look.value = await worker.intake.look(sheet.value, plain(next))
  }
  async function pickSheet(i: number): Promise<void> {
    sheet.value = i
    await settle(await knownFrom(await worker.intake.guess(i)))
  }
  /** As the last list with the heads that stand there was matched; where they stand is this list's own. */
  async function knownFrom(at: Mapping): Promise<Mapping> {
    const { header, headerLines, kinds } = at
    const { heads } = await worker.intake.look(sheet.value, { header, headerLines })
    const before = await mappingFor(heads)
    asBefore.value = !!before
    // Words for kinds that this list has and that one had not are still guessed at.
    return before ? { ...before, header, headerLines, kinds: { ...kinds, ...before.kinds } } : at
  }
  const open = (file: File) =>
    run(async () => {
      tried.value = mapping.value = look.value = undefined
      sheets.value = []
      name.value = file.name
      const opened = await worker.intake.open(file, file.name)
      if (opened.says !== undefined) throw new Error(opened.says)
      sheets.value = opened.sheets ?? []
      await pickSheet(0)
    })
  const change = (more: Partial<Mapping>) =>
    run(async () => {
      const next = { ...(mapping.value as Mapping), ...more }
      await settle('header' in more || 'headerLines' in more ? await knownFrom(next) : next)
    })
  const changeColumn = (i: number, to: Partial<Column>) =>
    change({ columns: (mapping.value?.columns ?? []).map((c, at) => (at === i ? { ...c, ...to } : c)) })

  const tryOut = () =>
    run(async () => {
      share.value = 0
      const found = await worker.intake.tryOut(
        sheet.value,
        plain(mapping.value as Mapping),
        proxy((s) => (share.value = s)),
      )
      taken.value = (await call('tagsTaken', { body: { tags: Object.keys(found.lineOf) } })).taken
      tried.value = found
      const { columns, ...of } = plain(mapping.value as Mapping)
      const body = { heads: [...(look.value?.heads ?? [])], mapping: { ...of, columns: [...columns] } }
      // Where that cannot be kept, the list is tried all the same.
      await call('keepListMapping', { body }).catch(() => undefined)
    })
  /** What is under way is of this turn; ended, nothing of it goes on. */
  let turn = 0
  /** Ends what is going on; the file is opened anew when it is wanted. */
  function cancel(): void {
    turn++
    worker.end()
    worker = openWorker()
    sheets.value = []
    mapping.value = tried.value = look.value = undefined
    busy.value = false
  }
  const refused = computed(() => [
    ...(tried.value?.refused ?? []),
    ...taken.value.map((tag) => ({
      line: tried.value?.lineOf[tag] ?? 0,
      tag,
      why: ['There is a loop with this tag already.'],
    })),
  ])
  const good = computed(() => (tried.value?.good ?? 0) - taken.value.length)
  /** Whether the loops are on their way: all of those that were found good, or none. */
  const bringIn = () =>
    run(async () => {
      const mine = ++turn
      const goesOn = () => {
        if (mine !== turn) throw new Error('Ended: nothing was brought in.')
      }
      const { file, loops } = await worker.intake.file([...taken.value])
      const { id, parts } = await sendErrandFile(file, (s) => (goesOn(), (share.value = s)))
      goesOn()
      const body: ErrandWish = { what: 'plant', parts, name: name.value.slice(0, 200), loops }
      await call('beginErrand', { params: { errandId: id }, body })
    })
  return {
    ...{ busy, says, name, sheets, sheet, mapping, look, tried, share, asBefore, refused, good },
    ...{ open, pickSheet, change, changeColumn, tryOut, cancel, bringIn },
  }
}
