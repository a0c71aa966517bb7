// The commands of a HART device that change it.
import { floatAt, unsignedAt } from '../bytes/index.ts'
import { sameQuantity } from '../quantity/index.ts'
import { measured, MOST_DAMPING_s, OUTPUT, restarted } from './device-model.ts'
import { dateText, latinText, unpackAscii } from './fields.ts'
import { CODE } from './status.ts'
import { symbolOf } from './units.ts'
import { refused, written, says, echo, type Done, type Asked, type Command } from './device-done.ts'
import { writeRange, currentTrim, setHere, sensorTrim } from './device-trims.ts'

function ownWrite(asked: Asked): Done {
  const { device, data } = asked
  const id = unsignedAt(data, 0, 2)
  const known = device.make.parameters.find((p) => p.id === id)
  if (!known || known.readOnly) return refused(CODE.invalidSelection)
  if (known.type === 'text') {
    if (data.length < 18) return refused(CODE.tooFewBytes)
    const parameters = { ...device.working.parameters, [id]: latinText(data.slice(2, 18)) }
    return { code: CODE.done, data: data.slice(0, 18), device: written(device, { parameters }) }
  }
  if (data.length < 6) return refused(CODE.tooFewBytes)
  const value = floatAt(data, 2)
  if (value === null || value > (known.most ?? Infinity)) return refused(CODE.tooLarge)
  if (value < (known.least ?? -Infinity)) return refused(CODE.tooSmall)
  if (known.type === 'integer' && !Number.isInteger(value)) return refused(CODE.invalidSelection)
  const parameters = { ...device.working.parameters, [id]: value }
  return { code: CODE.done, data: data.slice(0, 6), device: written(device, { parameters }) }
}

function takeZero({ device, instant }: Asked): Done {
  const seen = measured(device, instant)
  const near = 0.05 * Math.abs(device.make.upperLimit)
  if (seen > near) return refused(9)
  if (seen < -near) return refused(10)
  return { code: 0, device: written(device, { sensorOffset: device.working.sensorOffset - seen }) }
}
function speakUnit({ device }: Asked, code: number): Done {
  const unit = symbolOf(code)
  if (!unit || !sameQuantity(unit, device.make.unit)) return refused(CODE.invalidSelection)
  return { code: 0, data: [code], device: written(device, { unit }) }
}
/** What was done, said with the variable’s number; refused for any other. */
const ofPrimary = ({ data }: Asked, bytes: number, done: Done): Done =>
  data[0] !== 0 ? refused(CODE.invalidSelection) : done.device ? { ...done, data: echo(data, bytes) } : done

