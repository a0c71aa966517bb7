// What the site settles: set over what was seen, never over what another has set since.
import { SETTING_HEADER, settingMark, USUAL_TRIM_LIMITS } from '@calm-loop/contract'
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useSite } from './site.ts'

let stands: object
let marks: (string | null)[]
beforeEach(() => {
  stands = USUAL_TRIM_LIMITS
  marks = []
  setActivePinia(createPinia())
  vi.stubGlobal('fetch', async (_: string, init: RequestInit) => {
    if (init.method === 'GET') return new Response(JSON.stringify(stands))
    const was = new Headers(init.headers).get(SETTING_HEADER)
    marks.push(was)
    if (was !== settingMark(stands))
      return new Response(
        JSON.stringify({ status: 409, code: 'setting-changed', detail: 'Somebody else set this.', current: stands }),
        { status: 409 },
      )
    stands = JSON.parse(init.body as string) as object
    return new Response(init.body as string)
  })
})

describe('a setting of the site', () => {
  it('is set over what was seen there', async () => {
    const site = useSite()
    await site.loadLimits()
    await site.saveLimits({ ...site.limits, window_s: 9 })
    await site.saveLimits({ ...site.limits, window_s: 10 })
    expect(site.limits.window_s).toBe(10)
    expect(new Set(marks).size).toBe(2)
  })
  it('that another has set meanwhile is shown and not overwritten; set again it stands', async () => {
    const site = useSite()
    await site.loadLimits()
    stands = { ...USUAL_TRIM_LIMITS, window_s: 20 }
    const mine = { ...site.limits, window_s: 9 }
    await expect(site.saveLimits(mine)).rejects.toThrow('Somebody else set this.')
    expect(site.limits.window_s).toBe(20)
    await site.saveLimits(mine)
    expect(site.limits.window_s).toBe(9)
  })
  it('that is refused otherwise, or not reached, stays as it was', async () => {
    const site = useSite()
    vi.stubGlobal('fetch', async () => new Response(JSON.stringify({ code: 'wrong-role' }), { status: 403 }))
    await expect(site.saveLimits({ ...site.limits, window_s: 9 })).rejects.toThrow()
    expect(site.limits).toEqual(USUAL_TRIM_LIMITS)
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('no network')))
    await site.loadLimits()
    expect(site.limits).toEqual(USUAL_TRIM_LIMITS)
  })
})
