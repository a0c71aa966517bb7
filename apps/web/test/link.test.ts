// The page of the link, by itself: ports, finding, values and their cautions, comparing, files, descriptions,
// registers.
import type { DeviceFile, DeviceHistory, DeviceWrite, LinkState, Port } from '@calm-loop/contract'
import { SHIPPED, withUniversal } from '@calm-loop/core/description'
import { NO_COUNTS } from '@calm-loop/core/hart'
import { registersFor } from '@calm-loop/core/modbus'
import type { VueWrapper } from '@vue/test-utils'
import { describe, expect, it, vi } from 'vitest'
import LinkPlace from '../src/places/link/LinkPlace.vue'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { folderOf, HandFed, refusal, type AskedOf } from '../src/stores/server.fixture.ts'
import { useDeviceLink } from '../src/stores/device-link.ts'
import { open, parts, press, router, settle, show, textOf } from './panel.ts'
import { until } from './until.ts'

parts()
const PORT = '0123456789abcdef'
const port: Port = {
  id: PORT,
  kind: 'serial',
  label: 'Modem',
  at: '/dev/ttyUSB1',
  adapter: '0403:6001:A50285',
  protocol: 'hart',
  line: { baud: 1200, parity: 'odd' },
  movedFrom: '/dev/ttyUSB0',
  taken: '',
}
const description = withUniversal(SHIPPED.find((d) => d.id === 'pressure-standard'))
const values = {
  tag: 'PT-104',
  descriptor: '',
  date: null,
  message: '',
  unit: 'kPa',
  lrv: 0,
  urv: 600,
  damping: Math.fround(0.4),
  transfer: 0,
  protection: 0,
  upperLimit: 1000,
  lowerLimit: -100,
  minimumSpan: 10,
  sensorSerial: 7,
  lowflowCutoffOfTheRoot: 6,
}
const device: NonNullable<LinkState['device']> = {
  serial: '3d1103a7c2',
  address: 0,
  longAddress: '3d1103a7c2',
  expandedType: 0x3d11,
  deviceRevision: 3,
  softwareRevision: 12,
  universalRevision: 7,
  configurationCounter: 2,
  forgetful: false,
  tag: 'PT-104',
  description: { id: 'pressure-standard', version: 1, name: 'Pressure transmitter PK 3' },
}
const at = '2027-01-02T09:30:00.000Z'
const empty: LinkState = {
  portId: PORT,
  doing: 'closed',
  says: '',
  counts: NO_COUNTS,
  latency_ms: null,
  probed: [],
  device: null,
  upload: null,
  values: {},
  readAt: null,
  live: null,
  writes: [],
  unstored: false,
  tryNext: [],
}
const read: LinkState = {
  ...empty,
  doing: 'idle',
  device,
  values,
  readAt: at,
  latency_ms: 12,
  live: { at_ms: 1, mA: 12, variables: [{ unit: 'kPa', value: 300 }], flags: ['current-fixed'] },
}
const row = (more: Partial<DeviceWrite>): DeviceWrite => ({
  id: '01890000-0000-7000-8000-000000000001',
  serial: device.serial,
  parameter: 'urv',
  label: 'Value at 20 mA',
  from: 600,
  to: 500,
  held: 500,
  state: 'held',
  says: 'Read back.',
  by: 'Ailsa Fenn',
  at,
  ...more,
})
const file: DeviceFile = {
  format: 'calm-loop/device-file/1',
  id: '01890000-0000-7000-8000-000000000002',
  serial: device.serial,
  expandedType: device.expandedType,
  tag: 'PT-104',
  description: { id: 'pressure-standard', version: 1 },
  at,
  by: 'Rona Teague',
  note: 'as found',
  loopId: null,
  values: { ...values, urv: 640, lowflowCutoffOfTheRoot: 8 },
  characterization: ['lowflowCutoffOfTheRoot'],
}

