import type { Mark } from '../../drawings/space/Marks'
import type { Hit } from '../../drawings/space/PartBody'
import { three } from '../../format/numbers'
import { useToasts } from '../../ui/Toasts'
import { usePlanSetting } from './PlanContext'

const POST_WIDTH_MM = 4
/** Narrowest and widest post, and the step of an arrow key. */
export const POST_WIDTHS_MM = [1, 40, 0.5] as const
/** A face that looks down by less than this is no underside. */
const LOOKS_DOWN = -0.05

/** Posts set by hand: where they are, and another one where the maker points. */
export function usePosts() {
  const { document, change } = usePlanSetting()
  const toasts = useToasts()
  const { posts } = document
  const setUnder = (atMm: readonly [number, number, number]) => {
    const [x, y, z] = atMm.map((mm) => Number(mm.toFixed(2)))
    change({ posts: [...posts, { atMm: [x, y, z], widthMm: POST_WIDTH_MM }] })
  }
  const setOn = ({ atMm, normal }: Hit) => {
    if (normal[2] > LOOKS_DOWN)
      return toasts.show({ text: 'A post goes under an underside: look from below, and point at one.' })
    setUnder(atMm)
  }
  const marks = posts.map(({ atMm, widthMm }, i): Mark => ({
    key: `post ${i}`,
    text: '⊤',
    label: `A post by hand, ${three(widthMm)} mm wide, under ${three(atMm[2])} mm`,
    atMm,
    strong: false,
  }))
  return {
    posts,
    marks,
    setUnder,
    setOn,
    widen: (n: number, mm: number) => {
      const [low, high] = POST_WIDTHS_MM
      const widthMm = Number(Math.min(high, Math.max(low, mm)).toFixed(2))
      change({ posts: posts.map((post, i) => (i === n ? { ...post, widthMm } : post)) })
    },
    remove: (n: number) => change({ posts: posts.filter((_, i) => i !== n) }),
  }
}
