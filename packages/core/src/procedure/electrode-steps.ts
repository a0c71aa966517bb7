// Guided work at an electrode: pH in buffers of any order, redox in its solution.
import { sure } from '../sure/index.ts'
import type { Step, Terms } from './step.ts'
import {
  digitalReading,
  ending,
  onBench,
  onProcess,
  plausible,
  prelude,
  readBack,
  steady,
  store,
  write,
} from './step-parts.ts'

const WHICH = ['first', 'second', 'third', 'fourth', 'fifth'] as const

/** The gates of a buffer: named by its place where any of them may stand there, else by what it must be. */
function inBuffer(t: Terms, b: string, i: number): Pick<Step, 'title' | 'says' | 'asks' | 'gives'>[] {
  const gives = `ph-${i + 1}`
  if (!t.anyOrder) {
    const title = `Electrode in buffer ${b}`
    return [
      {
        title,
        says: 'Fresh buffer, rinsed electrode. Type its temperature: the buffer’s pH follows from the table.',
        asks: b,
        gives,
      },
      { title, says: 'The electrode’s voltage, as the transmitter shows it.' },
    ]
  }
  const all = t.buffers ?? []
  const title = all.length === 1 ? `Electrode in buffer ${b}` : `Electrode in the ${sure(WHICH[i])} buffer`
  return [
    {
      title,
      says:
        `Fresh buffer, rinsed electrode: ${all.length > 1 ? `any of ${all.join(', ')}, in any order` : b}. Type its ` +
        'temperature: the buffer’s pH follows from the table.',
    },
    { title, says: 'The electrode’s voltage, as the transmitter shows it: which buffer it is follows from it.', gives },
  ]
}

export function phCalibration(t: Terms): Step[] {
  const buffers = t.buffers ?? []
  return [
    ...prelude(t, true),
    onBench(t, 'Electrode out of the process by the site’s procedure, rinsed and dabbed dry.'),
    ...buffers.flatMap((b, i): Step[] => [
      { id: `buffer-${i + 1}`, kind: 'buffer', ...sure(inBuffer(t, b, i)[0]) },
      steady(`stable-${i + 1}`, 'electrode'),
      {
        id: `electrode-${i + 1}`,
        kind: 'reading',
        ...sure(inBuffer(t, b, i)[1]),
        of: 'electrode',
        buffer: `buffer-${i + 1}`,
        reads: { what: 'electrode', unit: 'mV', quantity: 'voltage', decimals: 1 },
      },
    ]),
    {
      id: 'plausible',
      kind: 'plausible',
      title: 'Electrode plausible',
      says:
        buffers.length === 1
          ? 'One buffer gives the offset; the slope stays. Both must be those of an electrode that can be used.'
          : 'Slope and offset must be those of an electrode that can still be used.',
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
      ...digitalReading({ t, id: 'left', title: 'Verified in the last buffer', expected: 7, verifies: true }),
      reads: { what: 'digital', unit: t.unit, quantity: t.quantity, decimals: t.decimals },
      expectedFrom: `ph-${buffers.length}`,
    },
    onProcess,
    ...ending(),
  ]
}

export function redoxOffset(t: Terms): Step[] {
  const target = t.lower ?? t.lrv
  return [
    ...prelude(t, true),
    onBench(t, 'Electrode out of the process by the site’s procedure, rinsed and dabbed dry, its metal clean.'),
    {
      id: 'apply-solution',
      kind: 'apply',
      title: 'Electrode in its solution',
      says: 'Fresh solution. Type its potential at its temperature against this reference, as on its bottle.',
      target,
    },
    steady('stable', 'digital'),
    {
      ...digitalReading({ t, id: 'found', title: 'Reported potential as found', expected: target }),
      expectedFrom: 'apply-solution',
    },
    plausible(t, ['found', 'apply-solution']),
    write('write', 'Offset written', 'The device takes what is typed as what it measures: the slope stays.', {
      do: 'sensor-trim',
      end: 'lower',
      value: { taken: 'apply-solution' },
    }),
    readBack('read-back'),
    store(),
    steady('stable-after', 'digital'),
    {
      ...digitalReading({ t, id: 'left', title: 'Verified in the solution', expected: target, verifies: true }),
      expectedFrom: 'apply-solution',
    },
    onProcess,
    ...ending(),
  ]
}
