// What can be wrong with a level by pressure.
import type { Finding } from '../../findings/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import type { Reader } from '../reader.ts'
import { vesselFindings } from '../vessel/index.ts'
import type { Known } from './known.ts'

/** What stands in the way of believing the pressure, whatever the range. */
function standingFindings(r: Reader, known: Known): Finding[] {
  const found = vesselFindings(known.vessel)
  if (r.text('arrangement') === 'submersible' && r.text('vent') === 'closed')
    found.push({
      code: 'vent-closed',
      grade: 'look',
      fields: ['vent'],
      what: 'The vent tube of the submersible is closed, wet or not led out.',
      why:
        `The weather is measured too: a change of ${show(30, 'mbar', { trim: true })} is ` +
        `${show(300, 'mm', { trim: true })} of water.`,
      sure: 'Certain, as entered.',
      action: 'Lead it to a dry box open to the air, with fresh desiccant.',
    })
  const leg = r.text('arrangement') === 'wet-leg' ? r.in('legHeight', 'mm') : undefined
  const [below, highest] = [r.in('belowTap', 'mm'), r.in('fullHeight', 'mm')]
  if (leg !== undefined && below !== undefined && highest !== undefined && leg - below < highest - 1e-6)
    found.push({
      code: 'leg-below-full',
      grade: 'look',
      fields: ['legHeight', 'belowTap', 'fullHeight'],
      what:
        `The leg ends ${show(leg - below, 'mm', { trim: true })} above the lower tap, full lies at ` +
        `${show(highest, 'mm', { trim: true })}.`,
      why: 'The liquid reaches the upper tap before the vessel is full: it floods the leg, and the reading stands.',
      sure: 'Certain, if the heights are right.',
      action: `A leg of ${show(highest + below, 'mm', { trim: true })} or more above the transmitter, or a lower full.`,
    })
  const { fullAbove: full, depth } = known
  if (full !== undefined && depth !== undefined && full > depth + 1e-6)
    found.push({
      code: 'full-above-overflow',
      grade: 'stop',
      fields: ['fullHeight', 'tankDepth', 'tapAbove'],
      what: `100 % lies ${show(full - depth, 'mm', { trim: true })} above the vessel’s top.`,
      why: 'The vessel overflows before it reads full.',
      sure: 'Certain, if the heights are right.',
      action: `Full is at most ${show(depth - (r.in('tapAbove', 'mm') ?? 0), 'mm', { trim: true })} above the tap.`,
    })
  return found
}

export function findingsOf(r: Reader, known: Known): Finding[] {
  const { range, refused, dpUnit: pu } = known
  const n = (v: number) => show(v, pu, { trim: true })
  const found: Finding[] = standingFindings(r, known)
  if (refused)
    found.push({
      code: refused.code,
      grade: 'stop',
      fields: ['emptyHeight', 'fullHeight', 'sg'],
      what: refused.message,
      why: 'No range follows from these figures.',
      sure: 'Certain.',
      action: 'Correct the heights or the specific gravity.',
    })
  const [lrv, urv] = [r.in('lrv', pu), r.in('urv', pu)]
  if (range) {
    const [low, high] = [range.lrv_mmH2O, range.urv_mmH2O].map((v) => convertUnit(v, 'mmH2O', pu)) as [number, number]
    if (
      lrv !== undefined &&
      urv !== undefined &&
      Math.max(Math.abs(lrv - low), Math.abs(urv - high)) > 0.001 * Math.abs(high - low)
    )
      found.push({
        code: 'range-not-as-computed',
        grade: 'look',
        fields: ['lrv', 'urv'],
        what:
          `The range is ${n(lrv)} to ${n(urv)}; the vessel makes ${show(low, pu, { decimals: 1 })} to ` +
          `${show(high, pu, { decimals: 1 })}.`,
        why:
          `At empty the loop would read ${(((low - lrv) / (urv - lrv)) * 100).toFixed(1)} %, at full ` +
          `${(((high - lrv) / (urv - lrv)) * 100).toFixed(1)} %.`,
        sure: 'Certain, if vessel and fill are as entered.',
        action: 'Range the transmitter as computed: under Range, Re-range.',
      })
    const [sl, sh] = [r.in('sensorLow', pu), r.in('sensorHigh', pu)]
    if (sl !== undefined && sh !== undefined && (Math.min(low, high) < sl || Math.max(low, high) > sh))
      found.push({
        code: 'range-beyond-sensor',
        grade: 'stop',
        fields: ['sensorLow', 'sensorHigh'],
        what:
          `Empty and full make ${show(low, pu, { decimals: 1 })} and ${show(high, pu, { decimals: 1 })}, beyond ` +
          `the cell’s ${n(sl)} to ${n(sh)}.`,
        why: 'The current would stand while the level goes on.',
        sure: 'Certain, if the nameplate was copied right.',
        action: 'Take another cell, or mount it elsewhere.',
      })
  }
  return found
}
