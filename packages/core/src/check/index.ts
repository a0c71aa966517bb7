export * from './multi-point-check.ts'
export * from './stability.ts'
export * from './plan.ts'
export * from './judge.ts'
