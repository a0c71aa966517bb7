// The built page as it is served: compressed when it was built, kept by the browser where its name says what it holds.
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { brotliCompressSync, brotliDecompressSync, gunzipSync, gzipSync } from 'node:zlib'
import { expect, it } from 'vitest'
import { served } from './harness.ts'

const webRoot = mkdtempSync(join(tmpdir(), 'calm-loop-page-'))
mkdirSync(join(webRoot, 'assets'))
const CODE = 'console.log("calm")\n'.repeat(100)
const write = (name: string, text: string, kept = text) => {
  writeFileSync(join(webRoot, name), text)
  // Other than what would be made now, so that it is seen which was sent.
  writeFileSync(join(webRoot, `${name}.br`), brotliCompressSync(kept))
  writeFileSync(join(webRoot, `${name}.gz`), gzipSync(kept))
}
write('index.html', '<title>Calm Loop</title>')
write('assets/a-1.js', CODE, `/* when it was built */${CODE}`)
const { server } = await served({ empty: false, webRoot })

const get = (path: string, accept: string) =>
  new Promise<{ status: number; headers: Record<string, unknown>; body: Buffer }>((resolve, reject) => {
    const asked = request(server.base + path, { headers: { 'accept-encoding': accept } }, (said) => {
      const parts: Buffer[] = []
      said.on('data', (part: Buffer) => parts.push(part))
      said.on('end', () => resolve({ status: said.statusCode!, headers: said.headers, body: Buffer.concat(parts) }))
    })
    asked.on('error', reject)
    asked.end()
  })

it('sends what was compressed when it was built, in the best form that the browser reads', async () => {
  const best = await get('/assets/a-1.js', 'gzip, deflate, br')
  expect(best.headers).toMatchObject({
    'content-encoding': 'br',
    'cache-control': 'public, max-age=31536000, immutable',
  })
  expect(String(best.headers['content-type'])).toContain('javascript')
  expect(brotliDecompressSync(best.body).toString()).toContain('when it was built')
  const older = await get('/assets/a-1.js', 'gzip')
  expect(gunzipSync(older.body).toString()).toContain('when it was built')
  const plain = await get('/assets/a-1.js', 'identity')
  expect(plain.headers['content-encoding']).toBe(undefined)
  expect(plain.body.toString()).toBe(CODE)
})
it('sends the page itself for every place of it, asked about anew each time', async () => {
  for (const path of ['/', '/loops/anything/check']) {
    const { status, headers, body } = await get(path, 'identity')
    expect([status, headers['cache-control'], body.toString()]).toEqual([200, 'no-cache', '<title>Calm Loop</title>'])
  }
  expect((await get('/assets/../../package.json', 'identity')).body.toString()).toBe('<title>Calm Loop</title>')
})

it('keeps a connection open longer than the minute that a proxy keeps its own', async () => {
  const { headers } = await fetch(server.base)
  expect(Number(/timeout=(\d+)/.exec(headers.get('keep-alive') ?? '')?.[1])).toBeGreaterThan(60)
})
