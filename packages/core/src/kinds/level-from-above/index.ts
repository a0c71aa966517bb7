// A kind of point: level measured from above by the time an ultrasonic echo takes through the air.
import { airSoundSpeed, airTemperatureErrorPct } from '../../level/index.ts'
import { convertUnit, formatQuantity as show } from '../../quantity/index.ts'
import { attempt, Refusal } from '../../refusal/index.ts'
import { siStage, type Knot, type Stage } from '../../thread/index.ts'
import { PLAIN, type CurrentKind, type Figure, type MovableProcess } from '../kind.ts'
import type { Reader } from '../reader.ts'
import { currentTail, stageOr } from '../two-wire/index.ts'
import { shownTail, vesselNeeds, volumeFigures } from '../vessel/index.ts'
import { fields } from './fields.ts'
import { findingsOf } from './findings.ts'
import { geometryOf, type Geometry } from './geometry.ts'
import { mountingFigures, mountingFindings } from './mounting.ts'
import { targetFindings } from './target.ts'
import { sure } from '../../sure/index.ts'

export { beamRadius } from './mounting.ts'
export { geometryOf, volumeAt, type Geometry } from './geometry.ts'

/** Unit in which the loop speaks of its level: the one the range was typed in. */
const levelUnit = (r: Reader): string => (r.missing('urv').length ? r.unit('tankDepth') : r.unit('urv'))
const decimals: Record<string, number> = { mm: 0, cm: 1, m: 3, km: 6, in: 2, ft: 3 }

function threadOf(r: Reader, g: Geometry) {
  const unit = levelUnit(r)
  const { target } = g
  const knot = (id: string, role: Knot['role'], name: string, explains: string): Knot => ({
    id,
    role,
    name,
    explains,
    quantity: 'length',
    unit,
    decimals: decimals[unit] ?? 3,
  })
  const digital = knot(
    'digital',
    'digital',
    g.reportsDistance ? 'Reported distance' : target ? 'Reported position' : 'Reported level',
    'The transmitter’s own digital value, as on its display.',
  )
  const knots = [
    target
      ? knot('level', 'process', 'Position', 'Of the target, from its far end toward the device.')
      : knot('level', 'process', 'Level', 'True level above the tank bottom.'),
    knot(
      'distance',
      'sensor',
      'Distance',
      target ? 'From the device’s face to the target.' : 'From the device’s face down to the surface.',
    ),
    digital,
  ]
  const mm = (si: number) => show(si * 1000, 'mm', { trim: true })
  const face = (g.face ?? 0) / 1000
  const empty = (g.empty ?? 0) / 1000
  const pathCauses = [
    'empty distance or mounting height entered wrong',
    'foam, vapour or a fitting in the beam',
    'level not where it was thought to be',
  ]
  const reportCauses = [
    'sensor zero or span off',
    'air temperature wrong',
    'empty distance in the device differs from the record',
  ]
  const stages: Stage[] = [
    stageOr('Mounting height', pathCauses, r.missing('emptyDistance'), () =>
      siStage(unit, unit, {
        title: 'Mounting height',
        causes: pathCauses,
        forward: (level) => face - level,
        inverse: (d) => face - d,
        working: (level) => ({
          title: 'Distance to the surface',
          formula: 'distance = empty distance + empty above bottom − level',
          numbers: `${mm(empty)} + ${mm(face - empty)} − ${mm(level)} = ${mm(face - level)}`,
          source: 'Geometry of the mounting as entered',
        }),
      }),
    ),
    stageOr('Sensor', reportCauses, r.missing('emptyDistance'), () =>
      siStage(unit, unit, {
        title: 'Sensor',
        causes: reportCauses,
        forward: (d) => (g.reportsDistance ? d : empty - d),
        inverse: (v) => (g.reportsDistance ? v : empty - v),
        working: (d) => ({
          title: digital.name,
          formula: g.reportsDistance ? 'reported = distance' : 'reported = empty distance − distance',
          numbers: g.reportsDistance ? mm(d) : `${mm(empty)} − ${mm(d)} = ${mm(empty - d)}`,
          source: 'What the device is set to report',
        }),
      }),
    ),
  ]
  const tail = shownTail(r, currentTail(r, digital), { vessel: g.tank, needs: vesselNeeds(r, 'tankDepth'), zero_mm: 0 })
  return { knots: [...knots, ...tail.knots], stages: [...stages, ...tail.stages], ends: tail.ends }
}

