// The wiring desk as it is worked from the keyboard: connected, judged, gated, measured, explained, printed.
import { expect, it } from 'vitest'
import { until } from './until.ts'
import {
  barred,
  choose,
  click,
  enter,
  fill,
  gone,
  key,
  knot,
  newLoop,
  openLoop,
  pagesFor,
  press,
  read,
  reload,
  saved,
  see,
  stage,
  tick,
  type,
  work,
} from './visit.ts'

pagesFor('ailsa')
const code = (name: string) => `[data-code="${name}"]`
const terminal = (ref: string) => `[data-terminal="${ref}"]`
const stops = (text: string | RegExp) => see('#work-before-power', text)
async function desk(tag: string): Promise<void> {
  await openLoop(tag, '/wire')
  await see('.canvas[data-ready=yes]')
}

it('an arrangement chosen gets its proposed wiring, with volts from the thread’s current', async () => {
  // One of its own: what is drawn here would be met by the tests of others.
  await newLoop('PT-801', 'pressure', {
    receiver: 'card supplies loop',
    supply: '24 V',
    liftOff: '12 V',
    shunt: '250 Ohm',
    conductor: '1 mm2',
    cableLength: '100 m',
    sensorLow: '0 mbar',
    sensorHigh: '1200 mbar',
    lrv: '0 mbar',
    urv: '600 mbar',
  })
  await stage('wire')
  await see('.canvas[data-ready=yes]')
  await see(terminal('RX:24V'), '24.0')
  await type(knot('current'), '20')
  await see(terminal('RX:IN'), '5.00 V')
  await enter({ receiver: 'passive card', between: 'isolator' })
  await see(terminal('ISO:3+'))
  await enter({ receiver: 'converter, channel 2', between: 'nothing' })
  await see(terminal('RX:2+'), '5.00 V')
  await press('Show the current')
  await see('.flow')
  await saved()
})

it('a conductor landed wrong from the keyboard is judged, taken out, and connected right', async () => {
  await desk('LT-208')
  await click(terminal('TX:−'))
  await see('[role=status]', 'carries')
  await work('Terminals')
  await fill('C2, from terminal', 'TX:−')
  await stops('stop')
  await press('Take out C2')
  await gone('[data-line="C2"]')
  await key(terminal('TX:+'), 'c')
  await see('[role=status]', 'From TX:+')
  await click(terminal('JB:1'))
  await stops(/^Before power$/)
  await press('Undo')
  await gone('[data-line="C2"]')
  await press('Undo')
  await see('[data-line="C2"]')
  await press('Take the proposal')
  await saved()
})

it('a wiring found wrong is stopped before power, mended, proved dead and declared safe', async () => {
  await desk('FT-214')
  await work('Before power')
  await see(code('no-loop-supply'), 'Its display may work')
  await fill('Who in operations was told, and by which lock or permit', 'Extraction operator, lock 7')
  const gate = (id: string) => `[data-gate="${id}"]`
  await press(/./, gate('power-off'))
  await see(gate('power-off'), 'by Ailsa Fenn')
  await barred(/./, gate('safe-to-energise'))
  await key(terminal('TX:A+'), 'c')
  await click(terminal('TX:I+'))
  await gone(code('no-loop-supply'))
  await press(/./, gate('safe-to-energise'))
  await read('Confirmed safe to energise, for the wiring as it stands.')
  await press('Undo')
  await read('that confirmation no longer holds')
  await reload('FT-214')
  await read('that confirmation no longer holds')
})

it('a meter says what it will show, and a dangerous placement blows its fuse', async () => {
  await desk('LT-112')
  await type(knot('current'), '12')
  await work('Meter')
  const how = (name: string) => choose('#work-panel', name)
  await see('[data-display]', '3.00 V')
  await how('mA, in series')
  await see('[data-display]', /12\.00 mA/)
  await read('Power is not confirmed off.')
  await read('Red lead into the mA jack')
  await how('mA, at the test terminals')
  await see('[data-display]', /^12\.00 mA$/)
  await how('clamp around a conductor')
  await see('[data-display]', /12\.0/)
  await how('mA, between two terminals')
  await fill('Red lead', 'RX:24V')
  await fill('Black lead', 'RX:0V')
  await read('440 mA fuse blows')
  await see('[data-display]', '0.00 mA')
  await press('Put in a new fuse')
})

it('readings at the terminals are explained, and the next one is proposed', async () => {
  await desk('TT-405')
  await type(knot('current'), '12')
  await work('Explain')
  await fill('Red lead at', 'RX:IN')
  await fill('Black lead at', 'RX:0V')
  await fill('The meter showed', '1.5')
  await press('Put on record')
  await see('td', 'RX:IN to RX:0V')
  await see('[data-rank="1"]')
  await see('h3, h4', 'Measure next')
  await press('Take this reading')
  await press('mA along a conductor')
  await fill(/^Conductor/, 'C4')
  await fill('The meter showed', '12,0')
  await press('Put on record')
  await see('[data-rank="1"]', /shunt.*(doubled|another value)/)
  await reload('TT-405')
  await see('td', 'RX:IN to RX:0V')
  await see('[data-rank="1"]', /shunt/)
})

it('a device is added with its own terminal names, and taken out again', async () => {
  await desk('LY-133')
  await work('Terminals')
  await fill('Its name', 'Old head')
  await fill(/^Add a device/, 'two-wire')
  await tick('It has its own terminal names')
  await fill('Terminal + is marked', '7')
  await press('Add device')
  await see(terminal('D1:7'))
  await press('Take out device D1')
  await gone(terminal('D1:7'))
  await stage('point')
  await until(() => expect(document.querySelector('.canvas')).toBeNull())
})
