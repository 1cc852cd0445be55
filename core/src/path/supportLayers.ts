import type { Region } from '../polygon'
import type { SupportPass } from '../stand'
import type { ToolPaths } from './toolPaths'

/** Heights nearer than this are one. */
const SAME_MM = 0.03

/** What support lines may lie on besides each other. */
export type Ground = {
  /** Layers of the part, from below. */
  readonly layers: readonly { readonly bottomMm: number; readonly topMm: number; readonly region: Region }[]
  /** How far below a support the part may end that carries it. */
  readonly belowMm: number
}

/** Numbers of the passes that share bottom and top, from below: one layer of support. */
export function layersOf(passes: readonly SupportPass[]): number[][] {
  const layers = new Map<string, number[]>()
  passes.forEach(({ bottomMm, topMm }, i) => {
    const at = `${topMm.toFixed(5)} ${bottomMm.toFixed(5)}`
    const layer = layers.get(at)
    if (layer) layer.push(i)
    else layers.set(at, [i])
  })
  return [...layers.values()]
}

/** Numbers of the passes whose lines may carry a layer of support, from the highest. */
export function carriersOf(
  members: readonly number[],
  passes: readonly SupportPass[],
  lines: readonly ToolPaths[],
): number[] {
  const { bottomMm } = passes[members[0]]
  const carriers: number[] = []
  // From the last that may end below it downwards.
  for (let k = members.at(-1)!; k >= 0 && passes[k].topMm > bottomMm - SAME_MM; k--)
    if (passes[k].bottomMm < bottomMm - 1e-6 && lines[k].kinds.length > 0) carriers.push(k)
  return carriers
}

/** Layers of the part that a layer of support may rest on. */
export const restsOf = ({ layers, belowMm }: Ground, bottomMm: number): Ground['layers'] =>
  layers.filter((layer) => layer.bottomMm < bottomMm && layer.topMm > bottomMm - belowMm)

/** Whether a ring runs around the lines of a pass. */
export const hasWalls = ({ fill }: SupportPass): boolean => fill === 'interface' || fill === 'dense'

/**
 * Whether all lines of a pass lie on those of one below it, in the same walls. What fills a dense stand is
 * too sparse to carry what runs down the middle of an interface.
 */
export const isInSameWalls = (pass: SupportPass, below: SupportPass): boolean =>
  pass.region === below.region && hasWalls(below) && (pass.role !== 'interface' || below.fill === 'interface')
