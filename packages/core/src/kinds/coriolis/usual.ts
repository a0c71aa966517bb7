// The unit that a Coriolis meter speaks in, where none was entered.

export const USUAL = 'kg/h'
