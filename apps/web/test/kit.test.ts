// One piece of the kit on its page: how it was found, who has it, what it was used for, and a calibration entered.
import { describe, expect, it } from 'vitest'
import { fill, gone, pagesFor, press, read, see, visit } from './visit.ts'
import { until } from './until.ts'

const open = async (name: string): Promise<void> => {
  await visit('/kit', 'Kit')
  await press(name)
  await see('h2', name)
}

describe('a piece of the kit, for a technician', () => {
  pagesFor('ailsa')

  it('is drawn calibration by calibration, and says how it drifts', async () => {
    await open('Loop meter L1')
    const drawing = await see('svg.chart[role=img]')
    expect(drawing.getAttribute('aria-label')).toContain('Error in mA along its scale, of 4 calibrations')
    expect(document.querySelectorAll('.line circle')).toHaveLength(12)
    await see('[data-test="drift"]', /At 20 mA it drifts by \+0\.000\d+ mA a year, by 4 calibrations/)
    await gone('[data-test="off"]')
    await see('[data-use="LT-208"]', 'check as found')
  })
  it('that was found off names what is to be repeated, and by how much each verdict moves', async () => {
    await open('Dip gauge D2')
    await see('[data-test="off"]', 'came back good')
    await see('[data-test="since"]', /Good on 28 Feb 2026, found off on 20 Nov 2026/)
    const row = await see('[data-use="LT-112"]', /passed.*failed/)
    expect(row.textContent).toMatch(/[+−]0\.\d\d %/)
    await press('Make a job: repeat LT-112 of 10 Mar 2026')
    await press('Make the job')
    await see('[data-use] [role=status]', 'stands in the round')
  })
  it('is taken and laid down where one stands', async () => {
    await open('Clamp K2')
    await see('[data-test="where"]', 'Nobody has said where it is')
    await fill('Taken to', 'van 1')
    await press('I have it now')
    await see('[data-test="where"]', /Ailsa Fenn has it since .*, van 1/)
    await fill('Laid down where', 'drawer 3')
    await press('Lay it down')
    await see('[data-test="where"]', /drawer 3, by Ailsa Fenn/)
  })
  it('gets a calibration: what lacks is said, what is off is said before it is saved', async () => {
    await open('Clamp K2')
    await read('None is on record yet')
    await press('Add a calibration')
    await read('Still to be entered: calibrated on, number of the certificate')
    await fill(/^Calibrated on/, '2026-11-20')
    await fill(/^Number of the certificate/, 'KV-9')
    await fill(/^By which laboratory/, 'Skarva')
    await fill(/^Due again/, '2027-11-20')
    const showed = await until(() => document.querySelectorAll<HTMLInputElement>('.point input')[3]!)
    showed.value = '50.4'
    showed.dispatchEvent(new Event('input'))
    await see('[data-test="found-off"]', 'It was found off at 50 mA')
    await press('Save this calibration')
    await see('[data-test="off"]')
    await read('as found: off')
  })
})

describe('a piece of the kit, for a reviewer', () => {
  pagesFor('magnus')
  it('is read, and nothing of it is changed', async () => {
    await open('Loop meter L1')
    await see('[data-test="drift"]')
    expect([...document.querySelectorAll('button')].map((b) => b.textContent)).not.toContain('Add a calibration')
  })
})

describe('what is used up, in the list of the kit', () => {
  pagesFor('ailsa')
  it('has its lot and date, and is not said to be an instrument without figures', async () => {
    await visit('/kit', 'Kit')
    await see('tr', /Buffers pH 4, 7 and 10\s*lot 61.*used up: it measures nothing/)
    await see('tr', /Glass thermometer G4.*no figures: its readings are judged simply/)
  })
})
