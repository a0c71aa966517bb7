import { scanner, settled, measured } from './scan.ts'
import { beginCheck, completeLoop, connectBench, expect, onRecord, openLoop, signInAs, stage, test } from './steps.ts'

const WORKS = ['Before power', 'Meter', 'Explain', 'Terminals']
const STAGES = ['identify', 'wire', 'point', 'range', 'switch-point', 'check', 'hand-over']
/** Views of discrete points: tag, stage, and the works of that stage. */
const SWITCHED: readonly (readonly [string, string, readonly string[]])[] = [
  ['ZS-504', 'wire', ['Sensor and input', 'Make it work', 'Before power', 'Meter', 'Terminals']],
  ['ZS-501', 'switch-point', []],
  ['ZS-501', 'hand-over', []],
  ['ZS-502', 'count', ['Name and live', 'Cycles and OEE', 'Stops', 'Log of edges']],
]

test('every view is free of serious accessibility findings, in both themes @both', async ({ page, home }, info) => {
  // Some forty scans: time enough on a slow machine too.
  test.slow()
  const { found, scan } = scanner(page, info.project.name === 'desk' ? undefined : [])
  await page.goto(home)
  await expect(page.getByRole('heading', { name: 'Calm Loop' })).toBeVisible()
  await scan('sign in')
  await page.goto(`${home}/verify?is=${'a'.repeat(64)}`)
  await expect(page.getByTestId('stands')).toBeVisible()
  await scan('verify')
  await signInAs(page, home, 'Rona Teague')
  await scan('loops')
  await page.goto(`${home}/people`)
  await page.getByRole('button', { name: 'Change Magnus Orrin' }).click()
  await scan('people')
  await page.goto(`${home}/kit?do=electrodes`)
  await page.locator('[data-electrode="G-4590"]').click()
  await page.getByTestId('calibrate').click()
  await scan('electrodes, calibrated')
  await page.goto(`${home}/audit`)
  await expect(page.getByTestId('chain')).toBeVisible()
  await scan('audit')
  await page.getByTestId('coverage').click()
  await expect(page.getByRole('heading', { name: 'What waits on this device' })).toBeVisible()
  await scan('what waits')
  await page.getByRole('button', { name: 'Close' }).click()
  await page.goto(home)
  await openLoop(page, 'LT-112')
  for (const id of STAGES) {
    await stage(page, id)
    await expect(page.locator(`[data-stage="${id}"]`)).toHaveAttribute('aria-current', 'step')
    await scan(`LT-112 ${id}`)
  }
  await page.goto(home)
  await openLoop(page, 'TT-405')
  await stage(page, 'point')
  await scan('TT-405 point')
  await page.goto(home)
  await openLoop(page, 'LT-133')
  for (const id of ['wire', 'range']) {
    await stage(page, id)
    await scan(`LT-133 ${id}, half entered`)
  }
  await page.goto(`${home}/link`)
  await page.locator('[data-port="Level stand-in"]').click()
  await page.getByRole('button', { name: 'Find the device' }).click()
  await expect(page.locator('.identity')).toBeVisible()
  await scan('link, found')
  await page.getByRole('tab', { name: 'Values' }).click()
  await page.getByTestId('read').click()
  await page.locator('[data-parameter="urv"] input').fill('5')
  await scan('link, to be written')
  for (const place of [
    'link',
    'kit',
    'weeks',
    'shift',
    'settings',
    'people',
    'guide',
    'interface',
    'loops/new',
    'nowhere',
  ]) {
    await page.goto(`${home}/${place}`)
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
    await scan(place)
  }
  await page.goto(`${home}/kit`)
  await page.getByRole('link', { name: 'Dip gauge D2' }).click()
  await expect(page.getByTestId('since')).toBeVisible()
  await page.getByRole('button', { name: 'Add a calibration' }).click()
  await expect(page.getByRole('form', { name: 'New calibration' })).toBeVisible()
  await scan('a piece of kit')
  await page.goto(home)
  await completeLoop(page, info.project.name === 'desk' ? 'LT-641' : 'LT-642')
  await beginCheck(page)
  await scan('taking readings')
  // Somewhere outside of every entry and link.
  await page.locator('[data-test="point"]').click()
  await page.keyboard.press('?')
  await expect(page.getByRole('heading', { name: 'Keys of this page' })).toBeVisible()
  await scan('keys')
  expect(found).toEqual([])
})

