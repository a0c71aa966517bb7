// A list of instruments brought in: opened, matched by hand, tried, and all of it or nothing.
import { describe, expect, it, vi } from 'vitest'
import { until } from './until.ts'
import {
  address,
  ask,
  asked,
  barred,
  choose,
  click,
  fill,
  pagesFor,
  press,
  pressAt,
  read,
  see,
  visit,
} from './visit.ts'

const LIST = [
  'Tag;Description;Area;Type;LRV;URV;Unit;Serial',
  'PX-1;Header pressure;Drying;Pressure;0;16;bar;S1',
  'PX-2;Filter difference;Drying;DP;0;500;mbar;S2',
  'GX-3;Gas alarm;Drying;Gas detector;;;;',
  'PX-1;Again;Drying;Pressure;0;16;bar;S1',
  'LT-112;Taken;Drying;Level;;;;',
].join('\n')
async function pick(text: string, name = 'plant.csv'): Promise<void> {
  const input = await see('input[type="file"]')
  Object.defineProperty(input, 'files', { value: [new File([text], name)], configurable: true })
  input.dispatchEvent(new Event('change'))
}

describe('a list of instruments, for a technician', () => {
  pagesFor('ailsa')
  it('is matched, tried line by line, and brought in without what is refused when that is wanted', async () => {
    await visit('/bring-in', 'Bring the plant in')
    await pick(LIST)
    await see('[data-column="LRV"]', '0')
    await see('[data-column="Unit"]', 'mbar')
    await choose('[data-column="Serial"] .entry', 'left out')
    await pressAt('try-list')
    await see('[data-test="tried"]', /2 loops can be brought in; 3 lines are\s+refused/)
    await see('[data-test="refused"]', 'Kind: it is not settled what “Gas detector” is.')
    await see('[data-test="refused"]', 'PX-1 stands in line 2 already.')
    await see('[data-test="refused"]', 'There is a loop with this tag already.')
    await barred(/^Bring 2 loops in/)
    await click(await see('input[type="checkbox"]'))
    await pressAt('bring-in')
    await until(() => expect(address()).toBe('/many'))
    await read('Instrument list: plant.csv')
    await until(async () => {
      const { loops } = await ask<{ loops: { tag: string }[] }>('/api/loops?q=PX-')
      expect(loops.map((l) => l.tag)).toEqual(['PX-1', 'PX-2'])
    })
  })
  it('is brought in without what is refused only where that was wanted of this list', async () => {
    await visit('/bring-in', 'Bring the plant in')
    await pick(LIST.replaceAll('PX-', 'PV-'))
    await pressAt('try-list')
    await click(await see('input[type="checkbox"]'))
    await see('[data-test="bring-in"]:not(:disabled)')
    await pick(LIST.replaceAll('PX-', 'PW-'))
    await see('[data-test="try-list"]:not(:disabled)')
    await pressAt('try-list')
    await see('[data-test="tried"]')
    await see('[data-test="bring-in"]:disabled')
  })
  it('is not brought in when it is ended while it is sent', async () => {
    await visit('/bring-in', 'Bring the plant in')
    await pick('Tag;Service;Area;Type\nPU-1;x;y;Pressure')
    await pressAt('try-list')
    await see('[data-test="bring-in"]:not(:disabled)')
    let release = () => undefined as void
    const sent = globalThis.fetch
    const held = new Promise<void>((resolve) => (release = resolve))
    vi.stubGlobal('fetch', async (...of: Parameters<typeof fetch>) => {
      if ((of[0] as string).includes('/parts/')) await held
      return sent(...of)
    })
    await pressAt('bring-in')
    await press('End it')
    release()
    await until(() => expect(asked.some((a) => a.path.includes('/parts/') && a.status < 300)).toBe(true))
    await new Promise((resolve) => setTimeout(resolve, 500))
    expect(asked.filter((a) => /\/errands\/[^/]+$/.test(a.path))).toEqual([])
    expect(address()).toBe('/bring-in')
  })
  it('is matched the next time as it was', async () => {
    await visit('/bring-in', 'Bring the plant in')
    await pick(LIST.replaceAll('PX-', 'PY-'))
    await pressAt('try-list')
    await see('[data-test="tried"]')
    // It is known at the site, not on this device alone.
    localStorage.clear()
    await pick(LIST.replaceAll('PX-', 'PZ-'))
    await read('Matched as the last list with these heads was.')
    await choose('.kinds .entry:nth-child(3)', 'Discrete sensor')
    await pressAt('try-list')
    await see('[data-test="tried"]', /3 loops can be brought in; 2 lines are\s+refused/)
    // Where the heads stand is of each list: here a line lower.
    await pick(`Issue 8\n${LIST.replaceAll('PX-', 'PR-')}`)
    await read('Matched as the last list with these heads was.')
    await see('[data-column="LRV"]', 'Lower range value')
    await pressAt('try-list')
    await see('[data-test="tried"]', /3 loops can be brought in; 2 lines are\s+refused/)
    // It is known again once somebody has said where they stand, too.
    await fill('Heads stand in line', '3')
    await until(() => expect(document.body.textContent).not.toContain('Matched as the last list'))
    await fill('Heads stand in line', '2')
    await read('Matched as the last list with these heads was.')
  })
  it('is not taken where it is none, and not tried without its columns', async () => {
    await visit('/bring-in', 'Bring the plant in')
    await pick('')
    await see('[role=alert]', 'Nothing stands in this file.')
    await pick('Name;Where\nx;y')
    await read('No column is the tag.')
    await until(() => expect(document.querySelector<HTMLButtonElement>('[data-test="try-list"]')!.disabled).toBe(true))
    await choose('[data-column="Name"] .entry', 'Tag')
    await read('No column is the service.')
  })
})

describe('a list of instruments, for a reviewer', () => {
  pagesFor('magnus')
  it('is not theirs to bring in', async () => {
    await visit('/bring-in', 'Bring the plant in')
    await read('A technician brings loops in.')
  })
})
