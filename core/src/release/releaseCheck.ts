import { regionAreaMm2, type PolygonEngine, type Region } from '../polygon'
import { armsOf, type Underside } from './arms'
import { bearersOf } from './bearers'
import { drainsOf, type Drain } from './drains'
import { insideOf } from './insideOf'
import { necksOf, type Neck, type NeckBeside } from './necks'
import type { Way } from './openings'
import { NARROW_MM, SPECK_MM3, type StandGrid, type StandPiece } from './standPieces'
import { leastHeldN, unsteadiness, type Steadiness } from './steadiness'
import { ANY_TOOL_MM } from './walls'
import { leavingOf } from './wayOut'

export type StandVerdict = 'comes out whole' | 'comes out in pieces' | 'locked in'

/** How one stand comes off. */
export type StandCheck = {
  /** A place in it. */
  readonly atMm: readonly [number, number, number]
  readonly verdict: StandVerdict
  /** Widest round tool that gets to it from outside. */
  readonly reachMm: number
  /** The way of such a tool, from the stand to outside; none where any tool gets to it, or nothing does. */
  readonly wayMm: Way
  /** In words; null when it does not come out whole. */
  readonly wayOut: string | null
  /** Pieces it has to be broken into; null when even eighths stay. */
  readonly pieces: number | null
  /** Width of the thinnest section of the part that has to take that; null when it hangs on its bulk. */
  readonly neckMm: number | null
  /** Contact with the part that it carries. */
  readonly contactMm2: number
  /**
   * Pull that its contacts take together, by measured pulls of their pairings; null where one was not
   * measured.
   */
  readonly pullN: number | null
  /**
   * Push at its top, or at that of a leg while it stands alone, that tips it off the bed or bends it by a
   * line, by guesses of bond and stiffness; what rests on the part is asked only what bends it. Null where
   * its middle was not found.
   */
  readonly holdsN: number | null
  /** Where liquid gets in and drains; null where it does not dissolve, or is washed from all sides. */
  readonly drains: readonly Drain[] | null
  /** A guess: no take-off was timed. */
  readonly minutes: number
  readonly reasons: readonly string[]
}

/** A stand and what its check went by. */
export type StandSeen<C> = {
  readonly check: StandCheck
  /** What it carries. */
  readonly holds: readonly C[]
  readonly steady: Steadiness | null
  /** Contacts that may tear a neck or an arm they pull at, and how many times as much as it they hold. */
  readonly tears: ReadonlyMap<C, number>
}
/** How a plan’s stands come off, in the order to take them: the best reached first. */
export type ReleaseCheck = { readonly verdict: StandVerdict; readonly stands: readonly StandCheck[] }

type Filled = { readonly bottomMm: number; readonly topMm: number; readonly region: Region }
/** A contact as far as taking off is concerned. */
export type Touching = {
  readonly atMm: readonly [number, number, number]
  readonly layerIndex: number
  readonly areaMm2: number
  /** Strength of its bond against a weld, per area that is covered, 0 to 1. */
  readonly strength: number
  /** Its pull in newtons, where pulls of its pairing were measured. */
  readonly pullN: number | null
  /** What of a layer it touches, its largest step: what hangs on a neck or an arm hangs there. */
  readonly underside: Underside | null
  /** All of its steps, by their layers. */
  readonly steps: ReadonlyMap<number, Region> | null
}

/** Narrower than this nothing gets in. */
export const NO_TOOL_MM = 1.5
/** A tool must get so near to an underside to free it. */
const NEAR_MM = 10
/**
 * Starting guesses: to begin with a stand, for each piece, and area of contact that comes off in a minute.
 */
const MINUTES_TO_BEGIN = 0.5
const MINUTES_A_PIECE = 0.3
const MM2_A_MINUTE = 600
/** How much of the work goes, about, into the fine grid and reach, and into arms; the rest goes by cells. */
const REACH_SHARE = 0.5
const ARMS_SHARE = 0.2

/**
 * Reach, way out, necks and order of a plan's stands.
 * @param grid of part and supports; null without supports
 * @param dissolves whether stands and interface dissolve in something
 * @param engine looks for arms as well: necks across layers
 * @param onShare is told how much is done, from 0 to 1
 */
