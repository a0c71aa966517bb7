// Values of a device by its description: what is asked to read them, what the answers say, and how one is written.
import { floatAt, floatBytes, hexOf, unsignedAt, unsignedBytes } from '../bytes/index.ts'
import { decodePayload, encodePayload, latinBytes, latinText, symbolOf, unitCode, type Fields } from '../hart/index.ts'
import { Refusal } from '../refusal/index.ts'
import { sure } from '../sure/index.ts'
import type { Description, Parameter, Place } from './schema.ts'

/** A value as it is kept: a number, a text, or null where the device has none. A unit is its symbol. */
export type Value = number | string | null
export type Values = Readonly<Record<string, Value>>

/** The command that reads or writes a parameter of the device’s own by number. */
const OWN = { read: 130, write: 131 }
const OWN_TEXT = 16

/** One request that reads one parameter or several. */
export interface ReadStep {
  readonly command: number
  readonly data: Uint8Array
  readonly parameters: readonly Parameter[]
}
const stepKey = (place: Place): string => ('own' in place ? `own ${place.own}` : `command ${place.command}`)

/** The requests that read a description’s parameters, each once, in order. */
export function readPlan(description: Description, only?: ReadonlySet<string>): ReadStep[] {
  const steps = new Map<string, ReadStep & { parameters: Parameter[] }>()
  for (const parameter of description.parameters) {
    if (only && !only.has(parameter.id)) continue
    const { read } = parameter
    const key = stepKey(read)
    const known = steps.get(key)
    if (known) known.parameters.push(parameter)
    else
      steps.set(key, {
        command: 'own' in read ? OWN.read : read.command,
        data: Uint8Array.from('own' in read ? unsignedBytes(read.own, 2) : []),
        parameters: [parameter],
      })
  }
  return [...steps.values()]
}

/** A value as the field gives it: a unit by its symbol, a code that has none as text. */
function kept(parameter: Parameter, raw: unknown): Value {
  if (parameter.type !== 'unit') return raw as Value
  return symbolOf(raw as number) ?? `code ${raw as number}`
}
const raw = (parameter: Parameter, value: Value): unknown =>
  parameter.type === 'unit' ? unitCode(String(value)) : value

function ownValue(parameter: Parameter, body: Uint8Array): Value {
  if (parameter.type === 'text') return latinText(body.subarray(0, OWN_TEXT))
  return body.length < 4 ? null : floatAt(body, 0)
}

/** The answer belongs to another request: a late one. */
export const isOther = (step: ReadStep, data: Uint8Array): boolean =>
  step.command === OWN.read && (data.length < 2 || unsignedAt(data, 0, 2) !== unsignedAt(step.data, 0, 2))

/** What an answer says of the step’s parameters. @throws Refusal `too-short` */
export function valuesIn(step: ReadStep, data: Uint8Array): Values {
  if (step.command === OWN.read)
    return Object.fromEntries(step.parameters.map((p) => [p.id, ownValue(p, data.subarray(2))]))
  const fields = decodePayload(step.command, 'response', data)
  return Object.fromEntries(step.parameters.map((p) => [p.id, kept(p, fields['field' in p.read ? p.read.field : ''])]))
}

/** Which command reads the fields that a command writes together. */
const READ_FOR: Readonly<Record<number, number>> = { 17: 12, 18: 13, 34: 15, 35: 15, 44: 15 }

export interface WriteStep {
  readonly command: number
  readonly data: Uint8Array
  /** Read before, for what is written together with it, and after, to see what is held. */
  readonly readBack: { readonly command: number; readonly data: Uint8Array }
  /** Bytes that a read-back must give to agree, from the read-back’s own data; null where it cannot be told. */
  agrees(readBack: Uint8Array): boolean
  /** The values as the read-back has them. */
  held(readBack: Uint8Array): Values
}

function refusedText({ type, characters, label }: Parameter, value: Value): string {
  if (typeof value !== 'string' && !(type === 'date' && value === null)) return `${label} is a text.`
  return characters !== undefined && String(value).length > characters ? `At most ${characters} characters.` : ''
}
function refusedNumber({ type, least, most, choices, label }: Parameter, value: Value): string {
  if (typeof value !== 'number' || !Number.isFinite(value)) return `${label} is a number.`
  if (least !== undefined && value < least) return `At least ${least}.`
  if (most !== undefined && value > most) return `At most ${most}.`
  if (type !== 'float' && !Number.isInteger(value)) return `${label} is a whole number.`
  return choices && !choices.some((c) => c.value === value) ? 'None of its choices.' : ''
}
/** Why a value cannot be taken, in words; empty where it can. */
export function refusedValue(parameter: Parameter, value: Value): string {
  const { type, label } = parameter
  if (!parameter.write) return `${label} can only be read.`
  if (type === 'text' || type === 'date') return refusedText(parameter, value)
  if (type === 'unit') return typeof value === 'string' ? '' : `${label} is a unit.`
  return refusedNumber(parameter, value)
}

