// Electrodes by their serial numbers: what is put on record of them, wherever they serve.
import { electrodeOf, ELECTRODE_SORTS, type Electrode } from '@calm-loop/core/electrode'
import { z } from 'zod'
import { endpoint } from './endpoint.ts'
import { Author, Day, filledLine, Id, Instant, line } from './primitives.ts'

const mV = z.number().min(-5000).max(5000)
const Point = z.strictObject({
  buffer: filledLine(80),
  temp_C: z.number().min(-20).max(150).exactOptional(),
  /** pH of the buffer there, or the potential of a redox solution, mV. */
  is: mV,
  mV,
})
const Entered = z.strictObject({
  what: z.literal('entered'),
  sort: z.enum(ELECTRODE_SORTS),
  serial: filledLine(80),
  model: filledLine(120),
  memory: z.boolean(),
  bestBefore: Day.exactOptional(),
})
const Calibrated = z.strictObject({
  what: z.literal('calibrated'),
  points: z.array(Point).min(1).max(5),
  response_s: z.number().positive().max(3600).exactOptional(),
  glass_MOhm: z.number().positive().max(100_000).exactOptional(),
  bestBefore: Day.exactOptional(),
  readBack: z.strictObject({ slopePercent: z.number().min(0).max(200).exactOptional(), offset_mV: mV }).exactOptional(),
})
const PluggedIn = z.strictObject({ what: z.literal('plugged-in'), loopId: Id })
const TakenOut = z.strictObject({ what: z.literal('taken-out'), words: filledLine(300) })
const Retired = z.strictObject({ what: z.literal('retired'), words: filledLine(300) })

/** What a page puts on record. */
export const AddElectrodeEntry = z.discriminatedUnion('what', [Entered, Calibrated, PluggedIn, TakenOut, Retired])
export type AddElectrodeEntry = z.infer<typeof AddElectrodeEntry>

/** A calibration at a point: the run of guided work that it came from, and points that may be reckoned. */
const byRun = {
  run: Id.exactOptional(),
  points: z
    .array(Point.extend({ reckoned: z.literal(true).exactOptional() }))
    .min(1)
    .max(5),
}
const bodies = [Entered, Calibrated.extend(byRun), PluggedIn.extend({ tag: line(40) }), TakenOut, Retired] as const
/** What is kept of an event. */
export const ElectrodeBody = z.discriminatedUnion('what', bodies)
export type ElectrodeBody = z.infer<typeof ElectrodeBody>

const one = { id: Id, by: Author, at: Instant }
export const ElectrodeEntry = z.discriminatedUnion('what', [
  Entered.extend(one),
  Calibrated.extend(byRun).extend(one),
  PluggedIn.extend({ tag: line(40) }).extend(one),
  TakenOut.extend(one),
  Retired.extend(one),
])
export type ElectrodeEntry = z.infer<typeof ElectrodeEntry>

/** An electrode with all that is on record of it, oldest first. */
export const ElectrodeView = z.strictObject({ id: Id, log: z.array(ElectrodeEntry) })
export type ElectrodeView = z.infer<typeof ElectrodeView>

/** What follows from the record of an electrode. @throws Refusal */
export const readElectrode = ({ log }: Pick<ElectrodeView, 'log'>): Electrode => electrodeOf(log)

export const electrodeRoutes = {
  electrodes: endpoint({
    method: 'get',
    path: '/api/electrodes',
    access: 'signed-in',
    summary: 'Every electrode with its record',
    response: z.array(ElectrodeView),
  }),
  addElectrodeEntry: endpoint({
    method: 'put',
    path: '/api/electrodes/:electrodeId/log/:entryId',
    access: 'technician',
    summary: 'Enter an electrode, put a calibration at the bench on record, plug it in, take it out, or retire it',
    params: z.object({ electrodeId: Id, entryId: Id }),
    body: AddElectrodeEntry,
    response: ElectrodeView,
  }),
} as const
