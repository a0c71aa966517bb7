// What page and server share without a schema: a page that opens first need not load the whole contract for it.

/** How long a sign-in lasts, h. */
export const SESSION_h = 12

/** Papers of many loops that can be asked for in one file. */
export const ERRAND_PAPERS = ['certificates', 'set-up sheets', 'folders', 'photographs', 'instrument list'] as const
/** Most loops of one errand. */
export const ERRAND_LOOPS = 2000
/** Loops that one list may bring in. */
export const PLANT_LOOPS = 20_000
/** Things of a day that are ticked as packed. */
export const MOST_PACKED = 500
/** Columns of a list whose matching is kept. */
export const LIST_COLUMNS = 1000
/** Size of a part of a file that is brought in, bytes; and most parts. */
export const PART_BYTES = 4_000_000
export const MOST_PARTS = 100
/** Files of errands are kept so long, days. */
export const ERRAND_DAYS = 7

/** Writes that waited on a device and may come with others; what asks for a password, or is large, comes alone. */
export const SENT_TOGETHER = ['takeReading', 'addWireEntry', 'addWork', 'confirmGate'] as const
/** Most of them at once. */
export const MOST_TOGETHER = 25

/** Shortest and longest password that is set; nothing is asked of its make. */
export const PASSWORD_LENGTH = { least: 12, most: 128 } as const

/** Id of the answer to a command, from the id under which it went out: the same wherever it is made. */
export const answerIdOf = (sentId: string): string =>
  sentId.slice(0, -1) + (Number.parseInt(sentId.slice(-1), 16) ^ 8).toString(16)

/** Who has which of the site’s duties where nobody has said. */
export const USUAL_DUTIES = {
  kit: 'technician',
  limits: 'reviewer',
  rows: 'technician',
  fitness: 'reviewer',
} as const

/** Largest certificate of a piece of kit that is kept, bytes. */
export const CERTIFICATE_BYTES = 5_000_000
/** Longest shift that is looked at, h. */
export const LONGEST_SHIFT_h = 7 * 24
/** Largest photograph or paper of a loop, bytes. */
export const ATTACHMENT_BYTES = 25_000_000
