/** What the flags of a device’s second status byte say. */
export const FLAG_WORDS: Readonly<Record<string, string>> = {
  'current-fixed': 'current is fixed',
  'current-saturated': 'current is at its limit',
  'configuration-changed': 'configuration changed',
  'cold-start': 'it has just started',
  malfunction: 'it reports a malfunction',
  'more-status': 'more status to read',
  'primary-out-of-limits': 'primary value is outside the sensor’s limits',
  'other-out-of-limits': 'another variable is outside its limits',
}
