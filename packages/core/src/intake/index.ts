export * from './rows.ts'
export * from './table.ts'
