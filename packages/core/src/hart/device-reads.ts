// The commands of a HART device that change nothing.
import { floatBytes, unsignedAt, unsignedBytes } from '../bytes/index.ts'
import { convertUnit } from '../quantity/index.ts'
import { sure } from '../sure/index.ts'
import type { HartDevice } from './device-model.ts'
import { latinBytes } from './fields.ts'
import { eventBytes, EVENTS_AT_ONCE, HISTORY, infoBytes, readAskRows, rowBytes, ROWS_AT_ONCE } from './historian.ts'
import { CODE } from './status.ts'
import { unitCode } from './units.ts'
import { refused, says, type Done, type Asked, type Command } from './device-done.ts'

function identityOf({ make, working, counter, forgetful }: HartDevice, command: number): Done {
  return says(command, {
    expandedType: make.expandedType,
    requestPreambles: 5,
    universalRevision: 7,
    deviceRevision: make.deviceRevision,
    softwareRevision: make.softwareRevision,
    hardwareRevision: make.hardwareRevision,
    signalling: 0,
    flags: forgetful ? 2 : 0,
    deviceId: make.deviceId,
    responsePreambles: working.responsePreambles,
    maxDeviceVariables: make.others.length,
    configurationCounter: counter,
    extendedStatus: 0,
    manufacturer: 253,
    distributor: 253,
    profile: make.profile,
  })
}

const variablesOf = ({ device, live, instant }: Asked) => [
  { unitCode: unitCode(device.working.unit), value: live.value },
  ...device.make.others.slice(0, 3).map((o, i) => ({ unitCode: unitCode(o.unit), value: instant.others[i] ?? null })),
]

