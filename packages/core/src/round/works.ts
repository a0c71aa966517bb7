// What a work at a loop usually needs: minutes, what to bring, whom to tell. Where a site has its own record of minutes
// that is believed instead.

/** Works that are planned: a check by its kind of point, and new wiring. */
export const WORKS = [
  'loop-check',
  'level-above',
  'probe',
  'pressure',
  'temperature',
  'clamp-on-liquid',
  'clamp-on-gas',
  'mass-meter',
  'insertion-in-place',
  'ph',
  'discrete',
  'wiring',
] as const
export type Work = (typeof WORKS)[number]

/** A thing to bring: one for the whole round, or one for each place it is used at. */
export interface Thing {
  readonly what: string
  readonly each: boolean
  /** The usual thing that it is more exactly. */
  readonly instead?: string
}
export interface UsualWork {
  readonly name: string
  /** From the quickest to the slowest usual, minutes. */
  readonly minutes: readonly [number, number]
  readonly bring: readonly Thing[]
  /** Permits, and who must be told. */
  readonly people: readonly string[]
}

/** One for each meter that is packed, once that is known. */
export const SPARE_FUSE = 'spare fuse of the meter'
const once = (...things: string[]): Thing[] => things.map((what) => ({ what, each: false }))
const each = (...things: string[]): Thing[] => things.map((what) => ({ what, each: true }))

export const USUAL: Readonly<Record<Work, UsualWork>> = {
  'loop-check': {
    name: 'Loop check, two-wire',
    minutes: [30, 60],
    bring: [
      ...once('loop meter', SPARE_FUSE, 'test leads', '250 Ω resistor in a lead', 'small screwdriver'),
      ...each('sheet of the loop'),
    ],
    people: ['operations: loop in manual', 'trips by-passed where the loop feeds any'],
  },
  'level-above': {
    name: 'Level from above',
    minutes: [30, 30],
    bring: once('tape or dip gauge', 'flat target board', 'cover key'),
    people: ['permit: opening a vessel', 'permit: working at height'],
  },
  probe: {
    name: 'Probe in contact',
    minutes: [60, 60],
    bring: [...once('tape', 'cable cutter', 'torque driver for the head'), ...each('weight for a cable probe')],
    people: ['vessel isolated before a probe is drawn'],
  },
  pressure: {
    name: 'Pressure and differential pressure',
    minutes: [45, 45],
    bring: once('hand pump', 'fittings and hose', 'manifold key', 'catch pan'),
    people: ['isolated and vented', 'hot or toxic fill: as the site says'],
  },
  temperature: {
    name: 'Temperature',
    minutes: [45, 45],
    bring: [
      ...once('dry block or simulator', 'heat compound', 'extension cable of the right type'),
      ...each('spare element'),
    ],
    people: [],
  },
  'clamp-on-liquid': {
    name: 'Clamp-on, liquid',
    minutes: [60, 90],
    bring: [
      ...once('wall-thickness gauge', 'tape', 'cleaner and abrasive', 'keys for the cable glands', 'charged battery'),
      ...each('pair of transducers, both serials', 'rail or track with pins and straps', 'couplant or pads'),
    ],
    people: ['permit: working at height', 'hot pipe'],
  },
  'clamp-on-gas': {
    name: 'Clamp-on, gas',
    minutes: [120, 120],
    bring: [
      ...once('wall-thickness gauge', 'tape', 'cleaner and abrasive', 'film roller and knife', 'charged battery'),
      ...each(
        'pair of transducers, both serials',
        'rail or track with pins and straps',
        'damping film by layers and size',
        'insulation for the temperature sensor',
      ),
    ],
    people: ['pressure at its floor value', 'permit: gas area'],
  },
  'mass-meter': {
    name: 'Coriolis',
    minutes: [60, 60],
    bring: [...once('link cable and its resistor', 'keys of the block valves'), ...each('certificate of the meter')],
    people: ['blocked in for the zero and the health check', 'operations: outputs held for some minutes'],
  },
  'insertion-in-place': {
    name: 'Thermal insertion, verified in its place',
    minutes: [60, 60],
    bring: [
      ...once('test gas in date', 'regulator and gauge', 'hose', 'gland spanner'),
      ...each('nozzle kit', 'restraining rods above the stated pressure', 'baseline certificate'),
    ],
    people: ['permit: venting', 'permit: insertion under pressure'],
  },
  ph: {
    name: 'pH and redox',
    minutes: [30, 30],
    bring: [...once('buffers in date', 'rinse water', 'beakers', 'gloves and goggles'), ...each('spare sensor')],
    people: ['caustic or acid: as the site says'],
  },
  discrete: {
    name: 'Discrete sensor',
    minutes: [20, 20],
    bring: once('target plate of the rated metal', 'feeler gauges', 'meter', 'spare relay and diode', 'ferrules'),
    people: ['machine isolated before anybody reaches in'],
  },
  wiring: {
    name: 'New wiring',
    minutes: [60, 60],
    bring: [
      ...once('ferrules', 'labels', 'crimp tool', 'torque driver', 'insulation and continuity tester'),
      ...each('drawing of the loop'),
    ],
    people: ['isolated, and proved dead'],
  },
}
