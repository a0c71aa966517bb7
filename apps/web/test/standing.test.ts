// What follows from the record, on the pages: fit for use or not, due again when, visits; and the site's rules.
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { until } from './until.ts'
import {
  asked,
  barred,
  choose,
  click,
  field,
  fill,
  gone,
  newLoop,
  openLoop,
  pagesFor,
  press,
  pressAt,
  read,
  see,
  stage,
  type,
  visit,
} from './visit.ts'

/** Of a pressure point that is whole: 0 to 600 mbar. */
const PRESSURE = Object.fromEntries(Object.entries(demoEntries('pressure')).map(([key, { typed }]) => [key, typed]))
const decide = async (within: string, reason: string, password: string, verb: string) => {
  await fill(/^Why/, reason)
  await fill(/^Your password/, password)
  await press(new RegExp(`^${verb}`), within)
}

describe('for a technician', () => {
  pagesFor('ailsa')

  it('a visit is listed in its order, each part unfolds to its figures, and its report is at hand', async () => {
    await openLoop('LT-208', '/hand-over')
    const shown = await see('[data-test="visit"]', 'Visit of 17 Nov 2026')
    expect([...shown.querySelectorAll('[data-part]')].map((p) => p.getAttribute('data-part'))).toEqual([
      'check',
      'word',
      'points',
      'points',
      'entries',
      'check',
    ])
    await click('[data-part="entries"] button')
    await see('[data-part="entries"] dl', '2 s → 5 s')
    await see('[data-test="visit-open"]', 'Still open: nothing. Told: shift operator.')
    expect(shown.querySelector('[data-test="visit-report"]')!.getAttribute('href')).toMatch(
      /visit\.pdf\?at=2026-11-17T/,
    )
    await choose(shown, '18 Nov 2025')
    await see('[data-test="visit"]', 'Visit of 18 Nov 2025')
  })
  it('a loop left out of tolerance says so on every page, and whoever has not the duty is not asked', async () => {
    for (const at of ['/hand-over', '/range']) {
      await openLoop('LY-133', at)
      await see('[data-test="not-fit"]', 'Not fit for use. Left out of tolerance on 10 Nov 2026.')
    }
    expect(document.querySelector('[data-test="allow"]')).toBeNull()
  })
  it('what was found out of tolerance asks what was measured since, and keeps the answer', async () => {
    await openLoop('FT-402', '/hand-over')
    await see('[data-test="measured-since"]', 'since it was last in tolerance, 28 Oct 2025')
    await barred('Keep the answer')
    await fill(/^What was measured with it since/, 'Steam is only trended; the dryer was told.')
    await press('Keep the answer')
    await see('[data-test="measured-since"]', 'Steam is only trended; the dryer was told. Ailsa Fenn')
    await gone('[data-test="measured-since"] form')
  })
  it('drift over two years is drawn, with the interval that follows and why', async () => {
    await openLoop('AT-221', '/hand-over')
    await see('[data-test="due-next"]', /Suggested: \d+ days, shorter than now \(12 months\)\. It drifts \+\d/)
    await read('A reviewer may accept another interval.')
  })
})

