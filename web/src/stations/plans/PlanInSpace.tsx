import type { PlanDocument } from '@tender/core/decide'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { use, useMemo, useState } from 'react'
import styled from 'styled-components'
import { LinesOver } from '../../drawings/space/LinesOver'
import { Solid } from '../../drawings/space/Solid'
import { SpaceView } from '../../drawings/space/SpaceView'
import type { Hit } from '../../drawings/space/PartBody'
import { usePalette } from '../../theme/useScheme'
import { Button } from '../../ui/Button'
import { Skeleton } from '../../ui/Skeleton'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'
import type { Outcome } from '@tender/core/plan'
import { ReleaseContext } from './PlanContext'
import { contactAt, marksOf, waysOf } from './planMarks'
import type { Cut } from './useCut'
import { usePosts } from './usePosts'
import { length } from '../../theme/measures'

type Props = {
  outcome: Outcome
  document: PlanDocument
  meshKey: string
  cut: Cut
  /** Whether what is pointed at gets a post, instead of being looked at. */
  postsSet: boolean
}

/**
 * Part, stands and interface in space: to be turned, cut at the height of the ribbon, seen without the one or
 * the other.
 */
export default function PlanInSpace({ outcome, document, meshKey, cut, postsSet }: Props) {
  const palette = usePalette()
  const { pose, bodies, decisions } = document
  const [shown, setShown] = useState({ part: true, supports: true, cut: false, ways: true })
  const drawing = useQuery({
    queryKey: ['drawing', meshKey, pose, bodies],
    gcTime: 0,
    queryFn: () => unwrap(planning().drawing(meshKey, pose, bodies)),
  })
  const space = useQuery({
    queryKey: ['space', outcome.id],
    gcTime: 0,
    // What was drawn stays until the next is there, and with it the place it is looked at from.
    placeholderData: keepPreviousData,
    queryFn: () => unwrap(planning().space(outcome.id)),
  })
  const free = useMemo(() => marksOf(outcome.summary), [outcome])
  const posts = usePosts()
  const check = use(ReleaseContext)
  const ways = useMemo(() => waysOf(check), [check])
  const marks = [...free, ...posts.marks, ...(shown.ways ? ways.marks : [])]
  const limits = decisions.sideAnglesDeg ?? new Array<number>(8).fill(decisions.freeAngleDeg)
  const pick = (hit: Hit) => {
    if (postsSet) return posts.setOn(hit)
    const index = contactAt(outcome.summary.contacts, hit.atMm)
    if (index !== null) cut.selectContact(index)
  }
  if (!drawing.data || !space.data) return <Skeleton style={{ position: 'absolute', inset: 40 }} />
  const topMm = shown.cut ? cut.zMm : null
  const toggle = (name: keyof typeof shown) => setShown((before) => ({ ...before, [name]: !before[name] }))
  return (
    <>
      <Shown role="group" aria-label="What is shown">
        <Button aria-pressed={shown.part} onPress={() => toggle('part')}>
          part
        </Button>
        <Button aria-pressed={shown.supports} onPress={() => toggle('supports')}>
          supports
        </Button>
        <Button aria-pressed={shown.cut} onPress={() => toggle('cut')}>
          cut at {cut.zMm.toFixed(2)} mm
        </Button>
        {ways.marks.length > 0 && (
          <Button aria-pressed={shown.ways} onPress={() => toggle('ways')}>
            ways in
          </Button>
        )}
      </Shown>
      <SpaceView
        drawing={drawing.data}
        limitsDeg={limits}
        pointer="pick"
        onPlace={pick}
        marks={marks}
        topMm={shown.part ? topMm : -1}
        says={`The plan in space. ${free.length === 0 ? 'Everything that leans is held.' : `${free.length} places stay free; each has a mark.`}`}
      >
        {shown.supports && <Solid positions={space.data.stand} colour={palette.stand} topMm={topMm} />}
        {shown.supports && <Solid positions={space.data.tower} colour={palette.purge} topMm={topMm} />}
        {shown.supports && (
          <Solid positions={space.data.interface} colour={palette.interface} topMm={topMm} />
        )}
        {shown.ways && ways.points.length > 0 && <LinesOver points={ways.points} colour={palette.damson} />}
      </SpaceView>
    </>
  )
}

const Shown = styled.div`
  position: absolute;
  z-index: 1;
  right: ${({ theme }) => theme.space.m};
  top: ${({ theme }) => theme.space.m};
  display: flex;
  gap: ${({ theme }) => theme.space.sm};
  button {
    min-height: ${length.control};
    padding: ${({ theme }) => `${theme.space.hair} ${theme.space.md}`};
  }
`
