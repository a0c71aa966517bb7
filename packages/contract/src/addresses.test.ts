// Where each route is, apart from what it takes and answers: all that a page needs to call it.
import { expect, it } from 'vitest'
import { endpoints } from './endpoints.ts'

it('the addresses that pages call are those of the routes', async () => {
  const addresses = Object.fromEntries(
    Object.entries(endpoints)
      .map(([name, { method, path, rawBody }]) => [name, { method, path, ...(rawBody ? { rawBody } : {}) }] as const)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  )
  await expect(`${JSON.stringify(addresses, null, 2)}\n`).toMatchFileSnapshot('addresses.json')
})
