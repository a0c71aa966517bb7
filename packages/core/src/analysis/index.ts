export * from './ph-buffer.ts'
export * from './ph-calibration.ts'
export * from './recognise.ts'
