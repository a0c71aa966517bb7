export * from './study.ts'
export * from './chain.ts'
export * from './machine.ts'
export * from './both-ends.ts'
