// Limits that page and server share, by themselves: a page that opens first need not load the whole contract for them.

/** How long a sign-in lasts, h. */
export const SESSION_h = 12