export function releaseCheck<C extends Touching>(
  layers: readonly Filled[],
  grid: StandGrid | null,
  contacts: readonly C[],
  dissolves: boolean,
  steadiness: ReadonlyMap<StandPiece, Steadiness> = new Map(),
  engine: PolygonEngine | null = null,
  onShare: (share: number) => void = () => undefined,
): { readonly verdict: StandVerdict; readonly stands: readonly StandSeen<C>[] } {
  if (!grid) return { verdict: 'comes out whole', stands: [] }
  const pieces = grid.pieces.filter(({ grossMm3 }) => grossMm3 >= SPECK_MM3)
  const openings = pieces.map((piece, n) => {
    onShare((REACH_SHARE * n) / pieces.length)
    return piece.openingMm
  })
  const necks = weakNecks(layers, contacts)
  const arms = engine
    ? weakArms(layers, contacts, engine, (share) => onShare(REACH_SHARE + ARMS_SHARE * share))
    : new Map<C, Weak>()
  const allCells = pieces.reduce((sum, { cells }) => sum + cells.length, 0)
  let cellsDone = 0
  const before = REACH_SHARE + (engine ? ARMS_SHARE : 0)
  const carried = contacts.map((contact) => carriersOf(contact, pieces, layers, grid))
  const stands = pieces.map((piece, n): StandSeen<C> => {
    const cells = piece.cells.length
    const onPiece = (share: number) =>
      onShare(before + ((1 - before) * (cellsDone + share * cells)) / allCells)
    const own = contacts.flatMap((contact, i) => {
      const share = carried[i].get(piece) ?? 0
      const most = Math.max(...carried[i].values())
      return share > 0 ? [{ contact, share, isMost: share === most }] : []
    })
    const steady = steadiness.get(piece)
    const wavers = steady ? unsteadiness(steady) : null
    const leaving = leavingOf(grid, piece.cells, onPiece)
    cellsDone += cells
    const lockedIn = openings[n] < NO_TOOL_MM
    const whole = leaving.pieces === 1 && !lockedIn
    // One that grew out through a slot is to be had at its outer end; what stays inside must be got at there.
    const held = whole || lockedIn ? null : mostHeld(own, layers)
    const nearHeld = held ? { place: held, withinMm: NEAR_MM } : null
    const nearHeldMm = nearHeld ? piece.openingNearMm(nearHeld) : Infinity
    const near = nearHeld && nearHeldMm < openings[n] ? nearHeld : undefined
    const reachMm = Math.min(nearHeldMm, openings[n])
    const drains = dissolves ? drainsOf(grid, piece, reachMm, near) : null
    const contactMm2 = own.reduce((sum, { contact, share }) => sum + share * contact.areaMm2, 0)
    const pullN =
      own.length > 0 && own.every(({ contact }) => contact.pullN !== null)
        ? own.reduce((sum, { contact, share }) => sum + share * contact.pullN!, 0)
        : null
    const torn = own
      .flatMap(({ contact, share, isMost }) => {
        const [neck, arm] = [necks.get(contact), arms.get(contact)]
        // What several stands carry together, one of them alone may be too little for.
        const tears = (section: Neck) => isMost || share * tornTimes(contact, section) > 1
        return [
          ...(neck && tears(neck)
            ? [{ contact, weak: { ...neck, pullN, times: tornTimes(contact, neck) } }]
            : []),
          ...(arm && tears(arm)
            ? [{ contact, weak: { ...arm, pullN: arm.pullN === null ? null : share * arm.pullN } }]
            : []),
        ]
      })
      .sort((a, b) => a.weak.areaMm2 - b.weak.areaMm2)
    const weak = torn[0]?.weak
    const tears = new Map<C, number>()
    for (const { contact, weak: one } of torn)
      tears.set(contact, Math.max(one.times, tears.get(contact) ?? 0))
    const check: StandCheck = {
      atMm: piece.atMm,
      verdict: lockedIn ? 'locked in' : whole ? 'comes out whole' : 'comes out in pieces',
      reachMm,
      wayMm: lockedIn || reachMm >= ANY_TOOL_MM ? [] : piece.wayMm(near),
      wayOut: whole ? leaving.ways[0].words : null,
      pieces: lockedIn ? null : leaving.pieces,
      neckMm: weak?.widthMm ?? null,
      contactMm2,
      pullN,
      holdsN: steady ? leastHeldN(steady) : null,
      drains,
      minutes: MINUTES_TO_BEGIN + (leaving.pieces ?? 16) * MINUTES_A_PIECE + contactMm2 / MM2_A_MINUTE,
      reasons: [
        ...(lockedIn
          ? [dissolves ? 'no tool gets to it, and liquid only through a crack' : 'no tool gets to it']
          : reachMm < NARROW_MM
            ? [`only a tool up to ${reachMm.toFixed(1)} mm wide gets to it`]
            : []),
        ...(drains && drains.length > 0 && !lockedIn ? [drainSentence(drains)] : []),
        ...(weak ? [weakSentence(weak)] : []),
        ...(wavers ? [`while it is printed, ${wavers}: a guess`] : []),
      ],
    }
    return {
      check,
      holds: own.map(({ contact }) => contact),
      steady: steady ?? null,
      tears,
    }
  })
  const RANK = { 'comes out whole': 0, 'comes out in pieces': 1, 'locked in': 2 } as const
  stands.sort(({ check: a }, { check: b }) => RANK[a.verdict] - RANK[b.verdict] || b.reachMm - a.reachMm)
  return { verdict: stands.at(-1)?.check.verdict ?? 'comes out whole', stands }
}