for (const work of WORKS)
  test(`${work}, work at the wiring desk, is free of serious accessibility findings, in both themes`, async ({
    page,
    home,
  }) => {
    const { found, scan } = scanner(page)
    await signInAs(page, home, 'Rona Teague')
    await openLoop(page, 'FT-214')
    await stage(page, 'wire')
    await expect(page.locator('.canvas[data-ready=yes]')).toBeVisible()
    await page.getByRole('tab', { name: new RegExp(`^${work}`) }).click()
    await scan(`FT-214 wire, ${work}`)
    expect(found).toEqual([])
  })

test('nothing runs off the page, and what is touched is large enough @both', async ({ page, home }) => {
  await signInAs(page, home, 'Rona Teague')
  await openLoop(page, 'LT-112')
  for (const id of [...STAGES, ...WORKS]) {
    if (WORKS.includes(id)) {
      if (id === WORKS[0]) await stage(page, 'wire')
      await page.getByRole('tab', { name: new RegExp(`^${id}`) }).click()
    } else await stage(page, id)
    await settled(page)
    const { wide, small } = await measured(page)
    expect(wide, id).toBeLessThanOrEqual(0)
    expect(small, id).toEqual([])
  }
})

const RANGE_WORKS = ['Both ends', 'Convert', 'Table', 'Re-range']
const TRIM_WORKS = ['As found', 'Guided work', 'As left', 'Bench']
test('the work at Range and Trim is accessible in both themes, fits its page, and is large enough @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  const { found, scan } = scanner(page)
  const look = async (view: string) => {
    await settled(page)
    const { wide, small } = await measured(page)
    expect(wide, view).toBeLessThanOrEqual(0)
    expect(small, view).toEqual([])
    if (info.project.name === 'desk') await scan(view)
  }
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'PDT-118')
  for (const [id, works] of [
    ['range', RANGE_WORKS],
    ['trim', TRIM_WORKS],
  ] as const) {
    await stage(page, id)
    for (const work of works) {
      await page.getByRole('tab', { name: work }).click()
      await look(work)
    }
  }
  await page.goto(`${home}/loops`)
  await openLoop(page, 'LT-208')
  await connectBench(page)
  await stage(page, 'point')
  await look('LT-208 point')
  await stage(page, 'trim')
  // The bench may need a moment before it shows a figure that can be taken.
  await expect(async () => {
    await page.getByTestId('take-point').click()
    await expect(page.locator('[data-points="as-found"] tbody tr').first()).toBeVisible({ timeout: 1500 })
  }).toPass()
  await page.getByRole('tab', { name: 'Guided work' }).click()
  const begin = page.locator('[data-procedure="zero-trim"]')
  await begin.or(page.locator('[data-run]')).first().waitFor()
  if (await begin.isVisible()) {
    await begin.click()
    await look('what can be begun')
    await page.getByTestId('begin-run').click()
    for (const id of ['told', 'manual', 'trips', 'as-found', 'warning']) {
      const gate = page.locator(`[data-gate="${id}"]`)
      await gate.waitFor()
      const words = gate.locator('input')
      if (await words.count()) await words.fill('none fed')
      await page.getByTestId('pass-gate').click()
    }
    await page.locator('[data-gate="out-1-low"]').waitFor()
    await look('manifold')
    for (const id of ['low', 'equalize', 'high', 'vent-high', 'vent-low']) {
      await expect(page.locator('.valve.wanted')).toHaveAttribute('data-valve', id)
      await page.locator(`[data-valve="${id}"]`).click()
    }
    await page.locator('[data-gate="off-process"]').waitFor()
    await page.getByTestId('pass-gate').click()
  }
  await page.locator('[data-gate="stable"]').waitFor()
  await look('trend')
  await page.getByTestId('cancel').click()
  await look('before cancelling')
  expect(found).toEqual([])
})

