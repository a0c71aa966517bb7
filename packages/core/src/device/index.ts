export * from './random.ts'
export * from './stand-in.ts'
