// A discrete point as pages: nameplate to verdict, ways that work, a check with three witnesses, switch points, cycles
// and their log.
import { expect, it } from 'vitest'
import { until } from './until.ts'
import {
  ask,
  asked,
  click,
  enter,
  fill,
  gone,
  loopId,
  newLoop,
  openLoop,
  pagesFor,
  press,
  pressAt,
  read,
  saved,
  see,
  stage,
  type,
  words,
  work,
} from './visit.ts'

pagesFor('ailsa')
const code = (name: string) => `[data-code="${name}"]`
const run = (id: string) => `[data-run="${id}"]`
const fit = (text: string | RegExp) => see('[data-test="fit"]', text)
const NAMEPLATE = {
  output: 'NPN',
  contact: 'NO',
  supplyLeast: '10 V',
  supplyMost: '30 V',
  maxOut: '200 mA',
  residual: '1,2 V',
  leakage: '0.1 mA',
  supply: '24 V',
  common: 'negative pole',
  inputType: '24 V DC, type 1',
}

it('from a nameplate to a verdict, and from “cannot work” to a way that does', async () => {
  await newLoop('ZS-611', 'discrete-sensor')
  await stage('wire')
  await read('Still needs: output stage')
  await enter({ output: 'NPN', supply: '24 V', common: 'negative pole', maxOut: '200 mA', contact: 'NO' })
  await fit('Cannot work')
  await enter(NAMEPLATE)
  await read('The sensor sinks: current goes into its signal wire.')
  await read('The card sinks: current goes in at its terminal')
  await see(run('signal'), '0.0 V')
  await enter({ output: 'PNP' })
  await fit(/^Works$/)
  await see(run('signal'), '22.8 V')
  await see(run('controller'), 'true')
  await enter({ contact: 'NC' })
  await see(`${run('sensorLamp')} span`, /^open$/)
  await fit(/^Works$/)
  await enter({ output: 'NPN', contact: 'NO' })
  await enter({ supplyLeast: '30 V', supplyMost: '10 V' })
  await see(code('supply-range-reversed'))
  await read('Cannot be computed from these entries')
  await enter({ supplyLeast: '10 V', supplyMost: '30 V' })
  await work('Make it work')
  await click(await see('[data-way] label, [data-way]', 'Bias resistor'))
  await read('logic inverted')
  await press('Take this way')
  await work('Sensor and input')
  await fit('Works, inverted')
  await see(code('switch-inverted'), 'broken wire')
  await work('Make it work')
  await click(await see('[data-way] label, [data-way]', 'Interposing relay, NO contact'))
  await see('td', 'K1:A2')
  await press('Take this way')
  await see(run('controller'), 'true')
  await work('Before power')
  await see('.canvas[data-ready=yes]')
  await see('[data-terminal="K1:A1"]', '24.0')
  await press('absent')
  await see('[data-terminal="DI:I0"]', '0.00 V')
  await work('Meter')
  await see('[data-display]', '23.76 V')
  await read('The minus sign says that the leads are exchanged')
  await saved()
})

it('a load too heavy for the sensor leads to a relay', async () => {
  await openLoop('YL-505', '/wire')
  await fit('Too heavy for the sensor')
  await work('Make it work')
  await until(() => expect(document.querySelectorAll('[data-way]').length).toBe(2))
  await press('Take this way')
  await work('Sensor and input')
  await fit(/^Works$/)
  await saved()
})

it('three witnesses and the distance, typed, signed', async () => {
  await newLoop('ZS-621', 'discrete-sensor', { device: 'Inductive sensor', serial: 'N8-1' })
  await stage('wire')
  await enter({ ...NAMEPLATE, output: 'PNP' })
  await saved()
  await stage('switch-point')
  await enter({ sensing: 'inductive, metal target', rated: '8 mm', metal: 'aluminium', mountedAt: '5 mm' })
  await see('[data-figure="expected"]', '3.20 mm')
  await see(code('beyond-assured'))
  await enter({ metal: 'mild steel (S235)' })
  await see('[data-figure="expected"]', '8.00 mm')
  await gone(code('beyond-assured'))
  await saved()
  await stage('check')
  await press('once')
  await fill(/^Who in operations was told/, 'Bree')
  await press('Confirm machine safe and begin')
  await see('[data-test="point"]', 'Bring the target up slowly')
  const look = (witness: string, name: string) => press(name, `[data-witness="${witness}"]`)
  // A witness that is not as expected says where the fault is.
  await look('inputLamp', 'dark')
  await look('sensorLamp', 'lit')
  await see('[role=alert]', 'between the sensor and the input')
  const typed = async (mm: string, volts: string, [sensor, input, controller]: string[]) => {
    await type('[data-entry="distance"] input', mm)
    await type('[data-entry="signal"] input', volts)
    await look('sensorLamp', sensor!)
    await look('inputLamp', input!)
    await look('controller', controller!)
    await pressAt('take')
  }
  await typed('7.9 mm', '22.8', ['lit', 'lit', 'true'])
  await see('[data-point="0"]', 'as expected, saved')
  await see('[data-test="point"]', 'Take the target away slowly')
  await typed('0,335 in', '0.1', ['dark', 'not seen', 'false'])
  await see('[data-test="verdict"]', 'Every witness agrees')
  const put = asked.filter((a) => a.path.includes('/readings/')).at(-1)!
  expect(put.status).toBeLessThan(300)
  await press('Go to hand over')
  await fill(/^Who in operations was told/, 'Bree')
  await press('Confirm machine given back')
  await fill(/^Your password/, 'kelp and salt')
  await press('Sign as Ailsa Fenn')
  await read('Performed by Ailsa Fenn')
})

