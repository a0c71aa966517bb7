export * from './water.ts'
export * from './seawater.ts'
export * from './gas.ts'
