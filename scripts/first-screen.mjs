// How much compressed script the round needs before it is seen, from the application as built; fails above what is
// allowed.
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { ROOT } from './lib/install.mjs'

const MOST_kB = 240
const dist = join(ROOT, 'apps', 'web', 'dist')
const assets = readdirSync(join(dist, 'assets'))
const IMPORTS = /(?:from|import)\s*"\.\/([^"]+\.js)"/g

/** Size of each script that is loaded with those named, in kB. */
function withImports(files) {
  const sizes = new Map()
  const load = (file) => {
    if (sizes.has(file)) return
    const text = readFileSync(join(dist, 'assets', file), 'utf8')
    sizes.set(file, gzipSync(text).length / 1000)
    for (const [, imported] of text.matchAll(IMPORTS)) load(imported)
  }
  files.forEach(load)
  return sizes
}

const html = readFileSync(join(dist, 'index.html'), 'utf8')
const entries = [...html.matchAll(/assets\/([^"]+\.js)"/g)].map((m) => m[1])
const first = assets.find((f) => /^RoundPlace-.*\.js$/.test(f))
if (!entries.length || !first) throw new Error('The built application has no entry or no round: has it another shape?')
const sizes = withImports([...entries, first])
const sum = [...sizes.values()].reduce((a, b) => a + b, 0)
for (const [file, kB] of [...sizes].sort((a, b) => b[1] - a[1]).slice(0, 6))
  console.log(`${kB.toFixed(1).padStart(7)} kB  ${file}`)
console.log(`${sum.toFixed(1)} kB of compressed script for the first screen; at most ${MOST_kB}`)
process.exitCode = sum > MOST_kB ? 1 : 0
