export * from './rtd.ts'
