export * from './air-sound-speed.ts'
export * from './dp-level-range.ts'
export * from './probe-range.ts'
export * from './tank-volume.ts'
