// The first day: one loop from nothing to a verdict at the bench, in words that stand on the pages.
import { KINDS, RUN_SHEETS, type StageId } from '@calm-loop/core/kinds'
import { sure } from '@calm-loop/core/sure'

export interface Typed {
  readonly label: string
  readonly value: string
}
export interface DayStep {
  readonly title: string
  readonly says: string
  /** What is pressed first, by the words on it. */
  readonly press?: readonly string[]
  readonly types?: readonly Typed[]
  /** What is pressed once that is typed. */
  readonly then?: string
  /** Keys, once for each point of a check. */
  readonly keys?: readonly string[]
}

/** The kind that a new loop has until another is chosen. */
const kind = sure(KINDS[0])
const typed = (values: Readonly<Record<string, string>>): Typed[] =>
  Object.entries(values).map(([key, value]) => {
    const field = sure(kind.fields.find((f) => f.key === key))
    const chosen = field.type === 'choice' ? field.options.find((o) => o.value === value)?.label : undefined
    return { label: field.label, value: chosen ?? value }
  })
const nameOf = (id: StageId) => RUN_SHEETS.current.find((s) => s.id === id)?.name ?? ''

export const FIRST_DAY: readonly DayStep[] = [
  {
    title: 'Make the loop',
    says: 'Any tag that is not taken will do. It stays a loop of its own; nothing of the plant is touched.',
    press: ['Loops', 'New loop'],
    types: [
      { label: 'Tag', value: 'LT-901' },
      { label: 'Service', value: 'Rinse tank level' },
      { label: 'Area', value: 'Wash house' },
    ],
    then: 'Create this loop',
  },
  {
    title: 'Say which device it is',
    says: 'You stand at the first stage. Everything you type is kept by itself.',
    types: typed({ device: 'Level head A2', serial: 'A2-1', tell: 'Wash house operator' }),
  },
  {
    title: 'Wire it',
    says: 'The volts at the transmitter follow as you type; with too little the page says stop, and why.',
    press: [nameOf('wire')],
    types: typed({ supply: '24 V', liftOff: '12 V', shunt: '250 Ω', conductor: '1.5 mm²', cableLength: '200 m' }),
  },
  {
    title: 'Describe the point',
    says: 'Distances count from the face downwards. Try a comma, or another unit: it says what it understood.',
    press: [nameOf('point')],
    types: typed({ tankDepth: '2 m', emptyDistance: '2.3 m', fullDistance: '500 mm', blanking: '250 mm' }),
  },
  {
    title: 'Scale both ends',
    says: 'The same value must be 4 mA at the device and at the controller.',
    press: [nameOf('range')],
    types: typed({
      lrv: '0 mm',
      urv: '1800 mm',
      faultAction: 'high',
      faultCurrent: '21.5 mA',
      countsLow: '13107',
      countsHigh: '65535',
      receiverLow: '0 mm',
      receiverHigh: '1800 mm',
    }),
  },
  {
    title: 'Connect the bench',
    says: 'A simulated device now answers. Every page says so, and nothing of it ever counts as a record.',
    press: ['Connect the bench to practise'],
  },
  {
    title: 'Begin a check',
    says: 'Before anything is moved the loop is in manual, and somebody in operations knows.',
    press: [nameOf('check')],
    types: [
      { label: 'Points, % of range', value: '0, 100' },
      { label: 'Who in operations was told', value: 'Bree' },
    ],
    then: 'Confirm loop in manual and begin',
  },
  {
    title: 'Take each point',
    says: 'B brings the bench there; wait until it says “steady”; Enter takes the reading. So for every point.',
    keys: ['B', 'Enter'],
  },
  {
    title: 'Read the verdict',
    says:
      'Each error stands in the drawing, with the tolerance beside it. Practice is never signed: disconnect the ' +
      'bench, and the loop is ready to be checked in earnest.',
    press: ['Disconnect the bench'],
  },
]
