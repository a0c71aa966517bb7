// What is typed at a loop: refused in words and kept, judged, saved, and shown along the thread.
import { describe, expect, it } from 'vitest'
import { until } from './until.ts'
import {
  asked,
  barred,
  enter,
  entry,
  fill,
  gone,
  knot,
  network,
  newLoop,
  openLoop,
  pagesFor,
  press,
  read,
  reload,
  saved,
  see,
  stage,
  type,
  work,
} from './visit.ts'

pagesFor('ailsa')
const code = (name: string) => `[data-code="${name}"]`
const value = (at: () => HTMLInputElement) => at().value

it('bad entries are refused in words and kept', async () => {
  await newLoop('LT-621', 'level-from-above')
  await stage('point')
  const wrong: [string, string, RegExp][] = [
    ['tankDepth', '3 kg/h', /measures mass flow; here length is wanted/],
    ['emptyDistance', '123456789012345678901234567890', /More than 15 digits/],
    ['fullDistance', 'about two', /not a number/],
    ['blanking', '3 zork', /not a unit known here/],
  ]
  for (const [key, text, words] of wrong) {
    await type(`[data-entry="${key}"] input`, text)
    await see(`[data-entry="${key}"] .says`, words)
  }
  await saved()
  await until(() =>
    expect(asked.filter((a) => a.path.includes('/versions/')).at(-1)).toMatchObject({
      method: 'PUT',
      status: 200,
      body: { entries: { tankDepth: { typed: '3 kg/h' }, fullDistance: { typed: 'about two' } } },
    }),
  )
  await reload('LT-621')
  for (const [key, text] of wrong) await until(() => expect(entry(key).value, key).toBe(text))
  await enter({ tankDepth: '3200 mm', emptyDistance: '500 mm', fullDistance: '3600 mm', blanking: '300 mm' })
  await see(code('full-beyond-empty'))
  await enter({ emptyDistance: '3600 mm', fullDistance: '200 mm' })
  await see(code('full-inside-blanking'))
  await stage('range')
  await enter({ lrv: '1000 mm', urv: '1 m' })
  await see(code('range-zero-span'))
  await enter({ urv: '3350 mm' })
  await see(code('range-outside-tank'))
  await see(code('current-inside-blanking'))
  await stage('check')
  await barred('Confirm loop in manual and begin')
})

it('what is half entered is half computed, and what is missing is named', async () => {
  await newLoop('LT-622', 'level-from-above')
  await stage('wire')
  await enter({ conductor: '1.5 mm²', cableLength: '200 m' })
  await see('[data-figure="cable-ohm"]', '5.0 Ω')
  await see('[data-figure="total-ohm"]', 'needs loop supply, lift-off voltage, receiver shunt')
  await see('[data-knot="volts"]', 'needs')
  await saved()
})

it('what is typed out of coverage is kept, said to wait, and sent when there is coverage again', async () => {
  await newLoop('LT-623', 'level-from-above')
  await stage('point')
  network(false)
  await enter({ tankDepth: '2 m' })
  await see('[data-test="coverage"]', /wait|kept/)
  network(true)
  await enter({ tankDepth: '2.1 m' })
  await saved()
  expect(value(() => entry('tankDepth'))).toBe('2.1 m')
})

describe('the thread of LT-112', () => {
  it('follows typing at any knot', async () => {
    await openLoop('LT-112', '/point')
    // By hand for 1836 mm: 3600 − 1836; 1836/3000 = 61.2 %; 4 + 16 · 0.612; · 250 Ω; 13107 + 0.612 · 52428.
    const expected = {
      level: 1836,
      distance: 1764,
      digital: 1836,
      current: 13.792,
      volts: 3.448,
      counts: 45193,
      controller: 1836,
    }
    const typed = {
      level: '183,6 cm',
      distance: '1764',
      digital: '1836 mm',
      current: '13.792',
      volts: '3448 mV',
      counts: '45193',
      controller: '1.836 m',
    }
    for (const [id, text] of Object.entries(typed)) {
      await type(knot(id), text)
      for (const [other, wanted] of Object.entries(expected))
        if (other !== id) {
          const tolerance = { current: 0.0011, volts: 0.0011, counts: 4 }[other] ?? 1.1
          await until(() =>
            expect(
              Math.abs(Number(knot(other).value.replace('−', '-')) - wanted),
              `${id} to ${other}`,
            ).toBeLessThanOrEqual(tolerance),
          )
        }
      knot(id).dispatchEvent(new Event('blur'))
    }
    await type(knot('current'), '3 kg/h')
    await see('[data-knot="current"]', 'measures mass flow')
    expect(knot('current').value).toBe('3 kg/h')
    await press('back to the last reading')
    await see('[data-knot="current"]', '12.018')
  })
  it('shows the working of a figure, step by step', async () => {
    await openLoop('LT-112', '/wire')
    await press(/working|./, '[data-figure="volts-20"]')
    await see('[data-test="working-numbers"]', '20 mA')
  })
})

it(
  'the range: both ends against each other, converted, tabled, re-ranged; a changed input type asks for what it ' +
    'forgot',
  async () => {
    await openLoop('LY-133', '/range')
    await see('[data-test="disagrees"]', 'shows 1.25 m where the transmitter means 1.1 m')
    await see('[data-scale="channel"]')
    await enter({ inputType: '0–20 mA' })
    await see('[data-reset="inputType"]', 'changed from 4–20 mA to 0–20 mA')
    const again = () => document.querySelectorAll('[data-reset="inputType"] li')
    expect(again().length).toBe(4)
    // Gone from the record too: each is typed again, at the ends of the new input.
    expect(document.querySelectorAll('[data-reset="inputType"] button').length).toBe(0)
    await see('.lost', 'the device lost: channel value at the low end of its input')
    await enter({ countsLow: '13107', countsHigh: '65535' })
    await until(() => expect(again().length).toBe(2))
    await enter({ channelLow: '-0.55 m', channelHigh: '2.2 m', receiverLow: '-0.55 m', receiverHigh: '2.2 m' })
    await gone('[data-test="disagrees"]')
    await gone('.lost')
    await until(() => expect(again().length).toBe(0))
    await saved()

    await work('Convert')
    await type('[data-convert="current"] input', '8 mA')
    await see('[data-convert="process"] .value', '0.55 m')
    await see('[data-convert="percent"] .value', '25 %')
    await type('[data-convert="counts"] input', '39321')
    await see('[data-convert="current"] .value', '12 mA')
    await type('[data-convert="percent"] input', '75 %')
    await see('[data-convert="volts"] .value', '1.6 V')
    await work('Table')
    const row = (await see('[data-test="range-table"]')).querySelectorAll('tbody tr')[5]!
    expect([...row.children].map((c) => c.textContent.trim())).toEqual([
      '50',
      '1.100',
      '1.100',
      '12.000',
      '1.200',
      '39321',
      '1.100',
      '1.100',
    ])
  },
)
it('a range with its zero elevated or suppressed says by how much', async () => {
  await openLoop('LT-208', '/range?do=re-range')
  await see('[data-test="re-range"]', '−2798.9 mmH₂O at 4 mA, −120.9 mmH₂O at 20 mA')
  await read('Zero elevated by 2798.9 mmH₂O')
  await openLoop('PDT-118', '/range?do=re-range')
  await fill('Liquid standing on the cell', '1000 mm')
  await read('Zero suppressed by 98.07 mbar')
})
