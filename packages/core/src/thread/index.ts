export * from './thread.ts'
