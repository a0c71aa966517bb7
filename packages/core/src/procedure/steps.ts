// The steps of every guided procedure, made from a few building blocks, so that the same work has the same steps and
// words whatever the device.
import { formatQuantity, type QuantityName } from '../quantity/index.ts'
import { inSentence } from '../words/index.ts'
import type { CommandPlan } from './command.ts'
import {
  backInService,
  outOfService,
  pumpReady,
  VALVE_NAMES,
  type Manifold,
  type ManifoldType,
  type ValveMove,
} from './manifold.ts'

export const PROCEDURES = [
  'zero-trim',
  'sensor-trim',
  'current-trim',
  'forced-current',
  'range-change',
  'receiver-scale',
  'ph-calibration',
  'flow-zero',
] as const
export type ProcedureId = (typeof PROCEDURES)[number]

export const PROCEDURE_NAMES: Record<ProcedureId, string> = {
  'zero-trim': 'Zero trim',
  'sensor-trim': 'Lower and upper sensor trim',
  'current-trim': 'Current trim at 4 and 20 mA',
  'forced-current': 'Forced-current check',
  'range-change': 'Range change',
  'receiver-scale': 'Receiver re-scale',
  'ph-calibration': 'pH calibration in buffers',
  'flow-zero': 'Flow zero',
}

/** What a device says that it holds when it is asked. */
export interface Held {
  readonly lrv: number
  readonly urv: number
  /** Scale at the receiver, in its own unit. */
  readonly receiverLow: number
  readonly receiverHigh: number
  /** Current it is told to drive, mA; null while it measures. */
  readonly fixed_mA: number | null
  /** Whether all it works by would outlast a power failure. */
  readonly stored: boolean
  /** Counts every adjustment it has taken. */
  readonly changes: number
  /** Electrode slope and offset, where it has one. */
  readonly slope_mVperPh?: number
  readonly offset_mV?: number
}

/** Everything a run needs to know; kept in its first event, so that a replay needs nothing else. */
export interface Terms {
  readonly tag: string
  /** Unit and quantity of the digital value. */
  readonly unit: string
  readonly quantity: QuantityName
  readonly decimals: number
  /** Range on record, in that unit. */
  readonly lrv: number
  readonly urv: number
  readonly tolerancePct: number
  /** A correction above this, per cent of span, stops the run. */
  readonly plausiblePct: number
  readonly stability: { readonly window_s: number; readonly driftPct: number; readonly noisePct: number }
  readonly sensorLow?: number | undefined
  readonly sensorHigh?: number | undefined
  readonly manifold: ManifoldType
  /** What the loop controls or trips, in the technician's words; '' when nobody said. */
  readonly controls: string
  readonly tell: string
  readonly cautions: readonly string[]
  /** What the true input comes from, e.g. `pressure calibrator`. */
  readonly reference: string
  readonly process: string
  /** Applied values at which the sensor is trimmed. */
  readonly lower?: number | undefined
  readonly upper?: number | undefined
  /** Fault currents, for the forced-current check. */
  readonly faultLow_mA?: number | undefined
  readonly faultHigh_mA?: number | undefined
  readonly shunt_Ohm?: number | undefined
  /** Range wanted, or scale wanted at the receiver. */
  readonly toLow?: number | undefined
  readonly toHigh?: number | undefined
  readonly toUnit?: string | undefined
  /** What the receiver's scale is in, and stands at now. */
  readonly receiverUnit?: string | undefined
  readonly receiverDecimals?: number | undefined
  /** Buffers, lowest first, as printed on the bottle. */
  readonly buffers?: readonly string[] | undefined
}

export const STEP_KINDS = [
  'words',
  'confirm',
  'as-found',
  'valve',
  'apply',
  'buffer',
  'steady',
  'reading',
  'plausible',
  'command',
  'read-back',
] as const
export type StepKind = (typeof STEP_KINDS)[number]

/** What a step can change in the world of a run. */
export const STEP_EFFECTS = [
  'told',
  'manual',
  'bypassed',
  'input-off-process',
  'input-on-process',
  'bypass-removed',
  'told-back',
  'automatic',
] as const

