// Wire stage of a two-wire point: cable resistance, voltage budget, and what is wrong with them.
import { awgArea_mm2, loopBudget, longestCable_m, wireResistance, type BudgetResult } from '../../circuit/index.ts'
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import type { Desk, Figure, Keep } from '../kind.ts'
import { unusualFindings } from './usual.ts'
import type { Reader } from '../reader.ts'
import type { Supplied } from '../../wiring/index.ts'
import { cheapestChange, type CheapChange, type Starved } from './cheapest.ts'
import { deskOf, liftOffOf, withDesk } from './desk.ts'
import { sure } from '../../sure/index.ts'

/** Conductor entry as the input of `wireResistance`. */
function conductorSize(text: string): { awg: number } | { area_mm2: number } {
  const [, gauge] = /^AWG (\d+)$/.exec(text) ?? []
  return gauge ? { awg: Number(gauge) } : { area_mm2: Number.parseFloat(text) }
}

/** Its cross-section, mm². */
function areaOf(conductor: string): number {
  const size = conductorSize(conductor)
  return 'awg' in size ? awgArea_mm2(size.awg) : size.area_mm2
}

export interface WiringStudy {
  /** The wiring as drawn: the recorded one, or the proposal for the arrangement. */
  readonly desk: Desk
  readonly cableOhm: number | undefined
  readonly maxmA: number
  /** With what a lit display takes; undefined while not entered. */
  readonly liftOffV: number | undefined
  readonly budget: BudgetResult | undefined
  /** Of a loop that does not fit: the cheapest single change after which it does. */
  readonly cheapest: CheapChange | undefined
  /** The circuit as drawn, seen from the transmitter; undefined where nothing feeds it. */
  readonly supplied: Supplied | undefined
  readonly figures: readonly Figure[]
  readonly findings: readonly Finding[]
}

