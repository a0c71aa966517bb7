// Descriptions of devices: their form, what is wrong with one, and values read and written by them.
export * from './schema.ts'
export * from './universal.ts'
export * from './values.ts'
export * from './shipped.ts'