/** How a parameter is read alone: before a write, for what goes with it, and after. */
export function readBackOf(parameter: Parameter): { command: number; data: Uint8Array } {
  const { write, read } = parameter
  if (!write || 'own' in write) {
    const number = 'own' in read ? unsignedBytes(read.own, 2) : []
    return { command: 'own' in read ? OWN.read : read.command, data: Uint8Array.from(number) }
  }
  return { command: READ_FOR[write.command] ?? ('command' in read ? read.command : 0), data: new Uint8Array() }
}

/**
 * How values are written that go by one command, given what the device holds now.
 * @param changes by parameter; all of them written by the same command, or by one number
 * @throws Refusal `invalid-input` and those of the fields
 */
export function writeStep(changes: readonly (readonly [Parameter, Value])[], before: Uint8Array): WriteStep {
  const [first, value] = sure(changes[0])
  const write = sure(first.write)
  const readBack = readBackOf(first)
  if ('own' in write) {
    const body = first.type === 'text' ? latinBytes(String(value), OWN_TEXT) : floatBytes(value as number | null)
    const data = Uint8Array.from([...unsignedBytes(write.own, 2), ...body])
    return {
      command: OWN.write,
      data,
      readBack,
      agrees: (back) => hexOf(back.subarray(0, data.length)) === hexOf(data),
      held: (back) => ({ [first.id]: ownValue(first, back.subarray(2)) }),
    }
  }
  const { command } = write
  if (changes.some(([p]) => !p.write || 'own' in p.write || p.write.command !== command))
    throw new Refusal('invalid-input', 'These values are not written together.')
  const fieldsOf = (data: Uint8Array): Fields => decodePayload(readBack.command, 'response', data)
  const fieldOf = ({ write: place }: Parameter) => (place && 'field' in place ? place.field : '')
  const wanted = Object.fromEntries(changes.map(([p, v]) => [fieldOf(p), raw(p, v)]))
  const data = encodePayload(command, 'request', { ...fieldsOf(before), ...wanted })
  return {
    command,
    data,
    readBack,
    // Bit by bit: what was sent, against what it would be with what is held now.
    agrees: (back) => hexOf(encodePayload(command, 'request', fieldsOf(back))) === hexOf(data),
    held(back) {
      const fields = fieldsOf(back)
      return Object.fromEntries(changes.map(([p]) => [p.id, kept(p, fields[fieldOf(p)])]))
    },
  }
}

/** Values in which two sets differ, by parameter, in the description’s order. */
export const differences = (description: Description, a: Values, b: Values): Parameter[] =>
  description.parameters.filter((p) => p.id in a && p.id in b && a[p.id] !== b[p.id])

/** A single-precision number with as few digits as say it. */
export function shortest(value: number): string {
  for (let digits = 1; digits < 9; digits++) {
    const text = value.toPrecision(digits)
    if (Math.fround(Number(text)) === Math.fround(value)) return String(Number(text))
  }
  return String(value)
}

/** Two texts cut where they differ: what they begin with together, and what follows in each. */
export function cutAtDifference(a: string, b: string): { same: string; a: string; b: string } {
  let i = 0
  while (i < a.length && i < b.length && a[i] === b[i]) i++
  return { same: a.slice(0, i), a: a.slice(i), b: b.slice(i) }
}

/**
 * What of a file is written to a device: values that differ and can be written; constants of another meter are left
 * out.
 * @param file the file’s values, the serial it was saved of, and which of them are constants
 */
export function toLoad(
  description: Description,
  device: { readonly serial: string; readonly values: Values },
  file: { readonly serial: string; readonly values: Values; readonly characterization: readonly string[] },
  withConstants: boolean,
): { readonly values: Values; readonly leftOut: readonly Parameter[] } {
  const constants = new Set([
    ...file.characterization,
    // What the description says counts too: a file may have been changed by hand.
    ...description.parameters.filter((p) => p.characterization).map((p) => p.id),
  ])
  const changed = differences(description, device.values, file.values).filter(
    (p) => p.write && refusedValue(p, file.values[p.id] ?? null) === '',
  )
  const kept = changed.filter((p) => !constants.has(p.id) || (withConstants && file.serial === device.serial))
  return {
    values: Object.fromEntries(kept.map((p) => [p.id, file.values[p.id] ?? null])),
    leftOut: changed.filter((p) => !kept.includes(p)),
  }
}
