export * from './random.ts'
export * from './stand-in.ts'
export * from './switch-stand-in.ts'
