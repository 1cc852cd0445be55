import { composeTurns, turnAbout, turnFaceDown, type Mesh, type Pose, type SolidEngine } from '../mesh'
import type { Checkpoint } from '../slice'
import { airBelow, facetBins } from './facetBins'
import { hullFaces, outerPoints, sphereDirections } from './hullFaces'
import { createJudge, type JudgeOptions, type Judgement } from './judgePose'

/** Directions looked at on gathered faces alone, which costs next to nothing. */
const GLANCES = 2500
/**
 * Directions that the glance leaves for a rough judgement; with many triangles that is hardly quicker than a
 * fine one, so fewer.
 */
const ROUGH = (triangles: number) => (triangles > 200_000 ? 60 : 420)
const ROUGH_COLUMNS = 18
/** Poses that are left to be judged in full. */
const FIRST_ROUND = 40
const APART_COS = Math.cos((7 * Math.PI) / 180)
const ROUGHLY_APART_COS = Math.cos((3.5 * Math.PI) / 180)
/** After the first round the best are tilted by these steps, each a round of its own. */
const TILTS_DEG = [5, 2.5, 1.2, 0.6]
const TILTED = [5, 3, 2, 1]
/** With limits per side, the best are turned about the upright axis at last. */
const TURNED = 3
const TURNS = 12

/** Rounds of a search: the first, one for each tilt, and one of turns about the upright axis. */
export const SEARCH_ROUNDS = 2 + TILTS_DEG.length

/**
 * Poses worth a closer look, from all directions of the sphere and every flat side of the hull: those with
 * the least air under hanging faces, no two within a few degrees of each other. As drawn is always among
 * them.
 */
export function firstPoses(mesh: Mesh, solids: SolidEngine, options: JudgeOptions): Pose['turn'][] {
  const bins = facetBins(mesh)
  const points = outerPoints(mesh)
  const limit = options.sideAnglesDeg
    ? Math.max(options.freeAngleDeg, ...options.sideAnglesDeg)
    : options.freeAngleDeg
  const glance = (down: readonly [number, number, number]) => {
    let lowest = -Infinity
    for (const [x, y, z] of points) lowest = Math.max(lowest, x * down[0] + y * down[1] + z * down[2])
    return airBelow(bins, down, lowest, limit)
  }
  const faces = hullFaces(mesh, solids)
    .slice(0, 14)
    .map(({ normal }) => normal)
  const chosen: (readonly [number, number, number])[] = [[0, 0, -1], ...faces]
  const glanced = apart(
    sphereDirections(GLANCES).map((down) => ({ down, cost: glance(down) })),
    [],
    ROUGH(mesh.corners.length / 3),
    ROUGHLY_APART_COS,
  )
  const judge = createJudge(mesh, options)
  const rough = glanced.map((down) => ({ down, cost: burdenOf(judge(turnFaceDown(down), ROUGH_COLUMNS)) }))
  return apart(rough, chosen, FIRST_ROUND, APART_COS).map(turnFaceDown)
}

type Direction = readonly [number, number, number]

/** The cheapest directions, after those already chosen, none within an angle of another. */
function apart(
  all: readonly { readonly down: Direction; readonly cost: number }[],
  chosen: readonly Direction[],
  count: number,
  cos: number,
): Direction[] {
  const kept = [...chosen]
  for (const { down } of [...all].sort((a, b) => a.cost - b.cost)) {
    if (kept.length >= count) break
    if (kept.every((other) => other[0] * down[0] + other[1] * down[1] + other[2] * down[2] < cos))
      kept.push(down)
  }
  return kept
}

/**
 * Poses of the next round: the best so far, tilted a little to either side, and at last turned about the
 * upright axis.
 * @param round of the poses wanted, 1 to SEARCH_ROUNDS - 1
 * @returns none when the round has nothing to add
 */
export function nextPoses(
  judged: readonly Judgement[],
  round: number,
  options: Pick<JudgeOptions, 'sideAnglesDeg'>,
): Pose['turn'][] {
  const best = [...judged].sort(byBurden)
  if (round <= TILTS_DEG.length) {
    const step = TILTS_DEG[round - 1]
    return distinct(best, TILTED[round - 1]).flatMap(({ turn }) =>
      [0, 60, 120, 180, 240, 300].map((towards) => {
        const [x, y] = [Math.cos((towards * Math.PI) / 180), Math.sin((towards * Math.PI) / 180)]
        return composeTurns(turnAbout([x, y, 0], step), turn)
      }),
    )
  }
  if (!options.sideAnglesDeg) return []
  return distinct(best, TURNED).flatMap(({ turn }) =>
    Array.from({ length: TURNS - 1 }, (_, k) =>
      composeTurns(turnAbout([0, 0, 1], ((k + 1) * 360) / TURNS), turn),
    ),
  )
}

