import type { ToolPaths } from '@tender/core/path'
import type { Region } from '@tender/core/polygon'

const short = (value: number) => Math.round(value * 1000) / 1000

/** A region as an SVG path, y upwards turned to y downwards. */
export function regionPath({ xyMm, starts }: Region): string {
  const parts: string[] = []
  for (let r = 0; r + 1 < starts.length; r++) {
    for (let p = starts[r]; p < starts[r + 1]; p++)
      parts.push(`${p === starts[r] ? 'M' : 'L'}${short(xyMm[2 * p])} ${short(-xyMm[2 * p + 1])}`)
    parts.push('Z')
  }
  return parts.join('')
}

/** Open lines as an SVG path. */
export function linesPath(xyMm: Float64Array, starts: Uint32Array): string {
  const parts: string[] = []
  for (let r = 0; r + 1 < starts.length; r++) pushLine(parts, xyMm, starts[r], starts[r + 1])
  return parts.join('')
}

/** Open lines as SVG paths, those of about one width as one: in tenths of a usual line's. */
export function linesByWidth({
  xyMm,
  starts,
  flow,
}: ToolPaths): { readonly widths: number; readonly d: string }[] {
  const byTenths = new Map<number, string[]>()
  for (let r = 0; r + 1 < starts.length; r++) {
    const tenths = Math.max(1, Math.round(10 * flow[r]))
    let parts = byTenths.get(tenths)
    if (!parts) byTenths.set(tenths, (parts = []))
    pushLine(parts, xyMm, starts[r], starts[r + 1])
  }
  return [...byTenths].map(([tenths, parts]) => ({ widths: tenths / 10, d: parts.join('') }))
}

function pushLine(parts: string[], xyMm: Float64Array, from: number, end: number): void {
  for (let p = from; p < end; p++)
    parts.push(`${p === from ? 'M' : 'L'}${short(xyMm[2 * p])} ${short(-xyMm[2 * p + 1])}`)
}

/**
 * Spans of a section (from, to, bottom, top) as an SVG path of bars. Bars of equal span on top of each other
 * become one.
 */
export function spansPath(spans: Float64Array): string {
  const open = new Map<string, [number, number, number, number]>()
  const parts: string[] = []
  const close = ([from, to, bottom, top]: [number, number, number, number]) =>
    parts.push(`M${short(from)} ${short(-top)}H${short(to)}V${short(-bottom)}H${short(from)}Z`)
  for (let i = 0; i < spans.length; i += 4) {
    const key = `${short(spans[i])}:${short(spans[i + 1])}`
    const below = open.get(key)
    if (below && Math.abs(below[3] - spans[i + 2]) < 1e-6) below[3] = spans[i + 3]
    else {
      if (below) close(below)
      open.set(key, [spans[i], spans[i + 1], spans[i + 2], spans[i + 3]])
    }
  }
  open.forEach(close)
  return parts.join('')
}
