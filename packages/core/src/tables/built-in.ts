// Every built-in table with its source, as lines to look through; the figures stay where they are worked with.
import { DIELECTRIC_LIQUIDS, DIELECTRIC_SOURCE, dielectric } from '../level/index.ts'
import { LEG_FLUIDS, LEG_FLUIDS_SOURCE, legFluidDensity, WATER_OF_mmH2O } from '../level/index.ts'
import { CONNECTOR_PINS, INPUT_TYPES, TARGET_METALS } from '../discrete/index.ts'
import { GAS_PRESETS, GAS_PRESET_SOURCE, LIQUIDS, LIQUID_SOURCE } from '../fluid/index.ts'
import { TRANSDUCERS, TRANSDUCER_SOURCE } from '../flow/index.ts'
import { LINERS, MATERIALS, PIPE_TABLES, WAVE_SPEED_SOURCE } from '../pipe/index.ts'
import { COLOUR_CONVENTIONS } from '../wiring/index.ts'
import type { OwnTable } from './own-rows.ts'

export interface TableRow {
  readonly id: string
  /** By the table's heads. */
  readonly cells: readonly string[]
  /** Where the row has a source of its own. */
  readonly source?: string
  /** As a row of the site's own it would fill these in. */
  readonly fills?: Readonly<Record<string, string>>
}
export interface BuiltInTable {
  readonly id: string
  readonly name: string
  readonly source: string
  /** Each with its unit. */
  readonly heads: readonly string[]
  readonly rows: readonly TableRow[]
  /** Entry whose choice is the id of a row; which loops use one is known by it. */
  readonly choice?: string
  /** Where the site may have rows beside these. */
  readonly own?: OwnTable
}

const figure = (value: number, digits = 4) => String(Number(value.toPrecision(digits))).replace('-', '−')
const span = ([low, high]: readonly number[], unit: string) => `${figure(low ?? 0)} … ${figure(high ?? 0)} ${unit}`
const AT_C = 20

const waves = (rows: typeof MATERIALS, key: string): readonly TableRow[] =>
  rows.map((r) => ({
    id: r.id,
    cells: [r.name, r.wave, figure(r.speed_mps), figure(r.perC_mps), `± ${r.accuracyPct} %`],
    fills: { [`${key}Speed`]: `${r.speed_mps} m/s` },
  }))
const WAVE_HEADS = ['Name', 'Wave', 'Speed at 20 °C, m/s', 'with temperature, m/s per °C', 'Spread']

/** A figure of a row at the usual temperature, or that it is not known there. */
const at20 = (work: () => number, digits: number): string => {
  try {
    return figure(work(), digits)
  } catch {
    return `not at ${AT_C} °C`
  }
}

