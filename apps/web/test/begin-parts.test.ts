// How work begins, by itself: signing in, choosing guided work and what it must be told, the site's limits.
import { USUAL_JUDGING, USUAL_TRIM_LIMITS, type Gear } from '@calm-loop/contract'
import { currentKindOf } from '@calm-loop/core/kinds'
import { proceduresFor, study } from '@calm-loop/core/loop'
import { PROCEDURE_NAMES } from '@calm-loop/core/procedure'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import SignIn from '../src/places/sign-in/SignIn.vue'
import { useSession } from '../src/stores/session.ts'
import { refusal, sessionOf } from '../src/stores/server.fixture.ts'
import { useTrim } from '../src/stores/trim.ts'
import BeginProcedure from '../src/trim/BeginProcedure.vue'
import SiteLimits from '../src/places/settings/SiteLimits.vue'
import AtHand from '../src/places/folder/AtHand.vue'
import { usualChoice, type Chosen } from '../src/places/folder/atHand.ts'
import { open, parts, press, router, settle, show, textOf } from './panel.ts'
import 'fake-indexeddb/auto'
import { until } from './until.ts'

parts()
type Part = ReturnType<typeof show>
const label = (part: Part, text: string | RegExp) => {
  const found = part.findAll('input').find((i) => {
    const names = [...((i.element as HTMLInputElement).labels ?? [])].map((l) => l.textContent.trim())
    return names.some((n) => (typeof text === 'string' ? n === text : text.test(n)))
  })
  if (!found) throw new Error(`no field ${String(text)}`)
  return found
}

describe('signing in', () => {
  const people = [
    { id: 'a', name: 'Ailsa Fenn', signIn: 'ailsa', roles: ['technician' as const] },
    { id: 'r', name: 'Rona Teague', signIn: 'rona', roles: ['reviewer' as const, 'administrator' as const] },
  ]
  function page(more: Parameters<typeof sessionOf>[1], answers: Parameters<typeof open>[0]['answers'] = {}) {
    const asked = open({ kind: 'pressure', entries: {}, answers })
    useSession().session = sessionOf(null, more)
    return { asked, part: show(SignIn) }
  }
  const posted = (asked: ReturnType<typeof open>) => asked.filter((a) => a.method === 'POST').map((a) => a.body)

  it('by name and password goes on to the round', async () => {
    const { asked, part } = page({}, { 'POST /api/session': () => sessionOf(['technician']) })
    await label(part, 'Sign-in name').setValue('ailsa')
    await label(part, 'Password').setValue('kelp and salt')
    await part.find('form').trigger('submit')
    await settle()
    expect(posted(asked)).toEqual([{ signIn: 'ailsa', password: 'kelp and salt' }])
    await until(() => expect(router.currentRoute.value.path).toBe('/round'))
  })
  it('refused says so, and keeps the name', async () => {
    const { part } = page(
      {},
      { 'POST /api/session': () => refusal(401, 'wrong-password', 'Name or password is wrong.') },
    )
    await label(part, 'Sign-in name').setValue('ailsa')
    await part.find('form').trigger('submit')
    await settle()
    expect(part.find('[role=alert]').text()).toBe('Name or password is wrong.')
    expect((label(part, 'Sign-in name').element as HTMLInputElement).value).toBe('ailsa')
  })
  it('as somebody of the demo plant is one press', async () => {
    const { asked, part } = page(
      { demo: { people, password: 'kelp and salt' } },
      { 'POST /api/session': () => sessionOf(['technician']) },
    )
    expect(textOf(part)).toContain('reviewer and administrator')
    await part.findAll('button.as')[1]!.trigger('click')
    await settle()
    expect(posted(asked)).toEqual([{ signIn: 'rona', password: 'kelp and salt' }])
  })
  it('with a one-time code sets a new password', async () => {
    const { asked, part } = page({}, { 'POST /api/password-reset': () => sessionOf(['technician']) })
    await press(part, 'I have a one-time code')
    await label(part, 'Sign-in name').setValue('ailsa')
    await label(part, 'One-time code').setValue('1234')
    await label(part, 'New password').setValue('twelve letters')
    await part.find('form').trigger('submit')
    await settle()
    expect(posted(asked)).toEqual([{ signIn: 'ailsa', code: '1234', password: 'twelve letters' }])
  })
  it('for the first time makes the first user, and says field by field what is wrong', async () => {
    const problem = { code: 'invalid', status: 400, fields: [{ path: 'password', rule: 'too short' }] }
    const { asked, part } = page(
      { empty: true },
      { 'POST /api/first-person': () => new Response(JSON.stringify(problem), { status: 400 }) },
    )
    for (const [name, text] of [
      ['Set-up code', 'abc'],
      ['Your name', 'Ailsa Fenn'],
      ['Sign-in name', 'ailsa'],
      ['Password', 'short'],
    ] as const)
      await label(part, name).setValue(text)
    await part.find('form').trigger('submit')
    await settle()
    expect(posted(asked)).toMatchObject([{ name: 'Ailsa Fenn', signIn: 'ailsa', password: 'short', code: 'abc' }])
    expect(part.find('[role=alert]').text()).toBe('password: too short')
  })
})

