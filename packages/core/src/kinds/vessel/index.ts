export * from './fields.ts'
export * from './vessel.ts'
export * from './shown.ts'
export * from './figures.ts'
