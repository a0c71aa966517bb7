export * from './pipe-dimensions.ts'
export * from './wave-speeds.ts'
