/** What the application signs in as: it may add to records, and never change them. */
export const APPLICATION_ROLE = 'calm_loop_app'
