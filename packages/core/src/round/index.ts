export * from './kit.ts'
export * from './minutes.ts'
export * from './plan.ts'
export * from './works.ts'
