// The day on its pages: jobs made and ended, the order put, things packed, loops taken along; the site's walking order.
import 'fake-indexeddb/auto'
import { describe, expect, it } from 'vitest'
import { until } from './until.ts'
import {
  asked,
  barred,
  field,
  fill,
  gone,
  key,
  network,
  onRecord,
  openLoop,
  pagesFor,
  press,
  pressAt,
  read,
  see,
  visit,
} from './visit.ts'

const tags = () => [...document.querySelectorAll('[data-test="stop"] .tag')].map((t) => t.textContent.trim())
const round = () => visit('/round', 'Round')
const line = (what: string): HTMLElement =>
  [...document.querySelectorAll<HTMLElement>('[data-test="bring"]')].find((l) => l.textContent.includes(what))!
const box = (what: string) => line(what).querySelector<HTMLInputElement>('input')!
const letter = (key: string) => document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }))

describe('the round of a technician', () => {
  pagesFor('ailsa')

  it('has its day drawn, what is overdue marked, and who must be told by when', async () => {
    await round()
    await see('[data-test="round-summary"]', /\d+ loops · .* overdue/)
    await see('[data-test="day-thread"] svg[role=img]')
    await read('gas keeper, with the gas-area permit')
    await read('5 × sheet of the loop')
    expect(document.querySelectorAll('[data-test="day-thread"] .stop')).toHaveLength(tags().length)
  })
  it('is put in order by the keys of a grip, and walked again by one key', async () => {
    await round()
    await until(() => expect(tags().length).toBeGreaterThan(3))
    const before = tags()
    await key('[data-test="stop"] .grip', 'ArrowDown')
    await until(() => expect(tags()).toEqual([before[1], before[0], ...before.slice(2)]))
    await key('[data-test="stop"] .grip', 'ArrowUp')
    expect(tags()[0]).toBe(before[1])
    await read('Walking order again')
    letter('r')
    await until(() => expect(tags()).toEqual(before))
  })
  it('takes jobs: what lacks is said, a refusal stays on the page, and one is ended with a word', async () => {
    await round()
    letter('j')
    await see('h2', 'A job')
    await barred('Make the job')
    await fill(/^What is to be done/, 'Tighten the bracket')
    await fill(/^Who asks/, 'Shift lead')
    await barred('Make the job')
    await press('Leave it')
    await press('End the job: Set the bracket of the ram sensor again')
    await press('Not wanted any more')
    await fill('In a word', 'It holds again')
    await press('Withdraw it')
    await until(() => expect(document.body.textContent).not.toContain('Set the bracket of the ram sensor'))
    const [end] = asked.filter((a) => a.path.endsWith('/end'))
    expect(end).toMatchObject({ method: 'PUT' })
  })
  it('takes a job from a failed check where that is seen', async () => {
    await openLoop('FT-330', '/hand-over')
    await onRecord()
    await pressAt('ask-job')
    await see('h2', 'A job at FT-330')
    await until(() => expect(field(/^Why/).value).toMatch(/out of tolerance|Failed|fail/i))
    await press('Make the job')
    await read('A job is made: it stands in the round.')
    await round()
    await until(() => expect(tags()).toContain('FT-330'))
    await read('Bring it back into tolerance, and check it as left')
  })
  it('is packed: things are ticked, a piece is taken from who has it', async () => {
    await round()
    await until(() => expect(line('Pressure calibrator C1').textContent).toContain('Rona Teague has it since'))
    expect(box('Pressure calibrator C1').disabled).toBe(true)
    line('Pressure calibrator C1').querySelector<HTMLElement>('button')!.click()
    await until(() => expect(box('Pressure calibrator C1').checked).toBe(true))
    box('test leads').click()
    await until(() => expect(line('test leads').className).toContain('packed'))
    box('test leads').click()
    await until(() => expect(line('test leads').className).not.toContain('packed'))
  })
  it('sets out when and until when one likes', async () => {
    await round()
    await fill('Set out at', '06:00')
    await until(() => expect(document.querySelector('[data-test="stop"] .when')!.textContent).toBe('06:00'))
    const before = tags().length
    await fill('Checks due until', '2027-12-31')
    await until(() => expect(tags().length).toBeGreaterThan(before))
  })
  it('says what could not be taken along where the server is not reached', async () => {
    await round()
    await until(() => expect(tags().length).toBeGreaterThan(3))
    network(false)
    letter('t')
    await read(/of \d+ could not be taken along/)
    network(true)
    await press('Take it along')
    await read(/all \d+ open without the server/)
  })
})

describe('the settings of the site', () => {
  pagesFor('rona')

  it('have the walking order: put by keys, with whom to tell, for everyone', async () => {
    await visit('/settings', 'Settings of the site')
    await see('[data-area="Intake"]')
    const areas = () => [...document.querySelectorAll<HTMLElement>('[data-area]')].map((a) => a.dataset['area'])
    const before = areas()
    await key('[data-area] .grip', 'ArrowDown')
    await until(() => expect(areas()[1]).toBe(before[0]))
    await key('[data-area] .grip', 'ArrowUp')
    const told = document.querySelector<HTMLInputElement>('[data-area="Intake"] input')!
    told.value = 'harbour office'
    told.dispatchEvent(new Event('input'))
    await pressAt('save-walking')
    await until(() => expect(asked.some((a) => a.method === 'PUT' && a.path.endsWith('/walking'))).toBe(true))
    await visit('/settings', 'Settings of the site')
    await until(() => expect(areas()[1]).toBe(before[0]))
    expect(document.querySelector<HTMLInputElement>('[data-area="Intake"] input')!.value).toBe('harbour office')
    await gone('[role=alert]')
  })
})
