import {
  areApart,
  boundsOf,
  boxOf,
  EMPTY_REGION,
  isEmptyRegion,
  nearSides,
  regionContains,
  regionFromRings,
  splitPieces,
  type Region,
  type RememberingEngine,
} from '../../polygon'
import type { Checkpoint } from '../../slice'
import type { Outlines } from '../outlines'
import { printable } from '../printable'
import {
  barredBy,
  barredFrom,
  isSame,
  letOffAt,
  landedOff,
  type ColumnRules,
  type Tops,
} from '../straightColumns'
import { drawIn, joined, meetingOf, sectionOf, type Branch } from './branch'
import { carrying } from './carrying'
import { isOpen, nearestCell, openCells } from './openCells'
import { hullAround, hullsApart } from './hull'
import { disc, regionOf, type Section } from './section'
import { makeSteady } from './stance'

export type BranchRules = ColumnRules & {
  readonly lineWidthMm: number
  readonly heightMm: number
  /** Whether stands may rest on the part. */
  readonly onPart: boolean
  /** Whether each branch is so thick that it stands by itself until it holds together with others. */
  readonly standAlone: boolean
  /** How far a branch may lean or widen from a level to the next above it. */
  readonly stepMm: number
  /** Levels right below a top that stay as wide as it is: its interface. */
  crownLevels(topLevel: number): number
  /** Levels that are laid together with others, and so must all be alike. */
  isStill(level: number): boolean
}

/** Sections this far from each other do not meet. */
const APART_MM = 0.05
/** Part of a lean that is planned with; the rest is for rounding. */
const PLANNED = 0.97
/** A tip is this many lines across. */
const TIP_LINES = 3
/** A crown reaches this far to every side at most. */
const CROWN_MM = 9
/** A crown that comes of two reaches as many times as far. */
const JOINED_CROWN = 1.25
/** Growth of a branch's radius over its height, however steady it is. */
const THICKENS = 0.02
/** Radii in such steps: a branch that stays as it is costs nothing twice. */
const RADIUS_STEP_MM = 0.1
/** Branches farther from each other stay apart, so that what they carry has a stance. */
const JOIN_WITHIN_MM = 13
/** Feet widen over the last height, by as much at least. */
const FOOT_MM = 1.2
/** Feet that have to be wider than that are flat: they come in by so many times their height. */
const FOOT_STEEPNESS = 2
/** A crown goes after strips of a slope that came within the last levels, with this share of its lean. */
const FOLLOWED_LEVELS = 6
const FOLLOW_SHARE = 0.75
const TOLERANCE_MM = 0.004

/** Branches level by level. */
export type Branching = {
  /** What has to be united, cut and looked at: crowns, joints, whatever comes near the part. */
  readonly wide: readonly Region[]
  /** All sections of each level; those that stand alone are in no region. */
  readonly sections: readonly (readonly Section[])[]
}

/**
 * Branching columns, from the top down. Right below an interface a crown as wide as it is; the crown draws in
 * as steeply as the filament stands by itself, cell by cell of a lattice, to branches three lines across;
 * those lean towards their neighbours wherever a way to the bed stays open, join, and thicken.
 * @param taken what other supports fill at a level
 */
