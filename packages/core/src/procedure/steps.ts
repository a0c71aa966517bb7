// The steps of every guided procedure, made from a few building blocks, so that the same work has the same steps and
// words whatever the device.
import {
  digitalReading,
  drive,
  ending,
  inUnit,
  meterReading,
  n,
  onBench,
  onProcess,
  plausible,
  prelude,
  readBack,
  release,
  steady,
  store,
  valves,
  write,
} from './step-parts.ts'
import { appliedWords } from './applied.ts'
import { phCalibration, redoxOffset } from './electrode-steps.ts'
import type { ProcedureId, Step, Terms } from './step.ts'
export {
  PROCEDURES,
  type ProcedureId,
  PROCEDURE_NAMES,
  type Held,
  type Terms,
  STEP_KINDS,
  type StepKind,
  STEP_EFFECTS,
  type Step,
} from './step.ts'

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
    digitalReading({ t, id: 'zero-found', title: 'Zero as found', expected: 0 }),
    plausible(t, ['zero-found']),
    write('write', 'Zero trim written', 'The device takes what it measures now as zero.', { do: 'zero-trim' }),
    readBack('read-back'),
    store(),
    steady('stable-after', 'digital'),
    digitalReading({ t, id: 'zero-left', title: 'Verified: zero as left', expected: 0, verifies: true }),
    onProcess,
    ...v.back,
    ...ending(),
  ]
}

function sensorTrim(t: Terms, bothEnds = true): Step[] {
  const v = valves(t, true)
  const at = (end: 'lower' | 'upper', target: number): Step[] => [
    {
      id: `apply-${end}`,
      kind: 'apply',
      title: `Apply ${appliedWords(target, t)}`,
      says: `Near enough will do; type what the ${t.reference} shows, not what was wanted.`,
      target,
    },
    steady(`stable-${end}`, 'digital'),
    {
      ...digitalReading({ t, id: `found-${end}`, title: `Digital value at the ${end} point`, expected: target }),
      expectedFrom: `apply-${end}`,
    },
    plausible(t, [`found-${end}`, `apply-${end}`], `plausible-${end}`),
    write(
      `write-${end}`,
      `${end === 'lower' ? 'Lower' : 'Upper'} sensor trim written`,
      'The device makes its digital value agree with the applied value.',
      { do: 'sensor-trim', end, value: { taken: `apply-${end}` } },
    ),
    readBack(`read-back-${end}`),
  ]
  const [lower, upper] = [t.lower ?? t.lrv, t.upper ?? t.urv]
  return [
    ...prelude(t, true),
    ...v.out,
    ...v.pump,
    onBench(t, `The ${t.reference} is connected in place of the process.`),
    ...at('lower', lower),
    ...at('upper', upper),
    store(),
    steady('stable-after', 'digital'),
    {
      ...digitalReading({ t, id: 'left-upper', title: 'Verified at the upper point', expected: upper, verifies: true }),
      expectedFrom: 'apply-upper',
    },
    ...(bothEnds
      ? [
          {
            id: 'apply-lower-again',
            kind: 'apply' as const,
            title: `Apply ${appliedWords(lower, t)} again`,
            says: 'The upper trim can have moved the lower point: it is looked at once more.',
            target: lower,
          },
          steady('stable-lower-again', 'digital'),
          {
            ...digitalReading({
              t,
              id: 'left-lower',
              title: 'Verified at the lower point',
              expected: lower,
              verifies: true,
            }),
            expectedFrom: 'apply-lower-again',
          },
        ]
      : []),
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
    digitalReading({ t, id: 'zero-found', title: 'Reading at no flow', expected: 0 }),
    plausible(t, ['zero-found']),
    write('write', 'Flow zero written', 'The meter takes what it measures now as no flow.', { do: 'flow-zero' }),
    readBack('read-back'),
    store(),
    steady('stable-after', 'digital'),
    digitalReading({ t, id: 'zero-left', title: 'Verified: reading at no flow', expected: 0, verifies: true }),
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

function dampingChange(t: Terms): Step[] {
  return [
    ...prelude(t, true),
    readBack('damping-found', 'The damping that the device holds now, before it is changed.'),
    {
      id: 'plausible',
      kind: 'plausible',
      title: 'New damping plausible',
      says: `${n(t.toDamping_s ?? 0, 1)} s: the loop follows its process that much later, and a trip with it.`,
      judges: [],
    },
    write('write', 'New damping written', 'What is measured stays; how fast it follows changes at once.', {
      do: 'damping',
      seconds: t.toDamping_s ?? 0,
    }),
    readBack('read-back'),
    store(),
    ...ending(),
  ]
}

function healthCheck(t: Terms): Step[] {
  return [
    ...prelude(t, false),
    {
      id: 'output',
      kind: 'words',
      title: 'Output during the check chosen, and said',
      says:
        'A device that looks into itself may hold its output, let it follow, or drive its failure current. See in ' +
        'its manual which, set it, and say so to operations before it begins.',
      asks: 'What the output does meanwhile, and who was told',
    },
    {
      id: 'self-test',
      kind: 'command',
      title: 'Self-test begun',
      says: 'The device looks into itself. It answers when it has begun; what it found is read after.',
      sends: { do: 'self-test' },
    },
    readBack('read-back', 'The device is asked what it found: its own status is read, and what else it says.'),
    ...ending(),
  ]
}

const COMPOSERS: Record<ProcedureId, (t: Terms) => Step[]> = {
  'zero-trim': zeroTrim,
  'sensor-trim': (t) => sensorTrim(t),
  'current-trim': currentTrim,
  'forced-current': forcedCurrent,
  'range-change': rangeChange,
  'receiver-scale': receiverScale,
  'ph-calibration': phCalibration,
  'redox-offset': redoxOffset,
  'flow-zero': flowZero,
  'damping-change': dampingChange,
  'health-check': healthCheck,
}

/** The steps of a procedure, in order. */
export const stepsOf = (procedure: ProcedureId, terms: Terms): readonly Step[] => COMPOSERS[procedure](terms)

/** The steps as release 0.1 composed them, whose runs do not hold them: a replay must find the same. */
export const firstSteps = (procedure: ProcedureId, terms: Terms): readonly Step[] =>
  procedure === 'sensor-trim' ? sensorTrim(terms, false) : stepsOf(procedure, terms)
