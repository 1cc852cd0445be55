import type { Post } from '../../decide'
import { nearSides, regionContains, type Region } from '../../polygon'
import type { UnheldReason } from '../../stand'
import { POST_REACH_MM } from '../assign'
import { mm } from '../inWords'
import { UNHELD_WORDS } from './held'
import { warning, type PlanWarning, type Warned } from './warning'

/** Lines of a post end this near to the height that it was given. */
const AT_ITS_HEIGHT_MM = 0.02

/** Posts that hold nothing where they were set. */
export function postWarnings({ document, groups, geometry, postsHeld }: Warned): PlanWarning[] {
  const group = groups.find(({ kind }) => kind === 'posts')
  if (!group) return []
  /** The layer whose underside a post was set under. */
  const layerOf = ({ atMm: [x, y, z], widthMm }: Post): number | undefined =>
    [...(group.tops ?? [])].find(
      ([index, top]) =>
        Math.abs(geometry.layers[index].bottomMm - z) <= POST_REACH_MM && meets(top, x, y, widthMm / 2),
    )?.[0]
  const holds = (post: Post): boolean => {
    const layer = layerOf(post)
    const held = layer === undefined ? undefined : postsHeld.get(layer)
    const [x, y] = post.atMm
    return geometry.passes.some(
      ({ holding, topMm, region }) =>
        holding === group.index &&
        held !== undefined &&
        Math.abs(topMm - held.topMm) < AT_ITS_HEIGHT_MM &&
        meets(region, x, y, post.widthMm / 2),
    )
  }
  const idle = document.posts.filter((post) => !holds(post))
  if (idle.length === 0) return []
  const [{ atMm }] = idle
  const layer = layerOf(idle[0])
  const reasons = Object.entries((layer === undefined ? null : postsHeld.get(layer)?.unheldMm2) ?? {})
  const why = reasons.sort((a, b) => b[1] - a[1])[0]?.[0] as UnheldReason | undefined
  const because =
    layer === undefined
      ? 'there is no underside above it'
      : why === 'no way down'
        ? 'there is no way down from it to what a stand may rest on'
        : `its place is ${UNHELD_WORDS[why ?? 'too narrow']}`
  const others =
    idle.length > 1 ? ` ${idle.length - 1} more ${idle.length > 2 ? 'do' : 'does'} not either.` : ''
  return [warning('POST_IDLE', `The post at ${mm(atMm[2])} holds nothing: ${because}.${others}`, { atMm })]
}

const meets = (region: Region, x: number, y: number, withinMm: number): boolean =>
  regionContains(region, x, y) || nearSides(region, x, y, withinMm)
