// Descriptions of devices as data: which parameters there are, where each is read and written, in a schema of our own.
import { z } from 'zod'
import { decodePayload, knowsPayload } from '../hart/payloads.ts'
import { findUnit } from '../quantity/index.ts'

export const DESCRIPTION_FORMAT = 'calm-loop/device-description/1'
/** More than this is no description of a field device. */
export const MOST_PARAMETERS = 2000

const name = z.string().min(1).max(80)
const id = z.string().regex(/^[a-z][a-zA-Z0-9_]{0,39}$/, 'an id: a small letter, then letters, digits and _')
const byCommand = z.strictObject({
  command: z.number().int().min(0).max(253).refine(knowsPayload, 'a command whose payload is known'),
  field: id,
})
const byNumber = z.strictObject({ own: z.number().int().min(0).max(65_535) })
export const placeSchema = z.union([byCommand, byNumber])
export type Place = z.infer<typeof placeSchema>

export const parameterSchema = z.strictObject({
  id,
  label: name,
  group: id,
  type: z.enum(['float', 'integer', 'text', 'date', 'unit', 'choice']),
  /** Symbol of its unit; empty for a plain number. Every float has one, or takes that of another parameter. */
  unit: z.string().max(20).optional(),
  unitFrom: id.optional(),
  least: z.number().optional(),
  most: z.number().optional(),
  /** Of a text. */
  characters: z.number().int().min(1).max(64).optional(),
  choices: z
    .array(z.strictObject({ value: z.number().int(), label: name }))
    .min(1)
    .max(200)
    .optional(),
  read: placeSchema,
  write: placeSchema.optional(),
  /** Belongs to this one meter: its calibration constants. */
  characterization: z.boolean().default(false),
  /** Writing it moves the loop current. */
  movesOutput: z.boolean().default(false),
  /** Shown only where another parameter has one of these values. */
  where: z.strictObject({ parameter: id, is: z.array(z.number()).min(1) }).optional(),
  help: z.string().max(400).default(''),
})
export type Parameter = z.infer<typeof parameterSchema>

export const descriptionSchema = z.strictObject({
  format: z.literal(DESCRIPTION_FORMAT),
  id: z.string().regex(/^[a-z0-9][a-z0-9-]{0,59}$/, 'an id: small letters, digits and hyphens'),
  version: z.number().int().min(1).max(100_000),
  name,
  protocol: z.literal('hart'),
  matches: z.strictObject({
    expandedType: z.number().int().min(0).max(65_535),
    /** Revisions of the device that it is for; all when not given. */
    deviceRevisions: z.array(z.number().int().min(0).max(255)).min(1).optional(),
  }),
  groups: z
    .array(z.strictObject({ id, label: name, within: id.optional() }))
    .min(1)
    .max(200),
  parameters: z.array(parameterSchema).min(1).max(10_000),
  /** Work that the device can be led through. */
  procedures: z
    .array(
      z.enum([
        'zero',
        'lower-trim',
        'upper-trim',
        'current-trim',
        'forced-current',
        'range',
        'damping',
        'ph',
        'flow-zero',
      ]),
    )
    .default([]),
})
export type Description = z.infer<typeof descriptionSchema>

/** The published schema of descriptions, as JSON Schema. */
export const publishedSchema = (): object => z.toJSONSchema(descriptionSchema, { io: 'input' })

const repeated = (ids: readonly string[]): string[] => [...new Set(ids.filter((x, i) => ids.indexOf(x) !== i))]

/** A chain of references that comes back to where it began; undefined where there is none. */
function circle(next: ReadonlyMap<string, string | undefined>): string[] | undefined {
  for (const from of next.keys()) {
    const way = [from]
    for (let at = next.get(from); at !== undefined; at = next.get(at)) {
      way.push(at)
      if (at === from) return way
      // A circle that does not lead back here is found from where it begins.
      if (way.length > next.size + 1) break
    }
  }
  return undefined
}

function unitFaults(d: Description): string[] {
  const ids = new Map(d.parameters.map((p) => [p.id, p]))
  return d.parameters.flatMap((p) => {
    if (p.unitFrom !== undefined) {
      const from = ids.get(p.unitFrom)
      return from?.type === 'unit' ? [] : [`${p.label}: its unit is to come from “${p.unitFrom}”, which is no unit.`]
    }
    if (p.type !== 'float') return []
    if (p.unit === undefined) return [`${p.label} is a figure without a unit. A plain number has the unit "".`]
    return p.unit === '' || findUnit(p.unit) ? [] : [`${p.label}: the unit “${p.unit}” is not known.`]
  })
}

/** Fields that a command’s payload has, by asking it to read zeros. */
const fieldsOf = (command: number, direction: 'request' | 'response'): string[] =>
  Object.keys(decodePayload(command, direction, Uint8Array.from([254, ...Array<number>(39).fill(0)])))

function placeFaults(d: Description): string[] {
  return d.parameters.flatMap((p) => {
    const wrong = (place: Place | undefined, direction: 'request' | 'response') =>
      place && 'command' in place && !fieldsOf(place.command, direction).includes(place.field)
        ? [`${p.label}: command ${place.command} has no field “${place.field}”.`]
        : []
    return [...wrong(p.read, 'response'), ...wrong(p.write, 'request')]
  })
}

/** What is wrong with a description beyond its form, in words; empty for one that can be used. */
export function faultsOf(d: Description): string[] {
  const parameters = new Set(d.parameters.map((p) => p.id))
  const groups = new Set(d.groups.map((g) => g.id))
  const groupCircle = circle(new Map(d.groups.map((g) => [g.id, g.within])))
  const whereCircle = circle(new Map(d.parameters.map((p) => [p.id, p.where?.parameter])))
  return [
    ...(d.parameters.length > MOST_PARAMETERS
      ? [`${d.parameters.length} parameters; at most ${MOST_PARAMETERS} are taken.`]
      : []),
    ...repeated(d.parameters.map((p) => p.id)).map((x) => `The parameter “${x}” is there twice.`),
    ...repeated(d.groups.map((g) => g.id)).map((x) => `The group “${x}” is there twice.`),
    ...d.groups.flatMap((g) =>
      g.within !== undefined && !groups.has(g.within) ? [`${g.label} lies in a group that is not there.`] : [],
    ),
    ...(groupCircle ? [`Groups lie within one another in a circle: ${groupCircle.join(' → ')}.`] : []),
    ...(whereCircle ? [`Parameters depend on one another in a circle: ${whereCircle.join(' → ')}.`] : []),
    ...d.parameters.flatMap((p) => [
      ...(groups.has(p.group) ? [] : [`${p.label} lies in the group “${p.group}”, which is not there.`]),
      ...(p.where && !parameters.has(p.where.parameter)
        ? [`${p.label} depends on “${p.where.parameter}”, which is not there.`]
        : []),
      ...(p.type === 'choice' && !p.choices ? [`${p.label} is a choice without choices.`] : []),
      ...(p.least !== undefined && p.most !== undefined && p.least > p.most
        ? [`${p.label}: its least (${p.least}) is above its most (${p.most}).`]
        : []),
    ]),
    ...unitFaults(d),
    ...placeFaults(d),
  ]
}
