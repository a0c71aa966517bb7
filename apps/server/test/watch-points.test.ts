import { kindOf } from '@calm-loop/core/kinds'
import { describe, expect, it } from 'vitest'
import { demoEntries } from '../../../packages/core/src/kinds/demo-entries.fixture.ts'
import { pointOf, type Pair } from '../src/services/watch-points.ts'

const row = (entries: Pair['entries']): Pair => ({
  id: '01a20000-0000-7000-8000-000000000001',
  tag: 'ZS-1',
  service: 'Gate closed',
  kind: 'discrete-sensor',
  entries,
})

describe('a discrete point as one of many', () => {
  it('without entries says what is still to be entered, and names its states itself', () => {
    expect(pointOf(row(null))).toMatchObject({
      tag: 'ZS-1',
      name: '',
      meansTrue: 'true',
      meansFalse: 'false',
      says: 'sensor and input are not entered yet',
    })
  })
  it('is named and means what was entered', () => {
    const means = { pointName: 'GATE_CLOSED', meansTrue: 'gate closed', meansFalse: 'gate open' }
    const typed = Object.fromEntries(Object.entries(means).map(([key, words]) => [key, { typed: words }]))
    expect(pointOf(row({ ...demoEntries('discrete-sensor'), ...typed }))).toMatchObject({
      name: 'GATE_CLOSED',
      meansTrue: 'gate closed',
      meansFalse: 'gate open',
      says: '',
    })
  })
  it('of which half is entered is still one of them, whatever the half is', () => {
    const whole = demoEntries('discrete-sensor')
    for (const key of Object.keys(whole)) {
      const { [key]: _, ...half } = whole
      const point = pointOf(row(half))
      expect(['', 'sensor and input are not entered yet'], key).toContain(point.says)
      expect(point.meansTrue, key).not.toBe('')
    }
    for (const { key } of kindOf('discrete-sensor').fields)
      expect(pointOf(row({ ...whole, [key]: { typed: 'nonsense' } })).tag, key).toBe('ZS-1')
  })
})