export interface Step {
  readonly id: string
  readonly kind: StepKind
  readonly title: string
  readonly says: string
  readonly caution?: string
  /** `words`: what is asked for. */
  readonly asks?: string
  /** `valve`: the move. */
  readonly move?: ValveMove
  /** `apply`: the value wanted; absent where none is typed. */
  readonly target?: number
  /** `reading`: what is read, in which unit, against what it should be. */
  readonly reads?: {
    readonly what: 'digital' | 'current' | 'receiver' | 'electrode'
    readonly unit: string
    readonly quantity: QuantityName
    readonly expected?: number
    readonly decimals: number
  }
  /** `reading`: whether it must lie within tolerance for the run to go on. */
  readonly verifies?: boolean
  /** `reading` and `steady`: the witness looked at. */
  readonly of?: 'digital' | 'current' | 'electrode'
  /** `command`: a trim, range or scale is written, as against driven, released or stored. */
  readonly writes?: boolean
  /** `command`: what is sent. */
  readonly sends?: CommandPlan
  /** `reading`: the value taken before that it should equal, where the wanted one was not met exactly. */
  readonly expectedFrom?: string
  /** `buffer`: where the pH of the buffer goes; `reading` of an electrode: the buffer that it stands in. */
  readonly gives?: string
  readonly buffer?: string
  /** The reading (or readings) that a `plausible` step judges. */
  readonly judges?: readonly string[]
  /** What the world is once the step is done. */
  readonly makes?: (typeof STEP_EFFECTS)[number]
}

/** A value as the page shows it, in the unit of the digital value. */
const inUnit = (v: number, t: Pick<Terms, 'unit' | 'decimals'>) =>
  formatQuantity(v, t.unit, { decimals: t.decimals + 2, trim: true })
const n = (v: number, decimals: number) => Number(v.toFixed(Math.max(decimals, 0) + 2)).toString()

/** Before anything is touched; the same for every procedure. */
function prelude(t: Terms, found: boolean): Step[] {
  return [
    {
      id: 'told',
      kind: 'words',
      title: 'Operations told',
      says: t.tell
        ? `Call: ${t.tell}. Say which loop and for how long.`
        : 'Call the operator of this part of the plant. Say which loop and for how long.',
      asks: 'Who was told',
      makes: 'told',
    },
    {
      id: 'manual',
      kind: 'confirm',
      title: 'Loop in manual',
      says:
        'The operator holds the output by hand: what is done now bumps the measurement, and in automatic the ' +
        'loop would move the plant.',
      makes: 'manual',
    },
    {
      id: 'trips',
      kind: 'words',
      title: 'Trips fed by this loop by-passed',
      says: t.controls
        ? `This loop: ${t.controls}. By-pass only under the site’s permit.`
        : 'If it feeds a trip or interlock, by-pass it under the site’s permit.',
      asks: 'Permit number, or “none fed”',
      makes: 'bypassed',
    },
    ...(found
      ? [
          {
            id: 'as-found',
            kind: 'as-found',
            title: 'As found on record',
            says: 'What was found must stand before anything is adjusted: afterwards nobody can know it.',
          } as const,
        ]
      : []),
    {
      id: 'warning',
      kind: 'confirm',
      title: 'Warning read and accepted',
      says: ['The site’s procedure, local codes and licensed practice come first.', ...t.cautions].join(' '),
    },
  ]
}

/** After everything is put back; the same for every procedure. */
const ending = (): Step[] => [
  {
    id: 'told-back',
    kind: 'words',
    title: 'Operations told: finished',
    says: 'Say that the loop measures again, and wait until the reading is believed.',
    asks: 'Who was told',
    makes: 'told-back',
  },
  {
    id: 'bypass-removed',
    kind: 'confirm',
    title: 'By-passes removed',
    says: 'Every trip that was by-passed is live again, and the permit handed back.',
    makes: 'bypass-removed',
  },
  {
    id: 'automatic',
    kind: 'confirm',
    title: 'Loop in automatic again',
    says: 'The operator puts it back; the reading is plausible.',
    makes: 'automatic',
  },
]

const valveStep = (move: ValveMove, prefix: string, i: number): Step => ({
  id: `${prefix}-${i + 1}-${move.valve}`,
  kind: 'valve',
  move,
  title: `${move.to === 'open' ? 'Open' : 'Shut'} the ${inSentence(VALVE_NAMES[move.valve])}`,
  says:
    prefix === 'out'
      ? 'Taking the cell out of service, valve by valve.'
      : prefix === 'pump'
        ? 'Making the high side ready for the pump; the low side stays open to air.'
        : 'Bringing the cell back into service, valve by valve.',
})

const after = (start: Manifold, moves: readonly ValveMove[]) =>
  moves.reduce((m, { valve, to }) => ({ ...m, [valve]: to }), start)

