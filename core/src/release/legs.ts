import {
  boundsOverlap,
  boxOf,
  isEmptyRegion,
  regionAreaMm2,
  regionContains,
  splitPieces,
  wereApart,
  type Region,
} from '../polygon'
import { SPECK_MM3 } from './standPieces'

/** What stands by itself on the bed, until it is printed as high as it holds together with others. */
export type Leg = {
  /** What of it lies on the bed. */
  readonly outlines: readonly Region[]
  readonly heightMm: number
  /** What carries each of its ends, in the middle of that height: one where it has not forked by then. */
  readonly middles: readonly Middle[]
}

/** Outlines that bend together, and which decisions of holding laid them. */
export type Middle = { readonly outlines: readonly Region[]; readonly holding: number }

type Pass = {
  readonly holding: number
  readonly bottomMm: number
  readonly topMm: number
  readonly region: Region
}
type Piece = Pass & { readonly on: readonly Piece[] }
type Placed = { readonly piece: Piece; readonly limb: Limb }
type Limb = { into: Limb | null; readonly feet: Region[]; readonly pieces: Piece[] }

/** What meets others lower than this does not stand alone long enough to be pushed. */
const LEAST_MM = 2
/** Heights nearer to each other than this are one. */
const SAME_MM = 1e-3
const PER_MM = 1000

/**
 * The legs of what holds together above: wherever two or more that began on the bed meet, each is one, and so
 * is all that they are from there on, until it meets others.
 * @param passes stands and interface
 */
export function legsOf(passes: readonly Pass[]): Leg[] {
  const legs: Leg[] = []
  const endingAt = new Map<number, Placed[]>()
  for (const pass of [...passes].sort((a, b) => a.bottomMm - b.bottomMm)) {
    if (isEmptyRegion(pass.region)) continue
    const below = endingAt.get(Math.round(pass.bottomMm * PER_MM)) ?? []
    const top = Math.round(pass.topMm * PER_MM)
    const here = endingAt.get(top) ?? []
    endingAt.set(top, here)
    for (const region of splitPieces(pass.region)) {
      const touching = touched(region, below)
      const piece = { ...pass, region, on: touching.map((one) => one.piece) }
      const limb = joined([...new Set(touching.map((one) => whole(one.limb)))], piece)
      limb.pieces.push(piece)
      here.push({ piece, limb })
    }
  }
  return legs

  /** What a piece belongs to: what it lies on, several as one from here on, or something new. */
  function joined(under: readonly Limb[], { region, bottomMm }: Piece): Limb {
    if (under.length === 1) return under[0]
    const onBed = under.filter(({ feet }) => feet.length > 0)
    if (onBed.length > 1 && bottomMm >= LEAST_MM)
      legs.push(...onBed.map((limb) => legOf(limb, bottomMm)).filter(isMoreThanASpeck))
    const limb: Limb = {
      into: null,
      feet: bottomMm < SAME_MM ? [region] : under.flatMap(({ feet }) => feet),
      pieces: under.flatMap(({ pieces }) => pieces),
    }
    for (const one of under) one.into = limb
    return limb
  }
}

/**
 * What of some pieces one lies on. Of limbs that it lies on anyway, only what shows at the first corner: to
 * ask every side of what lies close beside it is most of the work.
 */
function touched(region: Region, below: readonly Placed[]): readonly Placed[] {
  const box = boxOf(region)
  const near = below.filter(({ piece }) => boundsOverlap(boxOf(piece.region), box, 0))
  const found = near.filter(({ piece }) => beginsIn(piece.region, region) || beginsIn(region, piece.region))
  const limbs = new Set(found.map(({ limb }) => whole(limb)))
  for (const one of near) {
    const limb = whole(one.limb)
    if (limbs.has(limb) || wereApart(one.piece.region, region)) continue
    limbs.add(limb)
    found.push(one)
  }
  return found
}

const beginsIn = ({ xyMm }: Region, other: Region): boolean => regionContains(other, xyMm[0], xyMm[1])

const isMoreThanASpeck = ({ heightMm, middles }: Leg): boolean =>
  heightMm * middles.reduce((sum, { outlines }) => sum + areaOf(outlines), 0) >= SPECK_MM3

const areaOf = (outlines: readonly Region[]): number =>
  outlines.reduce((sum, outline) => sum + regionAreaMm2(outline), 0)

function whole(limb: Limb): Limb {
  let all = limb
  while (all.into) all = all.into
  return all
}

function legOf({ feet, pieces }: Limb, heightMm: number): Leg {
  const middle = pieces.filter(({ bottomMm, topMm }) => bottomMm <= heightMm / 2 && topMm > heightMm / 2)
  const ends = pieces.filter(({ topMm }) => Math.abs(topMm - heightMm) < SAME_MM)
  const carriers = new Set(ends.map((end) => carrying(end, middle)))
  // Ends that one of them carries together are one.
  const together: Set<Piece>[] = []
  for (const own of carriers) {
    const met = together.filter((other) => [...own].some((piece) => other.has(piece)))
    for (const other of met) together.splice(together.indexOf(other), 1)
    together.push(new Set([own, ...met].flatMap((one) => [...one])))
  }
  const found = together.map((own) => [...own]).filter((own) => own.length > 0)
  // Where no end could be followed down, all of it carries them.
  const middles = (found.length > 0 ? found : [middle]).map((own) => ({
    outlines: own.map(({ region }) => region),
    holding: (own.at(0) ?? pieces[0]).holding,
  }))
  return { outlines: feet, heightMm, middles }
}

/** Which of some pieces carry an end, down all that it lies on. */
function carrying(end: Piece, among: readonly Piece[]): Set<Piece> {
  const found = new Set<Piece>()
  const seen = new Set([end])
  for (const piece of seen)
    if (among.includes(piece)) found.add(piece)
    else for (const below of piece.on) seen.add(below)
  return found
}
