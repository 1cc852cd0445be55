export { GcodeReader } from './gcodeReader'
export type { ReadBack, ReadRules } from './gcodeReader'
export { differencesFrom, differencesFromPlanned, gramsOf } from './differences'
export type { ReadGap } from './gapFinder'