async function page(
  state: LinkState,
  work: string,
  {
    answers = {},
    files = [file],
    roles = ['technician' as const],
    ports = [port],
  }: {
    answers?: Parameters<typeof open>[0]['answers']
    files?: DeviceFile[]
    roles?: Parameters<typeof open>[0]['roles']
    ports?: Port[]
  } = {},
): Promise<{ asked: AskedOf[]; part: VueWrapper }> {
  const asked = open({
    kind: 'pressure',
    entries: {},
    roles,
    answers: {
      'GET /api/ports': () => ports,
      [`GET /api/ports/${PORT}`]: () => state,
      [`GET /api/ports/${PORT}/parameters`]: () => ({ groups: description.groups, parameters: description.parameters }),
      'GET /api/device-files': () => files,
      ...answers,
    },
  })
  const part = show(LinkPlace)
  await router.push(`/link/${work === 'ports' ? '' : PORT}?do=${work}`)
  await until(() => expect(textOf(part)).toContain(work === 'ports' ? 'Look again' : ports[0]!.label))
  await settle()
  return { asked, part }
}
const posted = (asked: AskedOf[], method = 'POST') =>
  asked.filter((a) => a.method === method).map((a) => [a.path.split('/').at(-1), a.body])

describe('ports', () => {
  it('are listed by what they carry, with where they were before', async () => {
    const { part } = await page(empty, 'ports')
    expect(textOf(part)).toContain('Modem')
    expect(textOf(part)).toContain('was at /dev/ttyUSB0')
    expect(textOf(part)).not.toContain('Add a gateway')
  })
  it('a gateway is added by whoever has the duty', async () => {
    const gateway: Port = { ...port, id: 'f'.repeat(16), kind: 'gateway', label: 'Hall 2', at: '10.0.0.7:5094' }
    const { asked, part } = await page(empty, 'ports', {
      roles: ['administrator', 'reviewer'],
      answers: { 'POST /api/ports': () => [port, gateway] },
    })
    await press(part, 'Add a gateway')
    for (const [i, text] of ['Hall 2', '10.0.0.7', '5094'].entries())
      await part.findAll('form input')[i]!.setValue(text)
    await part.find('form').trigger('submit')
    await settle()
    expect(posted(asked)).toEqual([['ports', { label: 'Hall 2', host: '10.0.0.7', port: 5094, protocol: 'hart' }]])
    expect(textOf(part)).toContain('10.0.0.7:5094')
  })
})

describe('finding', () => {
  it('asks addresses, or a tag, and can be stopped', async () => {
    const answers = { [`POST /api/ports/${PORT}/probe`]: () => empty, [`POST /api/ports/${PORT}/stop`]: () => empty }
    const { asked, part } = await page(empty, 'find', { answers })
    await press(part, 'Find the device')
    await part.find('form input').setValue('pt-104')
    await part.find('form').trigger('submit')
    await settle()
    HandFed.last.say('state', { ...empty, doing: 'probing' })
    await settle()
    await press(part, 'stop')
    expect(posted(asked)).toEqual([
      ['probe', { from: 0, to: 15 }],
      ['probe', { tag: 'PT-104' }],
      ['stop', undefined],
    ])
  })
  it('says what came, and the next three things to try', async () => {
    const probed = [0, 1].map((address) => ({ address, outcome: 'silence' as const, tries: 1, took_ms: 330, tag: '' }))
    const { part } = await page({ ...empty, doing: 'idle', probed, tryNext: ['First', 'Second', 'Third'] }, 'find')
    expect(part.findAll('[data-test="next-things"] li').map((l) => l.text())).toEqual(['First', 'Second', 'Third'])
    expect(part.findAll('[data-address]')).toHaveLength(2)
  })
  it('asks for the circuit of the loop whose tag is named', async () => {
    const { loop } = folderOf('pressure', {})
    const { asked, part } = await page(empty, 'find&tag=PT-104', {
      answers: {
        [`POST /api/ports/${PORT}/probe`]: () => empty,
        'GET /api/loops': () => ({ loops: [{ ...loop, tag: 'PT-104' }], total: 1, next: null }),
      },
    })
    await press(part, 'Find the device')
    expect(posted(asked)).toEqual([['probe', { from: 0, to: 15, loopId: loop.id }]])
  })
  it('is a technician’s work', async () => {
    const { part } = await page(read, 'find', { roles: ['reviewer'] })
    expect(textOf(part)).not.toContain('Find the device')
    expect(textOf(part)).toContain('Pressure transmitter PK 3')
  })
})

