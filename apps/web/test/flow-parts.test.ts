// Parts of the flow points by themselves: the zero, the health check, a run sheet.
import type { LiveReading, MeterLive, WorkEntry } from '@calm-loop/contract'
import { currentKindOf, KINDS } from '@calm-loop/core/kinds'
import { study } from '@calm-loop/core/loop'
import type { SheetStep } from '@calm-loop/core/sheet'
import { describe, expect, it } from 'vitest'
import { nextTick } from 'vue'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import HealthPanel from '../src/flow/HealthPanel.vue'
import SheetRun from '../src/flow/SheetRun.vue'
import ZeroPanel from '../src/flow/ZeroPanel.vue'
import { useFolder } from '../src/stores/folder.ts'
import { useLive } from '../src/stores/live.ts'
import { refusal } from '../src/stores/server.fixture.ts'
import { useWork } from '../src/stores/work.ts'
import { added, disabled, open, parts, press, settle, show, SIGNED, textOf } from './panel.ts'

parts()
const meter = (more: Partial<MeterLive> = {}): MeterLive => ({
  phase: 'running',
  phase_s: 0,
  lasts_s: 0,
  practice: 'none',
  tells: [],
  zero: 0,
  mount: { spacing_mm: null, swapped: false },
  digital: 0,
  ...more,
})
/** What the link tells: a meter, and how much flows at the bench. */
async function live(of: MeterLive, reference = 0): Promise<void> {
  const reading: LiveReading = { t_s: 1, reference, wanted: reference, moving: false, knots: {}, meter: of }
  useLive().reading = reading
  await nextTick()
}
/** The steps of a sheet that come before one, as they stand on record. */
function stepsBefore(kind: string, sheetId: string, stepId: string): WorkEntry[] {
  const sheet = study(currentKindOf(kind), demoEntries(kind)).sheets!().find((s) => s.id === sheetId)!
  const before = sheet.steps.slice(
    0,
    sheet.steps.findIndex((s) => s.id === stepId),
  )
  return before.map(({ id, title }, i) => ({
    what: 'step',
    sheet: sheetId,
    run: 'r1',
    step: id,
    title,
    value: null,
    words: '',
    id: `s${i}`,
    ...SIGNED,
  }))
}
const HELD = { held: {}, cases: [] }
const METER = { 'GET /api/loops/*/link/meter': () => HELD, 'POST /api/loops/*/link/meter': () => HELD }

describe('the zero of a meter', () => {
  const zero = (limit?: number) => {
    const workLog = stepsBefore('coriolis', 'zero', 'stable')
    const asked = open({ kind: 'coriolis', entries: demoEntries('coriolis'), workLog, answers: METER })
    const part = show(ZeroPanel, { unit: 'ns', times: 2, limit, says: 'Blocked in, full, and still.' })
    return { asked, part }
  }
  it('is not taken while anything flows, nor while the meter does not measure', async () => {
    const { part } = zero()
    await live(meter(), 12)
    expect(disabled(part, 'take-zero')).toBe(true)
    expect(textOf(part)).toContain('would hide that much flow for ever')
    await live(meter({ phase: 'searching' }))
    expect(disabled(part, 'take-zero')).toBe(true)
    expect(textOf(part)).toContain('start it first')
    await live(meter())
    expect(disabled(part, 'take-zero')).toBe(false)
  })
  it('is averaged for as long as was chosen, and put on record once', async () => {
    const { asked, part } = zero(0.5)
    await live(meter())
    await press(part, '10 s')
    await press(part, 'take-zero')
    expect(asked.find((a) => a.method === 'POST')!.body).toEqual({ do: 'zero', length_s: 10 })
    await live(meter({ phase: 'zeroing', phase_s: 4, lasts_s: 10 }))
    expect(textOf(part)).toContain('4 of 10 s')
    await live(meter({ zeroed: { before: 1.5, after: 0, spread: 0.1 } }))
    expect(part.find('[data-test="zeroed"]').text()).toMatch(/\+3\.000\s*ns/)
    await press(part, 'keep-zero')
    expect(added).toEqual([{ what: 'zero', unit: 'ns', before: 3, after: 0, spread: 0.2, limit: 0.5, note: '' }])
    expect(part.find('[data-test="keep-zero"]').exists()).toBe(false)
    expect(textOf(part)).toContain('Ailsa Fenn: as found')
  })
  it('that wanders is said to, and kept with that', async () => {
    const { part } = zero(0.5)
    await live(meter())
    await live(meter({ zeroed: { before: 1, after: 0, spread: 0.3 } }))
    expect(textOf(part)).toContain('The zero wanders more than its limit')
    await press(part, 'keep-zero')
    expect(added).toMatchObject([{ note: 'scatter above its limit' }])
    expect(textOf(part)).toContain('; scatter above its limit')
  })
  it('is not taken while a step before it is open', async () => {
    open({
      kind: 'coriolis',
      entries: demoEntries('coriolis'),
      workLog: stepsBefore('coriolis', 'zero', 'blocked'),
      answers: METER,
    })
    const part = show(ZeroPanel, { unit: 'ns', times: 1, says: '' })
    await live(meter())
    expect(disabled(part, 'take-zero')).toBe(true)
    expect(textOf(part)).toContain('First, in the sheet “Take the zero”: blocked in on both sides, no flow.')
  })
  it('without a link is typed as the meter itself shows it', async () => {
    const { part } = zero(0.5)
    const fields = part.findAll('form input')
    expect(disabled(part, 'keep-typed-zero')).toBe(true)
    for (const [i, text] of ['2.4', '0,1', '0.6'].entries()) await fields[i]!.setValue(text)
    await part.find('form').trigger('submit')
    await settle()
    expect(added).toEqual([
      { what: 'zero', unit: 'ns', before: 2.4, after: 0.1, spread: 0.6, limit: 0.5, note: 'scatter above its limit' },
    ])
  })
  it('is not offered to whoever is no technician', async () => {
    open({ kind: 'coriolis', entries: demoEntries('coriolis'), roles: ['reviewer'], answers: METER })
    const part = show(ZeroPanel, { unit: 'ns', times: 1, says: '' })
    await live(meter({ zeroed: { before: 1, after: 0, spread: 0 } }))
    expect(part.find('[data-test="take-zero"]').exists()).toBe(false)
    expect(part.find('[data-test="keep-zero"]').exists()).toBe(false)
  })
})

