// A check of a current from its gate to a countersigned certificate, every reading typed; what is refused on the way,
// and what waits.
import { expect, it } from 'vitest'
import { until } from './until.ts'
import {
  asked,
  barred,
  click,
  enter,
  entry,
  fill,
  network,
  newLoop,
  pagesFor,
  press,
  read,
  saved,
  see,
  signIn,
  stage,
  type,
  visit,
  address,
} from './visit.ts'

pagesFor('ailsa')

const COMPLETE: Record<string, Record<string, string>> = {
  identify: { device: 'Level head A2', serial: 'A2-1', controls: 'Rinse valve', tell: 'Wash house operator' },
  wire: { supply: '24 V', liftOff: '12', shunt: '250 Ω', conductor: '1.5 mm²', cableLength: '200 m' },
  point: { tankDepth: '2 m', emptyDistance: '2,3 m', fullDistance: '500 mm', blanking: '250 mm' },
  range: {
    lrv: '0 mm',
    urv: '1800 mm',
    faultAction: 'high',
    faultCurrent: '21.5 mA',
    countsLow: '13107',
    countsHigh: '65535',
    receiverLow: '0 mm',
    receiverHigh: '1800 mm',
  },
}
async function complete(tag: string): Promise<void> {
  await newLoop(tag, 'level-from-above')
  for (const [id, values] of Object.entries(COMPLETE)) {
    await stage(id)
    await enter(values)
  }
  await saved()
}
async function begin(points: string): Promise<void> {
  await stage('check')
  await fill(/^Points, % of range/, points)
  // Only the current is read; the loop meter is chosen, as it has figures and is in date.
  await see('[data-place="current"]', 'Loop meter L1')
  await see('[data-proof="current"]', 'ratio')
  await click('[data-place="controller"] input[type=checkbox]')
  await barred('Confirm loop in manual and begin')
  await fill(/^Who in operations was told/, 'Bree, shift operator')
  await press('Confirm loop in manual and begin')
  await see('[data-test="point"]')
}
const expected = (level: number) => 4 + (16 * level) / 1800
async function reading(index: number, level: number, mA: number): Promise<void> {
  await type(`[data-entry="applied"] input`, String(level))
  await type(`[data-entry="current"] input`, mA.toFixed(3))
  entry('current').dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
  entry('current')
    .closest('form')
    ?.dispatchEvent(new Event('submit', { bubbles: true, cancelable: true }))
  await see(`[data-point="${index}"]`, /saved|wait/)
}

it('from nothing to a signed and countersigned check', async () => {
  await complete('LT-611')
  await see('[data-stage="check"]')
  await begin('0, 25, 50, 75, 100')
  const percents = [0, 25, 50, 75, 100, 100, 75, 50, 25, 0]
  // From outside of the entries too; held down it takes nothing, for the next point would get what stands at this one.
  const enter = (repeat: boolean) =>
    document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', repeat, bubbles: true }))
  await type(`[data-entry="applied"] input`, '4')
  await type(`[data-entry="current"] input`, (expected(4) + 0.03).toFixed(3))
  enter(true)
  expect((await see('[data-point="0"]')).textContent).not.toMatch(/saved|wait/)
  enter(false)
  await see('[data-point="0"]', /saved|wait/)
  for (const [i, percent] of percents.entries()) {
    if (i === 0) continue
    const level = 18 * percent + 4
    await reading(i, level, expected(level) + 0.03)
  }
  await see('[data-test="verdict"]', 'Within tolerance')
  // By itself, or with others that were entered while it was on its way.
  const sent = () =>
    asked.flatMap(({ path, status, body }) =>
      path.includes('/readings/')
        ? [{ status, body }]
        : path.endsWith('/api/waiting')
          ? (body as { writes: { body: unknown }[] }).writes.map((w) => ({ status, body: w.body }))
          : [],
    )
  // On a busy machine the last of them may still wait to be sent.
  await until(() => expect(sent()).toHaveLength(percents.length))
  const readings = sent()
  expect(readings.every((r) => r.status < 300)).toBe(true)
  // What was typed, and nothing else, is on the reading.
  expect((readings[2]!.body as { reads: object }).reads).toHaveProperty('current')
  await stage('hand-over')
  await fill(/^Who in operations was told/, 'Bree, shift operator')
  await press('Confirm loop given back')
  await fill(/^Your password/, 'not this one')
  await press('Sign as Ailsa Fenn')
  await see('[role=alert]', /[Pp]assword/)
  await fill(/^Your password/, 'kelp and salt')
  await press('Sign as Ailsa Fenn')
  await read('A reviewer countersigns it.')
  const at = address()

  await signIn('magnus')
  await visit(at, 'LT-611')
  await fill(/^Your password/, 'kelp and salt')
  await press('Countersign as Magnus Orrin')
  await read('Reviewed by Magnus Orrin')
  await see('[data-stage="hand-over"]', 'countersigned')
  await signIn('ailsa')
})

it('a reading taken out of coverage waits, is shown as waiting, and is sent once', async () => {
  await complete('LT-613')
  await begin('0, 100')
  network(false)
  await reading(0, 2, 4.03)
  await see('[data-test="coverage"]', /1 entry waits here/)
  network(true)
  window.dispatchEvent(new Event('online'))
  await until(() => expect(document.querySelector('[data-point="0"]')!.getAttribute('data-saved')).toBe('true'))
  expect(asked.filter((a) => a.path.includes('/readings/') && a.status < 300)).toHaveLength(1)
})

it('a loop out of tolerance says so, by how much and where', async () => {
  await complete('LT-614')
  await begin('0, 100')
  for (const [i, level] of [0, 1800, 1800, 0].entries()) await reading(i, level, expected(level) + 0.4)
  await see('[data-test="verdict"]', 'Out of tolerance')
  await see('[data-test="verdict"]', '+2.500 %')
  await stage('hand-over')
  await see('[data-test="verdict"].fail, .fail', /[Oo]ut of tolerance/)
})

it('a check keeps its version when the range is changed meanwhile, says so, and can be begun anew', async () => {
  await complete('LT-615')
  await begin('0, 100')
  await reading(0, 4, expected(4))
  await stage('range')
  await enter({ urv: '1700 mm' })
  await saved()
  await stage('check')
  await see('[data-test="older-version"]', 'It keeps version 1, and is judged by it.')
  await see('[data-test="point"]')
  await press('Begin anew with what is entered now')
  await see('[role=group]', 'What is at hand')
  await press('Go on with it')
  await reading(1, 1804, expected(1804))
  await see('[data-point="1"]', 'saved')
})