it('two variables of one unit are both shown, on a telephone too', async () => {
  vi.stubGlobal('innerWidth', 400)
  const degrees = [80.1, 27.3].map((value) => ({ unit: 'degC', value }))
  const { part } = await page({ ...read, live: { ...read.live!, variables: degrees } }, 'find')
  expect(part.find('figcaption').text()).toMatch(/80.10 °C.*27.30 °C/)
  expect(part.find('svg').text()).not.toContain('sent')
  expect(part.find('figcaption').text()).toContain('0 sent, 0 answered')
  vi.unstubAllGlobals()
})

describe('values', () => {
  it('are shown by group; the meter is held beside what the device believes', async () => {
    const { part } = await page(read, 'values')
    expect(textOf(part)).toContain('current is fixed')
    await part.find('.meter input').setValue('12.08')
    expect(textOf(part)).toContain('+0.080 mA apart')
    expect(part.find('[data-parameter="upperLimit"]').text()).toContain('1000 kPa')
    expect(part.find('[data-parameter="fillOfTheCell"]').text()).toContain('not read yet')
  })
  it('that move the current are written only after its cautions; what was not held stays', async () => {
    const { asked, part } = await page(read, 'values', {
      answers: {
        [`PUT /api/ports/${PORT}/values`]: () => [
          row({}),
          row({ parameter: 'damping', label: 'Damping', state: 'refused', says: 'The device refuses.' }),
        ],
      },
    })
    await part.find('[data-parameter="urv"] input').setValue('500')
    await part.find('[data-parameter="damping"] input').setValue('1,6')
    await part.find('[data-parameter="damping"] input').setValue('1.6')
    const submit = () => part.find('[data-test="write-bar"] [type=submit]').element as HTMLButtonElement
    expect(submit().disabled).toBe(true)
    for (const box of part.findAll('[data-test="write-bar"] input[type=checkbox]')) await box.setValue(true)
    expect(submit().disabled).toBe(false)
    await part.find('[data-test="write-bar"]').trigger('submit')
    await settle()
    expect(posted(asked, 'PUT')[0]![1]).toMatchObject({
      values: { urv: 500, damping: Math.fround(1.6) },
      cautions: ['manual', 'trips', 'area'],
    })
    expect(part.find('[data-test="write-bar"]').text()).toContain('1 value to write')
    expect(part.find('[data-test="write-bar"]').text()).toContain('The device refuses.')
    await press(part, 'Take all back')
    expect(part.find('[data-test="write-bar"]').exists()).toBe(false)
  })
  it('written together with a new unit are told in that, under the names of their groups', async () => {
    const { part } = await page(read, 'values')
    expect(part.findAll('h2').map((h) => h.text())).toEqual(['Names', 'Range and output', 'Sensor', 'Of this device'])
    useDeviceLink().put('unit', 'bar')
    await part.find('[data-parameter="urv"] input').setValue('5')
    expect(part.find('[data-test="write-bar"]').text()).toMatch(/600 kPa → 5 bar/)
    expect(part.find('[data-parameter="urv"]').text()).toContain('device holds 600 kPa')
    expect(part.find('[data-parameter="upperLimit"]').text()).toContain('1000 kPa')
  })
  it('that cannot be are refused where they are typed', async () => {
    const { part } = await page(read, 'values')
    await part.find('[data-parameter="urv"] input').setValue('abc')
    expect(part.find('[data-parameter="urv"]').text()).toContain('Not a number.')
    await part.find('[data-parameter="lowflowCutoffOfTheRoot"] input').setValue('30')
    expect(part.find('[data-parameter="lowflowCutoffOfTheRoot"]').text()).toContain('At most 25.')
    await part.find('[data-parameter="tag"] input').setValue('PT-105')
    await press(part, 'take back')
    expect((part.find('[data-parameter="tag"] input').element as HTMLInputElement).value).toBe('PT-104')
  })
  it('unknown after a write are read back first; a working memory is stored', async () => {
    const state: LinkState = {
      ...read,
      unstored: true,
      live: { ...read.live!, flags: ['configuration-changed', 'current-fixed'] },
      writes: [row({ state: 'unknown', says: 'No answer came.' })],
    }
    const { asked, part } = await page(state, 'values', {
      answers: { [`POST /api/ports/${PORT}/command`]: () => state },
    })
    expect(part.find('[data-test="unknown"]').text()).toContain('Value at 20 mA')
    expect(part.find('[data-test="unstored"]').exists()).toBe(true)
    for (const what of ['Read back now', 'Store it', 'Release the current', 'I have compared its changes'])
      await press(part, what)
    expect(posted(asked).map(([, body]) => body)).toEqual(
      ['read-again', 'store', 'release', 'seen'].map((what) => ({ do: what })),
    )
  })
  it('are read with their progress, and read on after a stop', async () => {
    const upload = { done: 4, of: 9, left_s: 12, now: 'Damping' }
    const answers = { [`POST /api/ports/${PORT}/upload`]: () => read, [`POST /api/ports/${PORT}/stop`]: () => read }
    const { asked, part } = await page({ ...read, doing: 'reading', upload }, 'values', { answers })
    expect(textOf(part)).toContain('4 of 9')
    expect(textOf(part)).toContain('about 12 s left')
    await press(part, 'stop')
    HandFed.last.say('state', read)
    await settle()
    await press(part, 'read')
    expect(posted(asked)).toEqual([
      ['stop', undefined],
      ['upload', { anew: false }],
    ])
  })
  it('of a device without a description are said to be the universal ones', async () => {
    const universal = { ...device, description: { id: 'universal', version: 1, name: 'Any device' } }
    const { part } = await page({ ...read, device: universal, says: 'The port is gone.', doing: 'lost' }, 'values')
    expect(part.find('[data-test="universal"]').exists()).toBe(true)
    expect(textOf(part)).toContain('The port is gone.')
  })
})

