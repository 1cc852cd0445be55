import { nearSides, regionContains, type Region } from '../../polygon'
import type { UnheldReason } from '../../stand'
import { UNHELD_WORDS } from './held'
import { mm, warning, type PlanWarning, type Warned } from './warning'

/** A post ends within this of where it was set, its gap left off. */
const FARTHEST_MM = 4

/** Posts that hold nothing where they were set. */
export function postWarnings({ document, groups, geometry, postsHeld }: Warned): PlanWarning[] {
  const group = groups.find(({ kind }) => kind === 'posts')
  if (!group) return []
  const own = geometry.passes.filter(
    ({ holding, role }) => holding === group.index && (role === 'interface' || role === 'stand'),
  )
  const idle = document.posts.filter(
    ({ atMm: [x, y, z], widthMm }) =>
      !own.some(({ topMm, region }) => Math.abs(topMm - z) < FARTHEST_MM && meets(region, x, y, widthMm / 2)),
  )
  if (idle.length === 0) return []
  const [{ atMm, widthMm }] = idle
  const layer = [...(group.tops ?? [])].find(
    ([index, top]) =>
      Math.abs(geometry.layers[index].bottomMm - atMm[2]) < FARTHEST_MM &&
      meets(top, atMm[0], atMm[1], widthMm / 2),
  )
  const reasons = layer ? Object.entries(postsHeld.get(layer[0])?.unheldMm2 ?? {}) : []
  const why = reasons.sort((a, b) => b[1] - a[1])[0]?.[0] as UnheldReason | undefined
  const because = !layer
    ? 'there is no underside above it'
    : why === 'no way down'
      ? 'there is nothing below it that a stand could rest on'
      : `its place is ${UNHELD_WORDS[why ?? 'too narrow']}`
  const others =
    idle.length > 1 ? ` ${idle.length - 1} more ${idle.length > 2 ? 'do' : 'does'} not either.` : ''
  return [warning('POST_IDLE', `The post at ${mm(atMm[2])} holds nothing: ${because}.${others}`, { atMm })]
}

const meets = (region: Region, x: number, y: number, withinMm: number): boolean =>
  regionContains(region, x, y) || nearSides(region, x, y, withinMm)