/** Right below the largest underside that a stand holds; null where it holds none. */
function mostHeld(
  own: readonly { readonly contact: Touching; readonly share: number }[],
  layers: readonly Filled[],
): readonly [number, number, number] | null {
  const held = own.map(({ contact, share }) => share * contact.areaMm2)
  const most = own[held.indexOf(Math.max(...held))]
  if (!most) return null
  const { underside, atMm } = most.contact
  return underside ? [...insideOf(underside.region), layers[underside.layer].bottomMm] : atMm
}

/** Whether a stand has to be got out in pieces through a narrow opening. */
export const isNarrow = ({ verdict, reachMm }: StandCheck): boolean =>
  verdict === 'comes out in pieces' && reachMm < NARROW_MM

/** What a pull may break, and how much of a pull goes through it. */
type Weak = Neck & {
  readonly side: NeckBeside['side'] | 'beyond'
  readonly pullN: number | null
  /** How many times as much as it the bond holds. */
  readonly times: number
}

function weakSentence({ side, pullN, widthMm, zMm }: Weak): string {
  const pull =
    pullN === null ? 'its pull goes' : `about ${pullN < 10 ? pullN.toFixed(1) : pullN.toFixed(0)} N go`
  const what = side === 'beyond' ? 'an arm' : 'a neck'
  return `${pull} through ${what} ${widthMm.toFixed(1)} mm wide at ${zMm.toFixed(1)} mm: hold the part ${side} it while you pull`
}

/** Arms narrower than what the bonds above or below them could tear; compared as necks are. */
export function weakArms<C extends Touching>(
  layers: readonly Filled[],
  contacts: readonly C[],
  engine: PolygonEngine,
  onShare: (share: number) => void = () => undefined,
): Map<C, Weak> {
  const shareOf = (i: number, carriesMm2: number) =>
    Math.min(1, carriesMm2 / regionAreaMm2(contacts[i].underside!.region))
  const arms = armsOf(
    layers,
    contacts.map(({ underside }) => underside),
    engine,
    (i, arm) => shareOf(i, arm.carriesMm2) * tornTimes(contacts[i], arm) > 1,
    onShare,
  )
  const found = new Map<C, Weak>()
  arms.forEach((arm, i) => {
    const { pullN } = contacts[i]
    if (!arm) return
    const share = shareOf(i, arm.carriesMm2)
    found.set(contacts[i], {
      ...arm,
      side: 'beyond',
      pullN: pullN === null ? null : pullN * share,
      times: share * tornTimes(contacts[i], arm),
    })
  })
  return found
}

/** How it dissolves, in words. */
function drainSentence(drains: readonly Drain[]): string {
  const [first] = drains
  const wide = `${first.widthMm.toFixed(0)} mm wide`
  return drains.length === 1
    ? `it dissolves, but liquid gets in and drains through one opening only, ${wide}, that looks ${first.toward}: turn that side down to empty it, and change the liquid`
    : `it dissolves, liquid flows through ${drains.length} openings, the widest ${wide} ${first.toward}`
}

/** How many times as much as a section of the part the bond of a contact holds. */
export const tornTimes = ({ areaMm2, strength }: Touching, section: Pick<Neck, 'areaMm2'>): number =>
  (areaMm2 * strength) / section.areaMm2

/**
 * Sections narrower than what the bonds of a contact could tear. Source: areas compared, a layer bond of the
 * part being a weld.
 */
export function weakNecks<C extends Touching>(
  layers: readonly Filled[],
  contacts: readonly C[],
): Map<C, NeckBeside> {
  const found = new Map<C, NeckBeside>()
  const necks = necksOf(
    layers,
    contacts.map(({ layerIndex, atMm: [atX, atY], underside }) => {
      const [x, y] = underside ? insideOf(underside.region) : [atX, atY]
      return { layer: underside?.layer ?? layerIndex, x, y }
    }),
  )
  contacts.forEach((contact, i) => {
    const neck = necks[i]
    if (neck && tornTimes(contact, neck) > 1) found.set(contact, neck)
  })
  return found
}

/** The stands below a contact with the share of it that each carries; the nearest one when none is found. */
function carriersOf(
  { atMm, steps }: Touching,
  pieces: readonly StandPiece[],
  layers: readonly Filled[],
  grid: StandGrid,
): Map<StandPiece, number> {
  const carried = steps ? bearersOf(steps, layers, grid) : new Map<StandPiece, number>()
  const told = pieces.filter((piece) => carried.has(piece))
  const all = told.reduce((sum, piece) => sum + carried.get(piece)!, 0)
  if (all > 0) return new Map(told.map((piece) => [piece, carried.get(piece)! / all]))
  const nearest = nearestTo(atMm, pieces, grid.cellMm)
  return new Map(nearest ? [[nearest, 1]] : [])
}

function nearestTo(atMm: Touching['atMm'], pieces: readonly StandPiece[], cellMm: number): StandPiece | null {
  let best: StandPiece | null = null
  let nearest = Infinity
  for (const piece of pieces) {
    const d = piece.distanceMm(atMm, nearest)
    if (d < nearest - cellMm / 2) [nearest, best] = [d, piece]
  }
  return best
}
