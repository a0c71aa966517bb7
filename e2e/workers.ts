// How many journeys run side by side, and the server that each has to itself. `JOURNEYS=2` is faster where there are
// cores to spare:
// two of them on two cores make each other late.
export const WORKERS = Number(process.env['JOURNEYS'] ?? 1)

/** Address of the server of the worker that this runs in. */
export const ownServer = (): string => process.env[`CALM_LOOP_BASE_${process.env['TEST_PARALLEL_INDEX'] ?? '0'}`]!
