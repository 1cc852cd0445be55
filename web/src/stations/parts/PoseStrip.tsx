import type { FoundPose } from '@tender/contract'
import { paretoBest, type Judgement } from '@tender/core/pose'
import { useState } from 'react'
import styled from 'styled-components'
import { counted, duration, grams, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Segments } from '../../ui/fields'
import { Num, Sheet, SheetTitle, SoftLine, Table } from '../../ui/Sheet'
import { usePartSetting } from './PartContext'
import { PartPicture } from './PartPicture'
import { usePoseSearch } from './usePoseSearch'
import { length } from '../../theme/measures'

const ORDERS = {
  support: { label: 'supports', of: (pose: FoundPose) => pose.standG },
  time: { label: 'time', of: (pose: FoundPose) => pose.figures.timeS },
  contact: { label: 'area touched', of: (pose: FoundPose) => pose.judgement.contactMm2 },
  height: { label: 'height', of: (pose: FoundPose) => pose.judgement.heightMm },
  steady: { label: 'steadiness', of: (pose: FoundPose) => -pose.judgement.standing.tipDeg },
} as const
type Order = keyof typeof ORDERS

/**
 * The poses a search found: small pictures with what each asks for. Two can be put side by side, one is
 * taken.
 */
export function PoseStrip() {
  const { part, draft, change } = usePartSetting()
  const { search } = usePoseSearch(part.id)
  const [order, setOrder] = useState<Order>('support')
  const [compared, setCompared] = useState<readonly FoundPose[]>([])
  const poses = search?.poses ?? []
  if (poses.length === 0) return null
  const best = new Set(paretoBest(poses.map(({ judgement }) => judgement as Judgement)))
  const sorted = poses.toSorted((a, b) => ORDERS[order].of(a) - ORDERS[order].of(b))
  const take = (pose: FoundPose) =>
    change({ pose: { scale: draft.pose.scale, turn: [...pose.judgement.turn] } })
  const toggle = (pose: FoundPose) =>
    setCompared((before) =>
      before.includes(pose) ? before.filter((one) => one !== pose) : [...before.slice(-1), pose],
    )
  const isTaken = (pose: FoundPose) =>
    Math.abs(pose.judgement.turn.reduce((sum, value, i) => sum + value * draft.pose.turn[i], 0)) > 0.99999
  return (
    <Sheet aria-label="Poses found">
      <Head>
        <SheetTitle>Poses found</SheetTitle>
        <Segments
          label="Least first"
          value={order}
          onChange={setOrder}
          options={(Object.keys(ORDERS) as Order[]).map((value) => ({ value, label: ORDERS[value].label }))}
        />
      </Head>
      <Strip>
        {sorted.map((pose) => (
          <li key={pose.judgement.turn.join()} data-taken={isTaken(pose) || undefined}>
            <PartPicture
              meshSha256={part.meshSha256}
              pose={{ turn: pose.judgement.turn, scale: draft.pose.scale }}
            />
            <p>
              <Num>{grams(pose.standG)}</Num> supports, {duration(pose.figures.timeS)}
            </p>
            <SoftLine>
              {three(pose.judgement.heightMm)} mm high,{' '}
              {pose.figures.swaps > 0 ? `${counted(pose.figures.swaps, 'swap')}, ` : ''}
              {pose.islands > 0 ? `${counted(pose.islands, 'island')}, ` : ''}
              {STEADY[pose.judgement.standing.verdict]}
            </SoftLine>
            <SoftLine>
              {best.has(pose.judgement as Judgement) ? 'No other is better in everything' : '\u00a0'}
            </SoftLine>
            <Row>
              <Button isDisabled={isTaken(pose)} onPress={() => take(pose)}>
                {isTaken(pose) ? 'Lies so' : 'Take it'}
              </Button>
              <Button quiet aria-pressed={compared.includes(pose)} onPress={() => toggle(pose)}>
                Compare
              </Button>
            </Row>
          </li>
        ))}
      </Strip>
      {compared.length === 2 && <Comparison a={compared[0]} b={compared[1]} />}
    </Sheet>
  )
}

const STEADY = { stands: 'steady', wobbly: 'wobbly', falls: 'falls over alone' } as const

const ROWS: readonly (readonly [string, (pose: FoundPose) => string])[] = [
  ['Supports', (pose) => grams(pose.standG)],
  ['Whole print', (pose) => `${grams(pose.figures.massG)}, ${duration(pose.figures.timeS)}`],
  ['Area touched', (pose) => `${three(pose.judgement.contactMm2)} mm²`],
  ['of it on show faces', (pose) => `${three(pose.judgement.showMm2)} mm²`],
  ['Height', (pose) => `${three(pose.judgement.heightMm)} mm`],
  ['Swaps', (pose) => String(pose.figures.swaps)],
  ['Islands', (pose) => String(pose.islands)],
  ['Tallest thin stand', (pose) => `${three(pose.judgement.thinMm)} mm`],
  ['Footprint', (pose) => `${three(pose.judgement.standing.footprintMm2)} mm²`],
  ['Tips at', (pose) => `${Math.round(pose.judgement.standing.tipDeg)}°`],
]

function Comparison({ a, b }: { a: FoundPose; b: FoundPose }) {
  return (
    <Table aria-label="Two poses side by side">
      <thead>
        <tr>
          <th>Asked for</th>
          <th className="right">First</th>
          <th className="right">Second</th>
        </tr>
      </thead>
      <tbody>
        {ROWS.map(([label, of]) => (
          <tr key={label}>
            <td>{label}</td>
            <td className="right">{of(a)}</td>
            <td className="right">{of(b)}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  )
}

const Head = styled.div`
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: end;
  gap: ${({ theme }) => theme.space.s};
`
const Strip = styled.ul`
  list-style: none;
  margin: ${({ theme }) => `${theme.space.s} 0 0`};
  padding: ${({ theme }) => `0 0 ${theme.space.sm}`};
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: ${length.m};
  gap: ${({ theme }) => theme.space.m};
  position: relative;
  overflow-x: auto;
  li {
    border: ${({ theme }) => theme.border.faint};
    border-radius: ${({ theme }) => theme.radius.s};
    padding: ${({ theme }) => `${theme.space.s} ${theme.space.md}`};
  }
  li[data-taken] {
    border-color: ${({ theme }) => theme.color.damson};
  }
  img {
    width: 100%;
    aspect-ratio: 100 / 72;
    object-fit: contain;
    display: block;
  }
`
const Row = styled.div`
  display: flex;
  gap: ${({ theme }) => theme.space.sm};
  margin-top: ${({ theme }) => theme.space.sm};
`
