// The other places, as a technician and as an administrator find them.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { until } from './until.ts'
import { address, barred, field, fill, network, openLoop, pagesFor, press, read, see, visit, words } from './visit.ts'

const demo = (tag: string) => readFileSync(join(import.meta.dirname, `../../../demo/folders/${tag}.json`))

describe('for a technician', () => {
  pagesFor('ailsa')

  it('the register finds loops by tag, area and state, and says when there is none', async () => {
    await visit('/loops', 'Loops')
    await see('.register .tag', 'LT-112')
    await fill('Find by tag, service or area', 'FT-2')
    await until(() => expect(document.querySelectorAll('.register .tag').length).toBe(2))
    expect(words()).toContain('FT-210')
    await fill('Find by tag, service or area', 'no such loop')
    await until(() => expect(document.querySelectorAll('.register .tag').length).toBe(0))
    await read(/No loop/)
    await fill('Find by tag, service or area', '')
    await see('.register .tag', 'LT-112')
  })
  it('the register says when the server cannot be reached, and keeps what is asked for', async () => {
    await visit('/loops', 'Loops')
    await see('.register .tag', 'LT-112')
    network(false)
    await fill('Find by tag, service or area', 'FT-2')
    await see('[role=alert]', 'The server cannot be reached')
    expect(field('Find by tag, service or area').value).toBe('FT-2')
    network(true)
    await fill('Find by tag, service or area', 'FT-21')
    await until(() => expect(document.querySelectorAll('.register .tag').length).toBe(2))
    expect(document.querySelector('[role=alert]')).toBeNull()
  })
  it('a new loop is asked for four things, and its tag is judged as it is typed', async () => {
    await visit('/loops/new', 'New loop')
    const button = () =>
      [...document.querySelectorAll('button')].find((b) => b.textContent?.includes('Create this loop'))!
    expect(button().disabled).toBe(true)
    await fill(/^Tag/, 'no tag')
    await fill(/^Service/, 'Rinse water')
    await fill(/^Area/, 'Wash house')
    expect(button().disabled).toBe(true)
    await fill(/^Tag/, 'lt-800')
    await press('Create this loop')
    await until(() => expect(address()).toMatch(/^\/loops\/[0-9a-f-]{36}/))
    await see('h1', 'LT-800')
    await visit('/loops/new', 'New loop')
    await fill(/^Tag/, 'LT-800')
    await fill(/^Service/, 'again')
    await fill(/^Area/, 'Wash house')
    await press('Create this loop')
    await see('[role=alert]', /LT-800/)
    expect(field(/^Service/).value).toBe('again')
  })
  it('a file that cannot be taken is refused with its reason, and one that can is added', async () => {
    await visit('/loops', 'Loops')
    await press('Import')
    const input = (await see('input[type=file]')) as HTMLInputElement
    const send = (name: string, bytes: Buffer | string) => {
      Object.defineProperty(input, 'files', { configurable: true, value: [new File([bytes as BlobPart], name)] })
      input.dispatchEvent(new Event('change', { bubbles: true }))
    }
    const cases: [string, Buffer | string, RegExp][] = [
      ['cut.json', demo('LT-133').subarray(0, 900), /not JSON, or the file ends too early/],
      [
        'newer.json',
        String(demo('LT-133')).replace('"version": 2\n', '"version": 7\n'),
        /of version 7; this installation reads up to 2/,
      ],
      ['latin.csv', Buffer.from('tag,service,area,kind\r\nLT-651,Öl,Hof,rtd-head\r\n', 'latin1'), /not UTF-8/],
      ['bad.csv', 'tag,service,area,kind\r\nLT-651,Oil,Yard,rtd-head\r\nnonsense,Oil,Yard,rtd-head\r\n', /line 3: tag/],
      ['big.csv', Buffer.alloc(50 * 1024 * 1024, 'x'), /50 MB; at most 24 MB/],
    ]
    for (const [name, bytes, reason] of cases) {
      send(name, bytes)
      await see('[role=alert]', reason)
    }
    send('good.csv', 'tag,service,area,kind\r\nTT-651,Oil,Yard,rtd-head\r\n')
    await read('Added: TT-651.')
    await press('Close')
    await see('.register .tag', 'TT-651')
  })
  it('the round: what is due, whom to tell, what to bring; and the settings of the site', async () => {
    await visit('/round', 'Round')
    await see('[data-test="stop"]', 'overdue since')
    await read('control room: wash line in manual')
    await read('Dip gauge D2')
    await visit('/settings', 'Settings of the site')
    await see('[data-area="Wash house"]', 'Wash house')
    await read('How often each fault is met here')
  })
  it('the kit, the guide and a page that is not there', async () => {
    await visit('/kit', 'Kit')
    await read('Dip gauge D2')
    await visit('/guide', 'Guide')
    await read('The first day: one loop, end to end')
    await visit('/interface', /interface/)
    await read('/api/loops')
    await visit('/nowhere', /.+/)
    await see('h1', 'Nothing is here')
  })
  it('the points that are watched, each with its state and count', async () => {
    await visit('/watch', 'Watch')
    await see('[data-point="ZS-502"] b')
    await read('Live, twenty times a second.')
    // A state comes with the stream: the point no longer waits for one.
    await until(() => expect(document.querySelector('[data-point="ZS-502"] .means')!.textContent).not.toBe('waiting'))
  })
  it('the keys and the finder', async () => {
    await openLoop('LT-112')
    window.dispatchEvent(new KeyboardEvent('keydown', { key: '?', bubbles: true }))
    await see('h2', 'Keys of this page')
    await see('h3', 'In a loop’s folder')
  })
})

describe('for a reviewer', () => {
  pagesFor('magnus')

  it('people and their roles, and nothing to change', async () => {
    await visit('/people', 'People')
    await see('tbody tr', /Ailsa Fenn.*technician/)
    expect([...document.querySelectorAll('button')].map((b) => b.textContent)).not.toContain('Add a person')
  })
  it('the audit trail, whole, and found by the loop', async () => {
    await visit('/audit', 'Audit')
    await see('[data-test="chain"]', 'none was changed or taken out')
    await read('loop created')
    await fill('Loop', 'ZS-50')
    await until(() => expect(words()).not.toContain('loop created'))
    await read('folder imported')
  })
  it('a signed check, with who performed it', async () => {
    await openLoop('LT-112', '/hand-over')
    await see('section[aria-label="Hand over"]', /Performed by \w+/)
  })
})

describe('at the door', () => {
  pagesFor()

  it('nobody comes in without a password, and who does is led to where they were going', async () => {
    await visit('/kit', 'Calm Loop')
    expect(address()).toContain('/sign-in')
    await read('Ailsa Fenn')
    await press(/Ailsa Fenn/)
    await until(() => expect(address()).toBe('/kit'))
  })
  it('a fingerprint is verified by anyone: too short it cannot be asked, an unknown one does not stand', async () => {
    await visit('/verify', 'Verify')
    await fill('Fingerprint', 'zz12')
    await barred('Does it stand?')
    await fill('Fingerprint', 'ab'.repeat(32))
    await press('Does it stand?')
    await see('[data-test="stands"]', 'It does not stand here')
  })
})
