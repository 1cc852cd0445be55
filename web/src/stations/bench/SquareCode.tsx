import { create } from 'qrcode'
import { useMemo } from 'react'
import { LIGHT } from '../../theme/palette'

/** Cells of quiet around a square code, so that a camera finds its edge. */
const QUIET = 3

/** Text as a square code for a camera: dark on light in either scheme, as cameras expect it. */
export function SquareCode({ text, label }: { text: string; label: string }) {
  const { size, d } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: 'M' })
    let path = ''
    for (let y = 0; y < modules.size; y++)
      for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) path += `M${x} ${y}h1v1h-1z`
    return { size: modules.size, d: path }
  }, [text])
  return (
    <svg
      viewBox={`${-QUIET} ${-QUIET} ${size + 2 * QUIET} ${size + 2 * QUIET}`}
      role="img"
      aria-label={label}
      shapeRendering="crispEdges"
    >
      <rect
        x={-QUIET}
        y={-QUIET}
        width={size + 2 * QUIET}
        height={size + 2 * QUIET}
        rx="1.5"
        fill={LIGHT.sheet}
      />
      <path d={d} fill={LIGHT.ink} />
    </svg>
  )
}
