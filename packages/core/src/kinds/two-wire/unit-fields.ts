// The units that a loop is spoken of in, as entries: the site's when it was begun, and its own from then on.
import { SPOKEN_CLASSES, unitOf, US_CUSTOMARY, type Spoken, type SpokenClass } from '../../quantity/index.ts'
import type { Field } from '../kind.ts'
import type { Reader } from '../reader.ts'

export const UNIT_SYSTEMS = ['metric', 'US customary', 'chosen one by one'] as const
const [METRIC, US, CHOSEN] = UNIT_SYSTEMS
const CLASSES = Object.keys(SPOKEN_CLASSES) as SpokenClass[]
/** `volume-flow` is chosen at the entry `unitsVolumeFlow`. */
export const spokenKey = (of: SpokenClass): string =>
  `units${of.replace(/(^|-)(\w)/g, (_, __, letter: string) => letter.toUpperCase())}`

const label = (unit: string) => (unit === 'ft-in' ? 'ft and in, to 1/16 in' : unitOf(unit).label)

export const unitFields: readonly Field[] = [
  {
    key: 'units',
    stage: 'identify',
    group: 'Units',
    type: 'choice',
    label: 'Units of this loop',
    help: 'What its figures, findings and papers are shown in. What was typed stays as it was typed.',
    options: UNIT_SYSTEMS.map((value) => ({ value, label: value })),
    default: METRIC,
  },
  ...CLASSES.map((of): Field => ({
    key: spokenKey(of),
    stage: 'identify',
    group: 'Units',
    type: 'choice',
    label: SPOKEN_CLASSES[of].name,
    help: SPOKEN_CLASSES[of].help,
    options: SPOKEN_CLASSES[of].units.map((value) => ({ value, label: label(value) })),
    default: SPOKEN_CLASSES[of].units[0],
    when: { key: 'units', is: [CHOSEN] },
  })),
]

/** The units that a loop is spoken of in; undefined for those that its figures are computed in. */
export function spokenOf(r: Pick<Reader, 'has' | 'text'>): Spoken | undefined {
  if (!r.has('units')) return undefined
  if (r.text('units') === US) return US_CUSTOMARY
  if (r.text('units') !== CHOSEN) return undefined
  return Object.fromEntries(
    CLASSES.flatMap((of) => {
      const unit = r.text(spokenKey(of))
      return (SPOKEN_CLASSES[of].units as readonly string[]).includes(unit) ? [[of, unit]] : []
    }),
  )
}
