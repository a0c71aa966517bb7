// A HART device on a bench, and a master that asks it with bytes.
import { bytesOf, hexOf } from '../bytes/index.ts'
import {
  answerRequest,
  decodeFrame,
  decodePayload,
  encodeFrame,
  encodePayload,
  newDevice,
  readStatus,
  realCurrent,
  type DeviceMake,
  type Fields,
  type Frame,
  type HartDevice,
  type Master,
} from './index.ts'

/** A pressure transmitter. */
export const make: DeviceMake = {
  expandedType: 0x3d11,
  deviceId: 0x03a7c2,
  deviceRevision: 3,
  softwareRevision: 12,
  hardwareRevision: 2,
  profile: 1,
  unit: 'kPa',
  upperLimit: 1000,
  lowerLimit: -100,
  minimumSpan: 10,
  serialNumber: 239_554,
  others: [{ name: 'Sensor temperature', unit: 'degC' }],
  parameters: [
    { id: 1, name: 'Cut-off', type: 'float', unit: '%', least: 0, most: 25, initial: 6 },
    { id: 2, name: 'Fill', type: 'text', initial: 'SILICONE', readOnly: true },
    { id: 3, name: 'Wires', type: 'integer', least: 2, most: 4, initial: 3 },
    { id: 4, name: 'Note', type: 'text', initial: '' },
  ],
}
export const OWN = { long: '3d1103a7c2' }

/** A bench: the device, what feeds it, and a master that asks it with bytes. */
export function bench(memory: Partial<HartDevice['working']> = {}) {
  const at = {
    device: newDevice(make, { tag: 'PT-104', range: { unit: 'kPa', lrv: 0, urv: 600 }, ...memory }),
    input: 240,
  }
  const instant = () => ({ sensed: at.input, others: [24.5] })
  function send(frame: Partial<Frame> & { command: number }): Frame | undefined {
    const asked: Frame = {
      type: 'request',
      address: OWN,
      master: 'primary',
      burstMode: false,
      data: new Uint8Array(),
      status: null,
      ...frame,
    }
    const { device, answer } = answerRequest(at.device, decodeFrame(encodeFrame(asked)), instant())
    at.device = device
    return answer && decodeFrame(encodeFrame(answer))
  }
  /** Asks with data as hex; code, flags and data of the answer. */
  function raw(command: number, hex = '', master: Master = 'primary') {
    const answer = send({ command, data: bytesOf(hex), master })!
    const { code, device } = readStatus(...answer.status!)
    return { code, flags: device, hex: hexOf(answer.data) }
  }
  return {
    at,
    send,
    raw,
    ask(command: number, fields: Fields = {}, master: Master = 'primary') {
      const got = raw(command, hexOf(encodePayload(command, 'request', fields)), master)
      const fine = got.code === 0 || got.code === 8 || got.code === 14
      return { ...got, fields: fine ? decodePayload(command, 'response', bytesOf(got.hex)) : {} }
    },
    meter: () => realCurrent(at.device, instant()),
  }
}
