// Judging what is on record: checks, places, words, and how the loop stands.
export { gearTaken, planOf, planOfCheck, pointsOf, type CheckPlan } from './begin-check.ts'
export * from './judge-check.ts'
export { atPlace, doubtsAbout, foretellProof, readsOnThread, standardOf } from './loop-readings.ts'
export * from './check-words.ts'
export * from './loop-standing.ts'
export { PART_SORTS, type PartSort, type VisitPart } from './visit-parts.ts'
export * from './visits.ts'
export * from './verifications.ts'
