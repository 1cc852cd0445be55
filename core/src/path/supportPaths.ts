import {
  boundsOf,
  EMPTY_REGION,
  hatch,
  isEmptyRegion,
  splitPieces,
  type PolygonEngine,
  type Region,
} from '../polygon'
import { BRANCH_WALLS, roundLine, type StandKind, type SupportPass } from '../stand'
import { addCaps } from './addCaps'
import { addGathered, withoutDots } from './addGathered'
import { addSegments } from './addLines'
import { partLineAngleDeg } from './partPaths'
import type { InterfaceLines, StandLines } from './lineKinds'
import { layRings, type Ringed } from './rings'
import { joinPaths, PathWriter, type ToolPaths } from './toolPaths'

export type SupportPathOptions = {
  readonly lineWidthMm: number
  readonly standLines: StandLines
  readonly standKind: StandKind
  /** Rings around every layer of a stand. */
  readonly standWalls: number
  /** And at least so many inside its first layer, so that it stays on the bed. */
  readonly footingLines?: number
  /** Share of a stand that is plastic, 0 to 1. */
  readonly standDensity: number
  /** The same where its top is to be denser. */
  readonly denseTopDensity: number
  /** Free width between interface lines; 0 = solid. */
  readonly interfaceSpacingMm: number
  readonly interfaceLines: InterfaceLines
  /** Whether interface lines cross the first lines of the part above or run along them. */
  readonly interfaceDirection: 'across' | 'along'
}

/** Ends of neighbouring lines farther apart than this many spacings are not tied. */
const TIED_SPACINGS = 1.6
/** Ties may reach out of what they fill by so much, which comes from corners that stand for arcs. */
const OUTSIDE_MM = 0.02
/** Lines above others this far apart hang no more than 2 mm at their ends, whichever way they run. */
const CARRYING_MM = 1.7
/** What is wider than so many lines is a crown, or several branches that have met. */
const BRANCH_LINES = 9
/** Direction of stand lines. */
const STAND_DEG = 0
const CROSS_DEG = 90

/** What lines were laid before in a piece, by how they were laid. */
export type LinesKnown = WeakMap<Region, Map<string, ToolPaths>>

/**
 * Lines of one support pass, all of them inside its region: piece after piece, always going on with the one
 * that begins nearest. Stand lines keep one direction and place from layer to layer, so that they grow into
 * upright walls.
 * @param level number of the pass from the bed upwards, for lines that cross from layer to layer
 * @param known a piece that is laid as it was before keeps its lines
 */
export function supportPaths(
  pass: SupportPass,
  level: number,
  engine: PolygonEngine,
  asked: SupportPathOptions,
  known: LinesKnown = new WeakMap(),
): ToolPaths {
  const options = pass.bottomMm === 0 ? onTheBed(asked) : asked
  const key = JSON.stringify(howLaid(pass, level, options))
  const keptOr = (region: Region, lay: () => ToolPaths): ToolPaths => {
    let laid = known.get(region)
    if (!laid) known.set(region, (laid = new Map()))
    let lines = laid.get(key)
    if (!lines) laid.set(key, (lines = lay()))
    return lines
  }
  const layOf = (region: Region) => () => layPiece({ ...pass, region }, level, engine, options)
  if (pass.fill === 'rings' || pass.fill === 'rounds') return keptOr(pass.region, layOf(pass.region))
  // The same lines are the same list: what was measured of them is known.
  return keptOr(pass.region, () =>
    nearestFirst(splitPieces(pass.region).map((piece) => keptOr(piece, layOf(piece)))),
  )
}

/** How the first layer is laid: what lies around it as footing lies inside as well. */
const onTheBed = (options: SupportPathOptions): SupportPathOptions => ({
  ...options,
  standWalls: Math.max(options.standWalls, options.footingLines ?? 0),
})

/** Everything that the lines of a pass go by, besides its outline. */
function howLaid(pass: SupportPass, level: number, options: SupportPathOptions): readonly unknown[] {
  const { fill, role } = pass
  const { lineWidthMm, standKind, standLines, standWalls, standDensity, denseTopDensity } = options
  const laid = [fill, role, lineWidthMm]
  if (fill === 'rings') return laid
  if (fill === 'interface') {
    const { interfaceSpacingMm, interfaceLines, interfaceDirection } = options
    return [...laid, facedBy(pass) & 1, interfaceSpacingMm, interfaceLines, interfaceDirection]
  }
  if (fill === 'rounds') return [...laid, standWalls]
  const turn = standAngleDeg(pass, level, options)
  return [...laid, turn, standKind, standLines, standWalls, standDensity, denseTopDensity]
}

