import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

const ROOT = join(import.meta.dirname, '..', '..')
const filesOf = (...folders: string[]) =>
  folders
    .flatMap((folder) =>
      readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' }).map((f) => join(folder, f)),
    )
    .filter((f) => /\.(ts|vue)$/.test(f) && !/\.(test|fixture)\.ts$/.test(f))
const textOf = (file: string) => readFileSync(join(ROOT, file), 'utf8')

/** A current reckoned from a share of a range, as only the thread should. */
const SCALES = /4 \+\s+\(?\(?(16|0\.16)\s+\*|4 \+\s+0\.16\s+\*/
const ALLOWED: Readonly<Record<string, string>> = {
  'packages/contract/src/judge-check.ts': 'the rule of release 0.1, by which its checks are judged for good',
  'apps/web/src/range/ReRange.vue': 'a range that is not on record yet',
  'apps/web/src/trim/gate.ts': 'a share of the window of a trend, in mA',
}

it('nobody but the thread works out what a current should be', () => {
  const files = filesOf('packages/contract/src', 'packages/drawing/src', 'apps/server/src', 'apps/web/src')
  const found = files.filter((f) => SCALES.test(textOf(f)))
  expect(files.length).toBeGreaterThan(150)
  expect(found.sort()).toEqual(Object.keys(ALLOWED).sort())
})

it('the core remembers nothing between two calls', () => {
  const files = filesOf('packages/core/src')
  const remembering = files.filter((f) => /^(export )?let /m.test(textOf(f)) || /new Weak(Map|Set|Ref)/.test(textOf(f)))
  expect(files.length).toBeGreaterThan(150)
  // A scope that is put back at once (decision 0030).
  expect(remembering).toEqual(['packages/core/src/quantity/spoken.ts'])
  // A table filled where it stands is data; one that a function fills later is memory.
  const filled = files.flatMap((f) => {
    const tables = [...textOf(f).matchAll(/^(?:export )?const (\w+)[^=\n]*= new (?:Map|Set)/gm)].map((m) => m[1]!)
    return tables
      .filter((name) => new RegExp(`^    +(?:\\w+ )*${name}\\.(set|add|delete|clear)\\(`, 'm').test(textOf(f)))
      .map((name) => `${f} ${name}`)
  })
  expect(filled).toEqual([])
})