function ownRead({ device, data }: Asked): Done {
  const id = unsignedAt(data, 0, 2)
  const known = device.make.parameters.find((p) => p.id === id)
  if (!known) return refused(CODE.invalidSelection)
  const value = sure(device.working.parameters[id])
  const body = typeof value === 'string' ? latinBytes(value, 16) : floatBytes(value)
  return { code: CODE.done, data: [...unsignedBytes(id, 2), ...body] }
}
export const READS: Readonly<Record<number, Command>> = {
  0: { does: ({ device }) => identityOf(device, 0) },
  11: { needs: 6, does: ({ device }) => identityOf(device, 11) },
  1: { does: (asked) => says(1, { ...sure(variablesOf(asked)[0]) }) },
  2: { does: ({ live }) => says(2, { mA: live.mA, percent: live.percent }) },
  3: { does: (asked) => says(3, { mA: asked.live.mA, variables: variablesOf(asked) }) },
  7: { does: ({ device: { working } }) => ({ code: 0, data: [working.pollingAddress, working.currentOn ? 1 : 0] }) },
  8: { does: () => ({ code: 0, data: [0, 0, 0, 0] }) },
  12: { does: ({ device }) => says(12, { message: device.working.message }) },
  13: {
    does: ({ device: { working } }) =>
      says(13, { tag: working.tag, descriptor: working.descriptor, date: working.date }),
  },
  14: {
    does: ({ device: { make, working } }) => {
      const told = (v: number) => convertUnit(v, make.unit, working.unit)
      return says(14, {
        serialNumber: make.serialNumber,
        unitCode: unitCode(working.unit),
        upperLimit: told(make.upperLimit),
        lowerLimit: told(make.lowerLimit),
        // A span, not a reading: degrees have no offset in it.
        minimumSpan: told(make.minimumSpan) - told(0),
      })
    },
  },
  15: {
    does: ({ device: { working, protected: guarded } }) => {
      const told = (v: number) => convertUnit(v, working.range.unit, working.unit)
      return says(15, {
        alarmSelection: 0,
        transferFunction: working.transferFunction,
        unitCode: unitCode(working.unit),
        urv: told(working.range.urv),
        lrv: told(working.range.lrv),
        damping_s: working.damping_s,
        writeProtect: guarded ? 1 : 0,
        channelFlags: 0,
      })
    },
  },
  16: { does: () => ({ code: 0, data: [0, 0, 0] }) },
  20: { does: ({ device }) => ({ code: 0, data: latinBytes(device.working.longTag, 32) }) },
  33: {
    needs: 1,
    does: (asked) => {
      const variables = variablesOf(asked)
      const codes = [...asked.data.subarray(0, 4)]
      if (codes.some((c) => c >= variables.length)) return refused(CODE.invalidSelection)
      const data = codes.flatMap((c) => {
        const v = sure(variables[c])
        return [c, v.unitCode, ...floatBytes(v.value)]
      })
      return { code: CODE.done, data }
    },
  },
  48: {
    does: ({ device, live }) =>
      says(48, {
        deviceStatus: live.outOfLimits ? '010000000000' : '000000000000',
        extendedStatus: 0,
        operatingMode: 0,
        standardStatus0: 0,
        standardStatus1: 0,
        analogSaturated: live.saturated ? 1 : 0,
        standardStatus2: 0,
        standardStatus3: 0,
        analogFixed: live.fixed ? 1 : 0,
        moreDeviceStatus: device.lock ? '01' : '',
      }),
  },
  50: {
    does: ({ device }) => ({ code: 0, data: [0, 1, 2, 3].map((v) => (v <= device.make.others.length ? v : 250)) }),
  },
  54: {
    needs: 1,
    does: (asked) => {
      const { make, working } = asked.device
      const code = asked.data[0] ?? 0
      const found = variablesOf(asked)[code]
      if (!found) return refused(CODE.invalidSelection)
      const told = (v: number) => (code === 0 ? convertUnit(v, make.unit, working.unit) : null)
      return {
        code: CODE.done,
        data: [
          code,
          ...unsignedBytes(make.serialNumber, 3),
          found.unitCode,
          ...floatBytes(told(make.upperLimit)),
          ...floatBytes(told(make.lowerLimit)),
          ...floatBytes(code === 0 ? working.damping_s : null),
          ...floatBytes(code === 0 ? make.minimumSpan : null),
          0,
          0,
          ...unsignedBytes(0, 4),
        ],
      }
    },
  },
  76: { does: ({ device }) => ({ code: 0, data: [device.lock === null ? 0 : 1] }) },
  80: {
    needs: 1,
    does: ({ device, data }) => {
      if (data[0] !== 0) return refused(CODE.invalidSelection)
      const { range, unit } = device.working
      const told = (v: number) => floatBytes(convertUnit(v, range.unit, unit))
      return { code: 0, data: [0, unitCode(unit), ...told(range.lrv), ...told(range.urv)] }
    },
  },
  81: {
    needs: 1,
    does: ({ device: { make, working }, data }) => {
      if (data[0] !== 0) return refused(CODE.invalidSelection)
      const told = (v: number) => floatBytes(convertUnit(v, make.unit, working.unit))
      const ends = [...told(make.lowerLimit), ...told(make.upperLimit)]
      return { code: 0, data: [0, 3, unitCode(working.unit), ...ends, ...ends, ...floatBytes(make.minimumSpan)] }
    },
  },
  105: {
    does: ({ device }) => ({ code: 0, data: [device.burst === null ? 0 : 1, device.burst ?? 1, 0, 0, 0, 0, 0, 0] }),
  },
  130: { needs: 2, does: ownRead },
  [HISTORY.info]: {
    does: ({ instant: { past } }) => (past ? { code: 0, data: infoBytes(past.info()) } : refused(CODE.unknownCommand)),
  },
  [HISTORY.rows]: {
    needs: 6,
    does: ({ instant: { past }, data }) => {
      if (!past) return refused(CODE.unknownCommand)
      const { from, step, count } = readAskRows(data)
      const { rows } = past.info()
      if (count < 1 || count > ROWS_AT_ONCE || step < 1 || from >= rows) return refused(CODE.invalidSelection)
      const wanted = Array.from({ length: count }, (_, i) => from + i * step).filter((row) => row < rows)
      return { code: 0, data: wanted.flatMap((row) => rowBytes(past.row(row))) }
    },
  },
  [HISTORY.events]: {
    needs: 2,
    does: ({ instant: { past }, data }) => {
      if (!past) return refused(CODE.unknownCommand)
      const from = unsignedAt(data, 0, 2)
      const { events } = past.info()
      const some = Array.from({ length: Math.min(EVENTS_AT_ONCE, Math.max(0, events - from)) }, (_, i) => from + i)
      return { code: 0, data: some.flatMap((i) => eventBytes(past.event(i))) }
    },
  },
}