function figuresOf(r: Reader, g: Geometry): Figure[] {
  const unit = levelUnit(r)
  const fromMm = (v: number) => Number(convertUnit(v, 'mm', unit).toPrecision(12))
  const mm = (v: number) => show(v, 'mm', { trim: true })
  const temp = r.in('airTemp', 'degC') ?? 20
  const speed = attempt(() => airSoundSpeed(temp))
  const c = speed instanceof Refusal ? undefined : speed
  const length = ({
    id,
    stage,
    label,
    value,
    needs,
    formula,
    numbers,
  }: {
    readonly id: string
    readonly stage: 'point' | 'range'
    readonly label: string
    readonly value: number | undefined
    readonly needs: string[]
    readonly formula: string
    readonly numbers: () => string
  }): Figure => ({
    id,
    stage,
    label,
    unit,
    decimals: decimals[unit] ?? 3,
    ...(value === undefined
      ? { needs }
      : {
          value: fromMm(value),
          working: () => ({ title: label, formula, numbers: numbers(), source: 'Geometry of the mounting as entered' }),
        }),
  })
  const rangeNeeds = (key: string) => r.missing(key, 'emptyDistance')
  return [
    length({
      id: 'face',
      stage: 'point',
      label: 'Face above the bottom',
      value: g.face,
      needs: r.missing('emptyDistance'),
      formula: 'face = empty distance + empty above bottom',
      numbers: () => `${mm(sure(g.empty))} + ${mm(g.emptyAboveBottom)} = ${mm(sure(g.face))}`,
    }),
    length({
      id: 'full-level',
      stage: 'point',
      label: 'Full level above the bottom',
      value: g.face !== undefined && g.full !== undefined ? g.face - g.full : undefined,
      needs: r.missing('emptyDistance', 'fullDistance'),
      formula: 'full level = face − full distance',
      numbers: () => `${mm(sure(g.face))} − ${mm(sure(g.full))} = ${mm(sure(g.face) - sure(g.full))}`,
    }),
    ...(g.target
      ? []
      : [
          length({
            id: 'overflow',
            stage: 'point',
            label: 'Face to overflow',
            value: g.face !== undefined && g.depth !== undefined ? g.face - g.depth : undefined,
            needs: r.missing('emptyDistance', 'tankDepth'),
            formula: 'overflow distance = face − tank depth',
            numbers: () => `${mm(sure(g.face))} − ${mm(sure(g.depth))} = ${mm(sure(g.face) - sure(g.depth))}`,
          }),
          ...volumeFigures(r, g.tank, vesselNeeds(r, 'tankDepth'), [
            {
              id: 'volume-full',
              label: 'Volume at the full level',
              level_mm: g.face !== undefined && g.full !== undefined ? g.face - g.full : undefined,
              needs: r.missing('emptyDistance', 'fullDistance'),
            },
            {
              id: 'volume-overflow',
              label: 'Volume at the overflow',
              level_mm: g.depth,
              needs: r.missing('tankDepth'),
            },
            {
              id: 'volume-dead',
              label: 'Volume below the empty level',
              level_mm: g.emptyAboveBottom,
              needs: [],
            },
          ]),
        ]),
    {
      id: 'sound-speed',
      stage: 'point',
      label: 'Sound speed in the path',
      unit: 'm/s',
      decimals: 1,
      ...(c === undefined
        ? { says: 'no such air temperature' }
        : {
            value: c,
            working: () => ({
              title: 'Sound speed in the path',
              formula: 'c = 331.3 m/s · √(1 + t/273.15 °C)',
              numbers:
                `331.3 m/s × √(1 + ${show(temp, 'degC', { trim: true })}/273.15 °C) = ` +
                `${show(c, 'm/s', { decimals: 1 })}`,
              source: 'Ideal gas law for dry air',
            }),
          }),
    },
    {
      id: 'echo-empty',
      stage: 'point',
      label: 'Echo time at empty',
      unit: 'ms',
      decimals: 2,
      ...(g.empty === undefined
        ? { needs: r.missing('emptyDistance') }
        : c === undefined || c === 0
          ? { says: 'no such air temperature' }
          : {
              value: (2 * g.empty) / c,
              working: () => ({
                title: 'Echo time at empty',
                formula: 't = 2 · empty distance / c',
                numbers:
                  `2 × ${mm(sure(g.empty))} / ${show(c, 'm/s', { decimals: 1 })} = ` +
                  `${show((2 * sure(g.empty)) / c, 'ms', { decimals: 2 })}`,
                source: 'There and back at the speed of sound',
              }),
            }),
    },
    {
      id: 'warm-air',
      stage: 'point',
      label: 'Distance error if the air is ten degrees Celsius warmer and uncorrected',
      unit: '%',
      decimals: 2,
      ...(c === undefined
        ? { says: 'no such air temperature' }
        : {
            value: airTemperatureErrorPct(temp, temp + 10),
            working: () => ({
              title: 'Distance error',
              formula: 'e = c(assumed)/c(actual) − 1',
              numbers:
                `${show(c, 'm/s', { decimals: 1 })} / ${show(airSoundSpeed(temp + 10), 'm/s', { decimals: 1 })} ` +
                `− 1 = ${show(airTemperatureErrorPct(temp, temp + 10), '%')}`,
              source: 'Ideal gas law for dry air',
            }),
          }),
    },
    length({
      id: 'level-4',
      stage: 'range',
      label: 'Level above the bottom at 4 mA',
      value: g.level4,
      needs: rangeNeeds('lrv'),
      formula: 'the transmitter’s lower range value, from the bottom',
      numbers: () => mm(sure(g.level4)),
    }),
    length({
      id: 'level-20',
      stage: 'range',
      label: 'Level above the bottom at 20 mA',
      value: g.level20,
      needs: rangeNeeds('urv'),
      formula: 'the transmitter’s upper range value, from the bottom',
      numbers: () => mm(sure(g.level20)),
    }),
    length({
      id: 'distance-4',
      stage: 'range',
      label: 'Distance at 4 mA',
      value: g.level4 === undefined ? undefined : sure(g.face) - g.level4,
      needs: rangeNeeds('lrv'),
      formula: 'distance = face − level',
      numbers: () => `${mm(sure(g.face))} − ${mm(sure(g.level4))} = ${mm(sure(g.face) - sure(g.level4))}`,
    }),
    length({
      id: 'distance-20',
      stage: 'range',
      label: 'Distance at 20 mA',
      value: g.level20 === undefined ? undefined : sure(g.face) - g.level20,
      needs: rangeNeeds('urv'),
      formula: 'distance = face − level',
      numbers: () => `${mm(sure(g.face))} − ${mm(sure(g.level20))} = ${mm(sure(g.face) - sure(g.level20))}`,
    }),
  ]
}