test('the keyboard alone finds a tag, walks the run sheet and moves the thread', async ({ page, home }) => {
  await signInAs(page, home, 'Ailsa Fenn')
  await page.keyboard.press('/')
  await page.keyboard.type('TT-4')
  await expect(page.getByRole('option', { name: 'TT-405' })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('TT-405')
  await page.locator('[data-stage="point"]').focus()
  await page.keyboard.press('ArrowDown')
  await expect(page.locator('[data-stage="range"]')).toHaveAttribute('aria-current', 'step')
  const current = page.locator('[data-knot="current"] input')
  await current.fill('12')
  await current.press('ArrowUp')
  await expect(current).toHaveValue('12.160')
  await expect(page.locator('[data-knot="temperature"] input')).toHaveValue('76.5')
})

test('no request leaves the origin', async ({ page, home }) => {
  const elsewhere: string[] = []
  page.on('request', (r) => {
    if (!r.url().startsWith(home) && !r.url().startsWith('data:') && !r.url().startsWith('blob:'))
      elsewhere.push(r.url())
  })
  await signInAs(page, home, 'Ailsa Fenn')
  await openLoop(page, 'LT-112')
  for (const id of STAGES) await stage(page, id)
  await page.waitForLoadState('load')
  expect(elsewhere).toEqual([])
})

test('every view of a discrete point is accessible in both themes, fits its page, and is large enough @both', async ({
  page,
  home,
}, info) => {
  test.slow()
  const { found, scan } = scanner(page)
  const look = async (view: string) => {
    const { wide, small } = await measured(page)
    expect(wide, view).toBeLessThanOrEqual(0)
    expect(small, view).toEqual([])
    // Names, roles and contrast do not hang on the width: scanned once.
    if (info.project.name === 'desk') await scan(view)
  }
  await signInAs(page, home, 'Rona Teague')
  for (const [tag, id, works] of SWITCHED) {
    await page.goto(`${home}/loops`)
    await openLoop(page, tag)
    // The other device may have left it at the bench.
    await onRecord(page)
    await stage(page, id)
    await expect(page.locator(`[data-stage="${id}"]`)).toHaveAttribute('aria-current', 'step')
    if (!works.length) await look(`${tag} ${id}`)
    for (const work of works) {
      await page.getByRole('tab', { name: new RegExp(`^${work}`) }).click()
      if (work === 'Cycles and OEE') await page.getByRole('button', { name: '20 Nov 2026, Late' }).click()
      await look(`${tag} ${id}, ${work}`)
    }
  }
  await page.goto(`${home}/watch`)
  const all = page.getByTestId('connect-all')
  await expect(page.getByTestId('watch-bench')).toContainText('benches are connected')
  if (await all.isVisible()) await all.click()
  await expect(page.locator('.lamp[data-on="1"]').first()).toBeVisible()
  await look('watch')
  if (info.project.name === 'tablet') return expect(found).toEqual([])
  // A check taken from a number pad alone.
  await page.goto(`${home}/loops`)
  await openLoop(page, 'ZS-501')
  await stage(page, 'check')
  await page.getByRole('button', { name: 'once' }).click()
  await page.getByLabel('Who in operations was told').fill('Bree')
  await page.getByRole('button', { name: 'Confirm machine safe and begin' }).click()
  await expect(page.locator('[data-test="point"]')).toBeVisible()
  await look('taking states')
  // Somewhere outside of every entry and link.
  await page.locator('[data-test="point"]').click()
  for (const key of ['1', '1', '1']) await page.keyboard.press(key)
  await page.locator('[data-entry="distance"] input').fill('7.9')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-point="0"]')).toContainText('as expected, saved')
  expect(found).toEqual([])
})

/** Works at the points of flow. */
const FLOWS: readonly (readonly [string, readonly string[]])[] = [
  [
    'FT-101',
    [
      'Pipe and fluid',
      'Pair and spacing',
      'Place',
      'Doubt',
      'Mount',
      'Start',
      'Zero',
      'Set up and read back',
      'Survey',
    ],
  ],
  ['FT-210', ['Sensor and constants', 'Units, pulses, display', 'Totals', 'Lost memory', 'Health', 'Density']],
  ['FT-310', ['Mounting and gas', 'Certificate and baseline', 'Verify in its place']],
  ['FT-402', ['Plate and fluid', 'Zero']],
]

for (const [tag, works] of FLOWS)
  test(
    `${tag}: every work at its point is accessible in both themes, fits its ` + 'page, and is large enough @both',
    async ({ page, home }, info) => {
      test.slow()
      const { found, scan } = scanner(page)
      await signInAs(page, home, 'Rona Teague')
      await openLoop(page, tag)
      await stage(page, 'point')
      for (const work of works) {
        await page.getByRole('tab', { name: new RegExp(`^${work}`) }).click()
        await settled(page)
        const { wide, small } = await measured(page)
        expect(wide, work).toBeLessThanOrEqual(0)
        expect(small, work).toEqual([])
        if (info.project.name === 'desk') await scan(work)
      }
      expect(found).toEqual([])
    },
  )
