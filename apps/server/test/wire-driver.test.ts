// The driver of a device on a line, against the device of the core, with a line that loses answers.
import { chainOf } from '@calm-loop/core/loop'
import { describe, expect, it } from 'vitest'
import { bench } from '../../../packages/core/src/hart/device.fixture.ts'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { wireDriver } from '../src/link/wire-driver.ts'
import type { Session } from '../src/ports/session-parts.ts'
import { studyOf } from '../src/services/studies.ts'

const SERIAL = '3d1103a7c2'

/** A driver on a session that is no more than the device; answers to `losing` are lost. */
function driven() {
  const device = bench()
  const asked: { serial: string; command: number; once: boolean }[] = []
  const line = { losing: new Set<number>(), unstored: false }
  const session: Pick<Session, 'attach' | 'tell' | 'state' | 'wrote' | 'description' | 'hear'> = {
    attach: () => Promise.resolve(),
    tell(serial, command, data = new Uint8Array(), once = false) {
      asked.push({ serial, command, once })
      const frame = device.send({ command, data })!
      const took = { tries: 1, took_ms: 5 }
      return Promise.resolve(
        line.losing.has(command)
          ? { why: 'silence' as const, ...took }
          : { frame: { ...frame, checksumOk: true, used: 0 }, ...took },
      )
    },
    state: () => ({ unstored: line.unstored }) as ReturnType<Session['state']>,
    wrote: (yet = true) => void (line.unstored = yet),
    description: () => ({ parameters: [] }) as unknown as ReturnType<Session['description']>,
    hear: () => () => undefined,
  }
  const study = studyOf('pressure', { entries: demoEntries('pressure') })
  if (study.family !== 'current') throw new Error('no current')
  return { driver: wireDriver(session as Session, chainOf(study), SERIAL), asked, line }
}
const health = async ({ driver }: ReturnType<typeof driven>) => (await driver.read())?.held?.health

describe('a self-test', () => {
  it('shows nothing before one, and what is found now after it', async () => {
    const it = driven()
    expect(await health(it)).toBe(undefined)
    expect(await it.driver.command({ do: 'self-test' })).toEqual({ taken: true, says: '' })
    expect(await health(it)).toBe('')
    // Its status is asked for at each reading, not remembered.
    expect(it.asked.filter((a) => a.command === 48)).toHaveLength(1)
    await health(it)
    expect(it.asked.filter((a) => a.command === 48)).toHaveLength(2)
  })
  it('whose answer is lost is not taken for done by what an earlier one found', async () => {
    const it = driven()
    await it.driver.command({ do: 'self-test' })
    it.line.losing.add(41)
    expect(await it.driver.command({ do: 'self-test' })).toBe(undefined)
    expect(await health(it)).toBe(undefined)
  })
  it('whose status cannot be read leaves the reading without an answer', async () => {
    const it = driven()
    await it.driver.command({ do: 'self-test' })
    it.line.losing.add(48)
    expect(await it.driver.read()).toBe(undefined)
  })
})

describe('what is told', () => {
  it('goes to the tied device by its address, a trim once only', async () => {
    const it = driven()
    await it.driver.command({ do: 'drive', mA: 20 })
    await it.driver.command({ do: 'current-trim', at: 20, reading: 19.98 })
    expect(it.asked.every((a) => a.serial === SERIAL)).toBe(true)
    expect(it.asked.map((a) => [a.command, a.once])).toEqual([
      [40, false],
      [46, true],
    ])
  })
  it('and refused is said in the device’s words; what is written waits to be stored', async () => {
    const it = driven()
    expect(await it.driver.command({ do: 'zero-trim' })).toMatchObject({ taken: false })
    expect(it.line.unstored).toBe(false)
    await it.driver.command({ do: 'damping', seconds: 2 })
    expect((await it.driver.read())?.held).toMatchObject({ damping_s: 2, stored: false })
    await it.driver.command({ do: 'store' })
    expect((await it.driver.read())?.held?.stored).toBe(true)
  })
  it('without a description no electrode is written, and at a transmitter no meter', async () => {
    const it = driven()
    const ph = it.driver.command({ do: 'ph-calibrate', slope_mVperPh: -58, offset_mV: 1 })
    await expect(ph).rejects.toMatchObject({ code: 'no-description' })
    await expect(it.driver.command({ do: 'start' })).rejects.toMatchObject({ code: 'no-bench' })
    await expect(it.driver.command({ do: 'receiver', low: 0, high: 1 })).rejects.toMatchObject({ code: 'no-bench' })
  })
})