/**
 * Less support first; of two alike, the lower. What must look good counts double where it is touched. A pose
 * that falls over by itself is only taken when nothing else will do: it is charged for stands to lean on, a
 * tenth of a cube of its height.
 */
export const byBurden = (a: Judgement, b: Judgement): number =>
  burdenOf(a) - burdenOf(b) || a.heightMm - b.heightMm
export const burdenOf = ({ supportMm3, showMm2, heightMm, standing }: Judgement): number =>
  supportMm3 + 2 * showMm2 + (standing.verdict === 'falls' ? 0.1 * heightMm ** 3 : 0)

/** The best that do not point down nearly the same way. */
export function distinct(sorted: readonly Judgement[], count: number): Judgement[] {
  const kept: Judgement[] = []
  for (const one of sorted) {
    if (kept.length >= count) break
    if (
      kept.every(
        (other) => downOf(one).reduce((sum, value, i) => sum + value * downOf(other)[i], 0) < APART_COS,
      )
    )
      kept.push(one)
  }
  return kept
}

/** Where down is in the part's own coordinates. */
export function downOf({ turn: [x, y, z, w] }: { readonly turn: Pose['turn'] }): [number, number, number] {
  return [-2 * (x * z - y * w), -2 * (y * z + x * w), -(1 - 2 * (x * x + y * y))]
}

/** What a maker weighs against each other; less is better in all. */
export const CRITERIA = [
  'supportMm3',
  'contactMm2',
  'showMm2',
  'heightMm',
  'contactLayers',
  'thinMm',
  'unsteady',
] as const
export type Criterion = (typeof CRITERIA)[number]
export const criterionOf = (judgement: Judgement, criterion: Criterion): number =>
  criterion === 'unsteady' ? -judgement.standing.tipDeg : judgement[criterion]

/**
 * Those that no other beats or equals in everything and beats in something.
 * Source: Pareto order.
 */
export function paretoBest(judged: readonly Judgement[]): Judgement[] {
  const beats = (a: Judgement, b: Judgement) => {
    let better = false
    for (const criterion of CRITERIA) {
      const [x, y] = [criterionOf(a, criterion), criterionOf(b, criterion)]
      const slack = 1e-3 * Math.max(Math.abs(x), Math.abs(y)) + 1e-9
      if (x > y + slack) return false
      if (x < y - slack) better = true
    }
    return better
  }
  return judged.filter((one) => !judged.some((other) => other !== one && beats(other, one)))
}

/**
 * The poses to show: the best by burden, then the best by each criterion alone; all of them point different
 * ways.
 */
export function shortlist(all: readonly Judgement[], count = 8): Judgement[] {
  const upright = all.filter(({ standing }) => standing.verdict !== 'falls')
  const judged = upright.length >= 3 ? upright : all
  const best = [...judged].sort(byBurden)
  const heads = CRITERIA.map(
    (criterion) =>
      [...judged].sort((a, b) => criterionOf(a, criterion) - criterionOf(b, criterion) || byBurden(a, b))[0],
  )
  const drawn = all.find((one) => downOf(one)[2] < -0.999999)
  return distinct(
    [
      ...best.slice(0, 1),
      ...(drawn ? [drawn] : []),
      ...distinct(best, Math.ceil(count / 2)),
      ...heads,
      ...best,
    ].filter((one) => one !== undefined),
    count,
  )
}

/** The whole search in one go. */
export async function searchPoses(
  mesh: Mesh,
  solids: SolidEngine,
  options: JudgeOptions,
  checkpoint?: Checkpoint,
): Promise<Judgement[]> {
  const judged: Judgement[] = []
  const judge = createJudge(mesh, options)
  for (let round = 0; round < SEARCH_ROUNDS; round++) {
    const turns = round === 0 ? firstPoses(mesh, solids, options) : nextPoses(judged, round, options)
    for (const [i, turn] of turns.entries()) {
      await checkpoint?.(round + i / turns.length, SEARCH_ROUNDS)
      judged.push(judge(turn))
    }
  }
  return judged.sort(byBurden)
}
