import type { PlanSummary } from '@tender/core/plan'
import { useMemo, useRef, useState, useLayoutEffect, type KeyboardEvent, type PointerEvent } from 'react'
import styled, { useTheme } from 'styled-components'

type Props = {
  summary: PlanSummary
  layerHeightMm: number
  zMm: number
  layer: number
  /** Without these it only shows. */
  onCut?: (zMm: number) => void
  onStep?: (layers: number) => void
}

const EDGE = 30
const HEIGHT = 112
const BASE = 78
const ROOM = 52
/** Widths in px: of the tag that names the layer, of what is said beside islands, between two circles. */
const TAG = 94
const SAID = 150
const LEAST = 4

/**
 * The print from bed to top, left to right: what each height lays down, where filaments swap, where islands
 * and contacts begin.
 */
export function HeightRibbon({ summary, layerHeightMm, zMm, layer, onCut, onStep }: Props) {
  const { color, font } = useTheme()
  const box = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState(1000)
  useLayoutEffect(() => {
    const watcher = new ResizeObserver(([entry]) => setWidth(entry.contentRect.width))
    watcher.observe(box.current!)
    return () => watcher.disconnect()
  }, [])
  const top = Math.max(summary.heightMm, summary.ribbon.zMm.at(-1) ?? 0)
  const at = (z: number) => EDGE + (z / top) * (width - 2 * EDGE)
  const bars = useMemo(
    () => binned(summary, Math.min(Math.round(top / layerHeightMm), 300), top),
    [summary, top, layerHeightMm],
  )
  const most = Math.max(
    ...bars.part.map((value, i) => value + bars.stand[i] + bars.interface[i] + bars.purge[i]),
    1e-9,
  )
  const bin = (width - 2 * EDGE) / bars.part.length
  const cut = (event: PointerEvent) => {
    if (event.buttons !== 1 || !onCut) return
    const x = event.clientX - box.current!.getBoundingClientRect().left
    onCut(Math.max(0, Math.min(top, ((x - EDGE) / (width - 2 * EDGE)) * top)))
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const steps: Record<string, number> = {
      ArrowLeft: -1,
      ArrowDown: -1,
      ArrowRight: 1,
      ArrowUp: 1,
      PageDown: -10,
      PageUp: 10,
      Home: -1e9,
      End: 1e9,
    }
    if (!(event.key in steps) || !onStep) return
    event.preventDefault()
    onStep(steps[event.key])
  }
  const layers = [
    { fill: color.part, values: bars.part, under: bars.part.map(() => 0) },
    { fill: color.stand, values: bars.stand, under: bars.part },
    {
      fill: color.interface,
      values: bars.interface,
      under: bars.part.map((value, i) => value + bars.stand[i]),
    },
    {
      fill: color.purge,
      values: bars.purge,
      under: bars.part.map((value, i) => value + bars.stand[i] + bars.interface[i]),
    },
  ]
  const tall = (value: number) => (value / most) * ROOM
  const ticks = niceSteps(top)
  const tagX = Math.max(TAG / 2 + 3, Math.min(width - TAG / 2 - 3, at(zMm)))
  const isClearOfTag = (z: number) => Math.abs(at(z) - tagX) > TAG / 2 + 24
  const islands = inRows(
    summary.islands.map(({ zMm, held }) => ({ x: at(zMm), held })),
    width,
  )
  return (
    <Box
      ref={box}
      {...(onCut
        ? {
            role: 'slider',
            tabIndex: 0,
            'aria-label': 'Height of the cut',
            'aria-valuemin': 0,
            'aria-valuemax': Number(top.toFixed(2)),
            'aria-valuenow': Number(zMm.toFixed(2)),
            'aria-valuetext': `${zMm.toFixed(2)} mm, layer ${layer} of ${summary.layers}`,
          }
        : { role: 'img', 'aria-label': `The print up to ${zMm.toFixed(2)} mm of ${top.toFixed(2)} mm` })}
      onPointerDown={cut}
      onPointerMove={cut}
      onKeyDown={onKeyDown}
    >
      <svg width={width} height={HEIGHT} aria-hidden>
        {layers.map(({ fill, values, under }) => (
          <path
            key={fill}
            fill={fill}
            d={values
              .map((value, i) =>
                value > 0
                  ? `M${(EDGE + i * bin).toFixed(2)} ${(BASE - tall(under[i])).toFixed(2)}h${(bin * 0.86).toFixed(2)}v${(-tall(value)).toFixed(2)}h${(-bin * 0.86).toFixed(2)}z`
                  : '',
              )
              .join('')}
          />
        ))}
        <path d={`M${EDGE} ${BASE + 0.5}H${width - EDGE}`} stroke={color.ink} />
        <path
          d={[...summary.ribbon.swaps]
            .map((count, i) => (count > 0 ? `M${at(summary.ribbon.zMm[i]).toFixed(1)} ${BASE + 3}v7` : ''))
            .join('')}
          stroke={color.interface}
          strokeWidth="1.5"
        />
        {islands.map(({ circles, x, anchor, text, isHeld }) => (
          <g key={x} fill="none" strokeWidth="1.7">
            {circles.map((circle) => (
              <circle
                key={`${circle.x} ${circle.held}`}
                cx={circle.x}
                cy="15"
                r="4.5"
                stroke={circle.held ? color.ink : color.wine}
              />
            ))}
            <text
              x={x}
              y="19"
              fontSize="11.5"
              textAnchor={anchor}
              fill={isHeld ? color.soft : color.wine}
              fontFamily={font.sans}
            >
              {text}
            </text>
          </g>
        ))}
        {summary.contacts.map((contact, i) => (
          <path
            key={i}
            d={`M${at(contact.zMm) - 3.5} 27h7l-3.5 5z`}
            fill={contact.areaMm2 > 0 ? color.partDeep : color.wine}
          />
        ))}
        {ticks.filter(isClearOfTag).map((z) => (
          <text
            key={z}
            x={at(z)}
            y="106"
            fontSize="11"
            textAnchor="middle"
            fill={color.soft}
            fontFamily={font.mono}
          >
            {z} mm
          </text>
        ))}
        <path d={`M${at(zMm)} 4V${BASE + 15}`} stroke={color.damson} strokeWidth="2" />
        <g transform={`translate(${tagX} ${BASE + 14})`}>
          <rect x={-TAG / 2} y="0" width={TAG} height="19" rx="6" fill={color.damson} />
          <text y="13.5" fontSize="11.5" textAnchor="middle" fill={color.onDamson} fontFamily={font.mono}>
            layer {layer}
          </text>
        </g>
      </svg>
    </Box>
  )
}

