export * from './pipe-dimensions.ts'
