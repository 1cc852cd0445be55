import {
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  regionPerimeterMm,
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
const HALVINGS = 5
/** Less of an underside than this hangs on nothing worth a word. */
const LEAST_MM2 = 4

/** A piece of a layer, shrunk. */
type Node = { readonly layer: number; readonly piece: Region; parent: number }

/**
 * For undersides the arms that they hang on: necks across layers, which no section of a layer shows.
 *
 * Shrunk by half the width of an arm, a part falls apart there. What is then no longer joined with its bulk
 * is the limb; the layers in which both were one piece carry it, each as wide as it may be shrunk by before
 * it parts. A limb that something else holds as well, a wall above or below, hangs on no arm.
 * Source: the widest path over a distance to the outline; erosion and connected pieces.
 * @param weak whether an underside, of which the limb carries so much, could tear such an arm
 * @param onShare is told how much is done, from 0 to 1
 * @returns per underside the thinnest such arm, or null
 */
export function armsOf(
  layers: readonly Filled[],
  undersides: readonly (Underside | null)[],
  engine: Pick<PolygonEngine, 'grow' | 'common'>,
  weak: (underside: number, arm: Arm) => boolean,
  onShare: (share: number) => void = () => undefined,
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
  /** Layers shrunk by the last half width, from which the next ones are shrunk on. */
  let last: readonly Region[] = layers.map(({ region }) => region)
  let left = undersides.flatMap((underside, i) => (underside && !isEmptyRegion(underside.region) ? [i] : []))
  for (const [step, byMm] of HALF_WIDTHS_MM.entries()) {
    if (left.length === 0) break
    onShare(step / HALF_WIDTHS_MM.length)
    const joinedMm = step === 0 ? 0 : HALF_WIDTHS_MM[step - 1]
    last = shrunkOn(last, byMm - joinedMm)
    const parted = partsOf(last, byMm)
    left = left.filter((i) => {
      const { layer, region } = undersides[i]!
      // What is gone there stays gone, however little is left of an arm.
      if (parted.of[layer].length === 0) return false
      for (const { root, carriesMm2 } of limbsAt(parted, layer, region, byMm)) {
        const arm = armOf(parted, root, joinedMm, byMm, (neck) => weak(i, { ...neck, carriesMm2 }))
        if (!arm) continue
        found[i] = { ...arm, carriesMm2 }
        return false
      }
      return true
    })
  }
  return found

  /** Layers shrunk further; the same ones stay the same. */
  function shrunkOn(regions: readonly Region[], byMm: number): Region[] {
    const known = new Map<Region, Region>()
    return regions.map((region) => {
      if (isEmptyRegion(region)) return region
      const made = known.get(region) ?? engine.grow(region, -byMm, 'miter')
      known.set(region, made)
      return made
    })
  }

  /** The pieces of all layers, shrunk, and which of them belong together. */
  function partsOf(eroded: readonly Region[], byMm: number) {
    const nodes: Node[] = []
    const of: number[][] = eroded.map((region, layer) =>
      (isEmptyRegion(region) ? [] : splitPieces(region)).map((piece) => {
        nodes.push({ layer, piece, parent: nodes.length })
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
          const same = eroded[layer] === eroded[layer - 1]
          if (same ? a !== b : rootOf(i) === rootOf(j) || wereApart(nodes[i].piece, nodes[j].piece)) continue
          nodes[rootOf(i)].parent = rootOf(j)
        }
    // The bulk is what most of the part is: a plate may be wider than a body that it hangs on.
    const volumes = new Map<number, number>()
    nodes.forEach(({ layer, piece }, n) => {
      const wholeMm2 = regionAreaMm2(piece) + byMm * regionPerimeterMm(piece)
      const mm3 = wholeMm2 * (layers[layer].topMm - layers[layer].bottomMm)
      volumes.set(rootOf(n), (volumes.get(rootOf(n)) ?? 0) + mm3)
    })
    const [bulk] = [...volumes].reduce((most, one) => (one[1] > most[1] ? one : most), [-1, 0])
    return { nodes, of, rootOf, bulk }
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

  /**
   * What joins a limb with the rest, layer by layer; null where it is held from above or below as well, or is
   * not weak.
   */
  function armOf(
    { nodes, of, rootOf }: ReturnType<typeof partsOf>,
    limb: number,
    joinedMm: number,
    partedMm: number,
    isWeak: (arm: Neck) => boolean,
  ): Neck | null {
    const own = nodes.flatMap((node, n) => (rootOf(n) === limb ? [node] : []))
    /** Per layer the whole pieces that hold some of the limb. */
    const mine = new Map<number, Set<Region>>()
    const joints: { readonly around: Region; readonly layer: number; readonly of: readonly Region[] }[] = []
    for (const { layer, piece } of own) {
      const around = splitPieces(layers[layer].region).find((one) => holds(one, piece))
      if (!around) continue
      put(mine, layer, around)
      const other = of[layer].find((n) => rootOf(n) !== limb && holds(around, nodes[n].piece))
      if (other !== undefined) joints.push({ around, layer, of: [piece, nodes[other].piece] })
    }
    // Shrunk by less both were joined: what would not be weak were it no wider need not be measured.
    if (joints.length === 0 || !isWeak(ofWidths(() => 2 * joinedMm)) || isHeldElsewhere()) return null
    const arm = ofWidths(({ around, of: both }) => {
      let [low, high] = [joinedMm, partedMm]
      for (let n = 0; n < HALVINGS; n++) {
        const middle = (low + high) / 2
        if (shrunk(around, middle).some((one) => both.every((piece) => holds(one, piece)))) low = middle
        else high = middle
      }
      return low + high
    })
    return isWeak(arm) ? arm : null

    /** The arm that all joints make, so wide each. */
    function ofWidths(widthOf: (joint: (typeof joints)[number]) => number): Neck {
      let [areaMm2, widthMm, heightsMm] = [0, Infinity, 0]
      for (const joint of joints) {
        const { bottomMm, topMm } = layers[joint.layer]
        const wide = widthOf(joint)
        areaMm2 += wide * (topMm - bottomMm)
        widthMm = Math.min(widthMm, wide)
        heightsMm += (bottomMm + topMm) / 2
      }
      return { areaMm2, widthMm, zMm: heightsMm / joints.length }
    }

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
