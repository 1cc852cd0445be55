import { figuresOf, type FoundPose, type Part, type SearchInput } from '@tender/contract'
import { TenderError } from '@tender/core'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { applyPlacing, meshOfBodies, openMesh, placingOf, type Mesh, type Pose } from '@tender/core/mesh'
import { trianglesIn } from '@tender/core/overhang'
import { createPlanner } from '@tender/core/plan'
import { createJudge, firstPoses, type JudgeOptions } from '@tender/core/pose'
import type { PartShelf } from '../parts/repo'
import type { BatchJob } from './queue'
import { PLAN_ROUND, type SearchRepo } from './repo'
import type { BatchResults } from './schema'

/** Does one batch at a time, keeping the mesh it last worked on. */
export function batchWorker(parts: PartShelf, searches: SearchRepo): (job: BatchJob) => Promise<void> {
  let held: { key: string; mesh: Mesh; part: Part } | null = null

  async function meshOf(partId: string): Promise<{ mesh: Mesh; part: Part }> {
    const part = await parts.one(partId)
    if (held?.key === part.meshSha256) return { mesh: held.mesh, part }
    const chunks: Buffer[] = []
    for await (const chunk of (await parts.meshBytes(part.meshSha256)).chunks) chunks.push(chunk)
    held = { key: part.meshSha256, mesh: openMesh(Buffer.concat(chunks)).mesh, part }
    return held
  }

  return async (job) => {
    const batch = await searches.batch(job)
    if (!batch) return
    try {
      const { mesh, part } = await meshOf(batch.partId)
      await searches.finish(job, await resultsOf(mesh, part.meshSha256, batch.input, job.round, batch.turns))
    } catch (error) {
      // What the part itself makes impossible stays impossible; anything else is tried again by the queue.
      if (!(error instanceof TenderError)) throw error
      await searches.fail(job.searchId, error.message)
    }
  }
}

async function resultsOf(mesh: Mesh, key: string, { document }: SearchInput, round: number, turns: readonly Pose['turn'][]): Promise<BatchResults> {
  const body = meshOfBodies(mesh, (b) => (document.bodies[b] ?? 'part') === 'part')
  if (!body) throw new TenderError('MESH_EMPTY', 'No body of the file is marked as part; there is nothing to lay down.')
  const { decisions, pose, zones } = document
  const shown = zones.filter(({ kind }) => kind === 'show')
  const options: JudgeOptions = { ...decisions, scale: pose.scale, show: shown.length > 0 ? trianglesIn(body, shown) : null }
  if (round === 0) return { turns: firstPoses(body, await solidEngine(), options) }
  const judge = createJudge(body, options)
  if (round < PLAN_ROUND) return { judged: turns.map((turn) => judge(turn)) }
  const planner = createPlanner(await polygonEngine())
  const planned: FoundPose[] = []
  for (const turn of turns) {
    const posed = { ...document, pose: { turn, scale: pose.scale } }
    const { summary } = await planner.plan(key, mesh, posed)
    planned.push({
      judgement: { ...judge(turn), turn: [...turn] },
      figures: figuresOf(summary),
      islands: summary.islands.length,
      standG: ['stand', 'interface', 'footing'].reduce((sum, role) => sum + (summary.estimate.roles[role as 'stand']?.g ?? 0), 0),
      sizeMm: [...applyPlacingSize(body, posed.pose)],
    })
  }
  return { planned }
}

function applyPlacingSize(mesh: Mesh, pose: Pose): [number, number, number] {
  const { positionsMm } = applyPlacing(mesh, placingOf(mesh, pose))
  const max = [0, 0, 0]
  for (const v of mesh.corners) for (let axis = 0; axis < 3; axis++) max[axis] = Math.max(max[axis], positionsMm[3 * v + axis])
  return [2 * max[0], 2 * max[1], max[2]]
}
