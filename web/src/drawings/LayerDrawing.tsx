import { useId, useMemo, type MouseEvent } from 'react'
import styled, { useTheme } from 'styled-components'
import { planning } from '../workers/geometry'
import type { Cuttable } from '@tender/core/plan'
import { NozzleMark } from './NozzleMark'
import { linesByWidth, regionPath } from './regionPath'
import { usePlanView } from './usePlanView'

type Props = {
  outcome: Cuttable
  zMm: number
  lines: boolean
  lineWidthMm: number
  /** Where a nozzle is. */
  nozzleMm?: readonly [number, number] | null
  /** Told where it is pointed at. */
  onPlace?: (atMm: readonly [number, number]) => void
}

const MARGIN = 4
/** Lines are drawn a little narrower than they are, or nobody could tell them apart. */
const DRAWN = 0.8

/**
 * One layer from above: what is laid, what hangs, the layer below as a ghost; on wish every line as it is
 * printed.
 */
export function LayerDrawing({ outcome, zMm, lines, lineWidthMm, nozzleMm, onPlace }: Props) {
  const { color } = useTheme()
  const id = useId()
  const { bounds } = outcome
  const layer = usePlanView(() => planning().layer(outcome.id, zMm), [outcome.id, zMm])
  const paths = useMemo(() => {
    if (!layer) return null
    return {
      part: regionPath(layer.part),
      below: layer.below && regionPath(layer.below),
      hanging: regionPath(layer.hanging),
      supports: layer.supports.map(({ role, region }) => ({ role, d: regionPath(region) })),
      lines: lines
        ? layer.paths.flatMap((paths) => linesByWidth(paths).map((one) => ({ role: paths.role, ...one })))
        : [],
    }
  }, [layer, lines])
  const roleColour = {
    part: color.partDeep,
    stand: color.stand,
    interface: color.interface,
    footing: color.footing,
    brim: color.footing,
    tower: color.purge,
  }
  const width = bounds.maxX - bounds.minX + 2 * MARGIN
  const height = bounds.maxY - bounds.minY + 2 * MARGIN
  const says = layer
    ? `Layer ${layer.index + 1}, ${layer.bottomMm.toFixed(2)} to ${layer.topMm.toFixed(2)} mm, from above; ${layer.hanging.starts.length > 1 ? 'some of it hangs past the free angle' : 'nothing of it hangs'}.`
    : 'Layer'
  return (
    <Svg
      viewBox={`${bounds.minX - MARGIN} ${-bounds.maxY - MARGIN} ${width} ${height}`}
      role="img"
      aria-label={says}
      data-points={onPlace ? '' : undefined}
      onClick={(event) => onPlace?.(pointedAt(event))}
    >
      <defs>
        <pattern
          id={`${id}h`}
          width="1.1"
          height="1.1"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(30)"
        >
          <path d="M0.55 0v1.1" stroke={color.ink} strokeWidth="0.3" />
        </pattern>
        <pattern
          id={`${id}s`}
          width="1.6"
          height="1.6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(90)"
        >
          <rect width="1.6" height="1.6" fill={color.standWash} />
          <path d="M0.8 0v1.6" stroke={color.stand} strokeWidth="0.5" />
        </pattern>
      </defs>
      {paths && (
        <>
          {!lines &&
            paths.supports.map(({ role, d }, i) => (
              <path
                key={i}
                d={d}
                fill={role === 'stand' ? `url(#${id}s)` : roleColour[role]}
                fillRule="evenodd"
              />
            ))}
          <path d={paths.part} fill={color.part} fillOpacity={lines ? 0.22 : 1} fillRule="evenodd" />
          {paths.lines.map(({ role, widths, d }, i) => (
            <path
              key={i}
              d={d}
              fill="none"
              stroke={roleColour[role]}
              strokeWidth={lineWidthMm * widths * DRAWN}
              strokeLinejoin="round"
              strokeLinecap="round"
            />
          ))}
          <path
            d={paths.hanging}
            fill={`url(#${id}h)`}
            fillRule="evenodd"
            stroke={color.ink}
            strokeWidth="0.12"
          />
          {paths.below && (
            <path
              d={paths.below}
              fill="none"
              stroke={color.damson}
              strokeWidth="0.18"
              strokeDasharray="0.9 0.7"
            />
          )}
        </>
      )}
      {nozzleMm && <NozzleMark atMm={nozzleMm} />}
    </Svg>
  )
}

function pointedAt(event: MouseEvent<SVGSVGElement>): [number, number] {
  const matrix = event.currentTarget.getScreenCTM()!.inverse()
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix)
  return [x, -y]
}

const Svg = styled.svg`
  &[data-points] {
    cursor: crosshair;
  }
  width: 100%;
  height: 100%;
  display: block;
`
