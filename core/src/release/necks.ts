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

type Filled = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }
type Piece = {
  readonly region: Region
  readonly areaMm2: number
  readonly layer: number
  parent: number
  /** Whether the bulk of the part is among those joined with it. */
  bulk: boolean
}

/**
 * For places of a part the neck between them and its bulk, where its widest section is.
 * Source: the widest path over the pieces of layers, joined from the widest to the narrowest; a neck across
 * layers is not seen.
 * @param layers of the part, from the bed upwards
 * @param places layer and a point of it
 * @returns per place; null where it belongs to the bulk itself
 */
export function necksOf(
  layers: readonly Filled[],
  places: readonly { readonly layer: number; readonly x: number; readonly y: number }[],
): (Neck | null)[] {
  const pieces: Piece[] = []
  const of: number[][] = []
  layers.forEach(({ region }, layer) => {
    of.push(
      splitPieces(region).map((piece) => {
        pieces.push({
          region: piece,
          areaMm2: regionAreaMm2(piece),
          layer,
          parent: pieces.length,
          bulk: false,
        })
        return pieces.length - 1
      }),
    )
  })
  if (pieces.length === 0) return places.map(() => null)
  const rootOf = (i: number): number => {
    while (pieces[i].parent !== i) i = pieces[i].parent = pieces[pieces[i].parent].parent
    return i
  }
  const order = pieces.map((_, i) => i).sort((a, b) => pieces[b].areaMm2 - pieces[a].areaMm2)
  pieces[order[0]].bulk = true
  const wanted = places.map(({ layer, x, y }) => nearestPiece(of[layer] ?? [], pieces, x, y))
  const found: (Neck | null | undefined)[] = wanted.map((piece) =>
    piece === null || piece === order[0] ? null : undefined,
  )
  const joined = new Uint8Array(pieces.length)
  for (const i of order) {
    joined[i] = 1
    const { layer } = pieces[i]
    for (const neighbours of [of[layer - 1], of[layer + 1]])
      for (const j of neighbours ?? []) {
        if (!joined[j]) continue
        const [a, b] = [rootOf(i), rootOf(j)]
        if (a === b || wereApart(pieces[i].region, pieces[j].region)) continue
        pieces[a].parent = b
        pieces[b].bulk ||= pieces[a].bulk
      }
    const root = rootOf(i)
    if (!pieces[root].bulk) continue
    wanted.forEach((piece, n) => {
      if (found[n] !== undefined || piece === null || !joined[piece] || rootOf(piece) !== root) return
      const { areaMm2, region } = pieces[i]
      // What is no narrower than where the contact is does not let it hang on a neck.
      found[n] =
        i === piece
          ? null
          : {
              areaMm2,
              widthMm: thicknessOf(areaMm2, regionPerimeterMm(region)),
              zMm: (layers[layer].bottomMm + layers[layer].topMm) / 2,
            }
    })
  }
  return found.map((neck) => neck ?? null)
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