/** Joins lines, always going on with those that begin nearest to where the last ones end. */
function nearestFirst(all: readonly ToolPaths[]): ToolPaths {
  if (all.length === 1) return all[0]
  const left = all.filter(({ kinds }) => kinds.length > 0)
  const inOrder: ToolPaths[] = []
  let [x, y] = [0, 0]
  while (left.length > 0) {
    const next = takeNearest(left, ({ xyMm }) => (xyMm[0] - x) ** 2 + (xyMm[1] - y) ** 2)
    inOrder.push(next)
    ;[x, y] = next.xyMm.subarray(-2)
  }
  return joinPaths(inOrder)
}

/** Takes out of a list what lies nearest; of several the first. */
function takeNearest<T>(left: T[], awayOf: (one: T) => number): T {
  let best = Infinity
  let pick = 0
  left.forEach((one, i) => {
    const away = awayOf(one)
    if (away >= best) return
    best = away
    pick = i
  })
  return left.splice(pick, 1)[0]
}

function layPiece(
  pass: SupportPass,
  level: number,
  engine: PolygonEngine,
  options: SupportPathOptions,
): ToolPaths {
  switch (pass.fill) {
    case 'rings':
      return layRings('footing', pass.region, Infinity, engine, options.lineWidthMm).lines
    case 'interface':
      return layInterface(pass, engine, options)
    case 'rounds':
      return layRounds(pass.rounds!, options)
    default:
      return layStand(pass, level, engine, options)
  }
}

function layInterface(pass: SupportPass, engine: PolygonEngine, options: SupportPathOptions): ToolPaths {
  const { lineWidthMm: w, interfaceSpacingMm: spacing } = options
  // A ring ties the ends of the lines: none of them hangs, and the rim is filled to its edge.
  const { lines, inside } = layRings('interface', pass.region, 1, engine, w)
  const first = interfaceAngleDeg(facedBy(pass), options)
  const writer = new PathWriter()
  if (isCrossed(options)) {
    // Half of the lines each way: as much plastic as in one direction.
    for (const angle of [first, first + CROSS_DEG])
      addSegments(writer, 'interface', withoutDots(hatch(inside, angle, w + interfaceApartMm(options)), w))
  } else addGathered(writer, 'interface', hatch(inside, first, w + spacing), w + spacing, w)
  return joinPaths([lines, writer.finish()])
}

/** The layer whose lines those of a pass go by: that of the other turn, when it is turned. */
const facedBy = ({ facesLayer, turned }: Pick<SupportPass, 'facesLayer' | 'turned'>): number =>
  turned ? facesLayer + 1 : facesLayer

/** Direction of the interface lines that face a layer of the part. */
const interfaceAngleDeg = (
  facesLayer: number,
  { interfaceDirection }: Pick<SupportPathOptions, 'interfaceDirection'>,
): number => partLineAngleDeg(facesLayer) + (interfaceDirection === 'across' ? CROSS_DEG : 0)

type Crossing = Pick<SupportPathOptions, 'interfaceLines' | 'interfaceSpacingMm'>

/** Whether interface lines of one layer cross. */
const isCrossed = ({ interfaceLines, interfaceSpacingMm }: Crossing): boolean =>
  interfaceLines === 'crossed' && interfaceSpacingMm > 0

/** Free width between interface lines that run the same way: of those that cross there are half as many. */
export const interfaceApartMm = (options: Crossing & Pick<SupportPathOptions, 'lineWidthMm'>): number =>
  options.interfaceSpacingMm + (isCrossed(options) ? options.interfaceSpacingMm + options.lineWidthMm : 0)

/**
 * Share of an interface that its lines cover, 0 to 1. Source: w / (w + spacing); where lines cross, what one
 * way covers and of the rest what the other way does.
 */
export function interfaceCover(options: Crossing & Pick<SupportPathOptions, 'lineWidthMm'>): number {
  const oneWay = options.lineWidthMm / (options.lineWidthMm + interfaceApartMm(options))
  return isCrossed(options) ? 1 - (1 - oneWay) ** 2 : oneWay
}

/**
 * Direction of stand lines. What carries an interface lies square across its lines, and slanted across those
 * below; where the lines above cross, slanted to both of them, and square across those below.
 */
