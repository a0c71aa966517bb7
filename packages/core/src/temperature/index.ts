export * from './rtd.ts'
export * from './thermocouple.ts'
export * from './elements.ts'