describe('the health check', () => {
  const tells = (left: number, right: number) =>
    Object.entries({ 'stiffness-left': left, 'stiffness-right': right }).map(([id, value]) => ({
      id,
      label: id,
      value,
      unit: '%',
      decimals: 1,
    }))
  const health = (past: readonly WorkEntry[] = []) => {
    const workLog = [...stepsBefore('coriolis', 'health', 'compared'), ...past]
    const asked = open({ kind: 'coriolis', entries: demoEntries('coriolis'), workLog, answers: METER })
    return { asked, part: show(HealthPanel) }
  }
  const check = async (left: number, right: number) => {
    await live(meter({ phase: 'health', lasts_s: 20 }))
    await live(meter({ tells: tells(left, right) }))
  }
  const entry = (more: object) => ({ id: 'h1', ...SIGNED, ...more }) as unknown as WorkEntry
  const reference = entry({
    what: 'health',
    left_pct: 99,
    right_pct: 101,
    reference: true,
    output: 'hold',
    changed: [],
  })

  it('first made is offered as the reference', async () => {
    const { asked, part } = health()
    expect(textOf(part)).toContain('No reference yet')
    await live(meter())
    await press(part, 'run-health')
    expect(asked.find((a) => a.method === 'POST')!.body).toMatchObject({ do: 'health' })
    await check(100.4, 99.8)
    expect(textOf(part)).toContain('Within the limit')
    await press(part, 'keep-reference')
    expect(added).toMatchObject([{ what: 'health', left_pct: 100.4, right_pct: 99.8, reference: true, changed: [] }])
    expect(textOf(part)).toContain('Reference of')
  })
  it('later is held against its reference, side by side', async () => {
    const { part } = health([reference])
    await live(meter())
    await check(99.2, 110)
    expect(part.find('[data-test="health-result"]').text()).toMatch(/\+0\.2.*\+8\.9/s)
    expect(textOf(part)).toContain('Beyond the limit')
    await press(part, 'keep-health')
    expect(added).toMatchObject([{ reference: false }])
  })
  it('says that nothing was changed since the last one, or what was', async () => {
    const { part } = health([reference])
    expect(textOf(part)).toContain('Nothing of the set-up or the zero has changed')
    const zero = entry({ id: 'z1', what: 'zero', unit: 'ns', before: 1, after: 0, spread: 0, limit: null, note: '' })
    const folder = useFolder()
    folder.view = { ...folder.view!, workLog: [reference, { ...zero, at: '2027-02-01T00:00:00.000Z' }] }
    folder.entries = { ...folder.entries, cutoff: { typed: '40 kg/h', value: 40, unit: 'kg/h' } }
    await nextTick()
    expect(part.find('[data-test="changed"]').text()).toMatch(/zero taken/)
    expect(part.find('[data-test="changed"]').text()).toMatch(/→.*40/)
  })
  it('counts what changed from the last one to now, whatever version is open', async () => {
    const setup = Object.fromEntries(
      study(currentKindOf('coriolis'), demoEntries('coriolis')).setup!().map((l) => [l.key, l.text]),
    )
    const { part } = health([{ ...reference, setup: { ...setup, urv: '8000 kg/h', cutoff: '10 kg/h' } } as WorkEntry])
    // The version was saved after the check: what it was then is only kept with the check.
    expect(part.find('[data-test="changed"]').text()).toMatch(/8000 kg\/h → .*10 kg\/h → /s)
  })
  it('says how long it lasts, and what the controller shows meanwhile', async () => {
    const { part } = health()
    await live(meter({ phase: 'health', phase_s: 12, lasts_s: 110 }))
    expect(part.find('[data-test="health-countdown"]').text()).toMatch(/98\s*s\s*to go/)
    expect(part.find('[data-test="health-countdown"]').text()).toContain('the last value held')
  })
  it('without a link is typed as the meter itself shows it', async () => {
    const { part } = health([reference])
    for (const field of part.findAll('form input')) await field.setValue('99.5 %')
    await part.find('form').trigger('submit')
    expect(part.find('[data-test="health-result"]').text()).toMatch(/\+0\.5.*−1\.5/s)
    await press(part, 'keep-health')
    expect(added).toMatchObject([{ left_pct: 99.5, right_pct: 99.5, reference: false }])
    expect((added[0] as { setup: object }).setup).toHaveProperty('flowCal', '72.384')
  })
  it('that could not be kept says why, and can be kept still', async () => {
    open({
      kind: 'coriolis',
      entries: demoEntries('coriolis'),
      answers: { ...METER, 'PUT /api/loops/*/work/*': () => refusal(409, 'busy', 'Somebody else writes.') },
    })
    const part = show(HealthPanel)
    await live(meter())
    await check(100, 100)
    await press(part, 'keep-health')
    expect(part.find('[role=alert]').text()).toBe('Somebody else writes.')
    expect(part.find('[data-test="keep-health"]').exists()).toBe(true)
  })
})

