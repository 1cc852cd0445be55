import type { Decisions } from '@tender/core/decide'
import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import styled, { useTheme } from 'styled-components'
import { linesPath, regionPath } from '../../drawings/regionPath'
import { usePlanView } from '../../drawings/usePlanView'
import { three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { NumberInput } from '../../ui/fields'
import { planning } from '../../workers/geometry'
import { towerWords } from './inWords'
import { usePlanSetting } from './PlanContext'
import { CardToken } from './Token'

type Place = NonNullable<Decisions['towerAtMm']>

/** Where the prime tower stands: where there is room, or where the maker put it. */
export function TowerToken() {
  const { document } = usePlanSetting()
  const word = towerWords(document.decisions.towerAtMm)
  return (
    <CardToken label={`Place of the tower: ${word}`} face={word} then=".">
      <TowerCard />
    </CardToken>
  )
}

const STEP_MM = 1
const ARROWS: Readonly<Record<string, Place>> = {
  ArrowLeft: [-STEP_MM, 0],
  ArrowRight: [STEP_MM, 0],
  ArrowUp: [0, STEP_MM],
  ArrowDown: [0, -STEP_MM],
}

/** What lies on the bed, from above, with the tower to be moved by pointer, arrow keys or numbers. */
function TowerCard() {
  const { document, summary, decide } = usePlanSetting()
  const tower = summary?.purges.tower ?? null
  const at = document.decisions.towerAtMm ?? tower?.atMm ?? ([0, 0] as const)
  const put = (to: Place) => decide({ towerAtMm: [Number(to[0].toFixed(1)), Number(to[1].toFixed(1))] })
  return (
    <>
      <b>Place of the tower</b>
      <TowerMap at={at} put={put} />
      <Row>
        <NumberInput
          label="From the part’s middle, to the right"
          unit="mm"
          step={STEP_MM}
          value={at[0]}
          onChange={(x) => Number.isFinite(x) && put([x, at[1]])}
        />
        <NumberInput
          label="and to the back"
          unit="mm"
          step={STEP_MM}
          value={at[1]}
          onChange={(y) => Number.isFinite(y) && put([at[0], y])}
        />
      </Row>
      {tower && (
        <p>
          {three(tower.sideMm)} mm wide and {three(tower.topMm)} mm tall: wide enough for the largest swap, as
          tall as the last one.
        </p>
      )}
      {document.decisions.towerAtMm !== null && (
        <div>
          <Button onPress={() => decide({ towerAtMm: null })}>Where there is room</Button>
        </div>
      )}
    </>
  )
}

function TowerMap({ at, put }: { at: Place; put: (to: Place) => void }) {
  const { color } = useTheme()
  const { document, summary, resultId } = usePlanSetting()
  const grabbed = useRef(false)
  const layer = usePlanView(
    async () =>
      resultId === null ? null : planning().layer(resultId, document.decisions.firstLayerHeightMm / 2),
    [resultId],
  )
  const [width, depth] = document.printer.bedMm
  const side = summary?.purges.tower?.sideMm ?? 10
  const keys = (event: KeyboardEvent) => {
    const by = ARROWS[event.key]
    if (!by) return
    event.preventDefault()
    put([at[0] + by[0], at[1] + by[1]])
  }
  const drag = (event: PointerEvent<SVGSVGElement>) => {
    if (!grabbed.current) return
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      event.currentTarget.getScreenCTM()!.inverse(),
    )
    put([x, -y])
  }
  return (
    <Map
      viewBox={`${-width / 2} ${-depth / 2} ${width} ${depth}`}
      role="application"
      tabIndex={0}
      aria-label={`The bed from above; the tower stands at ${three(at[0])}, ${three(at[1])} mm. Arrow keys move it.`}
      onKeyDown={keys}
      onPointerMove={drag}
      onPointerUp={() => (grabbed.current = false)}
      onPointerLeave={() => (grabbed.current = false)}
    >
      {layer && (
        <>
          <path d={regionPath(layer.part)} fill={color.part} fillRule="evenodd" />
          {layer.paths
            .filter(({ role }) => role !== 'part' && role !== 'tower')
            .map(({ role, xyMm, starts }, i) => (
              <path
                key={i}
                d={linesPath(xyMm, starts)}
                fill="none"
                stroke={role === 'stand' ? color.stand : color.footing}
                strokeWidth={document.decisions.lineWidthMm}
              />
            ))}
        </>
      )}
      <rect
        x={at[0] - side / 2}
        y={-at[1] - side / 2}
        width={side}
        height={side}
        rx={1}
        fill={color.purge}
        stroke={color.ink}
        strokeWidth={0.8}
        onPointerDown={() => (grabbed.current = true)}
      />
    </Map>
  )
}

const Map = styled.svg`
  width: 100%;
  aspect-ratio: 1;
  background: ${({ theme }) => theme.color.paper};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.s};
  touch-action: none;
  rect {
    cursor: grab;
  }
  &:focus-visible {
    ${({ theme }) => theme.focus}
  }
`
const Row = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  align-items: end;
  gap: ${({ theme }) => theme.space.s};
`
