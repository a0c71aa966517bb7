// Every route of the HTTP interface, once: the server mounts it, the web application calls it, the OpenAPI file
// describes it.
import { z } from 'zod'
import { AddCountEntry, AddEdges, CountEntry, EdgeTrain, TRAIN_BODY, TrainHead } from './counting.ts'
import { CommandMeter, LinkDescription, MeterHeld, MoveProcess, Revealed, WatchedPoint } from './link.ts'
import * as L from './loops.ts'
import {
  AuditPage,
  AuditQuery,
  ChangePassword,
  Duties,
  FirstPerson,
  ListedPerson,
  NewPerson,
  OpenSession,
  Person,
  PersonAccess,
  ResetCode,
  Session,
  SignIn,
  UseResetCode,
  type Duty,
  type Role,
} from './people.ts'
import { Id } from './primitives.ts'
import { Digest, KeyId, SealKey, TrustKey } from './seals.ts'
import { CommandBench, DoProcedure, TransmitterView, TrimLimits } from './procedures.ts'
import { AddWireEntry, WireEntry } from './wire-log.ts'
import { AddSiteRow, AddWorkEntry, SiteRow, WorkEntry } from './work-log.ts'

/** Who may call: anyone; anyone signed in; only people with the role; those to whom the site gives the duty. */
export type Access = 'anyone' | 'signed-in' | Role | `duty:${Duty}`

/** What a route answers with when it is not JSON. */
export type Media =
  'application/pdf' | 'text/csv' | 'application/json' | 'text/event-stream' | 'text/html' | 'image/svg+xml'

export interface Endpoint<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  R extends z.ZodType = z.ZodType,
> {
  readonly method: 'get' | 'post' | 'put' | 'delete'
  /** Express form, e.g. `/api/loops/:loopId`. */
  readonly path: string
  readonly summary: string
  readonly access: Access
  readonly params: P
  readonly query: Q
  readonly body: B
  readonly response: R
  readonly media?: Media
  /** Largest body, default 1 MB. */
  readonly bodyLimit?: string
  /** Body as raw text rather than JSON. */
  readonly rawBody?: boolean
  /** Body so large that reading and checking it is work for a thread of its own. */
  readonly heavy?: boolean
  /** Computes only: no session is looked at and no token is wanted. */
  readonly stateless?: boolean
}

const nothing = z.undefined()
const none = z.object({})

function endpoint<
  P extends z.ZodType = typeof none,
  Q extends z.ZodType = typeof none,
  B extends z.ZodType = typeof nothing,
  R extends z.ZodType = typeof nothing,
>(
  e: Pick<
    Endpoint,
    'method' | 'path' | 'summary' | 'access' | 'media' | 'bodyLimit' | 'rawBody' | 'stateless' | 'heavy'
  > & {
    params?: P
    query?: Q
    body?: B
    response?: R
  },
): Endpoint<P, Q, B, R> {
  return {
    ...e,
    params: e.params ?? none,
    query: e.query ?? none,
    body: e.body ?? nothing,
    response: e.response ?? nothing,
  } as Endpoint<P, Q, B, R>
}

const person = z.object({ personId: Id })
const loop = z.object({ loopId: Id })
const check = z.object({ loopId: Id, checkId: Id })
/** For what volts are given: a loop current in mA (12 where it is not), or a target there (1) or not (0). */
const atSignal = z.object({ mA: z.coerce.number().min(0).max(25).optional(), target: z.enum(['0', '1']).optional() })
const imported = z.strictObject({ added: z.array(z.string()), already: z.array(z.string()) })

