import { regionFromRings, type Region } from '../../polygon'
import { hullAround, hullInDisc, hullOf } from './hull'
import { roundRing, type Section } from './section'
import { stanceFrom, unite, type Stance, type Steady } from './stance'

/** Branches whose middles are within this share of the thicker one's radius have met. */
const MET = 0.6
/** A crown that rests draws in from so far beyond what it carries. */
const PAD_MM = 0.3
/** Crowns are rounded by this share of a tip, so that no corner of them is too narrow for a line. */
const ROUNDED = 0.75
/** Crowns that reach no farther beyond their branch are drawn in. */
const DRAWN_IN_MM = 1e-6

/** One branch on its way down. */
export type Branch = {
  x: number
  y: number
  /** What it moves by at each level of the slab. */
  dx: number
  dy: number
  /** Radius as it is, as it would be without a crown, and as it would be for what it carries alone. */
  radius: number
  trunk: number
  bears: number
  readonly topLevel: number
  /** Hull of everything that its crown carries, drawn in since; null when it has none. */
  hull: number[] | null
  /** Middle of what was laid upon it last, and at which level. */
  pull: { readonly x: number; readonly y: number; readonly level: number } | null
  /** By how much it is wider than its trunk near the bed. */
  footMm: number
  /** By how much its crown is rounded. */
  readonly roundMm: number
  /** Falls straight down, to rest where it ends. */
  rests: boolean
  /** What it stands and bends with. */
  readonly stance: Stance
  /** The lowest level at which its crown met another one: up to there it stands by itself. */
  freeLevel: number
  /** How thick it gets so that it does not bend, and its foot. */
  steady: Steady | null
  /** Its sections on the level above: two where branches have joined. */
  above: Section[]
}

/** Whether two go on as one: their trunks, or their crowns as long as one crown does not get too wide. */
function haveMet(one: Branch, other: Branch, mostMm: number): boolean {
  const far = Math.hypot(other.x - one.x, other.y - one.y)
  const radius = Math.max(one.radius, other.radius)
  return far <= MET * (far + radius <= mostMm ? radius : Math.max(one.trunk, other.trunk))
}

/**
 * Joins branches that have met; those that fall straight down to the bed, through ways that are too narrow
 * for others, stay as they are.
 * @param onPart whether what rests may do so on the part
 * @param mostMm how far a crown that comes of two may reach
 * Source: what a round section withstands in bending goes with the cube of its radius, and adds up.
 */
export function joined(all: readonly Branch[], onPart: boolean, mostMm: number): Branch[] {
  const left: Branch[] = []
  for (const branch of all) {
    const met = left.find(
      (other) => other.rests === branch.rests && (onPart || !branch.rests) && haveMet(other, branch, mostMm),
    )
    if (!met) {
      left.push(branch)
      continue
    }
    unite(met.stance, branch.stance)
    const [a, b] = [met.trunk ** 2, branch.trunk ** 2]
    const [x, y] = [(met.x * a + branch.x * b) / (a + b), (met.y * a + branch.y * b) / (a + b)]
    const bears = Math.cbrt(met.bears ** 3 + branch.bears ** 3)
    const trunk = Math.max(met.trunk, branch.trunk, bears)
    const around = Math.max(...[met, branch].map((one) => Math.hypot(one.x - x, one.y - y) + one.radius))
    left[left.indexOf(met)] = {
      ...met,
      x,
      y,
      topLevel: Math.max(met.topLevel, branch.topLevel),
      freeLevel: Math.max(met.freeLevel, branch.freeLevel),
      above: [...met.above, ...branch.above],
      hull: met.rests && !(met.hull && branch.hull) ? null : hullOf([...coreOf(met), ...coreOf(branch)]),
      bears,
      trunk,
      radius: Math.max(around, trunk),
    }
  }
  return left
}

/** Lays places upon a branch: its crown reaches a little beyond them. */
export function carryUpon(branch: Branch, places: readonly number[]): void {
  branch.hull = hullOf([...(branch.hull ?? []), ...places, branch.x, branch.y])
  const padMm = branch.rests ? PAD_MM : branch.roundMm
  branch.radius = Math.max(branch.radius, farthestOf(branch, places) + padMm)
}

/**
 * Draws a crown in by a level: every corner goes towards the branch, so that what is narrow becomes narrow
 * at once. What rests is cut by a circle instead and has upright sides elsewhere, which come down upon
 * whatever they meet.
 */
