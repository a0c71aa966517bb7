// A loop with its own device on a line: what the pages of Trim and Check say, and never call simulated.
import { USUAL_TRIM_LIMITS, type LoopDevice, type TransmitterView } from '@calm-loop/contract'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import BenchRibbon from '../src/places/folder/BenchRibbon.vue'
import TrimStage from '../src/places/folder/TrimStage.vue'
import { useFolder } from '../src/stores/folder.ts'
import { useLive } from '../src/stores/live.ts'
import { HandFed } from '../src/stores/server.fixture.ts'
import { open, parts, router, settle, show, textOf } from './panel.ts'
import { until } from './until.ts'

parts()
const DEVICE: LoopDevice = {
  portId: '0'.repeat(16),
  port: 'Rack 2',
  serial: '3d1103a7c2',
  address: 0,
  simulated: false,
  by: { id: 'p', name: 'Ailsa Fenn' },
  at: '2027-01-02T08:00:00.000Z',
}
const held: TransmitterView = {
  held: { ...{ lrv: 0, urv: 6000, receiverLow: 0, receiverHigh: 600, fixed_mA: null }, stored: true, changes: 4 },
  cases: [],
  practice: '',
  log: [],
}
async function deviceTab(view: TransmitterView = held) {
  open({
    kind: 'pressure',
    entries: demoEntries('pressure'),
    answers: {
      'GET /api/site/trim-limits': () => USUAL_TRIM_LIMITS,
      'GET /api/loops/*/link': () => ({ driver: 'hart', family: 'current', unit: 'mbar', lowest: 0, highest: 600 }),
      'GET /api/loops/*/link/transmitter': () => view,
    },
  })
  const folder = useFolder()
  folder.view = { ...folder.view!, device: DEVICE }
  const part = show(TrimStage)
  await router.replace({ query: { do: 'bench' } })
  await settle()
  return part
}
const reading = (more: object = {}) => ({
  t_s: 1,
  knots: { digital: 241.83 },
  believes: { mA: 7.866, flags: ['configuration-changed'] },
  at_ms: 1,
  ...more,
})

describe('a loop with its own device', () => {
  it('shows what it tells of itself, and that a meter tells the current', async () => {
    const part = await deviceTab()
    HandFed.last.say('reading', reading())
    await settle()
    expect(textOf(part)).toContain('241.83')
    expect(textOf(part)).toContain('7.866')
    expect(textOf(part)).toContain('configuration changed')
    expect(textOf(part)).not.toMatch(/simulated/i)
  })
  it('says where the device holds another range than the record', async () => {
    const other = await deviceTab()
    const differs = () => other.find('[data-test="range-differs"]')
    await until(() => expect(differs().exists()).toBe(true))
    expect(differs().text()).toContain('another range')
    const same = await deviceTab({ ...held, held: { ...held.held, urv: 600 } })
    await until(() => expect(textOf(same)).toContain('Range in the device'))
    expect(same.find('[data-test="range-differs"]').exists()).toBe(false)
  })
  it('is judged steady by its own current alone, and by nothing where it tells none', async () => {
    await deviceTab()
    const live = useLive()
    for (let t = 0; t < 4; t++) HandFed.last.say('reading', reading({ t_s: t, believes: { mA: null, flags: [] } }))
    expect(live.samples).toHaveLength(0)
    HandFed.last.say('reading', reading({ t_s: 5 }))
    expect(live.samples.map((s) => s.value)).toEqual([7.866])
  })
})

describe('the head of a loop', () => {
  const head = (device: LoopDevice | null, bench = false) => {
    open({ kind: 'pressure', entries: {} })
    const folder = useFolder()
    folder.view = { ...folder.view!, device, bench: bench ? { by: DEVICE.by, at: DEVICE.at } : null }
    return textOf(show(BenchRibbon))
  }
  it('says who answers: nobody, its own device, a stand-in, or the bench', () => {
    expect(head(null)).toContain('nothing here is simulated')
    expect(head(DEVICE)).toContain('Its own device answers, by Rack 2')
    expect(head({ ...DEVICE, simulated: true })).toContain('once the bench is connected')
    expect(head({ ...DEVICE, simulated: true }, true)).toContain('The stand-in on Rack 2 answers')
  })
})
