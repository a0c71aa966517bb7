// What is read of an electrode in its buffers, and what the readings say together.
import {
  bufferPh,
  idealSlope_mV,
  onePointCalibration,
  phCalibration,
  recogniseBuffer,
  type PhPoint,
} from '../analysis/index.ts'
import { attempt, Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'
import { refuse } from './refuse.ts'
import type { RunState } from './state.ts'
import type { Step } from './step.ts'

type Values = Readonly<Record<string, number>>

/** Among the values: which of the chosen buffers a reading was recognised as. */
export const whichKey = (gives: string): string => `${gives}-is`

/** Points of a pH calibration taken so far, each with the temperature of its buffer. */
export function phPoints(state: Pick<RunState, 'terms' | 'values'>): (PhPoint & { buffer: string; temp_C: number })[] {
  const buffers = state.terms.buffers ?? []
  return buffers.flatMap((_, i) => {
    const [ph, mV] = [state.values[`ph-${i + 1}`], state.values[`electrode-${i + 1}`]]
    const buffer = sure(buffers[state.values[whichKey(`ph-${i + 1}`)] ?? i])
    const temp_C = state.values[`buffer-${i + 1}`]
    return ph === undefined || mV === undefined || temp_C === undefined ? [] : [{ buffer, ph, mV, temp_C }]
  })
}

/** The electrode by the points taken so far, with what is ideal at their mean temperature. @throws Refusal */
export function phFit(state: Pick<RunState, 'terms' | 'values'>) {
  const points = phPoints(state)
  const temp_C = points.reduce((sum, p) => sum + p.temp_C, 0) / points.length
  const { slopePercent } = state.terms
  const [only, more] = points
  const fit =
    only && !more && slopePercent !== undefined && state.terms.buffers?.length === 1
      ? onePointCalibration({ point: only, temp_C, slopePercent })
      : phCalibration({ points, temp_C })
  return { ...fit, temp_C, ideal_mVperPh: idealSlope_mV(temp_C) }
}

/**
 * Which buffer a reading of any order was taken in, with its pH. Where the signal fits none, as that of an electrode
 * that is worn out, the person says it.
 * @throws Refusal `buffer-not-recognised`, `same-buffer`, `buffers-swapped`
 */
export function recognisedAt(state: RunState, step: Step, mV: number, words: string | undefined): Values {
  const { buffers = [], ownBuffers } = state.terms
  const temp_C = sure(state.values[sure(step.buffer)])
  const known = attempt(() => recogniseBuffer({ mV, temp_C, names: buffers, own: ownBuffers }))
  const said = words?.trim()
  if (known instanceof Refusal && !(said && buffers.includes(said))) throw known
  const name = known instanceof Refusal ? sure(said) : known.name
  if (said && buffers.includes(said) && said !== name)
    refuse(
      'buffers-swapped',
      `The electrode gives ${mV.toFixed(1)} mV, as it would in buffer ${name}, not in ${said}: another buffer was ` +
        'taken, or the electrode does not answer.',
    )
  if (phPoints(state).some((p) => p.buffer === name))
    refuse(
      'same-buffer',
      `${mV.toFixed(1)} mV is buffer ${name} again, which was read before: take another one, or read the first again.`,
    )
  const gives = sure(step.gives)
  return { [gives]: bufferPh(name, temp_C, ownBuffers).ph, [whichKey(gives)]: buffers.indexOf(name) }
}

/** Refuses a buffer reading that belongs to another buffer, of those that were chosen. */
export function electrodeFits(
  points: readonly (PhPoint & { buffer: string; temp_C: number })[],
  chosen: readonly string[] = [],
): void {
  const last = sure(points.at(-1))
  const { temp_C } = last
  const known = attempt(() => recogniseBuffer({ mV: last.mV, temp_C, names: chosen }))
  if (points.length === 1 && !(known instanceof Refusal) && known.name !== last.buffer)
    refuse(
      'buffers-swapped',
      `In buffer ${last.buffer} the electrode gives ${last.mV.toFixed(1)} mV, as it would in buffer ${known.name}: ` +
        'another buffer was taken, or the electrode does not answer.',
    )
  for (const p of points.slice(0, -1)) {
    const ratio = (last.mV - p.mV) / (idealSlope_mV(temp_C) * (last.ph - p.ph))
    if (ratio < -0.3)
      refuse(
        'buffers-swapped',
        `In buffer ${last.buffer} the electrode gives ${last.mV.toFixed(1)} mV, in buffer ${p.buffer} ` +
          `${p.mV.toFixed(1)} mV: the wrong way round. The two buffers are exchanged.`,
      )
    if (ratio < 0.3)
      refuse(
        'same-buffer',
        `In buffer ${last.buffer} the electrode gives ${last.mV.toFixed(1)} mV, nearly the ${p.mV.toFixed(1)} ` +
          `mV of buffer ${p.buffer}: it stands in the same buffer twice, or it is broken.`,
      )
    if (ratio > 1.4)
      refuse(
        'buffers-swapped',
        `Between buffer ${p.buffer} and buffer ${last.buffer} the electrode gives ${(100 * ratio).toFixed(0)} ` +
          '% of what the best electrode could: another buffer was taken.',
      )
  }
}

/** How far off the line of all buffers one may lie, pH: a sound electrode bends less. */
const OFF_LINE_pH = 0.06
/** Refuses a calibration whose points are on no line: one of the buffers is not what it is named. */
export function onOneLine(state: RunState, fit: ReturnType<typeof phFit>): void {
  const off = phPoints(state).map((p) => ({
    ...p,
    pH: Math.abs((p.mV - fit.offset_mV - fit.slope_mVperPh * (p.ph - 7)) / fit.ideal_mVperPh),
  }))
  const worst = off.reduce((a, b) => (b.pH > a.pH ? b : a))
  if (off.length > 2 && worst.pH > OFF_LINE_pH)
    refuse(
      'buffer-spoilt',
      `The buffers do not lie on one line: ${worst.buffer} is ${worst.pH.toFixed(2)} pH off it. One is spoilt ` +
        '(an alkaline one first, by the air), mixed with rinse water, or of another temperature than was typed.',
    )
}