/** What a run of a manifold starts from. */
function valves(t: Terms, withPump: boolean): { out: Step[]; pump: Step[]; back: Step[] } {
  const outMoves = outOfService(t.manifold)
  const pumpMoves = withPump ? pumpReady(t.manifold) : []
  const state = after(
    {
      high: 'open',
      low: 'open',
      equalize: 'shut',
      ...(t.manifold === 'five-valve' ? { 'vent-high': 'shut', 'vent-low': 'shut' } : {}),
    },
    [...outMoves, ...pumpMoves],
  )
  return {
    out: outMoves.map((m, i) => valveStep(m, 'out', i)),
    pump: pumpMoves.map((m, i) => valveStep(m, 'pump', i)),
    back: backInService(t.manifold, state).map((m, i) => valveStep(m, 'back', i)),
  }
}

const steady = (
  id: string,
  of: Step['of'] & string,
  says = 'Slope and noise over the window must be inside the site’s limits.',
): Step => ({
  id,
  kind: 'steady',
  title: 'Reading stable',
  says,
  of,
})

function digitalReading(t: Terms, id: string, title: string, expected: number, verifies = false): Step {
  return {
    id,
    kind: 'reading',
    title,
    says: verifies
      ? 'After the work the device must agree with what is applied, within tolerance.'
      : 'The transmitter’s own digital value.',
    of: 'digital',
    verifies,
    reads: { what: 'digital', unit: t.unit, quantity: t.quantity, expected, decimals: t.decimals },
  }
}
const meterReading = (id: string, title: string, mA: number, verifies = false): Step => ({
  id,
  kind: 'reading',
  title,
  says: 'The meter in the loop, or the volts across the shunt: either may be typed.',
  of: 'current',
  verifies,
  reads: { what: 'current', unit: 'mA', quantity: 'current', expected: mA, decimals: 3 },
})
const plausible = (t: Terms, judges: readonly string[], id = 'plausible'): Step => ({
  id,
  kind: 'plausible',
  title: 'Correction plausible',
  says: `A correction above ${t.plausiblePct} % of span stops here: something else is wrong then.`,
  judges,
})
const write = (id: string, title: string, says: string, sends: CommandPlan): Step => ({
  id,
  kind: 'command',
  title,
  says,
  writes: true,
  sends,
})
const readBack = (
  id: string,
  says = 'The device is asked what it holds now. What it answered to the write is not enough.',
): Step => ({
  id,
  kind: 'read-back',
  title: 'Read back',
  says,
})
const store = (): Step => ({
  id: 'store',
  kind: 'command',
  title: 'Stored in the device',
  says: 'Some devices forget what was written at the next power failure unless they are told to keep it.',
  sends: { do: 'store' },
})
const drive = (id: string, mA: number): Step => ({
  id,
  kind: 'command',
  title: `Drive ${n(mA, 1)} mA`,
  says: 'The transmitter holds this current whatever it measures.',
  sends: { do: 'drive', mA },
})
const release = (): Step => ({
  id: 'release',
  kind: 'command',
  title: 'Fixed current released',
  says: 'The transmitter measures again. Forgotten, the loop would stand still and look healthy.',
  sends: { do: 'release' },
})

function onBench(t: Terms, words: string): Step {
  return {
    id: 'off-process',
    kind: 'confirm',
    title: 'Input taken off the process',
    says: words,
    makes: 'input-off-process',
    ...(t.manifold === 'none'
      ? { caution: 'Isolated, vented and proved without pressure by the site’s procedure before anything is opened.' }
      : {}),
  }
}
const onProcess: Step = {
  id: 'on-process',
  kind: 'confirm',
  title: 'Input back on the process',
  says: 'Pump, simulator or buffer taken away; the sensor sees the process again.',
  makes: 'input-on-process',
}

function zeroTrim(t: Terms): Step[] {
  const v = valves(t, false)
  return [
    ...prelude(t, true),
    ...v.out,
    onBench(
      t,
      t.manifold === 'none'
        ? 'Isolated and vented: the sensor sees true zero. No number is typed.'
        : 'Both sides joined and vented: the cell sees true zero. No number is typed.',
    ),
    steady(
      'stable',
      'digital',
      'True zero on the cell. A zero that never settles means a valve that does not shut tight.',
    ),
    digitalReading(t, 'zero-found', 'Zero as found', 0),
    plausible(t, ['zero-found']),
    write('write', 'Zero trim written', 'The device takes what it measures now as zero.', { do: 'zero-trim' }),
    readBack('read-back'),
    store(),
    steady('stable-after', 'digital'),
    digitalReading(t, 'zero-left', 'Verified: zero as left', 0, true),
    onProcess,
    ...v.back,
    ...ending(),
  ]
}