export const endpoints = {
  session: endpoint({
    method: 'get',
    path: '/api/session',
    access: 'anyone',
    summary: 'Who is signed in',
    response: Session,
  }),
  signIn: endpoint({
    method: 'post',
    path: '/api/session',
    access: 'anyone',
    summary: 'Sign in',
    body: SignIn,
    response: Session,
  }),
  signOut: endpoint({ method: 'delete', path: '/api/session', access: 'signed-in', summary: 'Sign out' }),
  firstPerson: endpoint({
    method: 'post',
    path: '/api/first-person',
    access: 'anyone',
    summary: 'Make the first user of an empty installation',
    body: FirstPerson,
    response: Session,
  }),
  people: endpoint({
    method: 'get',
    path: '/api/people',
    access: 'signed-in',
    summary: 'Everyone with a sign-in',
    response: z.array(ListedPerson),
  }),
  addPerson: endpoint({
    method: 'put',
    path: '/api/people/:personId',
    access: 'administrator',
    summary: 'Add a person',
    params: person,
    body: NewPerson,
    response: Person,
  }),
  setAccess: endpoint({
    method: 'put',
    path: '/api/people/:personId/access',
    access: 'administrator',
    summary: 'Change someone’s roles, or disable them; their sessions end at once',
    params: person,
    body: PersonAccess,
    response: z.array(ListedPerson),
  }),
  issueReset: endpoint({
    method: 'post',
    path: '/api/people/:personId/reset',
    access: 'administrator',
    summary: 'Make a one-time code with which someone sets a new password',
    params: person,
    response: ResetCode,
  }),
  useReset: endpoint({
    method: 'post',
    path: '/api/password-reset',
    access: 'anyone',
    summary: 'Set a new password with a one-time code, and sign in',
    body: UseResetCode,
    response: Session,
  }),
  changePassword: endpoint({
    method: 'put',
    path: '/api/session/password',
    access: 'signed-in',
    summary: 'Change one’s own password; other sessions end',
    body: ChangePassword,
    response: Session,
  }),
  sessions: endpoint({
    method: 'get',
    path: '/api/people/:personId/sessions',
    access: 'signed-in',
    summary: 'Open sessions: one’s own, or as administrator anyone’s',
    params: person,
    response: z.array(OpenSession),
  }),
  endSession: endpoint({
    method: 'delete',
    path: '/api/people/:personId/sessions/:sessionId',
    access: 'signed-in',
    summary: 'End a session; “all” ends every other one',
    params: person.extend({ sessionId: z.string().regex(/^([0-9a-f]{16}|all)$/) }),
    response: z.array(OpenSession),
  }),
  duties: endpoint({
    method: 'get',
    path: '/api/settings/duties',
    access: 'signed-in',
    summary: 'Which role keeps the kit, sets limits, adds rows',
    response: Duties,
  }),
  saveDuties: endpoint({
    method: 'put',
    path: '/api/settings/duties',
    access: 'administrator',
    summary: 'Set which role keeps the kit, sets limits, adds rows',
    body: Duties,
    response: Duties,
  }),
  audit: endpoint({
    method: 'get',
    path: '/api/audit',
    access: 'reviewer',
    summary: 'The audit trail, newest first',
    query: AuditQuery,
    response: AuditPage,
  }),
  auditCsv: endpoint({
    method: 'get',
    path: '/api/audit.csv',
    access: 'reviewer',
    summary: 'The audit trail as CSV (RFC 4180)',
    query: AuditQuery.omit({ before: true }),
    media: 'text/csv',
  }),
  sealKeys: endpoint({
    method: 'get',
    path: '/api/seal-keys',
    access: 'signed-in',
    summary: 'Public keys: this installation’s own and those trusted here',
    response: z.array(SealKey),
  }),
  trustKey: endpoint({
    method: 'put',
    path: '/api/seal-keys/:keyId',
    access: 'administrator',
    summary: 'Trust the key of another installation, or withdraw the trust',
    params: z.object({ keyId: KeyId }),
    body: TrustKey,
    response: z.array(SealKey),
  }),
  verify: endpoint({
    method: 'get',
    path: '/api/verify/:digest',
    access: 'anyone',
    stateless: true,
    summary: 'Whether the certificate with this fingerprint stands on record here, unchanged; nothing else is told',
    params: z.object({ digest: Digest }),
    response: z.strictObject({ stands: z.boolean() }),
  }),

  loops: endpoint({
    method: 'get',
    path: '/api/loops',
    access: 'signed-in',
    summary: 'The register, a page at a time by tag',
    query: L.LoopQuery,
    response: L.LoopPage,
  }),
  registerCsv: endpoint({
    method: 'get',
    path: '/api/loops.csv',
    access: 'signed-in',
    summary: 'The register as CSV (RFC 4180)',
    media: 'text/csv',
  }),
  importRegister: endpoint({
    method: 'post',
    path: '/api/loops.csv',
    access: 'technician',
    summary: 'Add loops from a CSV with tag, service, area, kind',
    body: z.string(),
    rawBody: true,
    bodyLimit: '8mb',
    response: imported,
  }),
  kinds: endpoint({
    method: 'get',
    path: '/api/kinds',
    access: 'signed-in',
    summary: 'Kinds of point there are: what a list needs of them',
    response: z.array(L.KindRow),
  }),
  createLoop: endpoint({
    method: 'put',
    path: '/api/loops/:loopId',
    access: 'technician',
    summary: 'Create a loop, or say again that it was created',
    params: loop,
    body: L.LoopIdentity,
    response: L.LoopRow,
  }),
  folder: endpoint({
    method: 'get',
    path: '/api/loops/:loopId',
    access: 'signed-in',
    summary: 'A loop’s folder',
    params: loop,
    response: L.FolderView,
  }),
  saveVersion: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/versions/:versionId',
    access: 'technician',
    summary: 'Save what has been entered',
    params: z.object({ loopId: Id, versionId: Id }),
    body: L.SaveVersion,
    response: L.Version,
  }),
  startCheck: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/checks/:checkId',
    access: 'technician',
    summary: 'Start a check; confirms the gate “loop in manual”',
    params: check,
    body: L.StartCheck,
    response: L.Check,
  }),
  takeReading: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/checks/:checkId/readings/:readingId',
    access: 'technician',
    summary: 'Put a reading on record',
    params: check.extend({ readingId: Id }),
    body: L.TakeReading,
    response: L.Reading,
  }),
  confirmGate: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/checks/:checkId/gates/:gateId',
    access: 'technician',
    summary: 'Confirm a gate',
    params: check.extend({ gateId: Id }),
    body: L.ConfirmGate,
    response: L.Gate,
  }),
  addWireEntry: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/wire-log/:entryId',
    access: 'technician',
    summary: 'Confirm a gate of the wiring work, or put a reading at the terminals on record',
    params: z.object({ loopId: Id, entryId: Id }),
    body: AddWireEntry,
    response: WireEntry,
  }),
  wiringPdf: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/wiring.pdf',
    access: 'signed-in',
    summary: 'Wiring sheet',
    params: loop,
    query: atSignal,
    media: 'application/pdf',
  }),
  wiringSvg: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/wiring.svg',
    access: 'signed-in',
    summary: 'Wiring as a drawing',
    params: loop,
    query: atSignal,
    media: 'image/svg+xml',
  }),
  wiringCsv: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/wiring.csv',
    access: 'signed-in',
    summary: 'Terminal list as CSV (RFC 4180)',
    params: loop,
    query: atSignal,
    media: 'text/csv',
  }),
  sign: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/checks/:checkId/signatures/:signatureId',
    access: 'signed-in',
    summary: 'Sign as the one who performed it, or countersign as reviewer',
    params: check.extend({ signatureId: Id }),
    body: L.Sign,
    response: L.Signature,
  }),
  certificate: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/checks/:checkId/certificate.pdf',
    access: 'signed-in',
    summary: 'Certificate',
    params: check,
    media: 'application/pdf',
  }),
  readingsCsv: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/checks/:checkId/readings.csv',
    access: 'signed-in',
    summary: 'Readings as CSV (RFC 4180)',
    params: check,
    media: 'text/csv',
  }),
  bundle: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/bundle.json',
    access: 'signed-in',
    summary: 'The whole folder as a JSON bundle',
    params: loop,
    media: 'application/json',
  }),
  importBundle: endpoint({
    method: 'post',
    path: '/api/bundles',
    access: 'technician',
    summary: 'Add a folder from a bundle',
    body: z.string(),
    rawBody: true,
    bodyLimit: '32mb',
    response: imported,
  }),
  bundleSchema: endpoint({
    method: 'get',
    path: '/api/schemas/folder.json',
    access: 'anyone',
    summary: 'JSON Schema of a bundle',
    media: 'application/json',
  }),
  loopEvents: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/events',
    access: 'signed-in',
    summary: 'Changes to a loop as they happen',
    params: loop,
    media: 'text/event-stream',
  }),

  addEdges: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/edges/:trainId',
    access: 'technician',
    summary: 'Put changes of a discrete point on record',
    params: z.object({ loopId: Id, trainId: Id }),
    body: AddEdges,
    bodyLimit: TRAIN_BODY,
    heavy: true,
    response: TrainHead,
  }),
  edges: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/edges',
    access: 'signed-in',
    summary: 'Every change of a discrete point, packed',
    params: loop,
    response: z.array(EdgeTrain),
  }),
  edgesCsv: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/edges.csv',
    access: 'signed-in',
    summary: 'Every change of a discrete point as CSV (RFC 4180)',
    params: loop,
    media: 'text/csv',
  }),
  addCountEntry: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/count-log/:entryId',
    access: 'technician',
    summary: 'Name a stop, enter rejected pieces, or withdraw either',
    params: z.object({ loopId: Id, entryId: Id }),
    body: AddCountEntry,
    response: CountEntry,
  }),
  watchPoints: endpoint({
    method: 'get',
    path: '/api/points',
    access: 'signed-in',
    summary: 'The discrete points that can be watched, by tag',
    response: z.array(WatchedPoint),
  }),
  watchStream: endpoint({
    method: 'get',
    path: '/api/points/stream',
    access: 'signed-in',
    summary: 'States of all watched points, twenty times a second',
    media: 'text/event-stream',
  }),

  gear: endpoint({
    method: 'get',
    path: '/api/gear',
    access: 'signed-in',
    summary: 'Test equipment',
    response: z.array(L.Gear),
  }),
  saveGear: endpoint({
    method: 'put',
    path: '/api/gear/:gearId',
    access: 'duty:kit',
    summary: 'Add or change test equipment',
    params: z.object({ gearId: Id }),
    body: L.Gear,
    response: L.Gear,
  }),

  link: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/link',
    access: 'signed-in',
    summary: 'What this loop is connected to',
    params: loop,
    response: LinkDescription,
  }),
  linkStream: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/link/stream',
    access: 'signed-in',
    summary: 'Live readings; with trend=1 also twenty samples a second for a trend',
    params: loop,
    query: z.object({ trend: z.enum(['1']).optional() }),
    media: 'text/event-stream',
  }),
  moveProcess: endpoint({
    method: 'post',
    path: '/api/loops/:loopId/link/process',
    access: 'technician',
    summary: 'Move the stand-in’s process',
    params: loop,
    body: MoveProcess,
  }),

  meterHeld: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/link/meter',
    access: 'signed-in',
    summary: 'What the meter holds, and the practice cases there are',
    params: loop,
    response: MeterHeld,
  }),
  commandMeter: endpoint({
    method: 'post',
    path: '/api/loops/:loopId/link/meter',
    access: 'technician',
    summary: 'Start, mount, zero, write or check the meter',
    params: loop,
    body: CommandMeter,
    response: MeterHeld,
  }),
  revealPractice: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/link/practice',
    access: 'signed-in',
    summary: 'What the practice case under way has hidden',
    params: loop,
    response: Revealed,
  }),

  transmitter: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/link/transmitter',
    access: 'signed-in',
    summary: 'What the device says that it holds, its change log, and the practice cases there are',
    params: loop,
    response: TransmitterView,
  }),
  commandBench: endpoint({
    method: 'post',
    path: '/api/loops/:loopId/link/bench',
    access: 'technician',
    summary: 'Begin a practice case, apply a value, cut the power, move the protection switch',
    params: loop,
    body: CommandBench,
    response: TransmitterView,
  }),
  doProcedure: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/procedures/:runId/events/:eventId',
    access: 'technician',
    summary: 'Begin a guided procedure, pass one of its gates, or cancel it',
    params: z.object({ loopId: Id, runId: Id, eventId: Id }),
    body: DoProcedure,
    response: z.array(WorkEntry),
  }),
  trimLimits: endpoint({
    method: 'get',
    path: '/api/settings/trim-limits',
    access: 'signed-in',
    summary: 'The site’s limits for trims',
    response: TrimLimits,
  }),
  saveTrimLimits: endpoint({
    method: 'put',
    path: '/api/settings/trim-limits',
    access: 'duty:limits',
    summary: 'Set the site’s limits for trims',
    body: TrimLimits,
    response: TrimLimits,
  }),

  addWork: endpoint({
    method: 'put',
    path: '/api/loops/:loopId/work/:entryId',
    access: 'technician',
    summary: 'Put a step, a judged sound speed, a zero, a health check, a read-back or a survey on record',
    params: z.object({ loopId: Id, entryId: Id }),
    body: AddWorkEntry,
    response: WorkEntry,
  }),
  survey: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/surveys/:surveyId',
    access: 'signed-in',
    summary: 'The rows of a survey',
    params: z.object({ loopId: Id, surveyId: Id }),
    response: z.array(WorkEntry),
  }),
  surveyCsv: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/surveys/:surveyId/rows.csv',
    access: 'signed-in',
    summary: 'The rows of a survey as CSV (RFC 4180)',
    params: z.object({ loopId: Id, surveyId: Id }),
    media: 'text/csv',
  }),
  setupPdf: endpoint({
    method: 'get',
    path: '/api/loops/:loopId/setup.pdf',
    access: 'signed-in',
    summary: 'The set-up sheet, in the order of keying',
    params: loop,
    media: 'application/pdf',
  }),
  siteRows: endpoint({
    method: 'get',
    path: '/api/site-rows',
    access: 'signed-in',
    summary: 'The site’s own rows of materials, liners, fluids and pairs',
    response: z.array(SiteRow),
  }),
  addSiteRow: endpoint({
    method: 'put',
    path: '/api/site-rows/:rowId',
    access: 'duty:rows',
    summary: 'Add a row to the site’s own tables',
    params: z.object({ rowId: Id }),
    body: AddSiteRow,
    response: SiteRow,
  }),

  calc: endpoint({
    method: 'post',
    path: '/api/calc/:calculator',
    stateless: true,
    access: 'anyone',
    summary: 'Run a calculator by its name; each is described below',
    params: z.object({ calculator: z.string().max(60) }),
    body: z.unknown(),
    response: z.unknown(),
  }),
  openapi: endpoint({
    method: 'get',
    path: '/api/openapi.json',
    access: 'anyone',
    summary: 'This description',
    media: 'application/json',
  }),
} as const

export type EndpointName = keyof typeof endpoints