/** Cable resistance, voltage budget and what is wrong with them. */
export function studyWiring(r: Reader, keep: Keep): WiringStudy {
  const findings: Finding[] = []
  const length = r.in('cableLength', 'm')
  const temp = r.in('cableTemp', 'degC') ?? 40
  const conductor = r.text('conductor')
  const active = r.text('output') === 'four-wire active'
  const liftOff = active ? 0 : liftOffOf(r)
  const shunt = r.in('shunt', 'Ohm')
  const enteredMax = r.in('highestCurrent', 'mA')
  const faultHigh = r.text('faultAction') === 'high' ? (r.in('faultCurrent', 'mA') ?? 0) : 0
  const maxmA = Math.max(enteredMax !== undefined && enteredMax > 0 ? enteredMax : 22, faultHigh)

  const negative = (['cableLength', 'supply', 'liftOff', 'shunt', 'otherSeries'] as const).filter((key) => {
    const value = r.in(key, { cableLength: 'm', supply: 'V', liftOff: 'V', shunt: 'Ohm', otherSeries: 'Ohm' }[key])
    return value !== undefined && (value < 0 || (key === 'shunt' && value === 0))
  })
  if (negative.length)
    findings.push({
      code: 'not-positive',
      grade: 'stop',
      fields: negative,
      what: `Below zero or zero: ${negative.map((k) => r.label(k)).join(', ')}.`,
      why: 'No such part exists, so nothing can be computed with it.',
      sure: 'Certain.',
      action: 'Correct the sign or the figure.',
    })

  findings.push(...unusualFindings(r))

  const wire =
    length === undefined || length < 0 || conductor === ''
      ? undefined
      : attempt(() => wireResistance({ ...conductorSize(conductor), length_m: length, temp_C: temp }))
  const cableOhm = wire && !(wire instanceof Refusal) ? wire.ohmLoop : undefined
  const isolated = r.text('between') === 'isolator'
  const cable = {
    coreOhm: cableOhm === undefined ? undefined : cableOhm / 2,
    coreOhmPerM: wire && !(wire instanceof Refusal) && length ? wire.ohmLoop / 2 / length : undefined,
  }
  const { supplied, ...desk } = deskOf(r, cable, maxmA, keep)
  const cableNeeds = r.missing('conductor', 'cableLength')
  // A wiring drawn by hand may bring figures of its own; what it still needs it says itself.
  const needs = desk.own ? desk.needs : [...r.missing('supply', 'liftOff', 'maxV', 'shunt'), ...cableNeeds]
  const cheapest = (b: BudgetResult): CheapChange | undefined => {
    if (b.ok || liftOff === undefined) return undefined
    const starved: Starved = {
      ...{ wiring: desk.wiring, conditions: desk.conditions, liftOffV: liftOff, maxmA },
      cable: length === undefined ? undefined : { length_m: length, temp_C: temp, area_mm2: areaOf(conductor) },
    }
    return keep('cheapest', JSON.stringify(starved), () => {
      const found = attempt(() => cheapestChange(starved))
      return found instanceof Refusal ? undefined : found
    })
  }
  const computable = supplied && liftOff !== undefined && !needs.length && !negative.length && cableOhm !== undefined
  const budget = computable
    ? loopBudget({ supplyV: supplied.openV, liftOffV: liftOff, seriesOhms: [supplied.outsideOhm], maxmA })
    : undefined

  const change = budget && cheapest(budget)
  if (budget && !budget.ok)
    findings.push({
      code: 'lift-off-not-met',
      grade: 'stop',
      fields: [active ? 'maxV' : 'supply', 'liftOff', 'shunt', 'cableLength'],
      what:
        `At ${show(maxmA, 'mA', { trim: true })} the transmitter is left with ` +
        `${show(budget.voltsAtTransmitterMax, 'V', { decimals: 2 })}, below its lift-off voltage of ` +
        `${show(sure(liftOff), 'V', { trim: true })}.`,
      why: 'It reads right at 4 mA and sticks at some higher current, so a high level or an alarm is never seen.',
      sure: 'Certain, if the entries are right.',
      action:
        (change ? `Cheapest: ${change.says} ${show(change.spareV, 'V', { decimals: 2 })} are then to spare. ` : '') +
        `In figures: a supply of at least ${show(budget.minSupplyV, 'V', { decimals: 1 })}, or ` +
        `${show(-budget.spareOhm, 'Ohm', { decimals: 0 })} less in the loop.`,
    })
  if (budget && !budget.hartOk)
    findings.push({
      code: 'communication-resistance',
      grade: 'note',
      fields: ['shunt', 'otherSeries'],
      what: `The loop has ${show(budget.totalOhm, 'Ohm', { decimals: 0 })} outside the transmitter.`,
      why: 'A communicator on the loop needs 230 to 1100 Ω to talk across.',
      sure: 'Certain, if one is to be used.',
      action:
        budget.totalOhm < 230
          ? 'Add a 250 Ω resistor where the communicator is clipped on.'
          : 'Connect the communicator across part of the resistance only.',
    })

  const figure = ({
    id,
    label,
    unit,
    value,
    formula,
    numbers,
    source = 'Ohm’s law around the loop',
    missing = needs,
  }: {
    readonly id: string
    readonly label: string
    readonly unit: string
    readonly value: number | null | undefined
    readonly formula: string
    readonly numbers: () => string
    readonly source?: string
    readonly missing?: readonly string[]
  }): Figure => ({
    id,
    stage: 'wire',
    label,
    unit,
    ...(value === undefined
      ? missing.length
        ? { needs: missing }
        : { says: 'nothing feeds the loop as drawn' }
      : value === null
        ? {
            says:
              id === 'largest-shunt'
                ? isolated
                  ? 'hangs on the isolator'
                  : 'no shunt would do'
                : 'no length would do',
          }
        : { value, working: () => ({ title: label, formula, numbers: numbers(), source }) }),
  })
  const volts = (v: number) => show(v, 'V', { decimals: 2 })
  const ohms = (o: number) => show(o, 'Ohm', { decimals: 1 })
  const drop = (mA: number, left: number) =>
    `${volts(sure(supplied).openV)} − ${show(mA, 'mA', { trim: true })} × ` +
    `${ohms(sure(budget).totalOhm)} = ${volts(left)}`
  const longest = budget ? longestCable_m(budget, sure(cableOhm), sure(length)) : undefined
  const largestShunt = budget && !isolated ? sure(shunt) + budget.spareOhm : undefined
  return {
    desk,
    cableOhm,
    maxmA,
    liftOffV: liftOff,
    budget,
    cheapest: change,
    supplied,
    findings: withDesk(findings, desk),
    figures: [
      figure({
        id: 'cable-ohm',
        label: 'Cable, there and back',
        unit: 'Ohm',
        value: cableOhm,
        formula: `R = 2 · L · ρ/A · (1 + α(t − ${show(20, 'degC', { trim: true })}))`,
        numbers: () =>
          `2 × ${show(sure(length), 'm', { trim: true })} of ${conductor.replace('mm2', 'mm²')} at ` +
          `${show(temp, 'degC', { trim: true })} = ${ohms(sure(cableOhm))}`,
        source: 'Copper after IEC 60028: ρ = 1.7241·10⁻⁸ Ω·m, α = 0.00393 /K',
        missing: cableNeeds,
      }),
      figure({
        id: 'total-ohm',
        label: 'Outside the transmitter',
        unit: 'Ohm',
        value: budget?.totalOhm,
        formula: 'R = all that the current passes in the loop as drawn',
        numbers: () => `seen from the transmitter’s terminals: ${ohms(sure(budget).totalOhm)}`,
        source: 'The wiring as drawn, solved at two currents',
      }),
      figure({
        id: 'volts-4',
        label: 'Left for the transmitter at 4 mA',
        unit: 'V',
        value: budget?.voltsAtTransmitter4mA,
        formula: 'V = supply − I · R',
        numbers: () => drop(4, sure(budget).voltsAtTransmitter4mA),
      }),
      figure({
        id: 'volts-20',
        label: 'Left for the transmitter at 20 mA',
        unit: 'V',
        value: budget?.voltsAtTransmitter20mA,
        formula: 'V = supply − I · R',
        numbers: () => drop(20, sure(budget).voltsAtTransmitter20mA),
      }),
      figure({
        id: 'volts-max',
        label: `Left at ${show(maxmA, 'mA', { trim: true })}, the highest current`,
        unit: 'V',
        value: budget?.voltsAtTransmitterMax,
        formula: 'V = supply − I · R',
        numbers: () => drop(maxmA, sure(budget).voltsAtTransmitterMax),
      }),
      figure({
        id: 'spare-ohm',
        label: 'Resistance to spare',
        unit: 'Ohm',
        value: budget?.spareOhm,
        formula: 'R spare = (supply − lift-off)/I max − R',
        numbers: () =>
          `(${volts(sure(supplied).openV)} − ${volts(sure(liftOff))}) / ${show(maxmA, 'mA', { trim: true })} − ` +
          `${ohms(sure(budget).totalOhm)} = ${ohms(sure(budget).spareOhm)}`,
      }),
      figure({
        id: 'min-supply',
        label: 'Smallest supply that would do',
        unit: 'V',
        value: budget?.minSupplyV,
        formula: 'V = lift-off + I max · R',
        numbers: () =>
          `${volts(sure(liftOff))} + ${show(maxmA, 'mA', { trim: true })} × ${ohms(sure(budget).totalOhm)} = ` +
          `${volts(sure(budget).minSupplyV)}`,
      }),
      figure({
        id: 'largest-shunt',
        label: 'Largest shunt that would do',
        unit: 'Ohm',
        value:
          largestShunt === undefined
            ? isolated && budget
              ? null
              : undefined
            : largestShunt <= 0
              ? null
              : largestShunt,
        formula: 'R = shunt + R spare',
        numbers: () => `${ohms(sure(shunt))} + ${ohms(sure(budget).spareOhm)} = ${ohms(sure(largestShunt))}`,
      }),
      figure({
        id: 'longest-cable',
        label: 'Longest cable, one way',
        unit: 'm',
        value: longest,
        formula: 'L = (R spare + R cable) / (R cable / L now)',
        numbers: () =>
          `(${ohms(sure(budget).spareOhm)} + ${ohms(sure(cableOhm))}) / (${ohms(sure(cableOhm))} / ` +
          `${show(sure(length), 'm', { trim: true })}) = ${show(sure(longest), 'm', { decimals: 0 })}`,
      }),
    ].map((f) => ({ decimals: f.unit === 'V' ? 2 : f.unit === 'm' ? 0 : 1, ...f })),
  }
}
