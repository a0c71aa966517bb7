// The lists that go with a wiring: terminals, cables, ferrules, legend. All of them are the same facts as the sheet.
import { mainsOf, type Energised } from './energise.ts'
import { FUNCTIONS, type Wiring } from './record.ts'
import { wiringSheet, type SheetLine } from './sheet.ts'
import { conventionOf, hasVolts, terminalsOf } from './types.ts'

export const LISTS = ['terminals', 'cables', 'ferrules', 'legend'] as const
export type ListName = (typeof LISTS)[number]

/** A list as it is printed: heads, and rows of texts. */
export interface List {
  readonly title: string
  readonly heads: readonly string[]
  readonly rows: readonly (readonly string[])[]
}
/** Volts as they are written, and the terminal they are counted from where that is not earth. */
type VoltsText = (volts: number, countedFrom: string | undefined) => string

/** Every terminal of every device, with what lands on it: empty ones too, so that nothing is landed twice unseen. */
function terminalList(wiring: Wiring, lines: readonly SheetLine[], e: Energised | undefined, voltsOf: VoltsText): List {
  const mains = mainsOf(wiring)
  const rows = [...terminalsOf(wiring)].map(([ref, spot]) => {
    const on = wiring.conductors.filter((c) => c.from === ref || c.to === ref)
    const told = on.length > 0 && hasVolts(wiring, mains, ref, spot.does)
    const volts = told ? e?.volts(ref) : undefined
    return [
      spot.device.name,
      ref,
      FUNCTIONS[spot.does].words,
      on.map((c) => c.id).join(', ') || 'free',
      on.map((c) => c.ferrule || lines.find((l) => l.id === c.id)?.ferrule || '').join(', '),
      volts === undefined ? '' : voltsOf(volts, e?.floatsOn(ref)),
    ]
  })
  return {
    title: 'Terminal list',
    heads: ['Device', 'Terminal', 'Function', 'Conductors', 'Ferrules', 'Expected, to earth'],
    rows,
  }
}

const lengthWords = (m: number | undefined) => (m === undefined ? 'as the loop’s cable' : `${m} m`)

/** Every cable: between which devices it runs, its cores in use, its length. */
function cableList(wiring: Wiring): List {
  const nameOf = (ref: string) => {
    const device = wiring.devices.find((d) => d.id === ref.split(':')[0])
    return device ? `${device.name} (${device.id})` : ''
  }
  return {
    title: 'Cable list',
    heads: ['Cable', 'Name', 'Runs between', 'Cores in use', 'Cores cut back', 'Length, one way', 'Colours by'],
    rows: wiring.cables.map((cable) => {
      const cores = wiring.conductors.filter((c) => c.cable === cable.id)
      const ends = [...new Set(cores.flatMap((c) => [nameOf(c.from), nameOf(c.to)].filter(Boolean)))]
      const landed = cores.filter((c) => c.from && c.to)
      const idle = cores.filter((c) => !c.from || !c.to)
      const share = cable.length_m === undefined && cable.share !== undefined && cable.share !== 1
      return [
        cable.id,
        cable.name,
        ends.join(' – '),
        landed.map((c) => c.core ?? c.id).join(', '),
        idle.map((c) => c.core ?? c.id).join(', '),
        share ? `${Math.round((cable.share ?? 1) * 100)} % of the loop’s cable` : lengthWords(cable.length_m),
        conventionOf(cable).name,
      ]
    }),
  }
}

/** One line for each end that is landed: what the ferrule there says. */
function ferruleList(wiring: Wiring, lines: readonly SheetLine[]): List {
  return {
    title: 'Ferrules',
    heads: ['Ferrule', 'Goes on at', 'Conductor', 'Cable', 'Core'],
    rows: wiring.conductors.flatMap((c) => {
      const line = lines.find((l) => l.id === c.id)
      return [c.from, c.to]
        .filter(Boolean)
        .map((at) => [line?.ferrule ?? '', at, c.id, c.cable ?? 'panel', c.core ?? ''])
    }),
  }
}

/** What each colour of each cable means, and by whose word. */
function legendList(wiring: Wiring): List {
  return {
    title: 'Legend of the cables',
    heads: ['Cable', 'Colour', 'Means', 'By', 'Source'],
    rows: wiring.cables.flatMap((cable) => {
      const { name, source, colours } = conventionOf(cable)
      const rows = Object.entries(colours).map(([colour, means]) => [
        `${cable.id} ${cable.name}`,
        colour,
        means,
        name,
        source,
      ])
      return rows.length ? rows : [[`${cable.id} ${cable.name}`, '', 'no meanings known', name, source]]
    }),
  }
}

/** A list of a wiring. Without `energised` the volts stay open. */
export function wiringList(name: ListName, wiring: Wiring, energised: Energised | undefined, voltsOf: VoltsText): List {
  const lines = wiringSheet(wiring, energised)
  switch (name) {
    case 'terminals':
      return terminalList(wiring, lines, energised, voltsOf)
    case 'cables':
      return cableList(wiring)
    case 'ferrules':
      return ferruleList(wiring, lines)
    case 'legend':
      return legendList(wiring)
  }
}
