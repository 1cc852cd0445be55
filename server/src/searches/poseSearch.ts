import { figuresOf, type FoundPose, type PoseSearch, SearchInput } from '@tender/contract'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { supportGrams } from '@tender/core/estimate'
import type { Pose } from '@tender/core/mesh'
import { createPlanner } from '@tender/core/plan'
import { judgeOptionsOf, partBody } from '@tender/core/decide'
import {
  createJudge,
  firstPoses,
  nextPoses,
  SEARCH_ROUNDS,
  shortlist,
  type Judgement,
} from '@tender/core/pose'
import type { JobKind } from '../jobs/kind'
import type { JobState } from '../jobs/repo'

type Turn = Pose['turn']
/** Poses to look at; none in the first round, which finds them. */
type Work = readonly Turn[]
type Result = { readonly turns?: Turn[]; readonly judged?: Judgement[]; readonly planned?: FoundPose[] }

/** Poses a worker judges in one go: a second or two of work. */
const BATCH_POSES = 8
/** Round 0 finds the poses; then the judging rounds; at last the best are planned for real, one a batch. */
const PLAN_ROUND = SEARCH_ROUNDS + 1
const PLANNED = 8

const chunked = <T>(list: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size))

/** The search for poses that need less holding. */
export const POSE_SEARCH: JobKind<SearchInput, Work, Result> = {
  name: 'poses',
  first: () => [[]],
  next(batches, round, input) {
    const judged = batches.flatMap(({ results }) => results?.judged ?? [])
    const { sideAnglesDeg } = input.document.decisions
    for (let next = round + 1; next < PLAN_ROUND; next++) {
      const turns =
        next === 1
          ? batches.flatMap(({ results }) => results?.turns ?? [])
          : nextPoses(judged, next - 1, { sideAnglesDeg })
      if (turns.length > 0) return { round: next, batches: chunked(turns, BATCH_POSES) }
    }
    return round < PLAN_ROUND
      ? { round: PLAN_ROUND, batches: shortlist(judged, PLANNED).map(({ turn }) => [turn]) }
      : null
  },
  // The planning at the end takes about as long as all that goes before.
  progress: (round, share) => (round >= PLAN_ROUND ? 0.5 + share / 2 : ((round + share) / PLAN_ROUND) * 0.5),
  async run(turns, round, input, { mesh, meshKey }) {
    // One that was asked for by an older version may still be under way.
    const { document } = SearchInput.parse(input)
    const body = partBody(mesh, document.bodies)
    const options = judgeOptionsOf(body, document)
    if (round === 0) return { turns: firstPoses(body, await solidEngine(), options) }
    const judge = createJudge(body, options)
    if (round < PLAN_ROUND) return { judged: turns.map((turn) => judge(turn)) }
    const planner = createPlanner(await polygonEngine())
    const planned: FoundPose[] = []
    for (const turn of turns) {
      const lying = { ...document, pose: { turn, scale: document.pose.scale } }
      const { summary } = await planner.plan(meshKey, mesh, lying)
      planned.push({
        judgement: { ...judge(turn), turn: [...turn] },
        figures: figuresOf(summary),
        islands: summary.islands.length,
        standG: supportGrams(summary.estimate),
      })
    }
    return { planned }
  },
}

/** A search as it goes over the wire. */
export function poseSearchOf(state: JobState<SearchInput, Work, Result>): PoseSearch {
  const { batches, ...rest } = state
  return {
    ...rest,
    judged: batches.reduce((sum, { results }) => sum + (results?.judged?.length ?? 0), 0),
    poses: batches.flatMap(({ results }) => results?.planned ?? []),
  }
}
