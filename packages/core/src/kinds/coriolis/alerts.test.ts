// Alerts of a Coriolis meter: records name them by id, so none of those may ever go.
import { describe, expect, it } from 'vitest'
import { ALERTS, ALERTS_OF_LOST_MEMORY } from './alerts.ts'

/** On records already; a new one is added at its end. */
const ON_RECORD =
  'memory-lost not-characterized electronics not-driven drive-high two-phase density-out flow-out temperature ' +
  'zero-failed zeroing warming health-failed saturated pulses-saturated fixed simulation supply-low reversed ' +
  'write-protected restarted total-rolled'

describe('alerts', () => {
  it('keep their ids, each once', () => expect(ALERTS.map((a) => a.id)).toEqual(ON_RECORD.split(' ')))
  it.each(ALERTS)('of “$name” say what it means and what to do', ({ means, act }) => {
    expect(means).toMatch(/\.$/)
    expect(act).toMatch(/\.$/)
  })
  it('of a lost memory do not stop the work that mends it; the others do as ever', () => {
    const stops = (list: typeof ALERTS) => list.filter((a) => a.grade === 'stop').map((a) => a.id)
    expect(stops(ALERTS).filter((id) => !stops(ALERTS_OF_LOST_MEMORY).includes(id))).toEqual([
      'memory-lost',
      'not-characterized',
    ])
  })
})
