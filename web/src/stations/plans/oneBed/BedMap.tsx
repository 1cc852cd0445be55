import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import styled, { useTheme } from 'styled-components'
import { linesPath } from '../../../drawings/regionPath'
import { counted } from '../../../format/numbers'
import type { LaidBed } from '../../../workers/bedWork'

export type Corner = readonly [number, number]

const STEP_MM = 1
const ARROWS: Readonly<Record<string, Corner>> = {
  ArrowLeft: [-STEP_MM, 0],
  ArrowRight: [STEP_MM, 0],
  ArrowUp: [0, STEP_MM],
  ArrowDown: [0, -STEP_MM],
}

/** Room around the bed in the picture. */
const ROUND_MM = 6

/** The bed from above; what stands on it is moved by pointer or by arrow keys. */
export function BedMap({
  places,
  bedMm: [width, depth],
  lineWidthMm,
  onMove,
  onPut,
}: {
  places: LaidBed['places']
  bedMm: Corner
  lineWidthMm: number
  /** A place while it is dragged. */
  onMove: (n: number, to: Corner) => void
  /** It was let go, or moved by a key. */
  onPut: (n: number, to: Corner) => void
}) {
  const { color } = useTheme()
  const grabbed = useRef<{ readonly n: number; readonly off: Corner } | null>(null)
  const pointAt = (event: PointerEvent<SVGSVGElement>): Corner => {
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(
      event.currentTarget.getScreenCTM()!.inverse(),
    )
    return [x, -y]
  }
  const toward = (event: PointerEvent<SVGSVGElement>): Corner => {
    const [x, y] = pointAt(event)
    const { off } = grabbed.current!
    return [Math.round(x - off[0]), Math.round(y - off[1])]
  }
  const grab = (event: PointerEvent<SVGSVGElement>) => {
    const n = Number((event.target as Element).closest('[data-n]')?.getAttribute('data-n') ?? NaN)
    if (!Number.isInteger(n)) return
    const [x, y] = pointAt(event)
    const [px, py] = places[n].atMm
    grabbed.current = { n, off: [x - px, y - py] }
    event.currentTarget.setPointerCapture(event.pointerId)
  }
  const keys = (n: number) => (event: KeyboardEvent) => {
    const by = ARROWS[event.key]
    if (!by) return
    event.preventDefault()
    const times = event.shiftKey ? 10 : 1
    const [x, y] = places[n].atMm
    onPut(n, [x + times * by[0], y + times * by[1]])
  }
  return (
    <Map
      viewBox={`${-ROUND_MM} ${-depth - ROUND_MM} ${width + 2 * ROUND_MM} ${depth + 2 * ROUND_MM}`}
      role="group"
      aria-label={`The bed with ${counted(places.length, 'variant')}`}
      onPointerDown={grab}
      onPointerMove={(event) => grabbed.current && onMove(grabbed.current.n, toward(event))}
      onPointerUp={(event) => {
        if (grabbed.current) onPut(grabbed.current.n, toward(event))
        grabbed.current = null
      }}
    >
      <rect x="0" y={-depth} width={width} height={depth} rx="4" className="bed" />
      {places.map(({ name, dots, atMm: [x, y], sizeMm: [w, d], fromMm, lines }, n) => (
        <g
          key={name}
          data-n={n}
          tabIndex={0}
          role="button"
          aria-label={`${name} at ${Math.round(x)}, ${Math.round(y)} mm; arrow keys move it`}
          onKeyDown={keys(n)}
        >
          <rect x={x} y={-y - d} width={w} height={d} rx="2" className="place" />
          {Array.from({ length: dots }, (_, dot) => (
            <circle key={dot} cx={x + 3 + dot * 4} cy={-y - 3} r="1.6" className="dot" />
          ))}
          <g transform={`translate(${x + fromMm[0]} ${-y - fromMm[1]})`}>
            {lines.map(({ role, xyMm, starts }, i) => (
              <path
                key={i}
                d={linesPath(xyMm, starts)}
                fill="none"
                stroke={role === 'part' ? color.partDeep : role === 'stand' ? color.stand : color.footing}
                strokeWidth={lineWidthMm}
              />
            ))}
          </g>
          <text x={x + w / 2} y={-y - d - 2} textAnchor="middle">
            {name}
          </text>
        </g>
      ))}
    </Map>
  )
}

const Map = styled.svg`
  width: 100%;
  max-height: 58vh;
  touch-action: none;
  .bed {
    fill: ${({ theme }) => theme.color.paper};
    stroke: ${({ theme }) => theme.color.line};
  }
  .place {
    fill: ${({ theme }) => theme.color.part};
    fill-opacity: 0.18;
    stroke: ${({ theme }) => theme.color.partDeep};
  }
  .dot {
    fill: ${({ theme }) => theme.color.damson};
  }
  text {
    fill: ${({ theme }) => theme.color.ink};
    /* The drawing is in millimetres, and so are its letters. */
    font: 500 6px ${({ theme }) => theme.font.sans};
    pointer-events: none;
  }
  g {
    cursor: grab;
    outline: none;
  }
  g:focus-visible .place {
    stroke: ${({ theme }) => theme.color.damson};
    stroke-width: 2;
  }
`