describe('comparing', () => {
  it('shows only what differs, digit by digit, and takes a value over', async () => {
    const { part } = await page(read, 'compare')
    expect(part.findAll('[data-differs]').map((r) => r.attributes('data-differs'))).toEqual([
      'urv',
      'lowflowCutoffOfTheRoot',
    ])
    const urv = part.find('[data-differs="urv"]')
    expect(urv.findAll('mark').map((m) => m.text())).toEqual(['00', '40'])
    await urv.find('button').trigger('click')
    expect(part.find('[data-test="write-bar"]').text()).toContain('640')
  })
  it('with the plan of its loop, in the unit that the device speaks', async () => {
    const folder = folderOf('pressure', demoEntries('pressure'))
    const { part } = await page(read, 'compare', {
      files: [],
      answers: {
        'GET /api/loops': () => ({ loops: [{ ...folder.loop, id: folder.loop.id }], total: 1, next: null }),
        'GET /api/loops/*': () => folder,
      },
    })
    await part.find('form').trigger('submit')
    await until(() => expect(part.findAll('[data-differs]').length).toBeGreaterThan(0))
    expect(textOf(part)).toContain('change the plan of')
  })
  it('says when all agrees, and when no loop is called so', async () => {
    const same = { ...file, values }
    const { part } = await page(read, 'compare', {
      files: [same],
      answers: { 'GET /api/loops': () => ({ loops: [], total: 0, next: null }) },
    })
    expect(textOf(part)).toContain('values agree, bit by bit')
    await part.find('form').trigger('submit')
    await settle()
    expect(part.find('[role=alert]').text()).toBe('No loop is called “PT-104”.')
  })
})

