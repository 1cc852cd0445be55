export { GcodeReader } from './gcodeReader'
export type { ReadBack, ReadRules } from './gcodeReader'
export { differencesFrom, gramsOf } from './differences'
export type { ReadGap } from './gapFinder'
