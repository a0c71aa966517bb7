// What a gate shows and asks, worked out from the run and the reading at hand; the component only sets it out.
import type { LiveReading } from '@calm-loop/contract'
import { nominalPh, recogniseBuffer } from '@calm-loop/core/analysis'
import { correctionPct, expectedAt, phFit, phPoints, type RunState, type Step } from '@calm-loop/core/procedure'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { inSentence } from '@calm-loop/core/words'
import { sure } from '@calm-loop/core/sure'
import { signed } from './words.ts'

/** A value with its unit, as this person likes to read it. */
export type Quantity = (value: number, unit: string, decimals: number) => string

export interface Fact {
  readonly name: string
  readonly says: string
  /** How it stands on the page: a figure of the record, a figure that is live, or words. */
  readonly as: 'figure' | 'live' | 'words'
}

/** What is live at the witness that a step reads; empty where it reads none, or there is none. */
export function offeredAt(step: Step, reading: LiveReading | undefined, quantity: Quantity): string {
  const { reads } = step
  if (!reads || !reading) return ''
  const v = {
    electrode: reading.transmitter?.electrode_mV ?? reading.knots['electrode'],
    digital: reading.knots['digital'],
    current: reading.knots['current'],
    receiver: reading.knots['controller'],
  }[reads.what]
  return v === undefined ? '' : quantity(v, reads.unit, reads.what === 'current' ? 3 : reads.decimals + 1)
}

/** Temperature of the electrode, where it is seen, °C. */
export const electrode_C = (reading: LiveReading | undefined): number | undefined =>
  reading?.transmitter?.electrode_C ?? reading?.knots['temperature']

/** Buffers that a gate of any order may stand in: of those chosen, what was not read yet. */
export function openBuffers(state: RunState, step: Step): readonly string[] {
  if (step.kind === 'buffer' && step.asks !== undefined) return [step.asks]
  const read = new Set(phPoints(state).map((p) => p.buffer))
  return (state.terms.buffers ?? []).filter((b) => !read.has(b))
}

/** Which buffer the live voltage is that of, in words; undefined where no buffer is asked for, or nothing is live. */
export function whichBuffer(state: RunState, step: Step, mV: number | undefined): string | undefined {
  const { buffers: names = [], ownBuffers: own } = state.terms
  const temp_C = state.values[step.buffer ?? '']
  if (step.kind !== 'reading' || !step.gives || mV === undefined || temp_C === undefined) return undefined
  const known = attempt(() => recogniseBuffer({ mV, temp_C, names, own }))
  return known instanceof Refusal
    ? 'none of those chosen, by its signal'
    : `${known.name}, pH ${known.ph.toFixed(2)} at ${temp_C.toFixed(1)} °C`
}

/** What a gate that reads something sets beside the field. */
export function readingFacts(
  state: RunState,
  step: Step,
  live: { readonly reading: LiveReading | undefined; readonly quantity: Quantity },
): Fact[] {
  const { reads } = step
  const temp = step.kind === 'buffer' || step.of === 'electrode' ? electrode_C(live.reading) : undefined
  const warm: Fact[] =
    temp === undefined ? [] : [{ name: 'Temperature', says: live.quantity(temp, 'degC', 1), as: 'live' }]
  if (step.kind !== 'reading' || !reads) return warm
  const { terms: t } = state
  const { reading, quantity } = live
  const expected = expectedAt(state, step)
  const offered = offeredAt(step, reading, quantity)
  const receiver = reads.what === 'current' ? reading?.knots['controller'] : undefined
  const which = whichBuffer(state, step, reading?.transmitter?.electrode_mV ?? reading?.knots['electrode'])
  return [
    ...warm,
    ...(which === undefined ? [] : [{ name: 'Buffer', says: which, as: 'words' } as const]),
    ...(expected === undefined
      ? []
      : [{ name: 'Expected', says: quantity(expected, reads.unit, reads.decimals), as: 'figure' } as const]),
    ...(offered ? [{ name: 'Live', says: offered, as: 'live' } as const] : []),
    ...(receiver === undefined
      ? []
      : [
          {
            name: 'Receiver',
            says: quantity(receiver, t.receiverUnit ?? t.unit, (t.receiverDecimals ?? 1) + 1),
            as: 'live',
          } as const,
        ]),
  ]
}

