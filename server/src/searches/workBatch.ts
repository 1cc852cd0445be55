import { figuresOf, type FoundPose, type Part, type SearchInput } from '@tender/contract'
import { TenderError } from '@tender/core'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { supportGrams } from '@tender/core/estimate'
import { openMesh, type Mesh, type Pose } from '@tender/core/mesh'
import { createPlanner, judgeOptionsOf, partBody } from '@tender/core/plan'
import { createJudge, firstPoses } from '@tender/core/pose'
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
  const body = partBody(mesh, document.bodies)
  const options = judgeOptionsOf(body, document)
  if (round === 0) return { turns: firstPoses(body, await solidEngine(), options) }
  const judge = createJudge(body, options)
  if (round < PLAN_ROUND) return { judged: turns.map((turn) => judge(turn)) }
  const planner = createPlanner(await polygonEngine())
  const planned: FoundPose[] = []
  for (const turn of turns) {
    const { summary } = await planner.plan(key, mesh, { ...document, pose: { turn, scale: document.pose.scale } })
    planned.push({ judgement: { ...judge(turn), turn: [...turn] }, figures: figuresOf(summary), islands: summary.islands.length, standG: supportGrams(summary.estimate) })
  }
  return { planned }
}
