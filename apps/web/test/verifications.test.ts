// Verifications at hand over: what each came to, who signs it, with which kit, and its paper.
import { study } from '@calm-loop/core/loop'
import { currentKindOf } from '@calm-loop/core/kinds'
import { v7 as uuid } from 'uuid'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { until } from './until.ts'
import {
  address,
  ask,
  asked,
  barred,
  connectBench,
  field,
  fill,
  gone,
  newLoop,
  openLoop,
  pagesFor,
  press,
  read,
  reload,
  see,
  signIn,
  stage,
  tick,
} from './visit.ts'

const KIND = 'thermal-insertion'
const typed = Object.fromEntries(Object.entries(demoEntries(KIND)).map(([key, e]) => [key, e.typed]))
const loopOpen = () => address().split('/')[2]!

/** Leads the loop that is open through its verification, each point shown `factor` times what it must be. */
async function verify(factor = 1): Promise<void> {
  const sheet = study(currentKindOf(KIND), demoEntries(KIND)).sheets!().find((s) => s.id === 'verify')!
  const { lines } = sheet.judge!({ figures: new Map([['temp', { value: 20, unit: 'degC' }]]) })!
  const run = uuid()
  for (const step of sheet.steps) {
    const point = lines[Number(step.id.replace('point-', '')) - 1]
    const value = point ? Number((point.expected * factor).toFixed(1)) : step.id === 'temp' ? 20 : 408
    const unit = step.ask?.unit ?? ''
    await ask(`/api/loops/${loopOpen()}/work/${uuid()}`, 'PUT', {
      ...{ what: 'step', sheet: 'verify', run, step: step.id, title: step.title },
      value: step.ask ? { typed: `${value} ${unit}`, value, unit } : null,
      words: step.askWords ? 'Bree' : '',
    })
  }
  await reload(/./)
}
const verifications = '[aria-label="Verifications"]'
const sign = async (password: string, verb: RegExp) => {
  await until(() => field(/^Your password/, verifications))
  await fill(/^Your password/, password)
  await press(verb, verifications)
}

describe('for a technician', () => {
  pagesFor('ailsa')
  it('is signed with its kit and its surroundings; a wrong password keeps what was typed', async () => {
    await newLoop('FT-7801', KIND, typed)
    await verify()
    await stage('hand-over')
    await see('[data-test="verification-verdict"]', 'Verified: inside its limits')
    await read('FT-7801/')
    await see('[data-part="sheet"]', 'not signed')
    await barred(/^Sign as/, verifications)
    await tick(/^Pressure calibrator C1/)
    await fill('Surroundings', 'outdoors, 12 °C')
    await sign('not it', /^Sign as Ailsa Fenn/)
    await see(`${verifications} [role=alert]`, /password/)
    expect(field('Surroundings', verifications).value).toBe('outdoors, 12 °C')
    await sign('kelp and salt', /^Sign as Ailsa Fenn/)
    await see(`${verifications} li`, 'Performed by Ailsa Fenn')
    await read('A reviewer who had no hand in it countersigns it.')
    const sent = asked.findLast((a) => a.path.includes('/runs/'))!.body as { ambient: string; gearIds: string[] }
    expect(sent).toMatchObject({ ambient: 'outdoors, 12 °C', gearIds: [expect.any(String)] })
    await signIn('magnus')
    await reload('FT-7801')
    await sign('kelp and salt', /^Countersign as Magnus Orrin/)
    await see(`${verifications} li`, 'Reviewed by Magnus Orrin')
    await until(() => expect(document.querySelector(`${verifications} form`)).toBeNull())
    await signIn('ailsa')
  })
  it('is drawn line by line where it is outside, and the visit says so', async () => {
    await newLoop('FT-7802', KIND, typed)
    await verify(0.93)
    await stage('hand-over')
    await see('[data-test="verification-verdict"]', 'Not verified: outside its limits')
    await see(`${verifications} .bad`, /−7\.0\d %/)
    await see('[data-part="sheet"]', 'not verified: outside its limits')
    expect(document.querySelectorAll(`${verifications} circle`)).toHaveLength(4)
  })
  it('of the bench is practice: shown, and signed by nobody', async () => {
    await newLoop('FT-7803', KIND, typed)
    await connectBench()
    await verify()
    await stage('hand-over')
    await see('[data-test="verification-paper"]', 'Practice sheet')
    await gone(`${verifications} form`)
  })
  it('of the demo plant is signed by two people, with earlier ones behind it', async () => {
    await openLoop('FT-310', '/hand-over')
    await see(`${verifications} li`, 'Reviewed by Magnus Orrin')
    await read('The velocity profile'.toLowerCase())
    await openLoop('LT-112', '/hand-over')
    await gone(verifications)
  })
})