describe('files', () => {
  const pick = async (part: VueWrapper, text: string, marked: string) => {
    const input = part.find('input[type=file]')
    Object.defineProperty(input.element, 'files', { value: [new File([text], 'f.json')], configurable: true })
    await input.trigger('change')
    await until(() => expect(textOf(part)).toContain(marked))
  }
  it('save what was read, and load it without constants unless they are its own', async () => {
    const { asked, part } = await page(read, 'files', {
      answers: {
        [`PUT /api/ports/${PORT}/file`]: () => ({ ...file, id: '01890000-0000-7000-8000-000000000003', note: 'new' }),
      },
    })
    await part.find('form input').setValue('new')
    await part.find('form').trigger('submit')
    await settle()
    expect(posted(asked, 'PUT')[0]![1]).toMatchObject({ note: 'new' })
    await press(part, 'Load')
    expect(part.find('[data-test="load"]').text()).toContain('Left out as constants: Low-flow cut-off of the root')
    await part.find('[data-test="load"] input[type=checkbox]').setValue(true)
    expect(part.find('[data-test="load"]').text()).not.toContain('Left out')
    await press(part, 'Put these up to be written')
    expect(part.find('[data-test="write-bar"]').text()).toContain('2 values to write')
  })
  it('of another meter never bring its constants, also changed by hand', async () => {
    const { part } = await page(read, 'files', { files: [] })
    await pick(part, JSON.stringify({ ...file, serial: '3d11000001', characterization: [] }), 'saved of another device')
    expect(part.find('[data-test="load"] input[type=checkbox]').exists()).toBe(false)
    await press(part, 'Put these up to be written')
    expect(part.find('[data-test="write-bar"]').text()).toContain('640')
  })
  it.each([
    ['{', 'not JSON'],
    ['{"format":"calm-loop/device-file/2"}', 'a later version'],
    ['{"format":"other"}', 'no configuration of a device'],
  ])('%s is refused in words', async (text, says) => {
    const { part } = await page(read, 'files')
    await pick(part, text, says)
  })
})

describe('descriptions and what was said', () => {
  const head = { id: 'a', version: 2, name: 'pH transmitter', expandedType: 0x3d55, parameters: 3, origin: 'imported' }
  it('are listed, imported, and refused in words', async () => {
    const { part } = await page(read, 'descriptions', {
      answers: {
        'GET /api/device-descriptions': () => [head],
        'POST /api/device-descriptions': () => refusal(422, 'description-faulty', 'Slope is a figure without a unit.'),
      },
    })
    expect(textOf(part)).toContain('3d55')
    const input = part.find('input[type=file]')
    const give = async (text: string) => {
      Object.defineProperty(input.element, 'files', { value: [new File([text], 'd.json')], configurable: true })
      await input.trigger('change')
      await settle()
    }
    await give('{')
    await until(() => expect(textOf(part)).toContain('not JSON'))
    await give('{}')
    await until(() => expect(textOf(part)).toContain('no description'))
    await give(JSON.stringify(SHIPPED[0]))
    await until(() => expect(textOf(part)).toContain('a figure without a unit'))
  })
  it('the log is looked through', async () => {
    const entry = (seq: number, says: string) => ({ seq, at_ms: 1000 + seq, way: 'in', hex: 'ff06', says })
    const { part } = await page(read, 'log', {
      answers: {
        [`GET /api/ports/${PORT}/log`]: ({ path }) =>
          /after=[1-9]/.test(path) ? [] : [entry(1, 'answer 0'), entry(2, 'answer 15')],
      },
    })
    await until(() => expect(textOf(part)).toContain('answer 15'))
    await part.find('.head input').setValue('answer 15')
    expect(textOf(part)).toContain('1 of 2 kept')
  })
})

