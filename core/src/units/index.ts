export { lineAt } from './lineAt'
export { angleOfShare, deg, degrees, hangingShare, otherConvention, radians } from './angle'
export type { Deg } from './angle'
export { filamentMetres, massGrams } from './filamentLength'
