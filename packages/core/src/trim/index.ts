export * from './chain-diagnosis.ts'
export * from './diagnose.ts'