describe('without a link', () => {
  pagesFor('ailsa')

  it('the diagnosis counts with the range that the device shows: one to change, no current to trim', async () => {
    await newLoop('PDT-731', 'pressure', PRESSURE)
    await stage('trim')
    for (const [applied, digital, current] of [
      ['0 mbar', '0 mbar', '4 mA'],
      ['300 mbar', '300 mbar', '10.857 mA'],
      ['600 mbar', '600 mbar', '17.714 mA'],
    ] as const) {
      for (const [witness, typed] of Object.entries({ applied, digital, current }))
        await type(`[data-witness="${witness}"] input`, typed)
      await pressAt('take-point')
      await see('tbody', applied)
    }
    await see('[data-action="current-trim"]')
    await fill(/^Device shows, for 4 mA/, '0 mbar')
    await fill(/^Device shows, for 20 mA/, '700 mbar')
    await pressAt('keep-range')
    await see('[data-test="device-range"]', '0 mbar to 700 mbar for 4 to 20 mA, read by Ailsa Fenn')
    await see('[data-action="range-change"]')
    expect(document.querySelector('[data-action="current-trim"]')).toBeNull()
  })
  it('read-back is what is typed, and nothing is taken over from the entries', async () => {
    await openLoop('FT-101', '/point?do=setup')
    await see('[data-test="unread"]', 'lines are not read back yet')
    await barred('Put the read-back on record')
    await type('[data-line="wall"] input', '7.0')
    await see('[data-line="wall"]', 'differs')
    await type('[data-line="wall"] input', '7.4')
    await see('[data-line="wall"]', 'same')
    await pressAt('keep-read-back')
    await read('Last on record')
    // What nobody read is not on record as held empty.
    const { lines } = asked.find((a) => (a.body as { what?: string })?.what === 'read-back')!.body as {
      lines: { key: string; text: string }[]
    }
    expect(lines.filter((l) => l.text).map((l) => l.key)).toEqual(['wall'])
    await stage('hand-over')
    await see('[data-part="read-back"]', '1 line, all as entered')
  })
})

describe('for a reviewer', () => {
  pagesFor('magnus')

  it('another interval is accepted with a reason and a password, within the site’s longest', async () => {
    await openLoop('FT-310', '/hand-over')
    await pressAt('accept-interval')
    await until(() => expect(field(/^Days between two checks/).value).toBe('730'))
    await fill(/^Days between two checks/, '3000')
    await read('Whole days, at most 1825: the site’s longest.')
    await barred(/^Accept …|^Accept 3000/, '[data-test="due-next"]')
    await fill(/^Days between two checks/, '700')
    await decide('[data-test="due-next"]', 'Steady for two years.', 'not it', 'Accept 700 days')
    await see('[data-test="due-next"] [role=alert]', /password/)
    // What was typed stays.
    expect(field(/^Why/).value).toBe('Steady for two years.')
    await decide('[data-test="due-next"]', 'Steady for two years.', 'kelp and salt', 'Accept 700 days')
    await see('[data-test="accepted-interval"]', '700 days accepted by Magnus Orrin')
    await see('[data-test="due-next"] h3', '16 May 2028')
  })
  it('its use is allowed though it was left out of tolerance, and everyone sees by whom and why', async () => {
    await openLoop('LY-133')
    await pressAt('allow')
    await decide(
      '[data-test="not-fit"]',
      'Shown only; the pumps have their own switches.',
      'kelp and salt',
      'Allow its use',
    )
    await see('[data-test="allowed"]', 'allowed by Magnus Orrin')
    await gone('[data-test="not-fit"]')
  })
})

describe('for an administrator', () => {
  pagesFor('rona')

  it('the rule of acceptance, the ratio wanted and the head of the papers are set for the site', async () => {
    await visit('/settings', 'Settings of the site')
    await see('section[aria-label="How this site judges"]', 'Simple acceptance')
    await fill(/^Least ratio/, '3,5')
    await fill(/^Shortest interval/, '2000')
    await read('The longest interval is not the shorter one.')
    await fill(/^Shortest interval/, 'soon')
    await read('Shortest interval, days: not possible as typed.')
    await fill(/^Shortest interval/, '20')
    await press('guarded acceptance')
    await pressAt('save-rules')
    await see('section[aria-label="How this site judges"] p', 'Guarded acceptance')
    await press('simple acceptance')
    await fill(/^Least ratio/, '4')
    await pressAt('save-rules')
    await see('section[aria-label="How this site judges"] p', 'Simple acceptance')
    await fill('Site', 'Holmsay Kelp Works')
    await pressAt('save-head')
    await visit('/settings', 'Settings of the site')
    await until(() => expect(field('Site').value).toBe('Holmsay Kelp Works'))
  })
})
