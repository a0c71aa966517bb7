export * from './registry.ts'
export * from './reference.ts'
