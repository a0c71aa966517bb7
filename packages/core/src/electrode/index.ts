export * from './memory.ts'
export * from './judge.ts'
