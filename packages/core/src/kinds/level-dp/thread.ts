// The thread of a level by pressure: the level, the pressure that it makes, what the transmitter reports of it.
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { sure } from '../../sure/index.ts'
import { straightStage, type Knot, type Stage, type Thread } from '../../thread/index.ts'
import type { Reader } from '../reader.ts'
import { currentTail, stageOr } from '../two-wire/index.ts'
import { shownTail } from '../vessel/index.ts'
import type { Known } from './known.ts'

export function threadOf(r: Reader, known: Known): Thread {
  const { range, levelUnit: lu, dpUnit: pu } = known
  const needs = range ? [] : known.refused ? ['a vessel that makes a span'] : known.needs
  const level: Knot = {
    id: 'level',
    role: 'process',
    name: 'Level',
    explains: 'Liquid above the 0 % level.',
    quantity: 'length',
    unit: lu,
    decimals: lu === 'm' ? 3 : 0,
  }
  const dp: Knot = {
    id: 'dp',
    role: 'sensor',
    name: 'Differential pressure',
    explains: 'High side less low side, at the cell.',
    quantity: 'pressure',
    unit: pu,
    decimals: 1,
  }
  const digital: Knot = {
    ...dp,
    id: 'digital',
    role: 'digital',
    name: 'Reported pressure',
    explains: 'The transmitter’s own digital value.',
  }
  const head = ['density other than entered', 'wet leg not full, or boiled away', 'impulse line blocked']
  const cell = ['zero shifted by mounting', 'sensor trim off', 'manifold’s equalizing valve not tight']
  const stages: Stage[] = [
    stageOr('Hydrostatics', head, needs, () => {
      const [low, high] = [sure(range).lrv_mmH2O, sure(range).urv_mmH2O].map((v) => convertUnit(v, 'mmH2O', pu)) as [
        number,
        number,
      ]
      const full = convertUnit(sure(r.in('fullHeight', 'mm')) - sure(r.in('emptyHeight', 'mm')), 'mm', lu)
      return straightStage({
        title: 'Hydrostatics',
        causes: head,
        from: [0, full],
        to: [low, high],
        working: (v) => ({
          title: 'Differential pressure',
          formula: 'Δp = sg · h + what presses at none',
          numbers:
            `${show(low, pu)} + ${show(v, lu, { trim: true })} / ${show(full, lu, { trim: true })} × ` +
            `${show(high - low, pu)} = ${show(low + (v / full) * (high - low), pu)}`,
          source: 'Hydrostatics: 1 mm of liquid of specific gravity 1 is 1 mmH₂O',
        }),
      })
    }),
    straightStage({
      title: 'Sensor',
      causes: cell,
      from: [0, 1],
      to: [0, 1],
      working: (v) => ({
        title: 'Reported pressure',
        formula: 'reported = measured',
        numbers: `${show(v, pu)} = ${show(v, pu)}`,
        source: 'A sensor without error reports what is there',
      }),
    }),
  ]
  const tail = shownTail(r, currentTail(r, digital, { shows: { quantity: 'length', unit: lu } }), {
    vessel: known.vessel,
    needs: [...known.shapeNeeds, ...r.missing('emptyHeight')],
    zero_mm: known.zeroAbove ?? 0,
  })
  return { knots: [level, dp, digital, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}
