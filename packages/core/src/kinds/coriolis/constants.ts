// The constants of a Coriolis sensor that its transmitter must hold: by a generic name, with what the tag calls them.

export interface Constant {
  readonly key: string
  readonly label: string
  readonly unit: string
  readonly help: string
  /** Not every sensor has it. */
  readonly optional?: boolean
}
export const CONSTANTS: readonly Constant[] = [
  {
    key: 'flowCal',
    label: 'Flow calibration factor',
    unit: 'g/s per µs',
    help: 'Mass flow for each microsecond between the two ends of the tube.',
  },
  {
    key: 'flowTemp',
    label: 'Flow temperature coefficient',
    unit: '% per 100 °C',
    help: 'How the factor falls as the tube warms.',
  },
  {
    key: 'lowPeriod',
    label: 'Period at the low density',
    unit: 'µs',
    help: 'Of the tube with the lighter reference, usually air.',
  },
  { key: 'lowDensity', label: 'Low reference density', unit: 'kg/m³', help: 'Of the lighter reference.' },
  {
    key: 'highPeriod',
    label: 'Period at the high density',
    unit: 'µs',
    help: 'Of the tube with the heavier reference, usually water.',
  },
  { key: 'highDensity', label: 'High reference density', unit: 'kg/m³', help: 'Of the heavier reference.' },
  { key: 'periodTemp', label: 'Period temperature coefficient', unit: '% per 100 °C', help: 'Of the squared period.' },
  {
    key: 'highFlow',
    label: 'High-flow density correction',
    unit: '',
    help: 'Where the tag has one; leave empty where not.',
    optional: true,
  },
]
/** Three texts of each: as printed on the tag, on the certificate, and the letters that the tag uses for it. */
export const tagKey = (key: string): string => `${key}Tag`
export const certificateKey = (key: string): string => `${key}Cert`
export const lettersKey = (key: string): string => `${key}Letters`
