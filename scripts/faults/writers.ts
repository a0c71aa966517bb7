// Those who write while things are killed: whatever happens they ask again until there is an answer, and keep a ledger
// of what was acknowledged.
import type { AuditPage, FolderView } from '@calm-loop/contract'
import { gateWording } from '@calm-loop/core/check'
import { v7 as uuid } from 'uuid'
import { demoEntries, firstVersion } from '../../packages/core/src/kinds/demo-entries.fixture.ts'
import { pick } from '../hostile/shapes.ts'

/** What is written to, and what has been seen of it. */
export interface Trial {
  /** An address to which a client may come just now. */
  readonly base: () => string
  readonly roll: () => number
  readonly failures: string[]
  readonly counts: Record<string, number>
  /** Nothing is killed any more: what is under way comes to its end. */
  over: boolean
}
export const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
export function count(trial: Trial, what: string): void {
  trial.counts[what] = (trial.counts[what] ?? 0) + 1
}

/** Someone who writes and, whatever happens, asks again with the same id until there is an answer. */
class Writer {
  private cookie = ''
  private token = ''
  private readonly trial: Trial
  private readonly name: string
  constructor(trial: Trial, name: string) {
    this.trial = trial
    this.name = name
  }
  async fetch(
    method: string,
    path: string,
    body?: unknown,
    signal?: AbortSignal,
  ): Promise<{ status: number; body: never }> {
    const answer = await fetch(this.trial.base() + path, {
      method,
      headers: { cookie: this.cookie, 'x-csrf-token': this.token, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      ...(signal ? { signal } : {}),
    })
    const set = answer.headers.get('set-cookie')
    if (set) this.cookie = set.split(';')[0]!
    const text = await answer.text()
    return { status: answer.status, body: (text ? JSON.parse(text) : undefined) as never }
  }
  async signIn(): Promise<void> {
    for (;;) {
      const answer = await this.fetch('POST', '/api/session', { signIn: this.name, password: 'kelp and salt' }).catch(
        () => undefined,
      )
      if (answer?.status === 200) return void (this.token = (answer.body as { csrfToken: string }).csrfToken)
      await sleep(200)
    }
  }
  /** Until it is answered: the answer that counts. A part of the tries is cut off on the way. */
  async write(path: string, body: unknown): Promise<{ status: number; body: never }> {
    const { roll, failures } = this.trial
    for (let tries = 0; ; tries++) {
      const abort = new AbortController()
      const cut = roll() < 0.15 ? setTimeout(() => abort.abort(), roll() * 40) : undefined
      const late = setTimeout(() => abort.abort(), 20_000)
      const answer = await this.fetch('PUT', path, body, abort.signal).catch(() => undefined)
      clearTimeout(cut)
      clearTimeout(late)
      if (answer && answer.status < 500 && answer.status !== 401 && answer.status !== 429) return answer
      if (answer?.status === 500) failures.push(`500 for ${path}: ${JSON.stringify(answer.body)}`)
      if (answer?.status === 401) await this.signIn()
      count(this.trial, answer ? `answer ${answer.status}` : 'no answer')
      if (this.trial.over && tries > 300) throw new Error(`never answered: ${path}`)
      await sleep(100)
    }
  }
}

export interface Ledger {
  loopId: string
  checkId: string
  wires: string[]
  readings: string[]
  clockRefused: number
}

/** Makes a loop and writes to it until all is over. */
export async function writer(trial: Trial, index: number): Promise<Ledger> {
  const { roll, failures } = trial
  const who = new Writer(trial, index % 2 ? 'ailsa' : 'rona')
  await who.signIn()
  const ids = { loopId: uuid(), versionId: uuid(), checkId: uuid(), gateId: uuid() }
  const must = async (path: string, body: unknown) => {
    const { status, body: said } = await who.write(path, body)
    if (status !== 200) failures.push(`${status} for ${path}: ${JSON.stringify(said)}`)
  }
  const at = `/api/loops/${ids.loopId}`
  await must(at, { tag: `LT-${7000 + index}`, service: 'Fault tank', area: 'Faults', kind: 'level-from-above' })
  const version = firstVersion(demoEntries('level-from-above'), { reason: 'Entered', seal: true })
  await must(`${at}/versions/${ids.versionId}`, version)
  const start = {
    phase: 'as-found',
    percents: [0, 50, 100],
    gearIds: [],
    ambient: '',
    told: 'Bree',
    gateId: ids.gateId,
    words: gateWording('loop-in-manual', 'current'),
  }
  await must(`${at}/checks/${ids.checkId}`, start)
  const ledger: Ledger = { loopId: ids.loopId, checkId: ids.checkId, wires: [], readings: [], clockRefused: 0 }
  while (!trial.over) {
    const id = uuid()
    if (roll() < 0.5) {
      await must(`${at}/wire-log/${id}`, { what: 'afresh', reason: `Writer ${index}, ${ledger.wires.length}` })
      ledger.wires.push(id)
    } else {
      // A clock that jumps is told so, and the reading is taken again when it is right.
      const jump = roll() < 0.2 ? pick(roll, [-86_400_000, 86_400_000, 600_000]) : 0
      const mA = (4 + (ledger.readings.length % 100) / 100).toFixed(3)
      const reading = (takenAt: number) => ({
        pointIndex: 0,
        applied: { typed: '3 mm', value: 3, unit: 'mm' },
        reads: { current: { typed: `${mA} mA`, value: Number(mA), unit: 'mA' } },
        source: 'typed',
        supersedes: ledger.readings.at(-1) ?? null,
        reason: ledger.readings.length ? 'Again' : '',
        takenAt: new Date(takenAt).toISOString(),
      })
      const path = `${at}/checks/${ids.checkId}/readings/${id}`
      if (jump) {
        const { status } = await who.write(path, reading(Date.now() + jump))
        if (status === 422) ledger.clockRefused++
        else failures.push(`a clock that jumped by ${jump} ms was answered ${status}`)
      }
      await must(path, reading(Date.now()))
      ledger.readings.push(id)
    }
    count(trial, 'acknowledged')
    await sleep(roll() * 20)
  }
  return ledger
}

/** Every acknowledged write once and in order; the same of what the chain of the audit trail says. */
export async function verify(trial: Trial, ledgers: readonly Ledger[]): Promise<void> {
  const { failures } = trial
  const who = new Writer(trial, 'rona')
  await who.signIn()
  for (const { loopId, checkId, wires, readings } of ledgers) {
    const view = (await who.fetch('GET', `/api/loops/${loopId}`)).body as FolderView
    const check = view.checks.find((c) => c.id === checkId)!
    const same = (a: readonly string[], b: readonly string[]) => JSON.stringify(a) === JSON.stringify(b)
    if (
      !same(
        view.wireLog.map((w) => w.id),
        wires,
      )
    )
      failures.push(`wire log of ${view.loop.tag}: ${view.wireLog.length} on record, ${wires.length} acknowledged`)
    if (
      !same(
        check.readings.map((r) => r.id),
        readings,
      )
    )
      failures.push(`readings of ${view.loop.tag}: ${check.readings.length} on record, ${readings.length} acknowledged`)
    if (check.readings.some((r, i) => r.seq !== i + 1))
      failures.push(`readings of ${view.loop.tag} are not numbered one after another`)
  }
  const page = (await who.fetch('GET', '/api/audit')).body as AuditPage
  if (page.chain.brokenAt !== null) failures.push(`the audit trail is broken at ${page.chain.brokenAt}`)
}