function sensorTrim(t: Terms): Step[] {
  const v = valves(t, true)
  const at = (end: 'lower' | 'upper', target: number): Step[] => [
    {
      id: `apply-${end}`,
      kind: 'apply',
      title: `Apply ${inUnit(target, t)}`,
      says: `Near enough will do; type what the ${t.reference} shows, not what was wanted.`,
      target,
    },
    steady(`stable-${end}`, 'digital'),
    { ...digitalReading(t, `found-${end}`, `Digital value at the ${end} point`, target), expectedFrom: `apply-${end}` },
    plausible(t, [`found-${end}`, `apply-${end}`], `plausible-${end}`),
    write(
      `write-${end}`,
      `${end === 'lower' ? 'Lower' : 'Upper'} sensor trim written`,
      'The device makes its digital value agree with the applied value.',
      { do: 'sensor-trim', end, value: { taken: `apply-${end}` } },
    ),
    readBack(`read-back-${end}`),
  ]
  const upper = t.upper ?? t.urv
  return [
    ...prelude(t, true),
    ...v.out,
    ...v.pump,
    onBench(t, `The ${t.reference} is connected in place of the process.`),
    ...at('lower', t.lower ?? t.lrv),
    ...at('upper', upper),
    store(),
    steady('stable-after', 'digital'),
    { ...digitalReading(t, 'left-upper', 'Verified at the upper point', upper, true), expectedFrom: 'apply-upper' },
    onProcess,
    ...v.back,
    ...ending(),
  ]
}

function currentTrim(t: Terms): Step[] {
  const at = (mA: 4 | 20): Step[] => [
    drive(`drive-${mA}`, mA),
    steady(`stable-${mA}`, 'current'),
    meterReading(`meter-${mA}`, `Meter at ${mA} mA`, mA),
    plausible(t, [`meter-${mA}`], `plausible-${mA}`),
    write(
      `write-${mA}`,
      `Current trim at ${mA} mA written`,
      'The device makes its output circuit agree with the meter.',
      { do: 'current-trim', at: mA, reading: { taken: `meter-${mA}` } },
    ),
    readBack(`read-back-${mA}`),
  ]
  return [
    ...prelude(t, true),
    ...at(4),
    ...at(20),
    ...([4, 20] as const).flatMap((mA) => [
      drive(`verify-drive-${mA}`, mA),
      steady(`verify-stable-${mA}`, 'current'),
      meterReading(`verify-${mA}`, `Verified: meter at ${mA} mA`, mA, true),
    ]),
    release(),
    store(),
    ...ending(),
  ]
}

function forcedCurrent(t: Terms): Step[] {
  const currents = [4, 8, 12, 16, 20, t.faultLow_mA ?? 3.6, t.faultHigh_mA ?? 21.5]
  return [
    ...prelude(t, false),
    ...currents.flatMap((mA, i): Step[] => {
      const name = i < 5 ? `${mA}` : i === 5 ? 'fault-low' : 'fault-high'
      return [
        drive(`drive-${name}`, mA),
        steady(`stable-${name}`, 'current'),
        {
          ...meterReading(`meter-${name}`, `Meter at ${n(mA, 1)} mA${i < 5 ? '' : ', fault current'}`, mA),
          says: 'Meter, card and screen must follow. What the receiver shows is kept beside it.',
        },
      ]
    }),
    release(),
    ...ending(),
  ]
}

function rangeChange(t: Terms): Step[] {
  const [low, high] = [t.toLow ?? t.lrv, t.toHigh ?? t.urv]
  return [
    ...prelude(t, true),
    readBack('range-found', 'The range that the device holds now, before it is changed.'),
    {
      id: 'plausible',
      kind: 'plausible',
      title: 'New range plausible',
      says: `${inUnit(low, t)} to ${inUnit(high, t)} must lie inside the sensor’s limits and have a span.`,
      judges: [],
    },
    write('write', 'New range written', 'Nothing is applied: it changes what 4 and 20 mA mean, not the measurement.', {
      do: 'set-range',
      lrv: low,
      urv: high,
    }),
    readBack('read-back'),
    store(),
    {
      id: 'receiver-agrees',
      kind: 'confirm',
      title: 'Receiver and indicator agree',
      says:
        'Both ends of the wire must mean the same: the receiver’s scale is changed with its own run sheet, or ' +
        'stood so already.',
    },
    ...ending(),
  ]
}

