export * from './chain-diagnosis.ts'
export * from './diagnose.ts'
export * from './plan-trims.ts'
export * from './trim-effect.ts'
