// A loop folder as the text of a JSON bundle, and what such a text must be to be taken. Without the database, so that
// it can be done in a worker.
import {
  Bundle,
  BUNDLE_FORMAT,
  BUNDLE_VERSION,
  canonicalJson,
  coreTrain,
  inWorld,
  workOf,
  type Check,
  type Signature,
  type ProblemCode,
  type WholeFolder,
  type WorkEntry,
} from '@calm-loop/contract'
import { verdictOfCheck } from '@calm-loop/contract/judging'
import { refuseUnsound } from '@calm-loop/core/discrete'
import { entriesNow, falseEntries, KINDS, kindOf } from '@calm-loop/core/kinds'
import { entryIsTrue } from '@calm-loop/core/quantity'
import { study } from '@calm-loop/core/loop'
import { attempt, Refusal } from '@calm-loop/core/refusal'
import { HttpProblem } from '../http/problems.ts'
import { unstorable } from '../http/storable.ts'
import { contentOfDigest, subjectOfCheck, subjectOfSigned } from '../seals/seals.ts'
import { refuseWrongReads } from './check-reads.ts'
import { studyOf } from './studies.ts'
import { trainRow } from './train-row.ts'
import { decodeText } from './text.ts'

/** A decision or a signature without the marks of whoever brought it in, and of how it stands. */
function unmarked(entry: WorkEntry): WorkEntry {
  if (entry.what === 'run-signed') {
    const { elsewhere: _, standing, keyName: _key, ...signed } = entry
    return standing === 'broken' ? { ...signed, standing } : signed
  }
  if (entry.what !== 'interval' && entry.what !== 'fit') return entry
  const { elsewhere: _, ...decision } = entry
  return decision
}

/** The bundle's text: sorted keys, two spaces, a line feed at the end. */
export function bundleText(folder: WholeFolder): string {
  const { loop, versions, checks, wireLog, countLog, workLog, edges } = folder
  // What only some points have stands there only where there is some.
  const some = {
    ...(countLog.length ? { countLog } : {}),
    ...(workLog.length ? { workLog: workLog.map(unmarked) } : {}),
    ...(edges.length ? { edges } : {}),
  }
  // How a seal stands is found out by whoever reads it, and who brings it in marks it anew: so what comes out is what
  // went in.
  const signed = checks.map(({ imported: _, ...c }) => ({
    ...c,
    signatures: c.signatures.map(({ standing, keyName: _, ...s }) => (standing === 'broken' ? { ...s, standing } : s)),
  }))
  const whole = { loop, versions, checks: signed, wireLog, ...some }
  return `${canonicalJson({ format: BUNDLE_FORMAT, version: BUNDLE_VERSION, folder: whole }, 2)}\n`
}

const refuse = (code: ProblemCode, says: string, fields?: { path: string; rule: string }[]) =>
  new HttpProblem(422, code, `${says} Nothing was stored.`, fields ? { fields } : {})

/**
 * Reads a bundle as it was sent. @throws HttpProblem `not-utf-8`, `not-json`, `newer-version`, `not-a-bundle` and what
 * refuses an untrue one
 */
export function parseBundle(bytes: Uint8Array): Bundle {
  const text = decodeText(bytes)
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw refuse('not-json', 'This is not JSON, or the file ends too early: it may not have been copied whole.')
  }
  const head = value as { format?: unknown; version?: unknown } | null
  if (head?.format !== BUNDLE_FORMAT)
    throw refuse('not-a-bundle', 'This is not a loop folder made by this application.')
  if (typeof head.version === 'number' && head.version > BUNDLE_VERSION)
    throw refuse(
      'newer-version',
      `This bundle is of version ${head.version}; this installation reads up to ${BUNDLE_VERSION}. Update it first.`,
    )
  const odd = unstorable(value)
  if (odd) throw refuse('not-a-bundle', 'The bundle is damaged: some of it cannot be kept.', [odd])
  const parsed = Bundle.safeParse(value)
  if (!parsed.success)
    throw refuse(
      'not-a-bundle',
      'The bundle is damaged: some of it is missing or not of the right form.',
      parsed.error.issues.slice(0, 20).map((i) => ({ path: i.path.join('.'), rule: i.message })),
    )
  refuseFalse(parsed.data.folder)
  return parsed.data
}

