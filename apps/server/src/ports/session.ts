// A port that is worked with: found, read, written; what its pages see of it.
import type { FoundDevice, LinkState, ProbeLine } from '@calm-loop/contract'
import { floatBytes, unsignedBytes } from '@calm-loop/core/bytes'
import {
  readPlan,
  UNIVERSAL,
  withUniversal,
  type Description,
  type ReadStep,
  type Value,
} from '@calm-loop/core/description'
import { decodePayload, NO_COUNTS } from '@calm-loop/core/hart'
import { Refusal } from '@calm-loop/core/refusal'
import { sure } from '@calm-loop/core/sure'
import { HttpProblem } from '../http/problems.ts'
import { allDescriptions } from './device-store.ts'
import { askAddress, askTag, identified, type Identified } from './finding.ts'
import { answered, codeOf, openHartLine, type Exchange, type HartLine } from './hart-line.ts'
import { backOff } from './back-off.ts'
import { readSteps } from './reading.ts'
import { historyOf, type AskDevice } from './history.ts'
import { nextThings, refusalWords } from './link-words.ts'
import { liveOf } from './live.ts'
import type { Session, SessionParts } from './session-parts.ts'
import { refuseUncautioned, writerOf } from './writer.ts'

export function openSession({ db, port, found, log, hold, closed }: SessionParts): Session {
  let line: HartLine | undefined
  let right: { release(): void } | undefined
  let device: FoundDevice | undefined
  let preambles = 20
  let description: Description = UNIVERSAL
  let doing: LinkState['doing'] = 'closed'
  let says = ''
  let probed: ProbeLine[] = []
  let values: Record<string, Value> = {}
  let readAt: string | null = null
  let upload: LinkState['upload'] = null
  let unstored = false
  let tryNext: string[] = []
  let latency: number | null = null
  let stopping = false
  let past = historyOf()
  const steps = new Set<string>()
  const listeners = new Set<() => void>()
  let told = false
  const changed = () => {
    if (told) return
    told = true
    setTimeout(() => {
      told = false
      listeners.forEach((hear) => hear())
    }, 80)
  }
  const become = (next: LinkState['doing'], words = '') => {
    doing = next
    says = words
    changed()
  }

  const close = () => {
    again.end()
    line?.close()
    line = undefined
    right?.release()
    right = undefined
    device = undefined
    live.forget()
    upload = null
    values = {}
    readAt = null
    writer.leave()
    probed = []
    unstored = false
    steps.clear()
    become('closed')
  }
  const lost = (why: string) => {
    line?.close()
    line = undefined
    right?.release()
    right = undefined
    live.forget()
    upload = null
    goneBecause = why
    become('lost')
    again.begin()
  }
  let goneBecause = ''
  const again = backOff(
    async () => {
      if (device) await attach(device.serial)
      else await opened()
    },
    () => doing === 'lost' && (listeners.size > 0 || live.heard()),
    (wait_ms) => {
      const next = `Tried again in ${Math.round(wait_ms / 1000)} s, and so on; or connect by hand.`
      become('lost', `The port is gone: ${goneBecause}. What was read is kept. ${next}`)
    },
  )
  async function opened(): Promise<HartLine> {
    if (line) return line
    right = await hold(() => lost('the right to it went with the database'))
    try {
      line = await openHartLine((await found()).reached, log, {
        burst: (frame) => live.take(frame),
        lost,
      })
    } catch (error) {
      right.release()
      right = undefined
      throw new HttpProblem(503, 'port-lost', `${port.label} cannot be opened: ${(error as Error).message}.`)
    }
    again.end()
    become('idle')
    return line
  }
  const refuseBusy = () => {
    if (doing === 'probing' || doing === 'reading' || doing === 'writing')
      throw new HttpProblem(409, 'link-busy', 'The line is at work. Wait for it, or stop it.')
  }
  /** Work on the line that nothing else may come between. */
  async function alone<T>(what: LinkState['doing'], work: (line: HartLine) => Promise<T>): Promise<T> {
    refuseBusy()
    const open = await opened()
    stopping = false
    become(what)
    let words = ''
    try {
      return await work(open)
    } catch (error) {
      // Who began it may not wait for its answer any more.
      words = error instanceof HttpProblem || error instanceof Refusal ? error.message : 'It was broken off.'
      throw error
    } finally {
      upload = null
      if (line) become('idle', words)
    }
  }
  async function ask(command: number, data: Uint8Array = new Uint8Array(), tries?: number): Promise<Exchange> {
    // Gone meanwhile: whatever is still to be asked gets no answer either.
    if (!line || !device) return { why: 'lost', tries: 0, took_ms: 0 }
    const exchange = await line.ask({
      address: { long: device.longAddress },
      command,
      data,
      preambles,
      ...(tries === undefined ? {} : { tries }),
    })
    latency = answered(exchange) ? Math.round(exchange.took_ms) : latency
    changed()
    return exchange
  }

  const writer = writerOf({
    db,
    ask,
    took: (seen) => (values = { ...values, ...seen }),
    changed,
  })

  const live = liveOf({
    serial: () => device?.longAddress,
    free: () => line !== undefined && device !== undefined && doing === 'idle',
    looked: () => listeners.size > 0,
    ask: (command) => ask(command, undefined, 1),
    changed,
  })

  const askPast: AskDevice = async (command, data) => {
    const got = await ask(command, data)
    return answered(got) && !codeOf(got.frame) ? got.frame.data : undefined
  }

  async function takeUp({ device: found, preambles: asks }: Identified): Promise<void> {
    if (device?.serial !== found.serial) {
      values = {}
      steps.clear()
      readAt = null
      live.forget()
      unstored = false
      past = historyOf()
    }
    device = found
    preambles = asks
    description = withUniversal(
      (await allDescriptions(db)).find((d) => d.id === found.description.id && d.version === found.description.version),
    )
    await writer.takeUp(found.serial)
  }

  /** By its own long address: no other device can be taken for it. */
  async function attach(serial: string): Promise<void> {
    if (line && device?.serial === serial) return
    await alone('probing', async (open) => {
      const got = await open.ask({ address: { long: serial }, command: 0, preambles: 20, tries: 2 })
      if (!answered(got))
        throw new HttpProblem(504, 'device-silent', `The device ${serial} does not answer at ${port.label}.`)
      await takeUp(await identified(db, open, got.frame))
    })
  }

  async function read(open: HartLine, plan: readonly ReadStep[]): Promise<void> {
    const whole = await readSteps(
      {
        ask,
        goesOn: () => !stopping && line === open,
        progress(now) {
          upload = now
          changed()
        },
        took(seen, step) {
          values = { ...values, ...seen }
          for (const p of step.parameters) steps.add(p.id)
        },
      },
      plan,
    )
    if (!whole) return
    readAt = new Date().toISOString()
    await recount()
  }

  /** The counter of changes as it is after what was read or written here: what was compared is up to then. */
  async function recount(): Promise<void> {
    const got = await ask(0)
    if (!device || !answered(got) || codeOf(got.frame)) return
    const told = decodePayload(0, 'response', got.frame.data)['configurationCounter']
    if (typeof told === 'number') device = { ...device, configurationCounter: told }
  }

  const needsDevice = () => {
    if (!device || !line) throw new HttpProblem(409, 'no-device', 'No device is connected here. Find it first.')
    return device
  }

  return {
    log,
    state: () => ({
      portId: port.id,
      doing,
      says,
      counts: { ...(line?.counts() ?? NO_COUNTS) },
      latency_ms: latency,
      probed,
      device: device ?? null,
      upload,
      values,
      readAt,
      live: live.latest(),
      writes: writer.list(),
      unstored,
      tryNext,
    }),
    subscribe(hear) {
      listeners.add(hear)
      return () => void listeners.delete(hear)
    },
    probe: ({ from, to, tag }, circuit) =>
      alone('probing', async (open) => {
        probed = []
        tryNext = []
        if (tag) {
          const got = await askTag(open, tag)
          if (answered(got)) {
            await takeUp(await identified(db, open, got.frame))
            return
          }
          probed = [{ address: 0, outcome: 'silence', tries: got.tries, took_ms: Math.round(got.took_ms), tag }]
          tryNext = nextThings(['silence'], circuit)
          return
        }
        for (let address = from; address <= to && !stopping && line === open; address++) {
          const [found, frame] = await askAddress(open, address)
          probed = [...probed, found]
          changed()
          if (!frame) continue
          const named = await identified(db, open, frame, address)
          probed = probed.map((l) => (l.address === address ? { ...l, tag: named.device.tag } : l))
          if (!probed.some((l) => l.outcome === 'device' && l.address < address)) await takeUp(named)
          changed()
          // A lone device with its own current is the only one on its loop.
          if (address === 0) break
        }
        if (!probed.some((l) => l.outcome === 'device'))
          tryNext = nextThings(
            probed.map((l) => l.outcome),
            circuit,
          )
      }),
    connect: (address) =>
      alone('probing', async (open) => {
        tryNext = []
        let [found, frame] = await askAddress(open, address)
        for (let again = 0; !frame && again < 2; again++) [found, frame] = await askAddress(open, address)
        if (!frame) {
          probed = [found]
          tryNext = nextThings([found.outcome])
          return
        }
        await takeUp(await identified(db, open, frame, address))
        probed = [{ ...found, tag: sure(device).tag }]
      }),
    async upload(anew) {
      needsDevice()
      await alone('reading', async (open) => {
        if (anew) steps.clear()
        await read(
          open,
          readPlan(description).filter((s) => s.parameters.some((p) => !steps.has(p.id))),
        )
      })
    },
    stop() {
      stopping = true
      upload = null
      changed()
    },
    async write(asked, person) {
      const { serial } = needsDevice()
      const there = await writer.by(asked.id)
      if (there.length) return there
      const changes = Object.entries(asked.values).map(([id, value]) => {
        const parameter = description.parameters.find((p) => p.id === id)
        if (!parameter) throw new Refusal('value-refused', `The device has no parameter “${id}”.`)
        return [parameter, value] as const
      })
      writer.refuse(asked, changes)
      // Before anything is on record as waiting.
      refuseBusy()
      await writer.queue({ id: asked.id, serial, changes, held: values, person })
      await alone('writing', async () => {
        await writer.send(asked.id, changes)
        if (device?.forgetful) unstored = true
        // A unit changes what many figures say.
        if (changes.some(([p]) => p.type === 'unit')) await read(sure(line), readPlan(description))
        else await recount()
      })
      return writer.by(asked.id)
    },
    async command(asked) {
      needsDevice()
      if (asked.do === 'fix') refuseUncautioned(asked.cautions)
      await alone('writing', async () => {
        if (asked.do === 'read-again') {
          await writer.readAgain((id) => description.parameters.find((p) => p.id === id))
          if (device?.forgetful) unstored = true
          return
        }
        const [command, data] = {
          store: [39, [0]],
          release: [40, floatBytes(0)],
          fix: [40, floatBytes('mA' in asked ? asked.mA : 0)],
          seen: [38, unsignedBytes(device?.configurationCounter ?? 0, 2)],
        }[asked.do] as [number, number[]]
        const got = await ask(command, Uint8Array.from(data))
        if (!answered(got)) throw new HttpProblem(504, 'device-silent', `No answer came (${got.why}). Read it again.`)
        const code = codeOf(got.frame)
        if (code) throw new HttpProblem(409, 'device-refused', refusalWords(code))
        if (asked.do === 'store') unstored = false
        const now = await ask(3)
        if (answered(now) && !codeOf(now.frame)) live.take(now.frame)
      })
    },
    history: () =>
      past.view(
        { byte_ms: line?.byte_ms ?? 0, exchange_ms: latency ?? 20 },
        String(values['unit'] ?? live.latest()?.variables[0]?.unit ?? ''),
      ),
    async lookAtHistory() {
      needsDevice()
      await alone('reading', async () => void (await past.look(askPast)))
    },
    async downloadHistory(wish) {
      needsDevice()
      await alone('reading', async (open) => {
        const begun = performance.now()
        const end = await past.download(askPast, wish, (done, of) => {
          const left_s = done ? ((performance.now() - begun) / done) * (of - done) : 0
          upload = { done, of, left_s: done ? Math.round(left_s) / 1000 : null, now: 'its past' }
          changed()
          return !stopping && line === open
        })
        upload = null
        if (end === 'broken' && !stopping && line === open)
          throw new HttpProblem(504, 'device-silent', 'The device stopped answering. What was read is kept; read on.')
      })
    },
    description: () => description,
    refuseBusy,
    attach,
    tell: (serial, command, data, once) =>
      alone('writing', async () => {
        if (device?.serial !== serial)
          throw new HttpProblem(409, 'other-device', `Another device is at hand on ${port.label} now, or none.`)
        return ask(command, data, once ? 1 : undefined)
      }),
    wrote(yet = true) {
      unstored = yet && device?.forgetful === true
      // What was read before is not what it holds now.
      if (yet) {
        values = {}
        steps.clear()
        readAt = null
      }
      changed()
    },
    hear: live.hear,
    leave: close,
    close() {
      live.close()
      close()
      closed()
    },
  }
}