export function drawIn(branch: Branch, byMm: number): void {
  const { x, y, trunk, hull, rests, roundMm } = branch
  if (!hull || rests) {
    branch.radius = Math.max(trunk, branch.radius - byMm)
    // A foot is round, wherever the branch has gone since.
    if (branch.radius === trunk) branch.hull = null
    return
  }
  const least = trunk - roundMm
  for (let i = 0; i < hull.length; i += 2) {
    const far = Math.hypot(hull[i] - x, hull[i + 1] - y)
    if (far <= least) continue
    const share = Math.max(least, far - byMm) / far
    hull[i] = x + (hull[i] - x) * share
    hull[i + 1] = y + (hull[i + 1] - y) * share
  }
  branch.radius = Math.max(trunk, farthestOf(branch, hull) + roundMm)
  branch.hull = branch.radius > trunk + DRAWN_IN_MM ? hullOf(hull) : null
}

/** How far places lie from a branch at most. */
function farthestOf({ x, y }: Branch, places: readonly number[]): number {
  let far = 0
  for (let i = 0; i < places.length; i += 2) far = Math.max(far, Math.hypot(places[i] - x, places[i + 1] - y))
  return far
}

/** A crown as it is: only what lies under something that it carries. Null where there is just the branch. */
function crownOf({ x, y, radius, hull, trunk, footMm, rests, roundMm }: Branch): Region | null {
  if (!hull || radius <= trunk) return null
  const around = hullAround(hull, roundMm)
  if (rests) return hullInDisc(around, x, y, radius)
  return regionFromRings([hullOf([...around, ...roundRing(x, y, trunk + footMm)])])
}

/** What a crown comes of when it is rounded: of what has none, the corners of a smaller round shape. */
const coreOf = ({ hull, x, y, radius, roundMm }: Branch): readonly number[] =>
  hull ?? roundRing(x, y, radius - roundMm)

/** A new branch as slim as a tip. */
export const tipAt = (x: number, y: number, tipMm: number, topLevel: number, rests: boolean): Branch => ({
  x,
  y,
  dx: 0,
  dy: 0,
  radius: tipMm,
  trunk: tipMm,
  bears: tipMm,
  topLevel,
  hull: null,
  pull: null,
  footMm: 0,
  roundMm: ROUNDED * tipMm,
  rests,
  stance: stanceFrom(topLevel),
  freeLevel: topLevel,
  steady: null,
  above: [],
})

/** The section of a branch at the next level down. */
export function sectionOf(branch: Branch): Section {
  const { x, y, radius } = branch
  const crown = crownOf(branch)
  const section: Section = { x, y, radius, crown, alone: false, below: null, stands: false, needed: false }
  for (const one of branch.above) one.below = section
  branch.above = [section]
  return section
}

/** Finds the nearest branch that may carry a place, within a distance; of two as near, the later one. */
export function nearestAmong(
  branches: readonly Branch[],
  withinMm: number,
  mayCarry: (branch: Branch, x: number, y: number) => boolean,
): (x: number, y: number) => Branch | null {
  const cells = new Map<number, number[]>()
  const cellOf = (column: number, row: number) => (column + 0x8000) * 0x10000 + row + 0x8000
  branches.forEach(({ x, y }, i) => {
    const cell = cellOf(Math.floor(x / withinMm), Math.floor(y / withinMm))
    const here = cells.get(cell)
    if (here) here.push(i)
    else cells.set(cell, [i])
  })
  return (x, y) => {
    let best = -1
    let nearest = withinMm * withinMm
    const column = Math.floor(x / withinMm)
    const row = Math.floor(y / withinMm)
    for (let c = column - 1; c <= column + 1; c++)
      for (let r = row - 1; r <= row + 1; r++)
        for (const i of cells.get(cellOf(c, r)) ?? NOBODY) {
          const dx = branches[i].x - x
          const dy = branches[i].y - y
          const d = dx * dx + dy * dy
          if ((d < nearest || (d === nearest && i > best)) && mayCarry(branches[i], x, y)) {
            nearest = d
            best = i
          }
        }
    return best < 0 ? null : branches[best]
  }
}
const NOBODY: readonly number[] = []

/** Where a branch would meet its nearest neighbour: nearer to the thicker one. Itself when nobody is near. */
export function meetingOf(branch: Branch, all: readonly Branch[], withinMm: number): [number, number] {
  let best: Branch | null = null
  let nearest = withinMm
  for (const other of all) {
    if (other === branch) continue
    const d = Math.hypot(other.x - branch.x, other.y - branch.y)
    if (d < nearest) {
      nearest = d
      best = other
    }
  }
  if (!best) return [branch.x, branch.y]
  const [a, b] = [branch.trunk ** 2, best.trunk ** 2]
  return [(branch.x * a + best.x * b) / (a + b), (branch.y * a + best.y * b) / (a + b)]
}
