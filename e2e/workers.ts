import { availableParallelism } from 'node:os'

// How many journeys run side by side, each with a server of its own: two where there are two cores, one with `JOURNEYS=1`.
export const WORKERS = Number(process.env['JOURNEYS'] ?? Math.min(2, availableParallelism()))

/** Address of the server of the worker that this runs in. */
export const ownServer = (): string => process.env[`CALM_LOOP_BASE_${process.env['TEST_PARALLEL_INDEX'] ?? '0'}`]!
