import { USUAL_DUTIES } from '@calm-loop/contract'
import { entryFrom } from '@calm-loop/core/quantity'
import { kindOf, type CurrentKind } from '@calm-loop/core/kinds'
import { connect, takeOut } from '@calm-loop/core/wiring'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useDesk } from './desk.ts'
import { useFolder } from './folder.ts'
import { useSession } from './session.ts'
import { useThread } from './thread.ts'
import { useTrim } from './trim.ts'

const LOOP = '01890000-0000-7000-8000-000000000001'
const DAY = '2027-01-01T10:00:00.000Z'
const ailsa = { id: '01890000-0000-7000-8000-00000000000a', name: 'Ailsa' }
const TYPED: Record<string, string> = {
  supply: '24 V',
  liftOff: '12 V',
  shunt: '250 Ohm',
  conductor: '1 mm2',
  cableLength: '100 m',
  lrv: '0 mbar',
  urv: '600 mbar',
  countsLow: '0',
  countsHigh: '1000',
  receiverLow: '0 mbar',
  receiverHigh: '600 mbar',
}
const entries = () => {
  const { fields } = kindOf('pressure')
  return Object.fromEntries(
    Object.entries(TYPED).map(([key, typed]) => {
      const field = fields.find((f) => f.key === key)!
      return [key, field.type === 'quantity' ? entryFrom(typed, field) : { typed }]
    }),
  )
}

/** The desk of a loop that is open, for someone with these roles. */
async function deskFor(...roles: ('technician' | 'reviewer')[]) {
  useSession().session = {
    person: { ...ailsa, signIn: 'a', roles },
    csrfToken: 't',
    empty: false,
    duties: USUAL_DUTIES,
    demo: null,
  }
  await useFolder().open(LOOP)
  return useDesk()
}

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  vi.stubGlobal(
    'EventSource',
    class {
      addEventListener() {}
      removeEventListener() {}
      close() {}
    },
  )
  const version = {
    id: 'v1',
    number: 1,
    parentId: null,
    revision: 0,
    entries: entries(),
    author: ailsa,
    startedAt: DAY,
    savedAt: DAY,
    reason: '',
    sealedAt: DAY,
  }
  const view = {
    row: {},
    loop: { id: LOOP, tag: 'PT-1', service: 's', area: 'a', kind: 'pressure', createdAt: DAY },
    versions: [version],
    checks: [],
    wireLog: [],
  }
  vi.stubGlobal('fetch', () => Promise.resolve(new Response(JSON.stringify(view), { status: 200 })))
})

describe('the wiring desk', () => {
  it('gives volts at the thread’s current, and follows it', async () => {
    const desk = await deskFor('technician')
    expect(desk.study!.own).toBe(false)
    expect(desk.mA).toBeCloseTo(12, 6)
    expect(desk.energised!.volts('RX:IN')).toBeCloseTo(3, 2)
    useThread().hold('current', 20)
    expect(desk.energised!.volts('RX:IN')).toBeCloseTo(5, 2)
  })
  it('makes a change, judges it, and takes it back', async () => {
    const desk = await deskFor('technician')
    const codes = () => desk.study!.findings.map((f) => f.code)
    expect(desk.change((w) => takeOut(w, 'C1'))).toBe(true)
    expect(desk.study!.own).toBe(true)
    expect(codes()).toContain('loop-open')
    desk.undo()
    expect(desk.study!.own).toBe(false)
    expect(codes()).toEqual([])
  })
  it('says why a change cannot be made, and makes none', async () => {
    const desk = await deskFor('technician')
    expect(desk.change((w) => connect(w, 'TX:+', 'TX:+'))).toBe(false)
    expect(desk.says).toMatch(/cannot be on one terminal/)
    expect(desk.study!.own).toBe(false)
  })
  it('joins the terminal begun at with the one chosen next', async () => {
    const desk = await deskFor('technician')
    desk.begin('RX:IN')
    desk.finish('RX:0V')
    expect(desk.wiring!.conductors.at(-1)).toMatchObject({ from: 'RX:IN', to: 'RX:0V' })
    expect(desk.chosen).toEqual({ what: 'conductor', id: desk.wiring!.conductors.at(-1)!.id })
  })
  it('lets nobody but a technician change it', async () => {
    const desk = await deskFor('reviewer')
    desk.begin('RX:IN')
    expect(desk.drawingFrom).toBe('')
    expect(desk.change((w) => takeOut(w, 'C1'))).toBe(false)
    desk.takeProposal()
    expect(useFolder().status).toBe('saved')
    expect(useFolder().entries['wiring']).toBeUndefined()
  })
  it('knows where the gates leave the power', async () => {
    const desk = await deskFor('technician')
    expect(desk.power).toEqual({ power: 'unknown', lapsed: false })
    const folder = useFolder()
    const gate = (gate: 'power-off' | 'safe-to-energise') => ({ what: 'gate', gate, wiring: desk.text }) as never
    folder.view = { ...folder.view!, wireLog: [gate('power-off'), gate('safe-to-energise')] }
    expect(desk.power.power).toBe('on')
    desk.change((w) => takeOut(w, 'C1'))
    expect(desk.power).toEqual({ power: 'unknown', lapsed: true })
  })
})

describe('the one study of the loop', () => {
  it('is made once for a key typed, whatever hangs on it', async () => {
    const desk = await deskFor('technician')
    const [folder, thread, trim] = [useFolder(), useThread(), useTrim()]
    const look = vi.spyOn(kindOf('pressure') as CurrentKind, 'look')
    const everything = () => [
      folder.study?.findings,
      folder.study?.figures,
      folder.thread,
      folder.reader?.text('device'),
      desk.wiring,
      desk.energised,
      desk.mA,
      thread.expected,
      thread.scales,
      thread.parted,
      trim.known,
      trim.procedures,
      trim.tolerancePct,
    ]
    everything()
    look.mockClear()
    for (const typed of ['5', '50', '500 mbar']) {
      folder.set('urv', entryFrom(typed, { quantity: 'pressure', unit: 'mbar' }))
      everything()
    }
    expect(look).toHaveBeenCalledTimes(3)
  })
})
