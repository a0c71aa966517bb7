// A server with nothing but Express and pg, which answers the same page of the register: what ours is held against.
import express from 'express'
import type { AddressInfo } from 'node:net'
import pg from 'pg'

const pool = new pg.Pool({ connectionString: process.argv[2], max: 12 })
const app = express()
app.get('/api/loops', async (_req, res) => {
  const { rows } = await pool.query(
    'select id, tag, service, area, kind, state, next_due, last_error_pct, tolerance_pct ' +
      'from loops order by tag limit 51',
  )
  res.json({ loops: rows.slice(0, 50), next: (rows[49] as { tag: string }).tag })
})
const server = app.listen(0, '127.0.0.1', () => console.log((server.address() as AddressInfo).port))
process.on('disconnect', () => process.exit(0))