describe('its past', () => {
  const info = { rows: 1000, interval_s: 10, newest_s: 1_700_010_000, events: 1 }
  const none: DeviceHistory = {
    info: null,
    line: { byte_ms: 9.17, exchange_ms: 75 },
    unit: 'kPa',
    events: [],
    rows: [],
    missing: 0,
  }
  it('is looked at, with what a download comes to before it is begun', async () => {
    const { asked, part } = await page(read, 'past', {
      answers: {
        [`GET /api/ports/${PORT}/history`]: () => none,
        [`POST /api/ports/${PORT}/history`]: () => ({ ...none, info }),
        [`POST /api/ports/${PORT}/history/rows`]: () => read,
      },
    })
    await press(part, 'Look what it keeps')
    expect(textOf(part)).toContain('1 000 rows, one every 10 s')
    const [ago, hours] = part.findAll('.wish input')
    await ago!.setValue('2')
    await hours!.setValue('1')
    expect(part.find('[data-test="estimate"]').text()).toMatch(/^61 rows, 819 bytes, about 7\.8 s$/)
    await ago!.setValue('x')
    expect(part.find('[data-test="estimate"]').exists()).toBe(false)
    await ago!.setValue('2')
    await part.find('.wish').trigger('submit')
    await settle()
    expect(posted(asked).at(-1)).toEqual(['rows', { from_s: 1_700_002_800, hours: 1, every_s: 60 }])
  })
  it('is plotted with its events, its gaps left open, and what is missing is said', async () => {
    const rows = [0, 10, 20, 30, 40].map(
      (t, i) => [1_700_000_000 + t, i === 2 ? null : 100 + i] as [number, number | null],
    )
    const events = [{ t_s: 1_700_000_020, kind: 'alarm' as const, says: 'Sensor broken' }]
    const folder = folderOf('pressure', {})
    const reading = {
      takenAt: new Date(1_700_000_030_000).toISOString(),
      reads: { digital: { typed: '1.025 bar', value: 1.025, unit: 'bar' } },
    }
    const elsewhere = { ...reading, reads: { digital: { typed: '20 °C', value: 20, unit: 'degC' } } }
    const { part } = await page(read, 'past', {
      answers: {
        [`GET /api/ports/${PORT}/history`]: () => ({ ...none, info, rows, events, missing: 12 }),
        'GET /api/loops': () => ({ loops: [{ ...folder.loop, id: 'other', tag: 'PT-104' }], total: 1, next: null }),
        'GET /api/loops/*': () => ({ ...folder, checks: [{ id: 'c', readings: [reading, elsewhere] }] }),
      },
    })
    await until(() => expect(part.find('path.trace').exists()).toBe(true))
    await until(() => expect(part.findAll('circle.dot')).toHaveLength(1))
    expect(part.find('path.trace').attributes('d')!.match(/M/g)).toHaveLength(2)
    expect(textOf(part)).toContain('12 rows are missing still')
    expect(textOf(part)).toContain('Sensor broken')
    expect(part.find('a.csv').attributes('href')).toBe(`/api/ports/${PORT}/history.csv`)
  })
})