export const builtInTables = (): readonly BuiltInTable[] => [
  {
    ...{ id: 'materials', name: 'Pipe materials', source: WAVE_SPEED_SOURCE, heads: WAVE_HEADS },
    ...{ choice: 'material', own: 'material', rows: waves(MATERIALS, 'wall') },
  },
  {
    ...{ id: 'liners', name: 'Liners', source: WAVE_SPEED_SOURCE, heads: WAVE_HEADS },
    ...{ choice: 'liner', own: 'liner', rows: waves(LINERS, 'liner') },
  },
  {
    ...{ id: 'liquids', name: 'Liquids', source: LIQUID_SOURCE, choice: 'liquid', own: 'liquid' },
    heads: ['Name', 'Sound speed at 20 °C, m/s', 'Density at 20 °C, kg/m³', 'Viscosity at 20 °C, mPa·s', 'Known'],
    rows: LIQUIDS.map((l) => ({
      id: l.id,
      cells: [l.name, figure(l.speed_mps), figure(l.density_kgm3), figure(l.viscosity20_mPas), span(l.liquid_C, '°C')],
      fills: {
        ownSpeed: `${l.speed_mps} m/s`,
        ownDensity: `${l.density_kgm3} kg/m³`,
        ownViscosity: `${l.viscosity20_mPas} mPa·s`,
      },
    })),
  },
  {
    ...{ id: 'gases', name: 'Gases', source: GAS_PRESET_SOURCE, choice: 'gas', own: 'gas' },
    heads: ['Name', 'Composition, mole %'],
    rows: GAS_PRESETS.map(({ id, name, composition }) => {
      const shares = Object.entries(composition).map(([gas, share]) => `${gas} ${figure(100 * (share ?? 0))} %`)
      return { id, cells: [name, shares.join(', ')], fills: { composition: shares.join(', ') } }
    }),
  },
  {
    ...{ id: 'pairs', name: 'Transducer pairs', source: TRANSDUCER_SOURCE, choice: 'transducer', own: 'pair' },
    heads: ['Name', 'Frequency, MHz', 'Wedge, m/s', 'Angle, °', 'Body, mm', 'Pipes, outside', 'Temperature'],
    rows: TRANSDUCERS.map((t) => ({
      id: t.id,
      cells: [
        ...[t.name, figure(t.frequency_MHz), figure(t.wedgeSpeed_mps), figure(t.wedgeAngle_deg), figure(t.body_mm)],
        ...[span(t.od_mm, 'mm'), span(t.temp_C, '°C')],
      ],
      fills: { wedgeSpeed: `${t.wedgeSpeed_mps} m/s`, wedgeAngle: `${t.wedgeAngle_deg} °` },
    })),
  },
  {
    ...{
      id: 'dielectrics',
      name: 'Dielectric constants',
      source: DIELECTRIC_SOURCE,
      choice: 'liquid',
      own: 'dielectric',
    },
    heads: ['Name', 'At 20 °C'],
    rows: DIELECTRIC_LIQUIDS.map(({ id, name }) => {
      const er = at20(() => dielectric(id, AT_C), 3)
      return { id, cells: [name, er], ...(/^\d/.test(er) ? { fills: { dielectric: er } } : {}) }
    }),
  },
  {
    ...{
      id: 'fills',
      name: 'Fills of legs and capillaries',
      source: LEG_FLUIDS_SOURCE,
      choice: 'legFill',
      own: 'fill',
    },
    heads: ['Name', 'Density at 20 °C, kg/m³'],
    rows: LEG_FLUIDS.map(({ id, name }) => {
      const density = at20(() => legFluidDensity(id, AT_C), 5)
      const fills = /^\d/.test(density) ? { fills: { legSg: figure(Number(density) / WATER_OF_mmH2O, 5) } } : {}
      return { id, cells: [name, density], ...fills }
    }),
  },
  ...PIPE_TABLES.map((t): BuiltInTable => {
    const unit = t.unit_mm === 1 ? 'mm' : 'inch'
    return {
      ...{ id: `pipes ${t.standard}`, name: `Pipes, ${t.standard}`, source: t.source },
      heads: ['Size', 'Also', `Outside, ${unit}`, `Schedule or series and wall, ${unit}`],
      rows: Object.entries(t.sizes).map(([size, s]) => ({
        id: size,
        cells: [
          ...[size, ('also' in s ? (s.also as string | undefined) : undefined) ?? '', figure(s.od, 6)],
          Object.entries(s.walls)
            .map(([schedule, wall]) => `${schedule}: ${figure(wall, 5)}`)
            .join(', '),
        ],
      })),
    }
  }),
  {
    ...{ id: 'metals', name: 'Metals of a target', source: 'Row by row', choice: 'metal' },
    heads: ['Name', 'Share of the rated distance', 'From', 'To'],
    rows: TARGET_METALS.map((m) => ({
      ...{ id: m.id, source: m.source },
      cells: [m.name, figure(m.typical), figure(m.low), figure(m.high)],
    })),
  },
  {
    ...{ id: 'inputs', name: 'Types of input', source: 'Row by row' },
    heads: ['Name', 'On from, V', 'Off up to, V', 'On from, mA', 'For'],
    rows: INPUT_TYPES.map((t) => ({
      ...{ id: t.id, source: t.source },
      cells: [t.name, figure(t.onMinV), figure(t.offMaxV), figure(t.least_mA), t.for],
    })),
  },
  {
    ...{ id: 'pins', name: 'Pins and lead colours', source: 'Row by row', choice: 'connector' },
    heads: ['Name', 'Plus', 'Minus', 'Normally open', 'Normally closed', 'Second'],
    rows: CONNECTOR_PINS.map((p) => ({
      ...{ id: p.id, source: p.source },
      cells: [p.name, p.plus, p.minus, p.no ?? '—', p.nc ?? '—', p.second ?? '—'],
    })),
  },
  {
    ...{ id: 'colours', name: 'Colours of conductors', source: 'Row by row' },
    heads: ['Convention', 'Colours'],
    rows: COLOUR_CONVENTIONS.map((c) => ({
      ...{ id: c.id, source: c.source },
      cells: [
        c.name,
        Object.entries(c.colours)
          .map(([colour, is]) => `${colour}: ${String(is)}`)
          .join(', '),
      ],
    })),
  },
]