/**
 * Volumes per bin of equal height, so that interface layers of their own thickness do not stand between the
 * others as gaps.
 */
function binned({ ribbon }: PlanSummary, count: number, top: number) {
  const bins = Math.max(1, count)
  const of = (values: Float64Array) => {
    const sums = new Array<number>(bins).fill(0)
    for (let i = 0; i < values.length; i++)
      sums[Math.min(bins - 1, Math.max(0, Math.ceil((ribbon.zMm[i] / top) * bins - 1e-6) - 1))] += values[i]
    return sums
  }
  return {
    part: of(ribbon.partMm3),
    stand: of(ribbon.standMm3),
    interface: of(ribbon.interfaceMm3),
    purge: of(ribbon.purgeMm3),
  }
}

function niceSteps(top: number): number[] {
  const step = [1, 2, 5, 10, 20, 50, 100, 200].find((one) => top / one <= 9) ?? 500
  return Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step)
}

/** Those of a kind without the ones that would lie on one before. */
function apart(row: readonly { x: number; held: boolean }[], held: boolean) {
  const shown: { x: number; held: boolean }[] = []
  for (const one of row)
    if (one.held === held && one.x - (shown.at(-1)?.x ?? -Infinity) >= LEAST) shown.push(one)
  return shown
}

/** Circles of islands, and one saying for those between which there is no room for more. */
function inRows(islands: readonly { x: number; held: boolean }[], width: number) {
  const rows: { x: number; held: boolean }[][] = []
  for (const island of islands.toSorted((a, b) => a.x - b.x)) {
    const last = rows.at(-1)
    if (last && island.x - last.at(-1)!.x < SAID) last.push(island)
    else rows.push([island])
  }
  return rows.map((row) => {
    const loose = row.filter(({ held }) => !held).length
    const many = row.length === 1 ? 'island' : `${row.length} islands`
    const isLast = row.at(-1)!.x > width - SAID
    return {
      circles: [...apart(row, true), ...apart(row, false)],
      x: isLast ? row[0].x - 9 : row.at(-1)!.x + 9,
      anchor: isLast ? ('end' as const) : ('start' as const),
      text: loose === 0 ? many : `${many}${loose === row.length ? '' : `, ${loose}`} in the air`,
      isHeld: loose === 0,
    }
  })
}

const Box = styled.div`
  width: 100%;
  height: ${HEIGHT}px;
  overflow: hidden;
  touch-action: none;
  cursor: col-resize;
  border-radius: ${({ theme }) => theme.radius.s};
  svg {
    display: block;
  }
`
