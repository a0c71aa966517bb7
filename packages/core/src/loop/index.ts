export * from './study.ts'
export * from './chain.ts'
export * from './machine.ts'
