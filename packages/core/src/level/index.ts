export * from './air-sound-speed.ts'
export * from './tank-volume.ts'
