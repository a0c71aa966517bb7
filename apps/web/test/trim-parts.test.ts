// The parts of guided work by themselves: every gate of every procedure can be met and passed, and left in good order.
import { askedOfDevice, PROCEDURES, toUndo, type ProcedureId, type RunState } from '@calm-loop/core/procedure'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { termsFor, walk } from '../../../packages/core/src/procedure/procedure.fixture.ts'
import { refusal } from '../src/stores/server.fixture.ts'
import CancelPanel from '../src/trim/CancelPanel.vue'
import { useFolder } from '../src/stores/folder.ts'
import GateNow from '../src/trim/GateNow.vue'
import { disabled, open, parts, press, settle, show, textOf } from './panel.ts'

parts()
const RUN = 'run-1'
const sent = (asked: ReturnType<typeof open>) => asked.filter((a) => a.method === 'PUT' && a.path.includes('/events/'))
const entries = demoEntries('pressure')
/** The state of a run at each of its gates. */
const gatesOf = (procedure: ProcedureId): RunState[] =>
  walk(procedure, termsFor(procedure)).states.filter((s) => !s.pending && s.steps[s.at])
const CONNECTED = { by: { id: 'p', name: 'Ailsa Fenn' }, at: '2027-01-02T08:00:00.000Z' }
/** A gate at the bench; `byHand`: at a real device, without a link. */
function gate(state: RunState, answers: Parameters<typeof open>[0]['answers'] = {}, byHand = false) {
  const asked = open({
    kind: 'pressure',
    entries,
    answers: { 'PUT /api/loops/*/procedures/*/events/*': () => ({}), ...answers },
  })
  const folder = useFolder()
  folder.view = { ...folder.view!, bench: byHand ? null : CONNECTED }
  return { asked, part: show(GateNow, { run: RUN, state, step: state.steps[state.at] }) }
}
const gateAt = (procedure: ProcedureId, kind: string) =>
  gatesOf(procedure).find((s) => s.steps[s.at]!.kind === kind) ?? fail(`${procedure} has no ${kind}`)
function fail(says: string): never {
  throw new Error(says)
}

describe.each(PROCEDURES)('the gates of %s', (procedure) => {
  it('each say what is to be done, and pass by one button with what was typed', async () => {
    for (const state of gatesOf(procedure)) {
      const step = state.steps[state.at]!
      const { asked, part } = gate(state)
      expect(textOf(part)).toContain(step.says.slice(0, 40))
      expect(textOf(part)).not.toMatch(/NaN|undefined/)
      if (step.caution) expect(textOf(part)).toContain('Caution.')
      if (step.kind === 'valve') {
        expect(part.findAll('.valve').length).toBeGreaterThan(2)
        continue
      }
      const field = part.find('form.do input')
      if (field.exists()) await field.setValue(step.kind === 'words' ? ' Rolf ' : ' 12 ')
      await part.find('form.do').trigger('submit')
      await settle()
      const [event] = sent(asked)
      expect(event?.path, step.id).toContain(`/procedures/${RUN}/events/`)
      expect(event?.body).toMatchObject({ step: step.id })
      const { do: does } = event!.body as { do: string }
      expect(does).toBe({ command: 'send', 'read-back': 'read' }[step.kind as string] ?? 'pass')
      if (field.exists()) expect(JSON.stringify(event!.body)).toMatch(step.kind === 'words' ? /"Rolf"/ : /"12"/)
    }
  })
})

describe.each(PROCEDURES)('by hand, the gates of %s', (procedure) => {
  it('send nothing, and ask what the device itself shows', async () => {
    for (const state of gatesOf(procedure)) {
      const step = state.steps[state.at]!
      if (!['command', 'read-back', 'steady'].includes(step.kind)) continue
      const { asked, part } = gate(state, {}, true)
      expect(part.find('figure.trend').exists()).toBe(false)
      const fields = part.findAll('form.do input')
      if (step.kind !== 'command') {
        expect(disabled(part, 'pass-gate')).toBe(true)
        await part.find('form.do').trigger('submit')
        expect(sent(asked)).toEqual([])
      }
      for (const [i, field] of fields.entries()) await field.setValue(i === fields.length - 1 ? 'Still for 30 s' : '12')
      await part.find('form.do').trigger('submit')
      await settle()
      const body = sent(asked)[0]?.body as Record<string, unknown>
      expect(body, step.id).toMatchObject({ step: step.id })
      if (step.kind === 'steady') expect(body).toMatchObject({ do: 'pass', words: 'Still for 30 s' })
      if (step.kind === 'read-back') expect(body).toMatchObject({ do: 'read', seen: 'Still for 30 s' })
      if (step.kind === 'read-back' && fields.length > 1) expect(body['typed']).toEqual(['12', '12'])
    }
  })
})

describe.each(PROCEDURES)('what went out unanswered in %s, by hand', (procedure) => {
  it('is told by what the device shows, and by nothing that nobody saw', async () => {
    const state = walk(procedure, termsFor(procedure)).states.find((s) => s.pending)!
    const { asked, part } = gate(state, {}, true)
    expect(disabled(part, 'read-back')).toBe(true)
    const fields = part.findAll('.unknown input')
    expect(fields).toHaveLength(askedOfDevice(state) ? 3 : 1)
    for (const [i, field] of fields.entries()) await field.setValue(i === fields.length - 1 ? 'Passed' : '12')
    await part.find('[data-test="read-back"]').trigger('click')
    await settle()
    expect(sent(asked)[0]?.body).toMatchObject({ do: 'read', seen: 'Passed' })
    if (fields.length > 1) expect(sent(asked)[0]?.body).toMatchObject({ typed: ['12', '12'] })
  })
})

