export * from './kind.ts'
export * from './run-sheets.ts'
export { stageHelp, type StageHelp } from './stage-help.ts'
export * from './switch-run.ts'
export * from './reader.ts'
export * from './without-current.ts'
export * from './registry.ts'
export * from './practices.ts'
export * from './two-wire/index.ts'
export * from './level-from-above/index.ts'
export * from './discrete/index.ts'
export {
  advice,
  beamOf,
  beamPoints,
  clampOnOf,
  judgeSoundSpeed,
  knownFluid,
  normalisedWords,
  spacingOf,
  type ClampOn,
  runOf,
} from './clamp-on/index.ts'
export {
  certificateKey,
  CONSTANTS,
  coriolisOf,
  lettersKey,
  DENSITY_LIMIT_kgm3,
  referenceDensity,
  tagKey,
  type Constant,
} from './coriolis/index.ts'
export { BASELINE_POINTS, insertionOf, verification, type VerificationStep } from './thermal-insertion/index.ts'
export { dpAt, flowAt, plateOf, type Plate } from './orifice-dp/index.ts'
export { linesOf } from './flow/setup-lines.ts'
export { probeGeometry, type ProbeGeometry } from './level-in-contact/index.ts'
export { volumeIn, SHAPES } from './vessel/index.ts'
export {
  electrodeLine,
  entriesOfCalibration,
  holdsCalibration,
  type ElectrodeLine,
  type FoundElectrode,
} from './direct/electrode-line.ts'
export { redoxElectrode, REFERENCES, type RedoxElectrode } from './direct/redox.ts'
export { dpLevelOf, gaugeAt, zeroWords } from './level-dp/index.ts'
