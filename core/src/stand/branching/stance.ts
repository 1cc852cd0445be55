import { BED_HOLDS_N_MM2, bentByN, BRANCH_WALLS, NOZZLE_PUSHES_N } from '../bending'
import type { Branch } from './branch'

/** Branches that hold together above: what bends one of them bends all. */
export type Stance = { root: Stance | null; topLevel: number }

/** Branches stand so many times a nozzle's push: those that are about to join overlap. */
const SURE = 1.5
/** So many times it by themselves, where they are to stand alone until they hold together. */
const ALONE_SURE = 1.2
/** They are as thick as that from this share of their height below their tips. */
const FROM = 0.4
/** Places of two branches nearer to each other than this hang together. */
const TOGETHER_MM = 0.8
/** Where such cells begin: what is symmetric does not lie on their borders. */
const OFF_CENTRE = 0.31
/** Strips of a slope lie on levels so far from each other at most, and hang together. */
const LAPPING_LEVELS = 3
const STEP_MM = 0.1
/** The farthest of several branches is so many times as far from their middle as they are on average. */
const FARTHEST = 1.5
const THICKEST_MM = 8

/** Radii that a branch grows to, each from a level downwards over some length, and that of its foot. */
export type Steady = { readonly grows: readonly Growth[]; readonly footRadiusMm: number }
type Growth = { readonly radiusMm: number; readonly belowLevel: number; readonly overMm: number }

export const stanceFrom = (topLevel: number): Stance => ({ root: null, topLevel })

export function rootOf(stance: Stance): Stance {
  let root = stance
  while (root.root) root = root.root
  for (let one = stance; one !== root;) {
    const next = one.root!
    one.root = root
    one = next
  }
  return root
}

/** What holds one of two holds both from now on. */
export function unite(one: Stance, other: Stance): void {
  const [a, b] = [rootOf(one), rootOf(other)]
  if (a === b) return
  b.root = a
  a.topLevel = Math.max(a.topLevel, b.topLevel)
}

/**
 * Unites branches that carry places beside each other, on one level or on levels that lap.
 * @returns is told, from the top down, the places of each branch on a level, x and y by turns
 */
export function unitingBeside(): (
  level: number,
  upon: Iterable<readonly [Branch, readonly number[]]>,
) => void {
  /** Of each cell the branch that carried a place in it last, and at which level. */
  const carriers = new Map<number, Branch>()
  const levels = new Map<number, number>()
  const cellOf = (column: number, row: number) => (column + 0x8000) * 0x10000 + row + 0x8000
  return (level, upon) => {
    for (const [branch, places] of upon)
      for (let i = 0; i < places.length; i += 2) {
        const column = Math.floor(places[i] / TOGETHER_MM + OFF_CENTRE)
        const row = Math.floor(places[i + 1] / TOGETHER_MM + OFF_CENTRE)
        const own = cellOf(column, row)
        if (carriers.get(own) === branch && levels.get(own) === level) continue
        for (let c = column - 1; c <= column + 1; c++)
          for (let r = row - 1; r <= row + 1; r++) {
            const beside = carriers.get(cellOf(c, r))
            if (beside && beside !== branch && levels.get(cellOf(c, r))! - level <= LAPPING_LEVELS)
              unite(beside.stance, branch.stance)
          }
        carriers.set(own, branch)
        levels.set(own, level)
      }
  }
}

type SteadyRules = {
  readonly tipMm: number
  readonly lineWidthMm: number
  readonly heightMm: number
  /** Whether each branch stands by itself, too, until it holds together with others. */
  readonly standAlone: boolean
}

/**
 * Tells each branch how thick it has to be some way down so that a nozzle does not bend what it belongs to,
 * or, until it holds together with others, the branch alone; and how wide its foot, so that it is not tipped,
 * were it to go on as it stands now.
 * Source: sections of one stand add up about their common middle, each with its own moment and its distance.
 */
export function makeSteady(branches: readonly Branch[], rules: SteadyRules): void {
  const groups = new Map<Stance, Branch[]>()
  for (const branch of branches) {
    if (branch.rests) continue
    const root = rootOf(branch.stance)
    const own = groups.get(root)
    if (own) own.push(branch)
    else groups.set(root, [branch])
  }
  for (const [{ topLevel }, own] of groups) {
    const together = thatHolds(own, (topLevel + 1) * rules.heightMm, SURE, rules)
    for (const branch of own) {
      const parts = [{ ...together, belowLevel: branch.topLevel }]
      if (rules.standAlone) {
        const freeMm = (branch.freeLevel + 1) * rules.heightMm
        parts.push({ ...thatHolds([branch], freeMm, ALONE_SURE, rules), belowLevel: branch.freeLevel })
      }
      branch.steady = { grows: parts, footRadiusMm: Math.max(...parts.map((one) => one.footRadiusMm)) }
    }
  }
}

/** Radii with which branches that hold together at some height stand so many times a nozzle's push there. */
function thatHolds(
  own: readonly Branch[],
  tallMm: number,
  times: number,
  { tipMm, lineWidthMm }: SteadyRules,
): Omit<Growth, 'belowLevel'> & { readonly footRadiusMm: number } {
  const apart = apartBy(own)
  const radiusMm = leastFrom(tipMm, (least) => {
    let inertiaMm4 = 0
    let areaMm2 = 0
    for (const { trunk } of own) {
      const r = Math.max(least, trunk)
      const share = Math.min(1, (2 * BRANCH_WALLS * lineWidthMm) / r)
      inertiaMm4 += (share * Math.PI * r ** 4) / 4
      areaMm2 += share * Math.PI * r * r
    }
    inertiaMm4 += (apart / own.length) * areaMm2
    return bentByN({ inertiaMm4 }, tallMm, lineWidthMm, 1) >= times * NOZZLE_PUSHES_N
  })
  // Those farthest from the middle of all are about so far from it.
  const asideMm = FARTHEST * Math.sqrt(apart / own.length)
  const footRadiusMm = leastFrom(radiusMm, (r) => {
    const inertiaMm4 = own.length * Math.PI * r ** 4 * 0.25 + apart * Math.PI * r * r
    const tipsN = (BED_HOLDS_N_MM2 * inertiaMm4) / (r + asideMm) / tallMm
    return tipsN >= times * NOZZLE_PUSHES_N
  })
  return { radiusMm, overMm: FROM * tallMm, footRadiusMm }
}

/** The least radius, in steps from one, with which something holds; the thickest where none does. */
function leastFrom(startMm: number, holds: (radiusMm: number) => boolean): number {
  let radiusMm = startMm
  while (!holds(radiusMm) && radiusMm < THICKEST_MM) radiusMm += STEP_MM
  return radiusMm
}

/** How far branches are from their middle, squared and summed, in the direction in which that is least. */
function apartBy(own: readonly Branch[]): number {
  const count = own.length
  if (count < 2) return 0
  const [x, y] = [
    own.reduce((sum, one) => sum + one.x, 0) / count,
    own.reduce((sum, one) => sum + one.y, 0) / count,
  ]
  let [xx, yy, xy] = [0, 0, 0]
  for (const one of own) {
    xx += (one.x - x) ** 2
    yy += (one.y - y) ** 2
    xy += (one.x - x) * (one.y - y)
  }
  return Math.max(0, (xx + yy) / 2 - Math.hypot((xx - yy) / 2, xy))
}
