import { TenderError } from '../errors'
import { meshOfBodies, type Mesh } from '../mesh'
import { trianglesIn } from '../overhang'
import type { JudgeOptions } from '../pose'
import type { BodyRole, PlanDocument } from './document'

/** What a body is for; those that nothing was said of are part. */
export const roleOf = (roles: readonly BodyRole[], body: number): BodyRole => roles[body] ?? 'part'

/**
 * The bodies that are part, as one mesh.
 * @throws TenderError MESH_EMPTY when none is
 */
export function partBody(mesh: Mesh, roles: readonly BodyRole[]): Mesh {
  const part = meshOfBodies(mesh, (body) => roleOf(roles, body) === 'part')
  if (!part)
    throw new TenderError('MESH_EMPTY', 'No body of the file is marked as part; there is nothing to print.')
  return part
}

/** How poses of a part are judged by a plan's decisions and show zones. */
export function judgeOptionsOf(part: Mesh, { decisions, pose, zones }: PlanDocument): JudgeOptions {
  const shown = zones.filter(({ kind }) => kind === 'show')
  return { ...decisions, scale: pose.scale, show: shown.length > 0 ? trianglesIn(part, shown) : null }
}