export async function branchColumns(
  tops: Tops,
  outlines: Outlines,
  engine: RememberingEngine,
  rules: BranchRules,
  taken: (level: number) => readonly Region[],
  checkpoint?: Checkpoint,
): Promise<Branching> {
  const { count } = outlines
  const wide = new Array<Region>(count).fill(EMPTY_REGION)
  const sections = Array.from({ length: count }, (): Section[] => [])
  const all = [...tops.values()].map(({ top }) => top).filter((top) => !isEmptyRegion(top))
  if (all.length === 0) return { wide, sections }
  const stepMm = PLANNED * rules.stepMm
  const tipMm = (TIP_LINES / 2) * rules.lineWidthMm
  const crownMm = Math.max(2 * tipMm, CROWN_MM)
  const open = openCells(outlines, all, {
    clearMm: rules.sideGapMm + tipMm,
    stepMm: Math.max(1e-3, stepMm),
    onPart: rules.onPart,
    taken,
  })
  const carry = carrying(open, { ...rules, stepMm, tipMm, crownMm })
  /** By the level right below their crown. */
  const crowned = new Map<number, Region[]>()
  for (const [j, { top }] of tops) {
    if (isEmptyRegion(top)) continue
    const level = j - rules.crownLevels(j)
    crowned.set(level, [...(crowned.get(level) ?? []), top])
  }
  let branches: Branch[] = []
  let above: Region = EMPTY_REGION
  let lastAsked: readonly Region[] = []
  let lastFilled: readonly Region[] = []
  for (let k = count - 1; k >= 0; k--) {
    if (checkpoint && k % 8 === 0) await checkpoint(count - k, count)
    if (k % open.slabLevels === open.slabLevels - 1) branches = lean(branches, k)
    if (!rules.isStill(k)) for (const branch of branches) descend(branch, k)
    const filled: Region[] = []
    for (const [j, { top }] of tops)
      if (j >= k && j - rules.crownLevels(j) < k && !isEmptyRegion(top)) filled.push(top)
    const others = taken(k)
    const letOff = letOffAt(k, tops, rules)
    const asked = [...barredBy(k, outlines, rules), ...others]
    for (const top of crowned.get(k) ?? []) {
      const off = [...letOff, ...landedOff(k, [top], outlines, rules, engine)]
      const barred = barredFrom(k, [top], off, outlines, rules, engine)
      carry(branches, engine.minusAll([top], [...barred, ...others]), k)
    }
    branches = branches.filter(({ x, y, rests }) => !rests || !regionContains(outlines.at(k), x, y))
    sections[k] = branches.map((branch) => sectionOf(branch))
    standAlone(sections[k], branches, filled, k)
    for (const section of sections[k]) if (!section.alone) filled.push(regionOf(section))
    if (filled.length === 0) continue
    const off = [...letOff, ...landedOff(k, filled, outlines, rules, engine)]
    // A bundle of upright branches goes on as it is.
    if (off.length === 0 && isSame(asked, lastAsked) && isSame(filled, lastFilled)) {
      wide[k] = above
      continue
    }
    lastAsked = off.length === 0 ? asked : []
    lastFilled = filled
    const barred = barredFrom(k, filled, off, outlines, rules, engine)
    const cut = engine.fewer(engine.minusAll(filled, [...barred, ...others]), TOLERANCE_MM)
    // What no line could be laid in carries nothing above it; on a slope of the part it may still be where
    // something lands.
    above = wide[k] = rules.onPart ? cut : printable(cut, rules.lineWidthMm, engine).kept
  }
  return { wide, sections }

  /** Which sections neither meet another one nor come near the part: nothing of them has to be cut. */
  function standAlone(
    of: readonly Section[],
    from: readonly Branch[],
    crowns: readonly Region[],
    k: number,
  ): void {
    // What is laid as other layers is what its levels have in common.
    if (k === 0 || rules.isStill(k)) return
    const pieces = crowns.flatMap(splitPieces)
    const slabs = slabsOver(k)
    of.forEach((section, i) => {
      const { crown } = section
      if (rules.standAlone && of.some((other) => (crown ?? other.crown) && sectionsMeet(section, other)))
        from[i].freeLevel = k
      section.alone =
        (!from[i].rests || (rules.onPart && !crown)) &&
        !pieces.some((piece) => meets(section, piece)) &&
        hasRoom(section, slabs) &&
        !of.some((other) => sectionsMeet(section, other))
    })
  }

  /** Whether the part is far enough from all of a section. */
  function hasRoom({ x, y, radius, crown }: Section, slabs: readonly number[]): boolean {
    const { sideGapMm } = rules
    const cell = open.cellAt(x, y)
    const roomAt = (at: number) => (at < 0 ? 0 : Math.min(...slabs.map((slab) => open.roomMm(slab, at))))
    if (roomAt(cell) >= sideGapMm + radius) return true
    if (!crown) return false
    const { cellMm } = open
    const box = boundsOf(crown.xyMm)
    for (let py = box.minY; py < box.maxY + cellMm; py += cellMm)
      for (let px = box.minX; px < box.maxX + cellMm; px += cellMm) {
        if (roomAt(open.cellAt(px, py)) >= sideGapMm + cellMm) continue
        const inside = regionContains(crown, px, py) || nearSides(crown, px, py, cellMm)
        if (inside) return false
      }
    return true
  }

  /** Slabs of a level and of its neighbours, which supports may reach into. */
  function slabsOver(k: number): number[] {
    const found = new Set<number>()
    for (const level of [k - rules.freeBelow(k) - 1, k, k + rules.freeLevels + 1])
      found.add(Math.min(open.clear.length - 1, Math.max(0, Math.floor(level / open.slabLevels))))
    return [...found]
  }

  /** One level further down: a branch moves as its slab has planned, and its crown draws in towards it. */
  function descend(branch: Branch, k: number): void {
    const depthMm = (branch.topLevel - k) * rules.heightMm
    const { steady } = branch
    branch.bears = Math.max(branch.bears, tipMm + inSteps(THICKENS * depthMm))
    let thickerMm = 0
    for (const { radiusMm, belowLevel, overMm } of steady?.grows ?? []) {
      const share = Math.min(1, Math.max(0, (belowLevel - k) * rules.heightMm) / overMm)
      thickerMm = Math.max(thickerMm, share * (radiusMm - tipMm))
    }
    // Joining may change what it takes at once: step by step, or what is hollow ends inside of it.
    const steadyMm = Math.min(tipMm + inSteps(thickerMm), branch.trunk + RADIUS_STEP_MM)
    branch.trunk = Math.max(branch.trunk, branch.bears, steadyMm)
    if (branch.dx === 0 && branch.dy === 0) follow(branch, k)
    branch.x += branch.dx
    branch.y += branch.dy
    drawIn(branch, stepMm)
    const upMm = k * rules.heightMm
    const widerMm = steady ? steady.footRadiusMm - branch.trunk : 0
    const footMm = Math.max(0, FOOT_MM - upMm, widerMm - FOOT_STEEPNESS * upMm)
    branch.footMm = Math.min(footMm, branch.footMm + FOOT_STEEPNESS * rules.heightMm)
    branch.radius = Math.max(branch.radius, branch.trunk + branch.footMm)
  }

  /** Below a slope a crown goes after the strips that come next. */
  function follow(branch: Branch, k: number): void {
    const { pull, rests, radius, trunk } = branch
    const slab = Math.floor(k / open.slabLevels) - 1
    if (!pull || rests || slab < 0 || pull.level - k > FOLLOWED_LEVELS || radius <= trunk) return
    const [dx, dy] = [pull.x - branch.x, pull.y - branch.y]
    const far = Math.hypot(dx, dy)
    if (far < 1e-6) return
    const goes = Math.min(far, FOLLOW_SHARE * stepMm)
    const [x, y] = [branch.x + (dx * goes) / far, branch.y + (dy * goes) / far]
    if (!isOpen(open, open.reach[slab], x, y)) return
    branch.x = x
    branch.y = y
  }

  /**
   * Plans the moves of a slab, from its highest level: each branch towards the next one, wherever a way down
   * stays open.
   */
  function lean(all: readonly Branch[], topLevel: number): Branch[] {
    const standing = joined(all, rules.onPart, JOINED_CROWN * crownMm)
    makeSteady(standing, { ...rules, tipMm })
    const slab = Math.floor(topLevel / open.slabLevels)
    let moving = 0
    for (let k = topLevel; k > topLevel - open.slabLevels; k--) if (!rules.isStill(k)) moving++
    const leftMm = Math.max(0, topLevel * rules.heightMm - FOOT_MM)
    const farMm = Math.min(JOIN_WITHIN_MM, (2 * leftMm * stepMm) / rules.heightMm)
    const [resting, reaching] = [true, false].map((rests) => standing.filter((one) => one.rests === rests))
    const meets = standing.map((branch) => meetingOf(branch, branch.rests ? resting : reaching, farMm))
    standing.forEach((branch, i) => {
      branch.dx = branch.dy = 0
      if ((branch.rests && !rules.onPart) || moving === 0) return
      const mostMm = moving * stepMm
      if (branch.radius > branch.trunk) return stayAbove(branch, slab, moving)
      const [wishX, wishY] = meets[i]
      const far = Math.hypot(wishX - branch.x, wishY - branch.y)
      const share = far > mostMm ? mostMm / far : 1
      const wish = roomier(slab, branch, mostMm, [
        branch.x + (wishX - branch.x) * share,
        branch.y + (wishY - branch.y) * share,
      ])
      let next = branch.rests ? null : wayTo(open.reach[slab], wish, branch, mostMm)
      if (!next) {
        branch.rests = true
        if (rules.onPart) next = wayTo(open.landing[slab], wish, branch, mostMm)
        if (!next) return
      }
      moveTo(branch, next, moving)
    })
    return standing
  }

  /** A wish, or where a branch has room for its thickness; as far on the way there as it gets. */
  function roomier(slab: number, branch: Branch, mostMm: number, wish: [number, number]): [number, number] {
    if (branch.rests || !branch.steady) return wish
    const roomAt = (x: number, y: number) => {
      const cell = open.cellAt(x, y)
      // It is told by up to a cell and a half too little.
      return cell < 0 ? Infinity : open.roomMm(slab, cell) + open.cellMm
    }
    const { grows, footRadiusMm } = branch.steady
    // Its foot may still go aside on the way down.
    const leftMm = slab * open.slabLevels * stepMm
    const needMm = rules.sideGapMm + Math.max(footRadiusMm - leftMm, ...grows.map(({ radiusMm }) => radiusMm))
    const now = roomAt(branch.x, branch.y)
    if (roomAt(...wish) >= needMm) return wish
    for (const mm of [needMm, now + mostMm / 2]) {
      const found = nearestCell(open, open.reach[slab], wish, branch, mostMm, (x, y) => roomAt(x, y) >= mm)
      if (found) return found
    }
    return wish
  }

  /** A crown draws in where it is, but for ways to the bed that go aside below it. */
  function stayAbove(branch: Branch, slab: number, moving: number): void {
    const { x, y, rests } = branch
    if (rests || rules.onPart || isOpen(open, open.reach[slab], x, y)) return
    const next = wayTo(open.reach[slab], [x, y], branch, moving * stepMm)
    if (next) moveTo(branch, next, moving)
  }

  /** Plans the way to a place over so many levels, as far as the lean allows. */
  function moveTo(branch: Branch, [x, y]: readonly [number, number], moving: number): void {
    const [dx, dy] = [x - branch.x, y - branch.y]
    const share = Math.min(1 / moving, stepMm / Math.hypot(dx, dy))
    branch.dx = dx * share
    branch.dy = dy * share
  }

  /** A wish, or the open place nearest to it that a branch gets to; within a cell more if there is none. */
  function wayTo(
    cells: Uint8Array,
    wish: [number, number],
    from: { readonly x: number; readonly y: number },
    withinMm: number,
  ): [number, number] | null {
    if (isOpen(open, cells, ...wish)) return wish
    for (const far of [withinMm, withinMm + open.cellMm]) {
      const found = nearestCell(open, cells, wish, from, far)
      if (found) return found
    }
    return null
  }
}

const inSteps = (mm: number): number => Math.ceil(mm / RADIUS_STEP_MM) * RADIUS_STEP_MM

/** Whether two sections meet, or nearly do. */
function sectionsMeet(one: Section, other: Section): boolean {
  if (one === other) return false
  const far = Math.hypot(other.x - one.x, other.y - one.y)
  if (far >= one.radius + other.radius + APART_MM) return false
  return !(one.crown ?? other.crown) || !hullsApart(regionOf(one).xyMm, regionOf(other).xyMm, APART_MM)
}

/** Whether a section meets a piece of a region, or nearly does. */
function meets({ x, y, radius, crown }: Section, piece: Region): boolean {
  const reachMm = radius + APART_MM
  const { minX, minY, maxX, maxY } = boxOf(piece)
  if (x + reachMm <= minX || x - reachMm >= maxX || y + reachMm <= minY || y - reachMm >= maxY) return false
  const around = crown ? regionFromRings([hullAround(crown.xyMm, APART_MM)]) : disc(x, y, reachMm)
  return !areApart(piece, around)
}
