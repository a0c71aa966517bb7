// How many journeys run side by side, and the server that each has to itself.
export const WORKERS = 2

/** Address of the server of the worker that this runs in. */
export const ownServer = (): string => process.env[`CALM_LOOP_BASE_${process.env['TEST_PARALLEL_INDEX'] ?? '0'}`]!
