// What is wrong with a thermocouple point, each with the error that it makes.
import type { Finding } from '../../findings/index.ts'
import { formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { thermocoupleRange } from '../../temperature/index.ts'
import type { Reader } from '../reader.ts'
import { processFindings } from '../temperature/process-range.ts'
import { errorAt, type Couple } from './circuit.ts'

const celsius = (v: number) => show(v, 'degC', { decimals: 1, trim: true })

/** How far off the report is at a temperature, in words. */
export function errorWords(c: Couple, temp_C: number): string {
  const error = attempt(() => errorAt(c, temp_C))
  if (error instanceof Refusal) return `At ${celsius(temp_C)} nothing sensible is reported.`
  const size = show(Math.abs(error), 'delta_K', { decimals: 1 })
  return Math.abs(error) < 0.05
    ? `At ${celsius(temp_C)} it makes no error while head and terminals are alike.`
    : `At ${celsius(temp_C)} it reports ${size} too ${error > 0 ? 'high' : 'low'}.`
}

/** Where on the range the errors are given: its middle; while it is not entered, a usual temperature. */
export function middleOf(r: Reader): number {
  const [lrv, urv] = [r.in('lrv', 'degC'), r.in('urv', 'degC')]
  return lrv === undefined || urv === undefined ? 200 : (lrv + urv) / 2
}

function rangeFaults(r: Reader, c: Couple | undefined): Finding[] {
  const found: Finding[] = []
  const [lrv, urv] = ['lrv', 'urv'].map((k) => r.in(k, 'degC'))
  const limits = c && thermocoupleRange(c.type)
  for (const [key, t] of [
    ['lrv', lrv],
    ['urv', urv],
  ] as const)
    if (limits && t !== undefined && (t < limits.lowBack || t > limits.high))
      found.push({
        code: 'outside-type',
        grade: 'stop',
        fields: [key, 'type'],
        what:
          `${celsius(t)} lies outside ${celsius(limits.lowBack)} to ${celsius(limits.high)} of a type ${c.type} ` +
          'thermocouple.',
        why: 'There its voltage tells no temperature, or it does not last.',
        sure: 'Certain (IEC 60584-1).',
        action: 'Choose a range value inside, or another type.',
      })
  found.push(...processFindings(r))
  return found
}

/** What is wrong with the entries. */
export function findingsOf(r: Reader, c: Couple | undefined): Finding[] {
  const found = rangeFaults(r, c)
  if (!c) return found
  const off = errorWords(c, middleOf(r))
  const cable = r.text('cable')
  if (cable === 'other' && c.cable !== c.type)
    found.push({
      code: 'cable-of-another-type',
      grade: 'stop',
      fields: ['cable', 'cableType', 'type'],
      what: `The cable is of type ${c.cable}, the element of type ${c.type}. ${off}`,
      why:
        `Between head (${celsius(c.head)}) and terminals (${celsius(c.terminals)}) it gives another voltage ` +
        'than the element would; the error moves with the weather at the head.',
      sure: 'Certain, if the types were read right.',
      action: `Pull extension or compensating cable of type ${c.type}.`,
    })
  if (cable === 'copper')
    found.push({
      code: 'cable-of-copper',
      grade: 'stop',
      fields: ['cable'],
      what: `The cable is copper. ${off}`,
      why: `The cold junction is then in the head (${celsius(c.head)}), where nothing measures it.`,
      sure: 'Certain.',
      action: `Pull cable of type ${c.type}, or put the transmitter into the head.`,
    })
  if (c.cableSign < 0 || c.elementSign < 0)
    found.push({
      code: 'cable-crossed',
      grade: 'stop',
      fields: ['crossed'],
      what: `The cores are crossed at ${c.elementSign < 0 ? 'one end' : 'both ends'}. ${off}`,
      why:
        c.elementSign < 0
          ? 'The element counts backwards: heating it makes the reading fall.'
          : 'The cable then counts against the element: twice the difference between head and terminals is lost.',
      sure: 'Certain.',
      action: 'Exchange the cores so that plus meets plus; check by warming the head.',
    })
  if (Math.abs(c.compensated - c.terminals) > 0.05)
    found.push({
      code: 'cold-junction-fixed',
      grade: 'look',
      fields: ['compensation', 'fixedAt', 'terminals'],
      what:
        `The cold junction is taken as ${celsius(c.compensated)}, the terminals are at ${celsius(c.terminals)}. ` +
        `${off}`,
      why: 'The error is nearly the whole difference between the two.',
      sure: 'Certain, if the temperature was measured at the terminals.',
      action: 'Let the transmitter measure its cold junction.',
    })
  return found
}
