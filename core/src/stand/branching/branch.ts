import type { Region } from '../../polygon'
import { hullAround, hullInDisc, hullOf } from './hull'
import { disc, type Section } from './section'

/** Branches whose middles are within this share of the thicker one's radius have met. */
const MET = 0.6

/** One branch on its way down. */
export type Branch = {
  x: number
  y: number
  /** What it moves by at each level of the slab. */
  dx: number
  dy: number
  /** Radius as it is, and as it would be without a crown. */
  radius: number
  trunk: number
  readonly topLevel: number
  /** Around everything that its crown carries; null when it has none. */
  hull: number[] | null
  /** Middle of what was laid upon it last, and at which level. */
  pull: { readonly x: number; readonly y: number; readonly level: number } | null
  /** Falls straight down, to rest where it ends. */
  rests: boolean
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
    const [a, b] = [met.trunk ** 2, branch.trunk ** 2]
    const [x, y] = [(met.x * a + branch.x * b) / (a + b), (met.y * a + branch.y * b) / (a + b)]
    const around = Math.max(...[met, branch].map((one) => Math.hypot(one.x - x, one.y - y) + one.radius))
    left[left.indexOf(met)] = {
      ...met,
      x,
      y,
      topLevel: Math.max(met.topLevel, branch.topLevel),
      above: [...met.above, ...branch.above],
      hull: met.hull && branch.hull ? hullOf([...met.hull, ...branch.hull]) : null,
      trunk: Math.cbrt(met.trunk ** 3 + branch.trunk ** 3),
      radius: Math.max(around, Math.cbrt(met.trunk ** 3 + branch.trunk ** 3)),
    }
  }
  return left
}

/** Adds places to what a crown carries. */
export function carryUpon(branch: Branch, places: readonly number[], tipMm: number): void {
  const own = hullAround(hullOf([...places, branch.x, branch.y]), tipMm)
  branch.hull = branch.hull ? hullOf([...branch.hull, ...own]) : own
}

/** A section as it is: of a crown only what lies under something that it carries. */
export const shapeOf = ({ hull, trunk }: Branch, { x, y, radius }: Section): Region =>
  hull && radius > trunk ? hullInDisc(hull, x, y, radius) : disc(x, y, radius)

/** The section of a branch at the next level down. */
export function sectionOf(branch: Branch): Section {
  const { x, y, radius } = branch
  const section: Section = { x, y, radius, alone: false, below: null, stands: false, needed: false }
  for (const one of branch.above) one.below = section
  branch.above = [section]
  return section
}

export const widen = (branch: Branch, x: number, y: number, padMm: number): void => {
  branch.radius = Math.max(branch.radius, Math.hypot(branch.x - x, branch.y - y) + padMm)
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
