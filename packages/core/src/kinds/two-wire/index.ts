export * from './fields.ts'
export * from './wiring.ts'
export * from './range.ts'
export * from './tail.ts'