describe('guided work', () => {
  async function choosing(kind: string, procedure: string) {
    const asked = open({
      kind,
      entries: demoEntries(kind),
      answers: { 'PUT /api/loops/*/procedures/*/events/*': () => ({}) },
    })
    const part = show(BeginProcedure)
    await router.push(`/loops/x/trim?do=guided&procedure=${procedure}`)
    await settle()
    const begin = async () => {
      await part.find('form.terms').trigger('submit')
      await settle()
      return asked.filter((a) => a.path.includes('/events/')).map((a) => a.body)
    }
    return { part, begin }
  }
  it.each(['pressure', 'ph', 'coriolis', 'level-from-above'])('of %s offers what its point can take', (kind) => {
    open({ kind, entries: demoEntries(kind) })
    const part = show(BeginProcedure)
    const offered = proceduresFor(study(currentKindOf(kind), demoEntries(kind)))
    expect(part.findAll('[data-procedure]').map((b) => b.attributes('data-procedure'))).toEqual(offered)
    for (const p of offered) expect(textOf(part)).toContain(PROCEDURE_NAMES[p])
    expect(part.find('form.terms').exists()).toBe(false)
  })
  it('begins with what stands on record, where nothing else is entered', async () => {
    const { begin } = await choosing('pressure', 'zero-trim')
    const [event, more] = await begin()
    expect(more).toBe(undefined)
    expect(event).toMatchObject({ do: 'begin', procedure: 'zero-trim', choices: {}, byHand: true, on: { revision: 0 } })
  })
  it('is told its trim points, and says what they are unless entered', async () => {
    const { part, begin } = await choosing('pressure', 'sensor-trim')
    expect(textOf(part)).toContain('as on record, unless entered.')
    await label(part, /^Upper trim point/).setValue('500 mbar')
    expect(await begin()).toMatchObject([{ do: 'begin', procedure: 'sensor-trim', choices: { upper: '500 mbar' } }])
  })
  it('at the receiver means what the transmitter means', async () => {
    const { part } = await choosing('pressure', 'receiver-scale')
    expect(textOf(part)).toContain('as the transmitter means it, unless entered.')
  })
  it('in buffers begins with two, in order, and takes one’s own that is none twice', async () => {
    const { part, begin } = await choosing('ph', 'ph-calibration')
    await press(part, 'pH 10.00').catch(() => press(part, 'pH 10.01'))
    const own = label(part, /own|Own/)
    for (const text of ['no buffer', '6,86', '6,86']) {
      await own.setValue(text)
      await own.trigger('keydown', { key: 'Enter' })
    }
    const [event] = (await begin()) as { choices: { buffers: string[] } }[]
    const { buffers } = event!.choices
    expect(buffers).toEqual([...buffers].sort((a, b) => Number(a) - Number(b)))
    expect(buffers.slice(0, 1)).toEqual(['4.00'])
    expect(buffers.length).toBeGreaterThan(2)
    expect(new Set(buffers).size).toBe(buffers.length)
  })
  it('of a loop that is not finished says what is missing', () => {
    const { urv: _, ...rest } = demoEntries('pressure')
    open({ kind: 'pressure', entries: rest })
    expect(textOf(show(BeginProcedure))).toContain('finish Point and Range first')
  })
})

