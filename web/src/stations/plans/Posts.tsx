import { Fragment } from 'react'
import { mm, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { NumberInput } from '../../ui/fields'
import { SoftLine } from '../../ui/Sheet'
import { CardToken } from './Token'
import { POST_WIDTHS_MM, usePosts } from './usePosts'

const [NARROWEST_MM, WIDEST_MM, STEP_MM] = POST_WIDTHS_MM

/** Posts set by hand, as a sentence of the letter: each a token for its width. */
export function Posts() {
  const { posts } = usePosts()
  if (posts.length === 0) return null
  return (
    <p>
      Besides, set posts by hand:{' '}
      {posts.map(({ atMm }, i) => (
        <Fragment key={i}>
          <PostToken index={i} /> wide under {three(atMm[2])} mm{i < posts.length - 1 ? ', ' : '.'}
        </Fragment>
      ))}
    </p>
  )
}

/** Arrow keys make a post wider or narrower, Enter opens its card, Backspace takes it away. */
function PostToken({ index }: { index: number }) {
  const { posts, widen, remove } = usePosts()
  const { atMm, widthMm } = posts[index]
  const onKeyDown = (event: { key: string; preventDefault: () => void }) => {
    const direction = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0
    if (direction !== 0) widen(index, widthMm + direction * STEP_MM)
    else if (event.key === 'Backspace' || event.key === 'Delete') remove(index)
    else return
    event.preventDefault()
  }
  const face = mm(widthMm)
  return (
    <CardToken label={`Post under ${three(atMm[2])} mm: ${face} wide`} face={face} onKeyDown={onKeyDown}>
      <b>Post by hand</b>
      <SoftLine>
        At {three(atMm[0])}, {three(atMm[1])}&nbsp;mm, under what is {three(atMm[2])}&nbsp;mm up. It leans
        where it has to; posts near each other are joined.
      </SoftLine>
      <NumberInput
        label="Width"
        unit="mm"
        value={widthMm}
        onChange={(mm) => Number.isFinite(mm) && widen(index, mm)}
        min={NARROWEST_MM}
        max={WIDEST_MM}
        step={STEP_MM}
      />
      <div>
        <Button onPress={() => remove(index)}>Take it away</Button>
      </div>
    </CardToken>
  )
}
