// Limits that page and server share, by themselves: a page that opens first need not load the whole contract for them.

/** How long a sign-in lasts, h. */
export const SESSION_h = 12

/** Papers of many loops that can be asked for in one file. */
export const ERRAND_PAPERS = ['certificates', 'set-up sheets', 'folders'] as const
/** Most loops of one errand. */
export const ERRAND_LOOPS = 2000
/** Size of a part of a file that is brought in, bytes; and most parts. */
export const PART_BYTES = 4_000_000
export const MOST_PARTS = 100
/** Files of errands are kept so long, days. */
export const ERRAND_DAYS = 7

/** Writes that waited on a device and may come with others; what asks for a password, or is large, comes alone. */
export const SENT_TOGETHER = ['takeReading', 'addWireEntry', 'addWork', 'confirmGate'] as const
/** Most of them at once. */
export const MOST_TOGETHER = 25