function receiverScale(t: Terms): Step[] {
  const [low, high] = [t.toLow ?? t.lrv, t.toHigh ?? t.urv]
  const scale = { unit: t.receiverUnit ?? t.unit, decimals: t.decimals }
  return [
    ...prelude(t, true),
    readBack('scale-found', 'The scale that the receiver holds now, before it is changed.'),
    {
      id: 'plausible',
      kind: 'plausible',
      title: 'New scale plausible',
      says: `${inUnit(low, scale)} to ${inUnit(high, scale)} is what the transmitter means by 4 and 20 mA.`,
      judges: [],
    },
    write('write', 'New scale written at the receiver', 'Nothing is changed in the device.', {
      do: 'receiver',
      low,
      high,
    }),
    readBack('read-back'),
    store(),
    ...ending(),
  ]
}

function phCalibration(t: Terms): Step[] {
  const buffers = t.buffers ?? []
  return [
    ...prelude(t, true),
    onBench(t, 'Electrode out of the process by the site’s procedure, rinsed and dabbed dry.'),
    ...buffers.flatMap((b, i): Step[] => [
      {
        id: `buffer-${i + 1}`,
        kind: 'buffer',
        title: `Electrode in buffer ${b}`,
        says: 'Fresh buffer, rinsed electrode. Type its temperature: the buffer’s pH follows from the table.',
        asks: b,
        gives: `ph-${i + 1}`,
      },
      steady(`stable-${i + 1}`, 'electrode'),
      {
        id: `electrode-${i + 1}`,
        kind: 'reading',
        title: `Electrode in buffer ${b}`,
        says: 'The electrode’s voltage, as the transmitter shows it.',
        of: 'electrode',
        buffer: `buffer-${i + 1}`,
        reads: { what: 'electrode', unit: 'mV', quantity: 'voltage', decimals: 1 },
      },
    ]),
    {
      id: 'plausible',
      kind: 'plausible',
      title: 'Electrode plausible',
      says: 'Slope and offset must be those of an electrode that can still be used.',
      judges: buffers.map((_, i) => `electrode-${i + 1}`),
    },
    write('write', 'Calibration written', 'The device takes slope and offset of the electrode.', {
      do: 'ph-calibrate',
      slope_mVperPh: { taken: 'slope' },
      offset_mV: { taken: 'offset' },
    }),
    readBack('read-back'),
    store(),
    steady('stable-after', 'digital', 'Electrode still in the last buffer.'),
    {
      ...digitalReading(t, 'left', 'Verified in the last buffer', 7, true),
      reads: { what: 'digital', unit: t.unit, quantity: t.quantity, decimals: t.decimals },
      expectedFrom: `ph-${buffers.length}`,
    },
    onProcess,
    ...ending(),
  ]
}

function flowZero(t: Terms): Step[] {
  return [
    ...prelude(t, true),
    {
      id: 'stopped',
      kind: 'confirm',
      title: 'Flow stopped, pipe full',
      says: 'Shut the valve after the meter, then the one before it; the pipe stays full and at working temperature.',
      makes: 'input-off-process',
      caution: 'A pump against a shut valve, a liquid trapped between two: by the site’s procedure only.',
    },
    steady('stable', 'digital', 'No flow. A reading that wanders means a valve that passes, or gas.'),
    digitalReading(t, 'zero-found', 'Reading at no flow', 0),
    plausible(t, ['zero-found']),
    write('write', 'Flow zero written', 'The meter takes what it measures now as no flow.', { do: 'flow-zero' }),
    readBack('read-back'),
    store(),
    steady('stable-after', 'digital'),
    digitalReading(t, 'zero-left', 'Verified: reading at no flow', 0, true),
    {
      id: 'restored',
      kind: 'confirm',
      title: 'Valves restored in order',
      says: 'The valve before the meter first, slowly, then the one after it.',
      makes: 'input-on-process',
    },
    ...ending(),
  ]
}

const COMPOSERS: Record<ProcedureId, (t: Terms) => Step[]> = {
  'zero-trim': zeroTrim,
  'sensor-trim': sensorTrim,
  'current-trim': currentTrim,
  'forced-current': forcedCurrent,
  'range-change': rangeChange,
  'receiver-scale': receiverScale,
  'ph-calibration': phCalibration,
  'flow-zero': flowZero,
}

/** The steps of a procedure, in order. */
export const stepsOf = (procedure: ProcedureId, terms: Terms): readonly Step[] => COMPOSERS[procedure](terms)