const ELECTRODE = { good: 'good', worn: 'worn: order a spare', replace: 'to be replaced' } as const

/** What is judged before anything is written: the correction against its limit, an electrode against the ideal. */
export function plausibleFacts(state: RunState, step: Step): Fact[] {
  if (step.kind !== 'plausible') return []
  const figure = (name: string, says: string): Fact => ({ name, says, as: 'figure' })
  const correction = correctionPct(state, step)
  if (correction !== undefined)
    return [
      figure('Correction', `${signed(-correction)} % of span`),
      figure('Limit', `± ${state.terms.plausiblePct} %`),
    ]
  if (state.procedure !== 'ph-calibration' || !phPoints(state).length) return []
  const fit = attempt(() => phFit(state))
  if (fit instanceof Refusal) return []
  return [
    figure('Slope', `${fit.slope_mVperPh.toFixed(2)} mV per pH`),
    figure(`Of the ideal ${fit.ideal_mVperPh.toFixed(2)} mV per pH`, `${fit.slopePercent.toFixed(1)} %`),
    figure('Offset at pH 7', `${signed(fit.offset_mV, 1)} mV`),
    { name: 'Electrode', says: ELECTRODE[fit.verdict], as: 'words' },
  ]
}

/** How a trend is drawn that must be steady: what its axis says, and what one of its own measure is in % of span. */
export function trendOf(step: Step, t: RunState['terms'], quantity: Quantity) {
  const span = t.urv - t.lrv
  switch (step.of) {
    case 'electrode':
      // An electrode gives about 59 mV per pH.
      return { name: 'the electrode', pctPer: 100 / (59 * Math.abs(span)), show: (v: number) => quantity(v, 'mV', 1) }
    case 'current':
      return { name: 'the loop current', pctPer: 1, show: (v: number) => quantity(4 + 0.16 * v, 'mA', 3) }
    default:
      return {
        name: 'the digital value',
        pctPer: 1,
        show: (v: number) => quantity(t.lrv + (v / 100) * span, t.unit, t.decimals + 1),
      }
  }
}

/** What the bench is told to apply at a gate. */
export const benchValue = (state: RunState, step: Step, buffer: string): number =>
  step.kind === 'buffer' ? nominalPh(buffer, state.terms.ownBuffers) : sure(step.target)

const CONFIRM: Partial<Record<Step['kind'], string>> = {
  words: 'Confirm',
  confirm: 'Confirm',
  'as-found': 'As found stands',
  plausible: 'Go on',
}
/** The one button that passes a gate; a valve is turned at its drawing. */
export function buttonOf(
  step: Step,
  busy: boolean,
  byHand = false,
): { readonly says: string; readonly does: 'send' | 'read' | 'pass' } {
  if (byHand && step.kind === 'command') return { says: `Done at the device: ${inSentence(step.title)}`, does: 'send' }
  if (byHand && step.kind === 'read-back') return { says: 'This is what the device shows', does: 'read' }
  if (byHand && step.kind === 'steady') return { says: 'It stands still: go on', does: 'pass' }
  if (step.kind === 'command')
    return { says: busy ? 'Waiting for the device' : `Send: ${inSentence(step.title)}`, does: 'send' }
  if (step.kind === 'read-back') return { says: 'Read the device back', does: 'read' }
  if (step.kind === 'steady') return { says: 'It is stable: go on', does: 'pass' }
  const confirm = CONFIRM[step.kind]
  return { says: confirm ? `${confirm}: ${inSentence(step.title)}` : 'Put it on record', does: 'pass' }
}

/** What is sent when a gate is passed. */
export const passing = (step: Step, words: string, typed: string) => ({
  do: 'pass' as const,
  step: step.id,
  ...(step.kind === 'words' || ((step.kind === 'steady' || (step.kind === 'reading' && step.gives)) && words.trim())
    ? { words: words.trim() }
    : {}),
  ...(['apply', 'buffer', 'reading'].includes(step.kind) ? { typed: typed.trim() } : {}),
})

/** What is sent when a device without a link was read: what was seen there, and the figures asked for. */
export const readByHand = (step: Step, words: string, shows: readonly [string, string] | undefined) => ({
  do: 'read' as const,
  step: step.id,
  seen: words.trim(),
  ...(shows ? { typed: [shows[0], shows[1]] as [string, string] } : {}),
})
