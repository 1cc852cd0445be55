import {
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  splitPieces,
  wereApart,
  type PolygonEngine,
  type Region,
} from '../polygon'
import type { Neck } from './necks'

type Filled = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }
/** An underside: what of a layer is held there. */
export type Underside = { readonly layer: number; readonly region: Region }
/** An arm that an underside, or so much of it, hangs on. */
export type Arm = Neck & { readonly carriesMm2: number }

/** Half the widths of arms that are tried, from the thinnest on; between two of them it is halved down to. */
const HALF_WIDTHS_MM = [0.35, 0.6, 1, 1.6, 2.5, 4]
const HALVINGS = 7
/** Less of an underside than this hangs on nothing worth a word. */
const LEAST_MM2 = 4

/** A piece of a layer, shrunk. */
type Node = { readonly layer: number; readonly piece: Region; parent: number; areaMm2: number }

/**
 * For undersides the arms that they hang on: necks across layers, which no section of a layer shows.
 *
 * Shrunk by half the width of an arm, a part falls apart there. What is then no longer joined with its bulk
 * is the limb; the layers in which both were one piece carry it, each as wide as it may be shrunk by before
 * it parts. A limb that something else holds as well, a wall above or below, hangs on no arm.
 * Source: the widest path over a distance to the outline; erosion and connected pieces.
 * @param weak whether an underside, of which the limb carries so much, could tear such an arm
 * @returns per underside the thinnest such arm, or null
 */
