export * from './current-scale.ts'