const sheets = KINDS.filter((k) => k.family === 'current').flatMap((k) =>
  (study(currentKindOf(k.id), demoEntries(k.id)).sheets?.() ?? []).map((sheet) => [k.id, sheet.id] as const),
)
/** A figure as it is planned. */
const planned = ({ ask }: SheetStep): string => {
  const { low, high, floor } = ask?.plan ?? {}
  return (low !== undefined && high !== undefined ? (low + high) / 2 : (floor ?? 20)).toFixed(2)
}
it('a figure that is not as planned needs a word, and one far off is not gone on with', async () => {
  open({ kind: 'clamp-on', entries: demoEntries('clamp-on'), workLog: stepsBefore('clamp-on', 'mount', 'gauge') })
  const part = show(SheetRun, { sheet: 'mount' })
  const wall = useFolder().reader!.in('wall', 'mm')!
  const now = () => part.find('[data-step="gauge"]')
  await now()
    .find('input')
    .setValue(`${(0.85 * wall).toFixed(2)} mm`)
  expect(now().find('[data-test="off-plan"]').text()).toMatch(
    /Wall entered .* typed\. Another wall gives another spacing/,
  )
  expect(disabled(part, 'confirm-step')).toBe(true)
  await now().findAll('input')[1]!.setValue('Gauged twice; worn inside.')
  await now().find('form').trigger('submit')
  await settle()
  expect(added).toMatchObject([{ step: 'gauge', words: 'Gauged twice; worn inside.' }])
  // On record it is the loop's wall from now on.
  expect(useFolder().entries['wall']).toMatchObject({ typed: `${(0.85 * wall).toFixed(2)} mm` })
  for (const id of ['prepare', 'couplant']) {
    expect(part.find('[data-step].now').attributes('data-step')).toBe(id)
    await part.find('[data-step].now form').trigger('submit')
    await settle()
  }
  await part.find('[data-step="spacing"] input').setValue('900 mm')
  expect(part.find('[data-test="off-plan"]').classes()).toContain('stop')
  expect(disabled(part, 'confirm-step')).toBe(true)
})
it('some kinds have sheets', () => expect(sheets.length).toBeGreaterThan(4))
describe.each(sheets)('the sheet of %s: %s', (kind, id) => {
  const entries = demoEntries(kind)
  const sheet = study(currentKindOf(kind), entries)
    .sheets?.()
    .find((s) => s.id === id)
  it('is gone through in its order, each step with what it asks for', async () => {
    open({ kind, entries })
    const part = show(SheetRun, { sheet: id })
    for (const step of sheet!.steps) {
      const now = part.find('[data-step].now')
      expect(now.attributes('data-step')).toBe(step.id)
      expect(now.text().replace(/\s+/g, ' ')).toContain(step.says.replace(/\s+/g, ' ').slice(0, 30))
      const before = added.length
      if (step.marks) {
        expect(disabled(part, 'confirm-step')).toBe(true)
        await now.find('[data-test="mark-none"]').setValue(true)
      }
      if (step.ask || step.askWords) {
        await now.find('form').trigger('submit')
        await settle()
        expect(added).toHaveLength(before)
        for (const field of now.findAll('form input')) await field.setValue(step.ask ? planned(step) : 'Bree, radio 3')
      }
      await now.find('form').trigger('submit')
      await settle()
      expect(added, step.id).toHaveLength(before + 1)
      expect(added.at(-1)).toMatchObject({ what: 'step', sheet: id, step: step.id, title: step.title })
    }
    expect(part.findAll('[data-step].done')).toHaveLength(sheet!.steps.length)
    expect(new Set(added.map((a) => (a as { run: string }).run)).size).toBe(1)
  })
  it('is only read by whoever is no technician', () => {
    open({ kind, entries, roles: ['reviewer'] })
    const part = show(SheetRun, { sheet: id })
    expect(part.findAll('form')).toHaveLength(0)
    expect(textOf(part)).toContain(`0 of ${sheet!.steps.length} steps`)
  })
})

