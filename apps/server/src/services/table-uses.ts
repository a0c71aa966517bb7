// Which loops use a row of a table, by what stands in their entries; and what other figures in it would move.
import type { TableUse, TableUses } from '@calm-loop/contract'
import { kindOf, entriesNow, type Entries } from '@calm-loop/core/kinds'
import { standingRows, usesRow, type KeptRow } from '@calm-loop/core/tables'
import { and, asc, eq, inArray, or, sql, type SQL } from 'drizzle-orm'
import type { Queries } from '../db/database.ts'
import { loops, versions } from '../db/schema.ts'
import { notFound } from '../http/problems.ts'
import type { Workers } from '../workers/pool.ts'
import { readSiteRows } from './work.ts'

/** Loops that are told at once. */
const MOST = 200

type Fills = Readonly<Record<string, string>>
function typedAs(fills: Fills): SQL {
  const typed = Object.fromEntries(Object.entries(fills).map(([key, words]) => [key, { typed: words }]))
  return sql`${versions.entries} @> ${JSON.stringify(typed)}::jsonb`
}

/** A row of the site's own with those before it. @throws HttpProblem `not-found` */
async function chainOf(db: Queries, rowId: string): Promise<readonly KeptRow[]> {
  const all: readonly KeptRow[] = await readSiteRows(db)
  const found = standingRows(all).find(({ row, before }) => row.id === rowId || before.some((b) => b.id === rowId))
  if (!found) throw notFound('This row')
  return [found.row, ...found.before]
}

export async function tableUses(db: Queries, workers: Workers, { of, fills }: TableUse): Promise<TableUses> {
  const chain = 'rowId' in of ? await chainOf(db, of.rowId) : []
  const which =
    'rowId' in of
      ? or(...chain.map((row) => typedAs(row.fills)))
      : and(typedAs({ [of.choice]: of.value }), inArray(loops.kind, of.kinds))
  const found = await db
    .select({
      ...{ id: loops.id, tag: loops.tag, service: loops.service, area: loops.area, kind: loops.kind },
      ...{ entries: versions.entries, kindVersion: versions.kindVersion },
    })
    .from(loops)
    .innerJoin(versions, eq(loops.headVersionId, versions.id))
    .where(which)
    .orderBy(asc(loops.tag))
  const some = found.slice(0, MOST).map(({ entries, kindVersion, ...loop }) => {
    const now: Entries = entriesNow(kindOf(loop.kind), { entries, kindVersion: kindVersion ?? undefined })
    return { ...loop, entries: now, row: chain.find((r) => usesRow(now, r.fills))?.id ?? null }
  })
  const moves = fills
    ? await workers.run('tableMoves', { loops: some.map(({ kind, entries }) => ({ kind, entries })), fills })
    : some.map(() => ({ moved: [], come: [], gone: [] }))
  return {
    loops: some.map(({ id, tag, service, area, row }, i) => ({
      ...{ id, tag, service, area, row },
      ...(moves[i] ?? { moved: [], come: [], gone: [] }),
    })),
    more: found.length - some.length,
  }
}
