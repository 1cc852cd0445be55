import { groups } from '../groups'
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
const HALF_WIDTHS_MM = [0.35, 0.6, 1, 1.6, 2.5, 4, 6]
const HALVINGS = 5
/** What leaves a limb by more than so many widths that part is no arm. */
const WIDER = 1.5
const BESIDE_MM = 0.1
/** Round arms have narrower layers as well. */
const HARDLY = 0.75
/** Less of an underside than this hangs on nothing worth a word. */
const LEAST_MM2 = 4

/** A layer in which a limb and some of the rest, both shrunk, are one piece. */
type Joint = {
  readonly layer: number
  readonly around: Region
  readonly limb: Region
  readonly rest: Region
}

/** A piece of a layer, shrunk. */
type Node = { readonly layer: number; readonly piece: Region }

/**
 * For undersides the arms that they hang on: necks across layers, which no section of a layer shows.
 *
 * Shrunk by half the width of an arm, a part falls apart there. What is then no longer joined with its bulk
 * is the limb; the layers in which both were one piece carry it, each as wide as it may be shrunk by before
 * it parts, and so do those above and below in which the arm reaches over the limb. A limb that is held by
 * something else as well, a wall that leads up or down, hangs on no arm.
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
    const { add, rootOf, areOne, unite } = groups()
    const of: number[][] = eroded.map((region, layer) =>
      (isEmptyRegion(region) ? [] : splitPieces(region)).map((piece) => {
        nodes.push({ layer, piece })
        return add()
      }),
    )
    for (let layer = 1; layer < layers.length; layer++)
      for (const [a, i] of of[layer].entries())
        for (const [b, j] of of[layer - 1].entries()) {
          const same = eroded[layer] === eroded[layer - 1]
          if (same ? a !== b : areOne(i, j) || wereApart(nodes[i].piece, nodes[j].piece)) continue
          unite(i, j)
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
    limbRoot: number,
    joinedMm: number,
    partedMm: number,
    isWeak: (arm: Neck) => boolean,
  ): Neck | null {
    const own = nodes.flatMap((node, n) => (rootOf(n) === limbRoot ? [node] : []))
    /** Per layer the whole pieces that hold some of the limb. */
    const mine = new Map<number, Set<Region>>()
    const joints: Joint[] = []
    for (const { layer, piece } of own) {
      const around = splitPieces(layers[layer].region).find((one) => holds(one, piece))
      if (!around) continue
      put(mine, layer, around)
      const other = of[layer].find((n) => rootOf(n) !== limbRoot && holds(around, nodes[n].piece))
      if (other !== undefined) joints.push({ around, layer, rest: nodes[other].piece, limb: piece })
    }
    for (const way of [1, -1]) reachOver(way)
    // Shrunk by less both were joined: what would not be weak were it hardly wider need not be measured.
    if (joints.length === 0 || !isWeak(ofWidths(() => HARDLY * 2 * joinedMm))) return null
    // What parted earlier was looked at then; shrunk that far it may lie beside what holds it.
    if (!joints.some((joint) => isJoined(joint, joinedMm)) || isHeldElsewhere()) return null
    const arm = ofWidths(widthOf)
    return isWeak(arm) ? arm : null

    /**
     * An arm taller than its limb lies over it in the layers above or below: where a piece that holds some of
     * the rest does, and leaves the limb no wider than an arm.
     */
    function reachOver(way: number): void {
      let over = own.map(({ layer, piece }) => ({ layer, limb: piece }))
      while (over.length > 0)
        over = over.flatMap(({ layer, limb }) => {
          const next = layer + way
          if (!layers[next]) return []
          return splitPieces(layers[next].region).flatMap((around) => {
            if (mine.get(next)?.has(around) || wereApart(around, limb)) return []
            const other = of[next].find((n) => rootOf(n) !== limbRoot && holds(around, nodes[n].piece))
            if (other === undefined || leavesMm(around, limb) > WIDER * 2 * partedMm) return []
            put(mine, next, around)
            joints.push({ around, layer: next, rest: nodes[other].piece, limb })
            return [{ layer: next, limb }]
          })
        })
    }

    /** How much of the outline of a limb lies in a piece of a layer beside it. */
    function leavesMm(around: Region, limb: Region): number {
      const [whole, beyond] = [0, BESIDE_MM].map((mm) => engine.grow(limb, partedMm + mm, 'miter'))
      const [inside, more] = [whole, beyond].map((one) => regionAreaMm2(engine.common(around, one)))
      return (more - inside) / BESIDE_MM
    }

    /** How wide a joint is: twice what it may be shrunk by before it parts. */
    function widthOf(joint: Joint): number {
      let [low, high] = isJoined(joint, joinedMm) ? [joinedMm, partedMm] : [0, joinedMm]
      for (let n = 0; n < HALVINGS; n++) {
        const middle = (low + high) / 2
        if (isJoined(joint, middle)) low = middle
        else high = middle
      }
      return low + high
    }

    function isJoined({ around, rest, limb }: Joint, byMm: number): boolean {
      return shrunk(around, byMm).some((one) => holds(one, rest) && !wereApart(one, limb))
    }

    /** The arm that all joints make, so wide each: told by the shorter side of the box around its section. */
    function ofWidths(width: (joint: Joint) => number): Neck {
      let [areaMm2, widestMm, tallMm, heightsMm] = [0, 0, 0, 0]
      for (const joint of joints) {
        const { bottomMm, topMm } = layers[joint.layer]
        const wide = width(joint)
        areaMm2 += wide * (topMm - bottomMm)
        widestMm = Math.max(widestMm, wide)
        tallMm += topMm - bottomMm
        heightsMm += (bottomMm + topMm) / 2
      }
      return { areaMm2, widthMm: Math.min(widestMm, tallMm), zMm: heightsMm / joints.length }
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
        if (of[layer].some((n) => rootOf(n) !== limbRoot && holds(piece, nodes[n].piece))) return true
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