describe('a Modbus line', () => {
  const line: Port = { ...port, label: 'Bus', protocol: 'modbus' }
  const level = {
    name: 'Level',
    table: 'input' as const,
    address: 0,
    type: 'float32' as const,
    order: 'CDAB' as const,
    unit: 'm',
    scale: 1,
    readOnly: true,
  }
  const map = { unit: 1, rtu: { baud: 9600, parity: 'none' }, registers: [{ ...level, order: 'ABCD' }] }
  it('is scanned and diagnosed; the order of a value is found against what is known', async () => {
    const registers = registersFor(level, 2.4)
    const { asked, part } = await page(empty, 'line', {
      ports: [line],
      answers: {
        [`POST /api/ports/${PORT}/bus`]: () => ({
          lines: [{ unitId: 1, outcome: 'device', took_ms: 9, says: 'answers' }],
          diagnosis: ['Two devices share an address.'],
        }),
        [`POST /api/ports/${PORT}/registers`]: () => [
          { name: 'Level', number: 30_001, unit: 'm', value: -3.1e-7, registers, says: '' },
        ],
      },
    })
    await part.find('form').trigger('submit')
    await settle()
    expect(part.find('[data-test="bus"]').text()).toContain('Two devices share an address.')
    const input = part.find('input[type=file]')
    Object.defineProperty(input.element, 'files', {
      value: [new File([JSON.stringify(map)], 'm.json')],
      configurable: true,
    })
    await input.trigger('change')
    await until(() => expect(part.find('[data-register="Level"]').exists()).toBe(true))
    await press(part, 'Find its order')
    await part.find('[data-test="orders"] input').setValue('2.4')
    expect(part.find('[data-test="orders"]').text()).toContain('CDAB')
    await press(part, 'Take it')
    const bodies = posted(asked).filter(([what]) => what === 'registers')
    expect(bodies.at(-1)![1]).toMatchObject({ map: { registers: [{ order: 'CDAB' }] } })
  })
  it('writes a register with its cautions, and says where the device holds something else', async () => {
    const damping = { ...level, name: 'Damping', table: 'holding', unit: 's', readOnly: false, most: 100 }
    const held = { name: 'Damping', number: 40_001, unit: 's', value: 1, registers: [0, 0], says: '' }
    let says = 'the device holds something else'
    const { asked, part } = await page(empty, 'line', {
      ports: [line],
      answers: {
        [`POST /api/ports/${PORT}/registers`]: () => [held],
        [`PUT /api/ports/${PORT}/register`]: ({ body }) => ({
          ...held,
          value: (body as { value: number }).value,
          says,
        }),
      },
    })
    const file = new File([JSON.stringify({ ...map, registers: [damping] })], 'm.json')
    const input = part.find('input[type=file]')
    Object.defineProperty(input.element, 'files', { value: [file], configurable: true })
    await input.trigger('change')
    await until(() => expect(part.find('[data-register="Damping"]').exists()).toBe(true))
    await press(part, 'Change it')
    const form = () => part.find('[data-test="write-register"]')
    expect(form().text()).toContain('at most 100 s')
    await form().find('input').setValue('2.5')
    expect(form().find('button[type=submit]').attributes('disabled')).toBeDefined()
    for (const box of form().findAll('input[type=checkbox]')) await box.setValue(true)
    await form().trigger('submit')
    await until(() => expect(form().text()).toContain('the device holds something else'))
    says = 'held, read back'
    await form().trigger('submit')
    await until(() => expect(form().exists()).toBe(false))
    expect(part.find('[data-register="Damping"]').text()).toContain('2.5')
    const sent = asked.filter((a) => a.method === 'PUT').map((a) => a.body)
    expect(sent[0]).toMatchObject({ unit: 1, value: 2.5, cautions: ['manual', 'trips', 'area'] })
  })
  it('of an adapter is set up as the device has it', async () => {
    const { asked, part } = await page(empty, 'setup', {
      ports: [port],
      answers: { [`PUT /api/ports/${PORT}/setup`]: () => [{ ...port, protocol: 'modbus' }] },
    })
    await press(part, 'Modbus')
    await press(part, 'even')
    await part.find('form').trigger('submit')
    await settle()
    const setup = { protocol: 'modbus', baud: 9600, parity: 'even' }
    expect(asked.find((a) => a.path.endsWith('/setup'))?.body).toEqual(setup)
  })
})

describe('whose device it is', () => {
  const loop = { ...folderOf('pressure', {}).loop, tag: 'PT-104' }
  const tied = (simulated: boolean) => ({
    ...{ portId: PORT, port: 'Modem', serial: device.serial, address: 0, simulated },
    ...{ by: { id: 'p', name: 'Ailsa Fenn' }, at },
  })
  async function tying(answers: object) {
    const { part, asked } = await page(read, 'find', {
      files: [],
      answers: {
        'GET /api/loops': () => ({ loops: [loop], total: 1, next: null }),
        'GET /api/loops/*': () => ({ ...folderOf('pressure', {}), device: null }),
        ...answers,
      },
    })
    await until(() => expect(part.find('[data-test="tie"]').exists()).toBe(true))
    return { part, asked }
  }
  it('is said by its tag, and it is tied as it was seen', async () => {
    const { part, asked } = await tying({ 'PUT /api/loops/*/device': () => ({ device: tied(false) }) })
    await press(part, 'tie')
    const body = asked.find((a) => a.path.endsWith('/device'))?.body
    expect(body).toEqual({ device: { portId: PORT, serial: device.serial } })
    expect(textOf(part)).toContain('over this line, on record')
    await press(part, 'untie')
    expect(asked.at(-1)?.body).toEqual({ device: null })
  })
  it('is refused in words, when another is at hand by now', async () => {
    const says = 'Another device is at hand on this port now.'
    const { part } = await tying({ 'PUT /api/loops/*/device': () => refusal(409, 'other-device', says) })
    await press(part, 'tie')
    expect(textOf(part)).toContain(says)
  })
})
