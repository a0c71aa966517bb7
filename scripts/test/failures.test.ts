// What failed is said at the end of a run, by name.
import { describe, expect, it } from 'vitest'
import { failedJourneys, failedUnits } from '../lib/failures.mjs'

describe('what failed', () => {
  it('names a test with the first words of its reason, and a file that could not be read', () => {
    const test = (status: string, fullName: string) => ({ status, fullName, failureMessages: ['a\nb\nc\nd\ne'] })
    const report = {
      testResults: [
        {
          name: '/x/packages/a.test.ts',
          status: 'failed',
          assertionResults: [test('failed', 'one'), test('passed', 'two')],
        },
        { name: '/x/b.test.ts', status: 'failed', message: 'out of memory', assertionResults: [] },
        { name: '/x/c.test.ts', status: 'passed', assertionResults: [test('passed', 'three')] },
      ],
    }
    expect(failedUnits(report, '/x')).toEqual([
      'packages/a.test.ts › one\n  a\n  b\n  c\n  d',
      'b.test.ts\n  out of memory',
    ])
  })
  it('names a journey wherever it stands, and says nothing of what was never run', () => {
    const spec = (title: string, status: string) => ({
      title,
      file: 'x.spec.ts',
      tests: [
        { projectName: 'desk', status, results: [{ error: { message: 'first' } }, { error: { message: 'last' } }] },
      ],
    })
    const report = { suites: [{ specs: [spec('good', 'expected')], suites: [{ specs: [spec('bad', 'unexpected')] }] }] }
    expect(failedJourneys(report)).toEqual(['[desk] x.spec.ts › bad\n  last'])
    expect([...failedUnits(undefined, '/'), ...failedJourneys(undefined)]).toEqual([])
  })
})
