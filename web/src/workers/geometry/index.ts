import { proxy, wrap, type Remote } from 'comlink'
import type { GeometryApi } from './geometry.worker'

const start = (name: string): Remote<GeometryApi> =>
  wrap<GeometryApi>(new Worker(new URL('./geometry.worker.ts', import.meta.url), { type: 'module', name }))

let first: Remote<GeometryApi> | null = null
/** Plans and drawings: one at a time, the newest wins. Started when first asked: what is kept comes first. */
export const planning = (): Remote<GeometryApi> => (first ??= start('planning'))

let second: Remote<GeometryApi> | null = null
/** Reading files and writing bodies, which must not hold up the drawings. */
export const filing = (): Remote<GeometryApi> => (second ??= start('filing'))

export { proxy }
