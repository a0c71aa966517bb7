// Modbus: frames, values in registers, register maps, and a slave.
export * from './frame.ts'
export * from './map.ts'
export * from './pack.ts'
export * from './slave.ts'