function standAngleDeg(
  pass: Pick<SupportPass, 'fill' | 'facesLayer' | 'turned'>,
  level: number,
  options: SupportPathOptions,
): number {
  if (pass.fill !== 'dense') return ownAngleDeg(level, options)
  if (isCrossed(options)) return ownAngleDeg(level - 1, options) + CROSS_DEG
  return interfaceAngleDeg(facedBy(pass) + 1, options) + CROSS_DEG
}

const ownAngleDeg = (level: number, { standLines }: SupportPathOptions): number =>
  standLines === 'crosswise' && level & 1 ? CROSS_DEG : STAND_DEG

function layStand(
  pass: SupportPass,
  level: number,
  engine: PolygonEngine,
  options: SupportPathOptions,
): ToolPaths {
  const { region, fill } = pass
  const { lineWidthMm: w, standLines, standKind, standWalls } = options
  // Right below an interface lines are so near each other that no end of a line above hangs far.
  const spacing =
    fill === 'solid'
      ? w
      : fill === 'dense'
        ? Math.min(w / Math.max(options.standDensity, options.denseTopDensity), CARRYING_MM)
        : w / options.standDensity
  // Without a wall the lines of what carries an interface would end between those of the stand, and crossing
  // lines of a slanted, narrow stand would not meet.
  const needsWall = fill !== 'stand' || standLines === 'crosswise'
  const walls = needsWall ? Math.max(1, standWalls) : standWalls
  const { lines, inside } =
    standKind === 'branching' && fill !== 'dense'
      ? branchWalls(region, engine, w, walls)
      : layRings('stand', region, walls, engine, w)
  if (isEmptyRegion(inside)) return lines
  const isTied = standLines === 'joined'
  const hasWall = lines.kinds.length > 0
  // What carries an interface spans from line to line: its ends lie on the wall below.
  const isBeside = isTied && hasWall && fill !== 'dense'
  const filled = isBeside ? besideWall(inside, w, engine) : inside
  const bounds = isBeside
    ? { within: inside, reachMm: w / 2 }
    : { within: region, clearMm: w / 2 - OUTSIDE_MM }
  const tie = isTied ? { mm: spacing * TIED_SPACINGS, ...bounds } : undefined
  const angle = standAngleDeg(pass, level, options)
  const segments = hatch(filled, angle, spacing)
  const writer = new PathWriter()
  if (!hasWall) {
    if (segments.length === 0) return layRings('stand', region, 1, engine, w).lines
    addCaps(writer, 'stand', inside, angle, spacing, w / 2)
  }
  addSegments(writer, 'stand', segments, tie)
  return joinPaths([lines, writer.finish()])
}

const beside = new WeakMap<Region, Region>()
/** Where lines are tied: ties run beside a wall, not on it. Ends that are not tied reach on to the wall. */
function besideWall(inside: Region, w: number, engine: PolygonEngine): Region {
  let left = beside.get(inside)
  if (!left) beside.set(inside, (left = engine.grow(inside, -w / 2, 'miter')))
  return left
}

/**
 * Branches have two walls and are hollow; crowns, which are wider, have one and are filled like any stand.
 */
function branchWalls(region: Region, engine: PolygonEngine, w: number, walls: number): Ringed {
  const box = boundsOf(region.xyMm)
  const isSlim = Math.max(box.maxX - box.minX, box.maxY - box.minY) <= BRANCH_LINES * w
  const ringed = layRings('stand', region, Math.max(isSlim ? BRANCH_WALLS : 1, walls), engine, w)
  return isSlim ? { lines: ringed.lines, inside: EMPTY_REGION } : ringed
}

/**
 * Round sections, always going on with the nearest: rings from the outermost inwards, as many as walls.
 */
function layRounds(rounds: Float64Array, { lineWidthMm: w, standWalls }: SupportPathOptions): ToolPaths {
  const writer = new PathWriter()
  const walls = Math.max(BRANCH_WALLS, standWalls)
  const left = Array.from({ length: rounds.length / 3 }, (_, n) => 3 * n)
  while (left.length > 0) {
    const i = takeNearest(
      left,
      (one) => (rounds[one] - writer.lastX) ** 2 + (rounds[one + 1] - writer.lastY) ** 2,
    )
    for (let ring = 0; ring < walls; ring++) {
      const insideMm = (ring + 0.5) * w
      if (rounds[i + 2] - insideMm < w / 4) break
      const points = Float64Array.from(roundLine(rounds[i], rounds[i + 1], rounds[i + 2], insideMm))
      writer.add('stand', points, 0, points.length / 2, true)
    }
  }
  return writer.finish()
}
