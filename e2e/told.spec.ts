// Who is told: a broker of one's own is entered, reached, and hears of a loop that comes.
import { runBroker } from '../apps/stand-in/src/broker.ts'
import { expect, newLoop, signInAs, test } from './steps.ts'
import { scanner } from './scan.ts'

test('a broker is entered and reached, and hears of a new loop; a webhook is added and taken off @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  const tag = info.project.name === 'desk' ? 'LT-791' : 'LT-792'
  const heard: string[] = []
  const broker = await runBroker(0, { hear: (topic, text) => heard.push(`${topic} ${text}`) })
  try {
    await signInAs(page, home, 'Rona Teague')
    await page.goto(`${home}/people`)
    const part = page.getByRole('region', { name: 'Who is told' })
    await expect(part.getByTestId('told-stands')).toBeVisible()
    await part.getByRole('button', { name: 'on', exact: true }).click()
    await part.getByLabel('Broker', { exact: true }).fill('mqtt://nobody@here')
    await part.getByRole('button', { name: 'Set who is told' }).click()
    await expect(part.getByRole('alert')).toContainText('must be mqtt://host:port')
    await part.getByLabel('Broker', { exact: true }).fill(`mqtt://127.0.0.1:${broker.port}`)
    await part.getByLabel('Topics begin with').fill('holmsay')
    await part.getByRole('button', { name: 'Set who is told' }).click()
    await expect(part.getByTestId('told-stands')).toContainText('The broker is reached.', { timeout: 20_000 })
    await part.getByRole('button', { name: 'Add a webhook' }).click()
    await expect(part.getByLabel('Secret of both sides')).toBeVisible()
    const { found, scan } = scanner(page, info.project.name === 'desk' ? undefined : [])
    await scan('who is told')
    expect(found).toEqual([])
    await part.getByRole('button', { name: 'Take this webhook off' }).click()
    await page.goto(`${home}/loops`)
    await newLoop(page, tag)
    await expect.poll(() => heard.join('\n'), { timeout: 20_000 }).toContain(`holmsay/${tag}/loop {`)
    await page.goto(`${home}/people`)
    await part.getByRole('button', { name: 'off', exact: true }).click()
    await part.getByRole('button', { name: 'Set who is told' }).click()
    await expect(part.getByTestId('told-stands')).toContainText('Nobody is told over MQTT.')
  } finally {
    await broker.stop()
  }
})
