export * from './scene.ts'
export * from './error-plot.ts'
export * from './thread-strip.ts'