/** A bundle that contradicts itself, or whose signed content is not what was signed. */
function refuseFalse(folder: WholeFolder): void {
  if (!KINDS.some((k) => k.id === folder.loop.kind))
    throw refuse('unknown-kind', `This installation does not know the kind of point “${folder.loop.kind}”.`)
  const ids = [
    ...folder.versions,
    ...folder.checks,
    ...folder.wireLog,
    ...folder.countLog,
    ...folder.workLog,
    ...folder.edges,
    ...folder.checks.flatMap((c) => [...c.gates, ...c.readings, ...c.signatures]),
  ].map((x) => x.id)
  if (new Set(ids).size !== ids.length)
    throw refuse('not-a-bundle', 'The bundle is damaged: one id stands for two things.')
  folder.versions.forEach((v, i) => {
    if (v.number !== i + 1 || v.parentId !== (folder.versions[i - 1]?.id ?? null))
      throw refuse('not-a-bundle', 'The bundle is damaged: its versions do not follow one another.')
  })
  for (const practising of [false, true]) refuseUnordered(inWorld(folder.edges, practising))
  folder.checks.forEach((check) => refuseFalseCheck(folder, check))
  for (const signed of workOf(folder.workLog, 'run-signed')) {
    const subject = subjectOfSigned(folder, signed)
    if (!subject || contentOfDigest(signed.digest, subject) === undefined) throw refuseBroken(signed)
  }
  refuseFalseEntries(folder)
}

const refuseBroken = ({ by, at }: Pick<Signature, 'by' | 'at'>) =>
  refuse(
    'signature-broken',
    `What ${by.name} signed on ${at.slice(0, 10)} is not what the bundle holds: it was changed afterwards.`,
  )

/** Counted changes that do not follow one another. */
function refuseUnordered(edges: WholeFolder['edges']): void {
  edges.forEach((train, i) => {
    const unsound = attempt(() => refuseUnsound(coreTrain(train)))
    const { endMs, changes } = trainRow(train)
    const before = edges[i - 1]
    if (
      unsound instanceof Refusal ||
      endMs !== train.endMs ||
      changes !== train.changes ||
      (before && before.endMs >= train.startMs)
    )
      throw refuse('not-a-bundle', 'The bundle is damaged: its counted changes do not follow one another.')
  })
}

/** A check whose signatures are not for what it holds, or whose readings could not be judged. */
function refuseFalseCheck(folder: WholeFolder, check: Check): void {
  const version = folder.versions.find((v) => v.id === check.versionId)
  if (!version) throw refuse('not-a-bundle', 'The bundle is damaged: a check was made with entries that are not in it.')
  for (const signature of check.signatures)
    if (contentOfDigest(signature.digest, subjectOfCheck(folder.loop, version, check)) === undefined)
      throw refuseBroken(signature)
  const known = studyOf(folder.loop.kind, version)
  for (const r of check.readings) {
    if (![r.applied, ...Object.values(r.reads)].every((e) => entryIsTrue(e, 'ever')))
      throw refuse(
        'entry-mismatch',
        `What was typed and what was understood do not agree in reading ${r.seq} of the check of ` +
          `${check.startedAt.slice(0, 10)}.`,
      )
    const wrong = attempt(() => refuseWrongReads(known, check, r))
    if (wrong instanceof Refusal)
      throw refuse(
        wrong.code,
        `Reading ${r.seq} of the check of ${check.startedAt.slice(0, 10)} cannot be judged: ${wrong.message}`,
      )
  }
  const kind = kindOf(folder.loop.kind)
  const unjudged = attempt(() => verdictOfCheck(study(kind, entriesNow(kind, version)), check))
  if (unjudged instanceof Refusal)
    throw refuse(unjudged.code, `The check of ${check.startedAt.slice(0, 10)} cannot be judged: ${unjudged.message}`)
}

/** The figures that an entry of the work holds as they were typed. */
function readsOf(e: WorkEntry) {
  switch (e.what) {
    case 'trim-point':
      return [e.applied, e.digital, e.current, e.receiver]
    case 'device-range':
      return [e.lrv, e.urv]
    case 'step':
      return [e.value]
    default:
      return []
  }
}

/** Typed text that does not give the value stored beside it. */
function refuseFalseEntries(folder: WholeFolder): void {
  const kind = kindOf(folder.loop.kind)
  for (const version of folder.versions) {
    const untrue = falseEntries(kind.fields, entriesNow(kind, version), 'ever')
    if (untrue.length)
      throw refuse(
        'entry-mismatch',
        `What was typed and what was understood do not agree in version ${version.number}: ${untrue.join(', ')}.`,
      )
  }
  const read = [
    ...folder.wireLog.flatMap((e) => (e.what === 'reading' ? [e.read] : [])),
    ...folder.workLog.flatMap((e) => readsOf(e)),
  ]
  if (read.some((r) => r && !entryIsTrue(r, 'ever')))
    throw refuse('entry-mismatch', 'What was typed and what was understood do not agree in the log of the work.')
}