export const WRITES: Readonly<Record<number, Command>> = {
  6: {
    needs: 1,
    writes: true,
    does: ({ device, data }) => {
      const [pollingAddress, mode] = [data[0] ?? 0, data[1]]
      if (pollingAddress > 63 || (mode ?? 0) > 1) return refused(CODE.invalidSelection)
      // As in revision 5: another address than 0 parks the current.
      const currentOn = mode === undefined ? pollingAddress === 0 : mode === 1
      const next = written(device, { pollingAddress, currentOn })
      return {
        code: CODE.done,
        data: echo(data, mode === undefined ? 1 : 2),
        device: currentOn ? next : { ...next, fixed_mA: null },
      }
    },
  },
  17: {
    needs: 24,
    writes: true,
    does: ({ device, data }) => {
      const message = unpackAscii(data.slice(0, 24))
      return says(17, { message }, written(device, { message }))
    },
  },
  18: {
    needs: 21,
    writes: true,
    does: ({ device, data }) => {
      const day = data.slice(18, 21)
      const date = dateText(day)
      if (date === null && day.some((b) => b !== 0)) return refused(9)
      const texts = { tag: unpackAscii(data.slice(0, 6)), descriptor: unpackAscii(data.slice(6, 18)), date }
      return says(18, texts, written(device, texts))
    },
  },
  22: {
    needs: 32,
    writes: true,
    does: ({ device, data }) => ({
      code: CODE.done,
      data: echo(data, 32),
      device: written(device, { longTag: latinText(data.slice(0, 32)) }),
    }),
  },
  34: {
    needs: 4,
    writes: true,
    does: ({ device, data }) => {
      const damping_s = floatAt(data, 0)
      if (damping_s === null || damping_s > MOST_DAMPING_s) return refused(CODE.tooLarge)
      if (damping_s < 0) return refused(CODE.tooSmall)
      return says(34, { damping_s }, written(device, { damping_s }))
    },
  },
  35: {
    needs: 9,
    writes: true,
    does: ({ device, data }) => {
      const unit = symbolOf(data[0] ?? 0)
      if (!unit || !sameQuantity(unit, device.make.unit)) return refused(CODE.invalidSelection)
      const [urv, lrv] = [floatAt(data, 1), floatAt(data, 5)]
      const done = writeRange(device, unit, lrv, urv)
      return done.device ? { ...done, data: echo(data, 9) } : done
    },
  },
  36: { writes: true, does: setHere('urv') },
  37: { writes: true, does: setHere('lrv') },
  38: {
    does: ({ device, data, master }) => {
      if (data.length === 1) return refused(CODE.tooFewBytes)
      if (data.length && unsignedAt(data, 0, 2) !== device.counter) return refused(9)
      return { code: 0, data: echo(data, 2), device: { ...device, changed: { ...device.changed, [master]: false } } }
    },
  },
  39: {
    needs: 1,
    writes: true,
    does: ({ device, data }) => {
      if (data[0] === 0) return { code: 0, data: [0], device: { ...device, stored: device.working } }
      if (data[0] === 1) return { code: 0, data: [1], device: { ...device, working: device.stored } }
      return refused(CODE.invalidSelection)
    },
  },
  40: {
    needs: 4,
    does: ({ device, data }) => {
      const mA = floatAt(data, 0)
      if (!device.working.currentOn) return refused(11)
      if (mA === 0) return { code: 0, data: echo(data, 4), device: { ...device, fixed_mA: null } }
      if (mA === null || mA > OUTPUT.drivesTo) return refused(CODE.tooLarge)
      if (mA < OUTPUT.drivesFrom) return refused(CODE.tooSmall)
      return { code: 0, data: echo(data, 4), device: { ...device, fixed_mA: mA } }
    },
  },
  41: { does: () => ({ code: 0 }) },
  42: { writes: true, does: ({ device }) => ({ code: 0, device: restarted(device) }) },
  43: { writes: true, does: takeZero },
  44: { needs: 1, writes: true, does: (asked) => speakUnit(asked, asked.data[0] ?? 0) },
  45: { needs: 4, writes: true, does: currentTrim(4) },
  46: { needs: 4, writes: true, does: currentTrim(20) },
  47: {
    needs: 1,
    writes: true,
    does: ({ device, data }) =>
      (data[0] ?? 2) > 1
        ? refused(CODE.invalidSelection)
        : { code: 0, data: echo(data, 1), device: written(device, { transferFunction: data[0] ?? 0 }) },
  },
  // The same for a device variable by its number; of these it zeroes and turns the primary one alone.
  52: { needs: 1, writes: true, does: (asked) => ofPrimary(asked, 1, takeZero(asked)) },
  53: { needs: 2, writes: true, does: (asked) => ofPrimary(asked, 2, speakUnit(asked, asked.data[1] ?? 0)) },
  59: {
    needs: 1,
    writes: true,
    does: ({ device, data }) => {
      const responsePreambles = Math.min(20, Math.max(5, data[0] ?? 5))
      const code = responsePreambles === data[0] ? CODE.done : CODE.setToNearest
      return { code, data: [responsePreambles], device: written(device, { responsePreambles }) }
    },
  },
  71: {
    needs: 1,
    does: ({ device, data, master }) => {
      if ((data[0] ?? 4) > 1) return refused(CODE.invalidSelection)
      if (device.lock && device.lock !== master) return refused(11)
      return { code: 0, data: echo(data, 1), device: { ...device, lock: data[0] ? master : null } }
    },
  },
  82: { needs: 7, writes: true, does: sensorTrim },
  83: {
    needs: 1,
    writes: true,
    does: ({ device, data }) =>
      data[0] === 0
        ? { code: 0, data: [0], device: written(device, { sensorOffset: 0, sensorGain: 1 }) }
        : refused(CODE.invalidSelection),
  },
  108: {
    needs: 1,
    writes: true,
    does: ({ device, data }) => {
      if (![1, 2, 3].includes(data[0] ?? 0)) return refused(CODE.invalidSelection)
      return { code: 0, data: echo(data, 1), device: { ...device, burst: device.burst && (data[0] ?? null) } }
    },
  },
  109: {
    needs: 1,
    writes: true,
    does: ({ device, data }) => {
      if ((data[0] ?? 2) > 1) return refused(CODE.invalidSelection)
      return { code: 0, data: echo(data, 1), device: { ...device, burst: data[0] ? (device.burst ?? 1) : null } }
    },
  },
  131: { needs: 2, writes: true, does: ownWrite },
}
