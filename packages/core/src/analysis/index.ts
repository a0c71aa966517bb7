export * from './ph-buffer.ts'
export * from './ph-calibration.ts'
