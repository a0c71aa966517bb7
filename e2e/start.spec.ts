// The start command: two at once, what is left of an earlier one, and a server and a database that die under it.
import { spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { dataFolder, run, throwAway } from './run-server.ts'
import { expect, test } from './steps.ts'

const ROOT = join(import.meta.dirname, '..')
/** Starts it and gives all that it printed when it has ended or the words have come. */
function printed(folder: string, until: RegExp): Promise<{ text: string; end: () => void }> {
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: ROOT,
    env: { ...process.env, CALM_LOOP_DATA: folder, PORT: '0' },
  })
  let text = ''
  return new Promise((resolve) => {
    const look = () => until.test(text) && resolve({ text, end: () => void child.kill('SIGINT') })
    child.stdout.on('data', (more: Buffer) => ((text += String(more)), look()))
    child.stderr.on('data', (more: Buffer) => (text += String(more)))
    child.once('exit', () => resolve({ text, end: () => undefined }))
  })
}

test('two starts at once end in one application, over whatever an earlier one has left', async () => {
  const folder = dataFolder()
  writeFileSync(join(folder, 'running.json'), '{"pid": 1, "addr')
  const both = await Promise.all([printed(folder, /ready:\s+http\S+\s/), printed(folder, /ready:\s+http\S+\s/)])
  const texts = both
    .map((b) => b.text)
    .sort((a, b) => Number(/already running/.test(a)) - Number(/already running/.test(b)))
  const address = /ready:\s+(http\S+)/.exec(texts[0]!)![1]!
  expect(texts[1]).toContain(`already running from this clone: ${address}`)
  expect((await fetch(`${address}/readyz`)).status).toBe(200)
  both.forEach((b) => b.end())
  await expect
    .poll(() =>
      fetch(`${address}/healthz`).then(
        () => 'up',
        () => 'down',
      ),
    )
    .toBe('down')
  throwAway(folder)
})

test('a server or a database that dies is started again, and the page goes on', async () => {
  const folder = dataFolder()
  const app = await run(folder)
  try {
    const ready = () =>
      fetch(`${app.base}/readyz`).then(
        (r) => r.status,
        () => 0,
      )
    for (const victims of [['database'], ['server'], ['server', 'database']] as const) {
      const before = app.pids()
      for (const victim of victims) process.kill(before[victim], 'SIGKILL')
      await expect
        .poll(async () => victims.every((v) => app.pids()[v] !== before[v]) && (await ready()), { timeout: 30_000 })
        .toBe(200)
    }
    expect(app.printed()).toContain('PostgreSQL has ended by itself; starting it again')
    expect(app.printed()).toMatch(/The server ended by itself \(SIGKILL\)/)
  } finally {
    await app.stop()
    throwAway(folder)
  }
})
