// The register as CSV (RFC 4180): its text, and what a text that is sent says. Without the database, so that it can be
// done in a worker.
import { LoopIdentity } from '@calm-loop/contract'
import { KINDS } from '@calm-loop/core/kinds'
import { parse } from 'csv-parse/sync'
import { stringify } from 'csv-stringify/sync'
import { HttpProblem } from '../http/problems.ts'
import { decodeText } from './text.ts'

const COLUMNS = ['tag', 'service', 'area', 'kind'] as const
/** A cell that a spreadsheet would run as a formula is led by an apostrophe. */
const safe = (cell: unknown) => (typeof cell === 'string' && /^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell)

/** Text of a CSV file: header, CRLF, formulas made harmless. */
export function csvText(header: readonly string[] | undefined, rows: readonly (readonly unknown[])[]): string {
  return stringify([...(header ? [header] : []), ...rows.map((row) => row.map(safe))], { record_delimiter: 'windows' })
}

/** What the errors of a kind are per cent of. */
const pctOf = (kind: string) => (KINDS.find((k) => k.id === kind)?.family === 'switch' ? 'operate distance' : 'span')

export interface RegisterRow extends LoopIdentity {
  readonly state: string
  readonly nextDue: string | null
  readonly lastErrorPct: number | null
  readonly tolerancePct: number | null
}
const REGISTER_HEADER = [...COLUMNS, 'state', 'next_due', 'last_error_pct', 'tolerance_pct', 'pct_of']
/** Lines of the register; the first piece of it begins with the header. */
export const registerText = (rows: readonly RegisterRow[], first: boolean): string =>
  csvText(
    first ? REGISTER_HEADER : undefined,
    rows.map((r) => [
      r.tag,
      r.service,
      r.area,
      r.kind,
      r.state,
      r.nextDue,
      r.lastErrorPct,
      r.tolerancePct,
      pctOf(r.kind),
    ]),
  )

function readRows(text: string): { line: number; record: Record<string, string> }[] {
  try {
    const rows = parse(text, {
      columns: (header: string[]) => header.map((h) => h.trim().toLowerCase()),
      bom: true,
      info: true,
      skip_empty_lines: true,
      trim: true,
    }) as unknown as { info: { lines: number }; record: Record<string, string> }[]
    return rows.map(({ info, record }) => ({ line: info.lines, record }))
  } catch (error) {
    throw new HttpProblem(
      422,
      'not-csv',
      `This is not a whole CSV file: ${(error as Error).message}. Nothing was stored.`,
    )
  }
}

/** The loops of a CSV with the columns tag, service, area, kind. One bad row, and none is taken. @throws HttpProblem */
export function parseRegister(bytes: Uint8Array): { line: number; identity: LoopIdentity }[] {
  const rows = readRows(decodeText(bytes))
  const lacking = COLUMNS.filter((c) => !(c in (rows[0]?.record ?? {})))
  if (lacking.length)
    throw new HttpProblem(
      422,
      'not-csv',
      `The file needs a header and at least one row; missing columns: ${lacking.join(', ')}. Nothing was stored.`,
    )
  const bad: { path: string; rule: string }[] = []
  const good: { line: number; identity: LoopIdentity }[] = []
  for (const { line, record } of rows) {
    const parsed = LoopIdentity.safeParse(Object.fromEntries(COLUMNS.map((c) => [c, record[c]])))
    if (!parsed.success)
      bad.push({
        path: `line ${line}`,
        rule: parsed.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join('; '),
      })
    else if (!KINDS.some((k) => k.id === parsed.data.kind))
      bad.push({ path: `line ${line}`, rule: `kind: must be one of ${KINDS.map((k) => k.id).join(', ')}` })
    else good.push({ line, identity: parsed.data })
  }
  if (bad.length)
    throw new HttpProblem(
      422,
      'bad-rows',
      `${bad.length} of ${rows.length} rows cannot be taken. Correct them and send the file again; nothing was stored.`,
      { fields: bad.slice(0, 100) },
    )
  return good
}
