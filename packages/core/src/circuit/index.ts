export * from './wire-resistance.ts'
export * from './loop-budget.ts'
