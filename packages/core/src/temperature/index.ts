export * from './rtd.ts'
export * from './thermocouple.ts'
