// A kind of point: level by the pressure of the liquid, whose zero the mounting and the leg suppress or elevate.
import { convertUnit } from '../../quantity/index.ts'
import { PLAIN, type CurrentKind, type MovableProcess } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { fields } from './fields.ts'
import { figuresOf } from './figures.ts'
import { findingsOf } from './findings.ts'
import { knownOf } from './known.ts'
import { threadOf } from './thread.ts'

export { dpLevelOf, gaugeAt, type Hydrostatics } from './hydrostatics.ts'

/** Zero suppressed (the range begins above none) or elevated (below), in words. */
export const zeroWords = (low: number, words: (v: number) => string): string =>
  Math.abs(low) < 1e-9
    ? 'The range begins at no pressure.'
    : low > 0
      ? `Zero suppressed by ${words(low)}: at empty the line already presses on the high side.`
      : `Zero elevated by ${words(-low)}: at empty the leg outweighs the high side.`

/** How the vessel’s level moves on the bench. */
function processOf(r: Reader, unit: string): MovableProcess | undefined {
  const [empty, full] = [r.in('emptyHeight', unit), r.in('fullHeight', unit)]
  if (empty === undefined || full === undefined || full <= empty) return undefined
  const span = full - empty
  return { lowest: -span * 0.02, highest: span * 1.02, ratePerSecond: span / 12, scatter: span * 0.003 }
}

export const levelDp: CurrentKind = {
  id: 'level-dp',
  name: 'Level by pressure',
  listed: ['level dp', 'dp level', 'hydrostatic', 'level by pressure', 'submersible'],
  summary:
    'Hydrostatic or differential pressure at a vessel: open, submersible, dry or wet leg, remote seals; its zero ' +
    'is suppressed or elevated; 4–20 mA.',
  family: 'current',
  fields,
  has: PLAIN,
  look(r) {
    const known = knownOf(r)
    const { range, levelUnit, dpUnit } = known
    return {
      thread: threadOf(r, known),
      figures: figuresOf(r, known),
      findings: findingsOf(r, known),
      rangeUnit: dpUnit,
      shownUnit: levelUnit,
      tripUnit: levelUnit,
      procedures: ['zero-trim', 'sensor-trim'],
      sensorLimits: (unit) => ({ low: r.in('sensorLow', unit), high: r.in('sensorHigh', unit) }),
      rangeFromMounting: (unit) =>
        range && {
          low: convertUnit(range.lrv_mmH2O, 'mmH2O', unit),
          high: convertUnit(range.urv_mmH2O, 'mmH2O', unit),
        },
      process: () => processOf(r, levelUnit),
    }
  },
  check: {
    works: ['loop-check', 'pressure'],
    trueInput: 'True level reached',
    reference: 'pressure calibrator at the manifold',
    process: 'Vessel level',
    cautions: [
      'Tell operations and put the loop in manual: a moving level drives pumps and trips.',
      'A wet leg is a measure, not a line: never drain it; opened the wrong way it is lost. Hot or corrosive ' +
        'contents: nothing is opened without the site’s permit.',
    ],
  },
}