it('switch points of a tank: the fail-safe question, and two pumps in motion', async () => {
  await openLoop('LT-133', '/switch-point')
  await see('[data-relay="1"] [data-when="power-lost"]', 'stands')
  await see('[data-relay="1"] [data-when="sensor-lost"]', 'runs')
  const picture = () =>
    document.querySelector('[aria-label="Simulation of the switch points"] svg[role=img]')!.getAttribute('aria-label')
  for (let i = 0; i < 90; i++) await press('Step 1 s')
  await until(() => expect(picture()).toMatch(/brine pump A runs/))
  await press('Lose the power')
  await until(() => expect(picture()).toMatch(/pump A stands, brine pump B stands/))
  await press('runs', '[data-entry="trip1PowerLost"]')
  await see(code('power-lost-1'), 'near trip on the NC contact')
  await press(/Turn round/, '[data-relay="1"]')
  await gone(code('power-lost-1'))
  await press('stands', '[data-entry="trip1PowerLost"]')
  await press(/Turn round/, '[data-relay="1"]')
  await saved()
})

it('a month of cycles by shift, and a stop named', async () => {
  await openLoop('ZS-502', '/count')
  await work('Cycles and OEE')
  await see('[data-factor="OEE"]', /\d\d\.\d %/)
  await see('[data-factor="Performance"]', '40 s ×')
  await press('20 Nov 2026, Early')
  await see('h3, h4', '20 Nov 2026, Early')
  await fill('Rejected pieces in this shift', '150')
  await press('Enter')
  await see('[data-factor="Quality"]', '− 150) /')
  await work('Stops')
  const first = await see('[data-unnamed]')
  const key = first.getAttribute('data-unnamed')!
  await type(first.querySelector('input')!, 'chain tightened')
  await press('Name this stop', `[data-unnamed="${key}"]`)
  await gone(`[data-unnamed="${key}"]`)
  await see('td', 'chain tightened')
})

it('a log with bad rows is taken only when the person agrees, and once', async () => {
  await openLoop('ZS-502', '/count?do=log')
  const lines = ['time,state']
  for (let i = 0; i < 50; i++) lines.push(`${new Date(Date.UTC(2026, 10, 23, 6, 0, 5 * i)).toISOString()},${i % 2}`)
  lines.splice(20, 0, 'yesterday,1', '2026-11-23T05:00:00Z,0')
  const pick = async () => {
    const input = await see('[data-test="edge-file"]')
    Object.defineProperty(input, 'files', { configurable: true, value: [new File([lines.join('\n')], 'bad.csv')] })
    input.dispatchEvent(new Event('change', { bubbles: true }))
    return see('[data-test="edge-report"]', 'rows')
  }
  await pick()
  await see('[data-test="edge-report"]', '50 of 52 rows can be taken')
  await see('[data-test="edge-report"] tr', /^21.*no time such as/)
  await see('[data-test="edge-report"] tr', /^22.*clock was put back/)
  await press('Take nothing')
  await gone('[data-test="edge-report"]')
  expect(words()).not.toContain('watched live')
  await pick()
  await press('Take the 50 good rows only')
  await read('50 rows of bad.csv are on record.')
  await pick()
  await see('[data-test="edge-report"]', 'are on record already')
  expect(document.querySelector<HTMLButtonElement>('[data-test="take-edges"]')!.disabled).toBe(true)
  const every = [...document.querySelectorAll('a')].find((a) => a.textContent.trim() === 'Every edge, CSV')!
  const csv = await (await fetch(every.getAttribute('href')!)).text()
  expect(csv.split('\r\n').length).toBeGreaterThan(60_000)
  expect(csv).toContain('2026-11-23T06:04:05.000Z,1')
  const { trains } = await ask<{ trains: unknown[] }>(`/api/loops/${await loopId('ZS-502')}`)
  expect(trains.length).toBeGreaterThan(1)
})