describe('the site’s limits', () => {
  it('are changed by whoever has the duty, whole or not at all', async () => {
    const asked = open({
      kind: 'pressure',
      entries: demoEntries('pressure'),
      roles: ['reviewer'],
      answers: { 'PUT /api/settings/trim-limits': ({ body }) => body },
    })
    const part = show(SiteLimits)
    const set = part.find('form.fields button')
    const window = label(part, /^Stable: window/)
    await window.setValue('soon')
    expect((set.element as HTMLButtonElement).disabled).toBe(true)
    await window.setValue('8 s')
    expect((set.element as HTMLButtonElement).disabled).toBe(false)
    await part.find('form.fields').trigger('submit')
    await settle()
    const [sent] = asked.filter((a) => a.method === 'PUT').map((a) => a.body)
    expect(sent).toEqual({ ...USUAL_TRIM_LIMITS, window_s: 8 })
    expect(useTrim().limits.window_s).toBe(8)
    expect(textOf(part)).toContain('over 8 s')
  })
  it('are read by the others, who are told who may change them', () => {
    open({ kind: 'pressure', entries: demoEntries('pressure'), roles: ['technician'] })
    const part = show(SiteLimits)
    expect(part.find('form.fields').exists()).toBe(false)
    expect(textOf(part)).toContain('may change them.')
  })
})

describe('what is at hand for a check', () => {
  const piece = (name: string, quantity: string, unit: string): Gear => ({
    ...{ id: `018f4d21-9e80-7000-8000-0000000000${name.length}0`, name, serial: 'S-1', measures: quantity, range: '' },
    ...{ uncertainty: '', due: '2099-01-31' },
    ranges: [{ quantity: quantity as 'pressure', unit, low: 0, high: 2000, fixed: 0.1 }],
  })
  const kit = [piece('Communicator', 'pressure', 'mbar'), piece('Meter', 'current', 'mA')]
  const known = study(currentKindOf('pressure'), demoEntries('pressure'))
  function page(chosen: Chosen) {
    open({ kind: 'pressure', entries: demoEntries('pressure') })
    return show(AtHand, { known, kit, judging: USUAL_JUDGING, percents: [0, 100], modelValue: chosen })
  }
  const usual = usualChoice(known, kit, '2026-11-28')
  const read = { read: true, gear: '', stand: 'in-series' as const, percent: false }

  it('each place is read with a piece of the kit that can, or as it is shown there', async () => {
    const part = page({ ...usual, places: { ...usual.places, digital: read } })
    const place = part.find('[data-place="digital"]')
    expect(place.find('[aria-pressed=true]').text()).toBe('nothing: as it is shown there')
    await place
      .findAll('button.pick')
      .find((b) => b.text().startsWith('Communicator'))!
      .trigger('click')
    const [chosen] = part.emitted('update:modelValue')!.at(-1) as [Chosen]
    expect(chosen.places['digital']!.gear).toBe(kit[0]!.id)
  })
  it('nothing is asked where no piece could read the place', () => {
    const part = page({ ...usual, places: { counts: read } })
    expect(part.find('[data-place="counts"]').text()).not.toContain('Read with')
  })
})
