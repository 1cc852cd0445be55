import { isEmptyRegion, regionContains, type Region } from '../../polygon'
import { carryUpon, nearestAmong, tipAt, type Branch } from './branch'
import { isOpen, nearestCell, type OpenCells } from './openCells'
import { samplesOf } from './samples'
import { cellsOf, middleOf, nearestOf } from './sixSided'
import { unitingBeside } from './stance'

/** Places of an underside that are looked at are this far from each other. */
const PITCH_MM = 0.4
/** New branches are seated in so many rounds: each carries what it sees, the next one's what is left. */
const ROUNDS = 8
/** Each round looks at places nearer together, by this share. */
const CLOSER = 0.75
/** A wall may fill cells as far as this from a place beside it, or from a branch. */
const BESIDE_CELLS = 1.5

type Place = readonly [number, number]
type Seat = Pick<Branch, 'x' | 'y' | 'rests'>
type Laid = { readonly upon: ReadonlyMap<Branch, number[]>; readonly left: number[] }

export type CarryRules = {
  readonly sideGapMm: number
  readonly lineWidthMm: number
  /** Whether stands may rest on the part. */
  readonly onPart: boolean
  /** How far a crown draws in from a level to the next below it. */
  readonly stepMm: number
  readonly tipMm: number
  /** How far a crown reaches. */
  readonly crownMm: number
}

/**
 * Sees to it that everything of a region lies in a crown of some branch: of one that is there, or of new
 * ones, which are added.
 */
export function carrying(
  open: OpenCells,
  { sideGapMm, lineWidthMm, onPart, stepMm, tipMm, crownMm }: CarryRules,
): (branches: Branch[], region: Region, level: number) => void {
  const unite = unitingBeside()
  return (branches, region, level) => {
    if (isEmptyRegion(region)) return
    const samples = samplesOf(region, PITCH_MM)
    const { upon, left: alone } = laidUpon(branches, samples, level)
    for (const [branch, places] of upon) {
      carryUpon(branch, places)
      const [x, y] = middleOf(places)
      branch.pull = { x, y, level }
    }
    const carriedBy: [Branch, number[]][] = [...upon]
    const onResting = [...upon].filter(([{ rests }]) => rests).flatMap(([, places]) => places)
    let left = alone
    for (let round = 0; round < ROUNDS && left.length > 0; round++) {
      const later: number[] = []
      for (const group of cellsOf(left, crownMm * CLOSER ** round)) {
        const branch = seated(group, region, level)
        const carried = branch ? takenUp(branch, group, level, later) : []
        if (!branch) later.push(...group)
        else if (carried.length > 0) {
          branches.push(branch)
          carriedBy.push([branch, carried])
        }
        if (branch?.rests) onResting.push(...carried)
      }
      left = later
    }
    unite(level, carriedBy)
    // What rests ends at the part, and leaves out what lies behind it: another branch may carry that too.
    const reaching = branches.filter(({ rests }) => !rests)
    const too = laidUpon(reaching, [...onResting, ...left], level, true)
    for (const [branch, places] of too.upon) carryUpon(branch, places)
  }

  /** Lays each of some places upon the nearest branch that may carry it, and tells which are left. */
  function laidUpon(
    branches: readonly Branch[],
    places: readonly number[],
    level: number,
    mayLand = false,
  ): Laid {
    const upon = new Map<Branch, number[]>()
    const left: number[] = []
    if (places.length === 0) return { upon, left }
    const nearestTo = nearestAmong(branches, crownMm, ({ x, y, rests }, fromX, fromY) =>
      leadsTo({ x, y, rests: rests || mayLand }, fromX, fromY, level),
    )
    for (let i = 0; i < places.length; i += 2) {
      const nearest = nearestTo(places[i], places[i + 1])
      const laid = nearest ? upon.get(nearest) : left
      if (laid) laid.push(places[i], places[i + 1])
      else if (nearest) upon.set(nearest, [places[i], places[i + 1]])
    }
    return { upon, left }
  }

  /** A branch under some places; null where nothing gets down. */
  function seated(group: readonly number[], region: Region, level: number): Branch | null {
    const slab = Math.floor(level / open.slabLevels) - 1
    const middle = middleOf(group)
    const place = nearestOf(group, middle)
    const isBelow = regionContains(region, ...middle)
    // Right above the bed there is no telling what lies beside an underside.
    if (slab < 0) return tipAt(...(isBelow ? middle : place), tipMm, level, true)
    const seat = seatOf(middle, place, slab, level)
    if (seat) return tipAt(...seat, tipMm, level, false)
    // Where no branch gets down there may still be a way straight down that is too narrow for one, or
    // something to rest on.
    const below =
      isBelow && leadsTo({ x: middle[0], y: middle[1], rests: true }, ...place, level) ? middle : place
    return onPart || fallsFree(slab, below) ? tipAt(...below, tipMm, level, true) : null
  }

  /** Lays places upon a branch and tells which it carries; the others are left for later. */
  function takenUp(branch: Branch, group: readonly number[], level: number, later: number[]): number[] {
    const { x, y } = branch
    const carried: number[] = []
    for (let i = 0; i < group.length; i += 2) {
      const isNear = Math.hypot(group[i] - x, group[i + 1] - y) <= crownMm
      const to = isNear && leadsTo(branch, group[i], group[i + 1], level) ? carried : later
      to.push(group[i], group[i + 1])
    }
    if (carried.length > 0) carryUpon(branch, carried)
    return carried
  }

  /** Where a branch under some places, one of them at least, can begin so that it gets to the bed. */
  function seatOf(middle: Place, place: Place, slab: number, level: number): Place | null {
    const isSeat = (x: number, y: number) => leadsTo({ x, y, rests: false }, ...place, level)
    if (isOpen(open, open.reach[slab], ...middle) && isSeat(...middle)) return middle
    return nearestCell(open, open.reach[slab], middle, { x: middle[0], y: middle[1] }, crownMm, isSeat)
  }

  /**
   * Whether a crown still carries a place as it draws in: on the way from the place to the branch, downwards
   * by the lean, nothing of the part lies in between, be it a thin wall. Only what rests may come down on the
   * part on that way: its sides are upright.
   */
  function leadsTo({ x, y, rests }: Seat, fromX: number, fromY: number, level: number): boolean {
    const far = Math.hypot(x - fromX, y - fromY)
    const skippedMm = BESIDE_CELLS * open.cellMm
    const highest = Math.floor(level / open.slabLevels) - 1
    for (let d = skippedMm; d < far - skippedMm; d += open.cellMm / 2) {
      // The slab below: what is right above the crown is what it carries.
      const slab = Math.floor((level - d / stepMm) / open.slabLevels) - 1
      if (slab < 0) return true
      const cell = open.cellAt(fromX + ((x - fromX) * d) / far, fromY + ((y - fromY) * d) / far)
      if (cell < 0 || !open.isFilled(slab, cell)) continue
      // What comes down on the part rests there; a wall goes on above.
      return onPart && rests && slab < highest && !open.isFilled(slab + 1, cell)
    }
    return true
  }

  /** Whether a line at least gets straight down to the bed. */
  function fallsFree(slab: number, [x, y]: Place): boolean {
    const cell = open.cellAt(x, y)
    for (let s = slab; s >= 0; s--)
      if (cell < 0 || open.roomMm(s, cell) < sideGapMm + lineWidthMm / 2) return false
    return true
  }
}
