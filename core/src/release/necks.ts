import { groups } from '../groups'
import {
  boundsOf,
  regionAreaMm2,
  regionContains,
  regionPerimeterMm,
  splitPieces,
  wereApart,
  type Region,
} from '../polygon'

/** The thinnest section that carries something, in layers. */
export type Neck = {
  readonly areaMm2: number
  /** Across it: the diameter of a round one, the thickness of a long one. */
  readonly widthMm: number
  readonly zMm: number
}

/** The neck of a place, and on which side of it the place lies: there the part is held while one pulls. */
export type NeckBeside = Neck & { readonly side: 'above' | 'below' }

/** What has at least this share of the widest section is something to hold a part by as well. */
const HANDLE = 0.25

type Filled = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }
type Piece = {
  readonly region: Region
  readonly areaMm2: number
  readonly layer: number
  /** Whether the bulk of the part is among those joined with it. */
  bulk: boolean
  /** The widest of those joined with it. */
  widestMm2: number
}

/**
 * For places of a part the neck between them and its bulk, where its widest section is; for places of the
 * bulk itself the narrowest one between it and what it might be held by instead.
 * Source: the widest path over the pieces of layers, joined from the widest to the narrowest; a neck across
 * layers is not seen.
 * @param layers of the part, from the bed upwards
 * @param places layer and a point of it
 * @returns per place; null where there is none
 */
export function necksOf(
  layers: readonly Filled[],
  places: readonly { readonly layer: number; readonly x: number; readonly y: number }[],
): (NeckBeside | null)[] {
  const pieces: Piece[] = []
  const { add, rootOf, unite } = groups()
  const of: number[][] = []
  layers.forEach(({ region }, layer) => {
    of.push(
      splitPieces(region).map((piece) => {
        const areaMm2 = regionAreaMm2(piece)
        pieces.push({
          region: piece,
          areaMm2,
          layer,
          bulk: false,
          widestMm2: areaMm2,
        })
        return add()
      }),
    )
  })
  if (pieces.length === 0) return places.map(() => null)
  const order = pieces.map((_, i) => i).sort((a, b) => pieces[b].areaMm2 - pieces[a].areaMm2)
  pieces[order[0]].bulk = true
  const wanted = places.map(({ layer, x, y }) => nearestPiece(of[layer] ?? [], pieces, x, y))
  const found: (NeckBeside | null | undefined)[] = wanted.map((piece) =>
    piece === null || piece === order[0] ? null : undefined,
  )
  const neckAt = (i: number, n: number): NeckBeside => {
    const { areaMm2, region, layer } = pieces[i]
    return {
      areaMm2,
      widthMm: thicknessOf(areaMm2, regionPerimeterMm(region)),
      zMm: (layers[layer].bottomMm + layers[layer].topMm) / 2,
      side: places[n].layer < layer ? 'below' : 'above',
    }
  }
  /** The same for what else the part may be held by. */
  const byHandle = places.map((): NeckBeside | null => null)
  const handleMm2 = HANDLE * pieces[order[0]].areaMm2
  const joined = new Uint8Array(pieces.length)
  for (const i of order) {
    joined[i] = 1
    const { layer } = pieces[i]
    for (const neighbours of [of[layer - 1], of[layer + 1]])
      for (const j of neighbours ?? []) {
        if (!joined[j]) continue
        const [a, b] = [rootOf(i), rootOf(j)]
        if (a === b || wereApart(pieces[i].region, pieces[j].region)) continue
        const [one, other] = [pieces[a], pieces[b]]
        const narrowerMm2 = Math.min(one.widestMm2, other.widestMm2)
        if ((one.bulk || other.bulk) && narrowerMm2 >= handleMm2 && narrowerMm2 > pieces[i].areaMm2)
          wanted.forEach((piece, n) => {
            if (piece !== null && joined[piece] && rootOf(piece) === (one.bulk ? a : b))
              byHandle[n] = neckAt(i, n)
          })
        unite(a, b)
        other.bulk ||= one.bulk
        other.widestMm2 = Math.max(one.widestMm2, other.widestMm2)
      }
    const root = rootOf(i)
    if (!pieces[root].bulk) continue
    wanted.forEach((piece, n) => {
      if (found[n] !== undefined || piece === null || !joined[piece] || rootOf(piece) !== root) return
      // What is no narrower than where the contact is does not let it hang on a neck.
      found[n] = i === piece ? null : neckAt(i, n)
    })
  }
  return found.map((neck, n) => neck ?? byHandle[n])
}

/** The shorter side of the rectangle with that area and outline; of something rounder, its diameter. */
function thicknessOf(areaMm2: number, perimeterMm: number): number {
  const mean = perimeterMm / 4
  return mean * mean < areaMm2 ? areaMm2 / mean : mean - Math.sqrt(mean * mean - areaMm2)
}

/** The piece around a point, or the one whose box is nearest. */
function nearestPiece(of: readonly number[], pieces: readonly Piece[], x: number, y: number): number | null {
  let best: number | null = null
  let nearest = Infinity
  for (const i of of) {
    if (regionContains(pieces[i].region, x, y)) return i
    const box = boundsOf(pieces[i].region.xyMm)
    const d = Math.hypot(Math.max(0, box.minX - x, x - box.maxX), Math.max(0, box.minY - y, y - box.maxY))
    if (d < nearest) {
      nearest = d
      best = i
    }
  }
  return best
}