export function armsOf(
  layers: readonly Filled[],
  undersides: readonly (Underside | null)[],
  engine: Pick<PolygonEngine, 'grow' | 'common'>,
  weak: (underside: number, arm: Arm) => boolean,
): (Arm | null)[] {
  const found = undersides.map((): Arm | null => null)
  const shrunken = new Map<Region, Map<number, readonly Region[]>>()
  const shrunk = (region: Region, byMm: number): readonly Region[] => {
    let known = shrunken.get(region)
    if (!known) shrunken.set(region, (known = new Map()))
    let pieces = known.get(byMm)
    if (!pieces) known.set(byMm, (pieces = splitPieces(engine.grow(region, -byMm, 'miter'))))
    return pieces
  }
  let left = undersides.flatMap((underside, i) => (underside && !isEmptyRegion(underside.region) ? [i] : []))
  for (const [step, byMm] of HALF_WIDTHS_MM.entries()) {
    if (left.length === 0) break
    const parted = partsOf(byMm)
    left = left.filter((i) => {
      const { layer, region } = undersides[i]!
      for (const limb of limbsAt(parted, layer, region, byMm)) {
        const arm = armOf(parted, limb.root, step === 0 ? 0 : HALF_WIDTHS_MM[step - 1], byMm)
        if (!arm) continue
        const whole = { ...arm, carriesMm2: limb.carriesMm2 }
        if (!weak(i, whole)) continue
        found[i] = whole
        return false
      }
      return true
    })
  }
  return found

  /** The pieces of all layers, shrunk, and which of them belong together. */
  function partsOf(byMm: number) {
    const nodes: Node[] = []
    const of: number[][] = layers.map(({ region }, layer) =>
      (isEmptyRegion(region) ? [] : shrunk(region, byMm)).map((piece) => {
        nodes.push({ layer, piece, parent: nodes.length, areaMm2: regionAreaMm2(piece) })
        return nodes.length - 1
      }),
    )
    const rootOf = (n: number): number => {
      while (nodes[n].parent !== n) n = nodes[n].parent = nodes[nodes[n].parent].parent
      return n
    }
    for (let layer = 1; layer < layers.length; layer++)
      for (const [a, i] of of[layer].entries())
        for (const [b, j] of of[layer - 1].entries()) {
          const same = layers[layer].region === layers[layer - 1].region
          if (same ? a !== b : rootOf(i) === rootOf(j) || wereApart(nodes[i].piece, nodes[j].piece)) continue
          nodes[rootOf(i)].parent = rootOf(j)
        }
    let bulk = -1
    nodes.forEach(({ areaMm2 }, n) => {
      if (bulk < 0 || areaMm2 > nodes[bulk].areaMm2) bulk = n
    })
    return { nodes, of, rootOf, bulk: bulk < 0 ? -1 : rootOf(bulk) }
  }

  /** Limbs that carry part of an underside, the one that carries most first. */
  function limbsAt(
    { nodes, of, rootOf, bulk }: ReturnType<typeof partsOf>,
    layer: number,
    region: Region,
    byMm: number,
  ): { root: number; carriesMm2: number }[] {
    const carries = new Map<number, number>()
    for (const n of of[layer]) {
      const root = rootOf(n)
      if (root === bulk) continue
      const whole = engine.grow(nodes[n].piece, byMm, 'miter')
      const mm2 = regionAreaMm2(engine.common(region, whole))
      if (mm2 > 0) carries.set(root, (carries.get(root) ?? 0) + mm2)
    }
    return [...carries]
      .filter(([, mm2]) => mm2 >= LEAST_MM2)
      .map(([root, carriesMm2]) => ({ root, carriesMm2 }))
      .sort((a, b) => b.carriesMm2 - a.carriesMm2)
  }

  /** What joins a limb with the rest, layer by layer; null where it is held from above or below as well. */
  function armOf(
    { nodes, of, rootOf }: ReturnType<typeof partsOf>,
    limb: number,
    joinedMm: number,
    partedMm: number,
  ): Neck | null {
    const own = nodes.flatMap((node, n) => (rootOf(n) === limb ? [node] : []))
    /** Per layer the whole pieces that hold some of the limb. */
    const mine = new Map<number, Set<Region>>()
    let [areaMm2, widthMm, heightsMm, count] = [0, Infinity, 0, 0]
    for (const { layer, piece } of own) {
      const around = splitPieces(layers[layer].region).find((one) => holds(one, piece))
      if (!around) continue
      put(mine, layer, around)
      const other = of[layer].find((n) => rootOf(n) !== limb && holds(around, nodes[n].piece))
      if (other === undefined) continue
      let [low, high] = [joinedMm, partedMm]
      for (let n = 0; n < HALVINGS; n++) {
        const middle = (low + high) / 2
        const pieces = shrunk(around, middle)
        if (pieces.some((one) => holds(one, piece) && holds(one, nodes[other].piece))) low = middle
        else high = middle
      }
      const { bottomMm, topMm } = layers[layer]
      areaMm2 += (low + high) * (topMm - bottomMm)
      widthMm = Math.min(widthMm, low + high)
      heightsMm += (bottomMm + topMm) / 2
      count++
    }
    if (count === 0 || isHeldElsewhere()) return null
    return { areaMm2, widthMm, zMm: heightsMm / count }

    /** Whether a way leads from the limb through other layers to the rest, however thin. */
    function isHeldElsewhere(): boolean {
      const seen = new Map<number, Set<Region>>()
      const queue: [number, Region][] = []
      const visit = (layer: number, from: Region) => {
        for (const next of [layer - 1, layer + 1].filter((one) => layers[one]))
          for (const piece of splitPieces(layers[next].region)) {
            if (seen.get(next)?.has(piece) || mine.get(next)?.has(piece) || wereApart(piece, from)) continue
            put(seen, next, piece)
            queue.push([next, piece])
          }
      }
      for (const { layer, piece } of own) visit(layer, piece)
      for (let q = 0; q < queue.length; q++) {
        const [layer, piece] = queue[q]
        if (of[layer].some((n) => rootOf(n) !== limb && holds(piece, nodes[n].piece))) return true
        visit(layer, piece)
      }
      return false
    }
  }
}

/** Whether a piece holds another one that lies wholly in it or wholly outside. */
const holds = (piece: Region, inner: Region): boolean => regionContains(piece, inner.xyMm[0], inner.xyMm[1])

function put(sets: Map<number, Set<Region>>, layer: number, piece: Region): void {
  const own = sets.get(layer)
  if (own) own.add(piece)
  else sets.set(layer, new Set([piece]))
}
