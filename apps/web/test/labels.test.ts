// Labels on the page: asked for from the register and a folder, scanned, and what is said where a code is no label.
import { labelText } from '@calm-loop/contract/label'
import type { Session } from '@calm-loop/contract'
import { v7 as uuid } from 'uuid'
import { describe, expect, it, vi } from 'vitest'
import { until } from './until.ts'
import { address, ask, fill, loopId, openLoop, pagesFor, press, read, see, visit } from './visit.ts'

let found: string | undefined | Error
vi.mock('../src/places/scan/decode.ts', () => ({
  codeInFrame: () => (typeof found === 'string' ? found : undefined),
  codeInPicture: () => (found instanceof Error ? Promise.reject(found) : Promise.resolve(found)),
}))
async function scan(code: typeof found): Promise<void> {
  found = code
  const input = await see('.place input[type="file"], input[type="file"]')
  Object.defineProperty(input, 'files', { value: [new File(['x'], 'x.png')], configurable: true })
  input.dispatchEvent(new Event('change'))
}

describe('labels, for a technician', () => {
  pagesFor('ailsa')
  it('are printed for what the register shows, from a place on the sheet', async () => {
    await visit('/loops', 'Loops')
    await press('Labels')
    await see('a[href="/api/labels.pdf?sheet=24&from=1"]')
    await fill('Begin at place', '25')
    await read('A place from 1 to 24.')
    await fill('Begin at place', '7')
    await see('a[href="/api/labels.pdf?sheet=24&from=7"]')
    await press('one by one, 70 × 37 mm')
    await see('a[href="/api/labels.pdf?sheet=single&from=1"]')
    await press('Close')
  })
  it('are printed for one loop in its folder', async () => {
    await openLoop('LT-112', '/identify')
    await press('Label to scan')
    await see(`a[href="/api/labels.pdf?loopId=${await loopId('LT-112')}&sheet=single&from=1"]`)
    await press('Close')
  })
  it('say what is wrong with a code, and open the folder at what is next', async () => {
    const { installation } = await ask<Session>('/api/session')
    expect(installation).toBeDefined()
    const id = await loopId('LT-112')
    await visit('/scan', 'Scan a label')
    await see('[data-test="no-camera"]', 'No camera can be used here')
    await scan(new Error('no picture'))
    await read('This file is no picture that this browser reads.')
    await scan(undefined)
    await read('No code was found in this picture.')
    await scan('https://example')
    await read('This is another code, and no label of a loop.')
    await scan(labelText(uuid(), id))
    await read('This label is of another installation')
    await scan(labelText(installation!, id).replace(/.$/, (c) => (c === '0' ? '1' : '0')))
    await read('This label is damaged')
    await scan('CALM-LOOP:7:00:11:22')
    await read('made by a newer version')
    await scan(labelText(installation!, id))
    await until(() => expect(address()).toBe(`/loops/${id}/trim`))
  })
  it('are seen by a camera, which is let go afterwards', async () => {
    const { installation } = await ask<Session>('/api/session')
    const id = await loopId('LT-112')
    const stop = vi.fn()
    const devices = { getUserMedia: () => Promise.resolve({ getTracks: () => [{ stop }] }) }
    Object.defineProperty(navigator, 'mediaDevices', { value: devices, configurable: true })
    const video = HTMLVideoElement.prototype
    vi.spyOn(video, 'play').mockResolvedValue()
    vi.spyOn(video, 'readyState', 'get').mockReturnValue(4)
    Object.defineProperty(video, 'srcObject', { value: null, writable: true, configurable: true })
    found = labelText(uuid(), id)
    await visit('/scan', 'Scan a label')
    await read('This label is of another installation')
    found = labelText(installation!, id)
    await until(() => expect(address()).toBe(`/loops/${id}/trim`))
    expect(stop).toHaveBeenCalled()
    Object.defineProperty(navigator, 'mediaDevices', { value: undefined, configurable: true })
  })
})