it('alerts are ticked from a list that says what each means; a grave one wants a word', async () => {
  open({ kind: 'coriolis', entries: demoEntries('coriolis') })
  const part = show(SheetRun, { sheet: 'zero' })
  expect(part.find('[data-step].now').attributes('data-step')).toBe('alerts')
  await part.find('[data-mark="two-phase"]').setValue(true)
  expect(textOf(part)).toContain('Flow errs by several per cent while it lasts')
  expect(disabled(part, 'confirm-step')).toBe(false)
  await part.find('[data-mark="drive-high"]').setValue(true)
  expect(disabled(part, 'confirm-step')).toBe(true)
  expect(textOf(part)).toContain('needs a word on why the work goes on')
  await part.find('[data-step].now input[type="text"]').setValue('Being filled; zero comes after.')
  await part.find('[data-step].now form').trigger('submit')
  await settle()
  expect(added).toMatchObject([{ step: 'alerts', marked: ['two-phase', 'drive-high'] }])
  // The gravest first, with what to do, for as long as the run is open.
  const shown = part.findAll('[data-test="marked"] li').map((l) => l.text().replace(/\s+/g, ' '))
  expect(shown[0]).toMatch(/^stop ?Drive gain at its limit\. .*Take no zero before it has gone/)
  expect(shown[1]).toMatch(/^look ?Gas in the liquid/)
})
it('“none is active” and an alert put each other out', async () => {
  open({ kind: 'coriolis', entries: demoEntries('coriolis') })
  const part = show(SheetRun, { sheet: 'zero' })
  const checked = () => part.findAll<HTMLInputElement>('.marks input').filter((i) => i.element.checked).length
  await part.find('[data-mark="fixed"]').setValue(true)
  await part.find('[data-test="mark-none"]').setValue(true)
  expect(checked()).toBe(1)
  await part.find('[data-mark="warming"]').setValue(true)
  expect(part.find<HTMLInputElement>('[data-test="mark-none"]').element.checked).toBe(false)
  expect(checked()).toBe(1)
  await part.find('[data-mark="warming"]').setValue(false)
  expect(disabled(part, 'confirm-step')).toBe(true)
})

it('a step that is refused says why, and stays the one at hand', async () => {
  const [kind, id] = sheets[0]!
  open({
    kind,
    entries: demoEntries(kind),
    answers: { 'PUT /api/loops/*/work/*': () => refusal(409, 'step-out-of-order', 'Another step comes first.') },
  })
  const part = show(SheetRun, { sheet: id })
  const first = part.find('[data-step].now').attributes('data-step')
  for (const field of part.findAll('[data-step].now form input')) await field.setValue('20')
  await part.find('[data-step].now form').trigger('submit')
  await settle()
  expect(part.find('[data-step].now').attributes('data-step')).toBe(first)
  expect(useWork().problem).toBe('Another step comes first.')
})