describe('over the line of the loop’s own device, a gate', () => {
  const DEVICE = { portId: '0'.repeat(16), port: 'Rack 2', serial: '3d1103a7c2', address: 0, simulated: false }
  function linked(state: RunState) {
    const shown = gate(state, {}, true)
    const folder = useFolder()
    folder.view = { ...folder.view!, device: { ...DEVICE, by: CONNECTED.by, at: CONNECTED.at } }
    return shown
  }
  it('sends and reads back by itself, and pumps nothing', async () => {
    const { part, asked } = linked(gateAt('zero-trim', 'command'))
    await settle()
    expect(textOf(part)).toContain('Send:')
    await part.find('form.do').trigger('submit')
    await settle()
    expect(sent(asked)[0]?.body).toMatchObject({ do: 'send' })
    const pump = linked(gateAt('sensor-trim', 'apply')).part
    await settle()
    expect(pump.find('[data-test="pump"]').exists()).toBe(false)
  })
  it('watches what the device shows, and asks for words where a meter is read', async () => {
    const own = linked(gateAt('zero-trim', 'steady')).part
    await settle()
    expect(own.find('figure.trend').exists()).toBe(true)
    const meter = linked(gateAt('forced-current', 'steady')).part
    await settle()
    expect(meter.find('figure.trend').exists()).toBe(false)
    expect(textOf(meter)).toContain('On what it stood still')
  })
  it('of the receiver’s scale is passed by hand', async () => {
    const { part } = linked(gateAt('receiver-scale', 'command'))
    await settle()
    expect(textOf(part)).toContain('Done at the device')
  })
})

describe('a gate', () => {
  it('that is refused says why, and keeps what was typed', async () => {
    const state = gateAt('zero-trim', 'words')
    const { part } = gate(state, {
      'PUT /api/loops/*/procedures/*/events/*': () => refusal(422, 'words-missing', 'This gate asks: who was told.'),
    })
    await part.find('form.do input').setValue('R')
    await part.find('form.do').trigger('submit')
    await settle()
    expect(part.find('[data-test="refused"]').text()).toBe('This gate asks: who was told.')
    expect((part.find('form.do input').element as HTMLInputElement).value).toBe('R')
  })
  it('behind which the device never answered only reads it back', async () => {
    const pending = walk('zero-trim', termsFor('zero-trim')).states.find((s) => s.pending)!
    const { asked, part } = gate(pending)
    expect(textOf(part)).toContain('Unknown: read back first.')
    expect(part.find('form.do').exists()).toBe(false)
    await press(part, 'read-back')
    expect(sent(asked)[0]!.body).toMatchObject({ do: 'read' })
  })
  it('forgets what was typed when the next one opens', async () => {
    const states = gatesOf('current-trim')
    const at = states.findIndex((s) => s.steps[s.at]!.kind === 'words')
    const { part } = gate(states[at]!)
    await part.find('form.do input').setValue('Rolf')
    const next = states.slice(at + 1).find((s) => s.steps[s.at]!.kind === 'words' || s.steps[s.at]!.kind === 'reading')!
    await part.setProps({ state: next, step: next.steps[next.at] })
    expect((part.find('form.do input').element as HTMLInputElement).value).toBe('')
  })
  it('has a button of its own: what is pressed twice does not send what comes next', async () => {
    const states = gatesOf('zero-trim')
    const at = states.findIndex((s) => s.steps[s.at]!.kind === 'command')
    const [before, command] = [states[at - 1]!, states[at]!]
    const { part } = gate(before)
    const pressed = part.find('[data-test="pass-gate"]').element as HTMLButtonElement
    pressed.focus()
    await part.setProps({ state: command, step: command.steps[command.at] })
    expect(part.find('[data-test="pass-gate"]').text()).toMatch(/^Send: /)
    expect(pressed.isConnected).toBe(false)
    expect(document.activeElement).not.toBe(part.find('[data-test="pass-gate"]').element)
  })
  it('without as found leads to where it is taken', () => {
    const { part } = gate(gateAt('zero-trim', 'as-found'))
    expect(textOf(part)).toContain('No point stands on record. Take as found first')
  })
})

describe.each(PROCEDURES)('cancelling %s', (procedure) => {
  it('says at every gate what would stay undone, and asks why', async () => {
    for (const state of gatesOf(procedure)) {
      const asked = open({
        kind: 'pressure',
        entries,
        answers: { 'PUT /api/loops/*/procedures/*/events/*': () => ({}) },
      })
      const part = show(CancelPanel, { run: RUN, state })
      await press(part, 'cancel')
      const undo = toUndo(state)
      if (undo.length) expect(textOf(part)).toContain('Still to be undone, in this order')
      else expect(textOf(part)).toContain('Nothing has to be undone.')
      await part.find('form.ask').trigger('submit')
      await part.find('form.ask input').setValue(' not today ')
      await part.find('form.ask').trigger('submit')
      await settle()
      expect(sent(asked).at(-1)!.body).toEqual({ do: 'cancel', reason: 'not today', byHand: true })
    }
  })
  it('can be thought better of', async () => {
    open({ kind: 'pressure', entries })
    const part = show(CancelPanel, { run: RUN, state: gatesOf(procedure)[2]! })
    await press(part, 'cancel')
    await press(part, 'Go on with it')
    expect(part.find('form.ask').exists()).toBe(false)
  })
})