/** How the tank’s level moves on the bench. */
function processOf(g: Geometry, unit: string): MovableProcess | undefined {
  if (g.depth === undefined || g.depth <= 0) return undefined
  const per = (mm: number) => convertUnit(mm, 'mm', unit)
  return { lowest: 0, highest: per(g.depth), ratePerSecond: per(g.depth / 12), scatter: per(g.depth * 0.004) }
}

export const levelFromAbove: CurrentKind = {
  id: 'level-from-above',
  name: 'Level from above',
  listed: ['level', 'ultrasonic', 'ultrasonic level', 'radar', 'radar level'],
  summary: 'An ultrasonic head over the tank measures the distance down to the surface; two-wire, 4–20 mA.',
  family: 'current',
  fields,
  has: PLAIN,
  look(r) {
    const g = geometryOf(r)
    const unit = levelUnit(r)
    return {
      thread: threadOf(r, g),
      figures: [...figuresOf(r, g), ...mountingFigures(r, g, unit, decimals[unit] ?? 3)],
      findings: [
        ...findingsOf(g, r.text('compensation') === 'fixed'),
        ...mountingFindings(r, g),
        ...targetFindings(r, g),
      ],
      rangeUnit: unit,
      tripUnit: unit,
      procedures: ['zero-trim', 'sensor-trim'],
      process: () => processOf(g, unit),
    }
  },
  check: {
    works: ['loop-check', 'level-above'],
    trueInput: 'True level reached',
    reference: 'dip gauge',
    process: 'Tank level',
    cautions: [
      'Tell operations and put the loop in manual: a moving level drives pumps and trips.',
      'Over an open tank: guard against falling in, and mind gases above the liquid.',
    ],
  },
}
