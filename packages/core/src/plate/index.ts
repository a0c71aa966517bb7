export * from './picture.ts'
export * from './proposals.ts'
export * from './reading.ts'
export * from './recipe.ts'
