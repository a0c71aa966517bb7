export * from './built-in.ts'
export * from './own-rows.ts'
