export * from './study.ts'
export * from './chain.ts'
