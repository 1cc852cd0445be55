import { footprintOf, type PlanGeometry } from '@tender/core/plan'
import { ringOf, ringCount, splitPieces, type Region } from '@tender/core/polygon'
import { ShapeUtils, Vector2 } from 'three'
import { transfer } from 'comlink'

/** What holds a part, as triangles for the graphics card: nine floats each. */
export type PlanSpace = {
  readonly stand: Float32Array
  readonly interface: Float32Array
  readonly tower: Float32Array
}

/** So many edges of outlines are drawn at most; of taller stacks only every n-th layer is, as tall as n. */
const MOST_EDGES = 40_000

type Prism = { readonly region: Region; readonly bottomMm: number; topMm: number }

/** Stands and interfaces of a plan as bodies, layer by layer; equal layers on each other are one. */
export function planSpace({ passes, towerLaid }: Pick<PlanGeometry, 'passes' | 'towerLaid'>): PlanSpace {
  const stand = soup(passes.filter(({ role }) => role !== 'interface'))
  const touching = soup(passes.filter(({ role }) => role === 'interface'))
  const tower = soup(
    towerLaid ? [{ region: footprintOf(towerLaid.tower), bottomMm: 0, topMm: towerLaid.tower.topMm }] : [],
  )
  return transfer({ stand, interface: touching, tower }, [stand.buffer, touching.buffer, tower.buffer])
}

function soup(passes: readonly Prism[]): Float32Array<ArrayBuffer> {
  const byTop = new Map<string, Prism[]>()
  for (const pass of passes) {
    const key = pass.topMm.toFixed(3)
    byTop.set(key, [...(byTop.get(key) ?? []), pass])
  }
  const edges = passes.reduce((sum, { region }) => sum + region.xyMm.length / 2, 0)
  const every = Math.max(1, Math.ceil(edges / MOST_EDGES))
  const levels = [...byTop.values()].toSorted((a, b) => a[0].topMm - b[0].topMm)
  const prisms: Prism[] = []
  /** The last prism of a region, as long as it can grow. */
  const open = new Map<Region, Prism>()
  /** Where the levels that are skipped begin: the next one that is drawn reaches down to it. */
  let fromMm = Infinity
  levels.forEach((level, n) => {
    fromMm = Math.min(fromMm, ...level.map(({ bottomMm }) => bottomMm))
    if (n % every !== every - 1 && n !== levels.length - 1) return
    for (const { region, topMm } of level) {
      const below = open.get(region)
      if (below && Math.abs(below.topMm - fromMm) < 1e-3) below.topMm = topMm
      else {
        const prism = { region, bottomMm: fromMm, topMm }
        open.set(region, prism)
        prisms.push(prism)
      }
    }
    fromMm = Infinity
  })
  const out: number[] = []
  for (const prism of prisms) addPrism(out, prism)
  return Float32Array.from(out)
}

function addPrism(out: number[], { region, bottomMm, topMm }: Prism): void {
  for (let r = 0; r < ringCount(region); r++) {
    const ring = ringOf(region, r)
    for (let p = 0, q = ring.length - 2; p < ring.length; q = p, p += 2) {
      const [ax, ay, bx, by] = [ring[q], ring[q + 1], ring[p], ring[p + 1]]
      out.push(ax, ay, bottomMm, bx, by, bottomMm, bx, by, topMm)
      out.push(ax, ay, bottomMm, bx, by, topMm, ax, ay, topMm)
    }
  }
  for (const piece of splitPieces(region)) {
    const [outline, ...holes] = Array.from({ length: ringCount(piece) }, (_, r) => {
      const ring = ringOf(piece, r)
      return Array.from({ length: ring.length / 2 }, (_, i) => new Vector2(ring[2 * i], ring[2 * i + 1]))
    })
    const points = [outline, ...holes].flat()
    for (const [a, b, c] of ShapeUtils.triangulateShape(outline, holes))
      for (const [z, corners] of [
        [topMm, [a, b, c]],
        [bottomMm, [c, b, a]],
      ] as const)
        for (const i of corners) out.push(points[i].x, points[i].y, z)
  }
}
