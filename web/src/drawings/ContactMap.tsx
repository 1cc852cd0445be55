import type { Printed, PrintedContact } from '@tender/core/takeOff'
import type { Grade } from '@tender/core/trial'
import { useId } from 'react'
import styled, { useTheme } from 'styled-components'
import { gradeColour } from './grades'

type Rings = readonly (readonly number[])[]
export type MapMark = {
  readonly release: Grade | null
  readonly finish: Grade | null
  readonly leftOut: boolean
}

const MARGIN_MM = 3

/**
 * Rings as an SVG path. From below right stays right, and what lay to the back is at the bottom: y as it is.
 */
const pathOf = (rings: Rings): string =>
  rings
    .map((ring) => {
      let d = ''
      for (let p = 0; p + 1 < ring.length; p += 2) d += `${p === 0 ? 'M' : 'L'}${ring[p]} ${ring[p + 1]}`
      return `${d}Z`
    })
    .join('')

/** A place well inside a contact: the middle of its widest stretch from left to right, of a few heights. */
export function placeInside({
  outline,
  atMm,
}: Pick<PrintedContact, 'outline' | 'atMm'>): readonly [number, number] {
  const ys = outline.flatMap((ring) => ring.filter((_, i) => i % 2 === 1))
  if (ys.length === 0) return [atMm[0], atMm[1]]
  const [low, high] = [Math.min(...ys), Math.max(...ys)]
  let [widest, best]: [number, readonly [number, number]] = [0, [atMm[0], atMm[1]]]
  for (const share of [0.5, 0.35, 0.65, 0.2, 0.8]) {
    // A hair aside, so that no corner lies on it.
    const y = low + (high - low) * share + 1e-4
    const cuts: number[] = []
    for (const ring of outline)
      for (let p = 0; p < ring.length; p += 2) {
        const q = (p + 2) % ring.length
        if (ring[p + 1] > y !== ring[q + 1] > y)
          cuts.push(ring[p] + ((y - ring[p + 1]) / (ring[q + 1] - ring[p + 1])) * (ring[q] - ring[p]))
      }
    cuts.sort((u, v) => u - v)
    for (let c = 0; c + 1 < cuts.length; c += 2)
      if (cuts[c + 1] - cuts[c] > 1.05 * widest)
        [widest, best] = [cuts[c + 1] - cuts[c], [(cuts[c] + cuts[c + 1]) / 2, y]]
  }
  return best
}

function boundsOf({ silhouette, contacts }: Pick<Printed, 'silhouette' | 'contacts'>) {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity]
  const see = (rings: Rings) => {
    for (const ring of rings)
      for (let p = 0; p < ring.length; p += 2) {
        minX = Math.min(minX, ring[p])
        maxX = Math.max(maxX, ring[p])
        minY = Math.min(minY, ring[p + 1])
        maxY = Math.max(maxY, ring[p + 1])
      }
  }
  see(silhouette)
  contacts.forEach(({ outline }) => see(outline))
  return minX <= maxX ? { minX, minY, maxX, maxY } : { minX: 0, minY: 0, maxX: 10, maxY: 10 }
}

type Props = {
  printed: Pick<Printed, 'silhouette' | 'contacts'>
  markOf: (key: string) => MapMark | undefined
  selected?: string
  onSelect?: (key: string) => void
  label?: string
}

/**
 * A print from below, its contacts in the colour of how they came off; the round mark says it in a figure,
 * the square one its face.
 */
export function ContactMap({ printed, markOf, selected, onSelect, label }: Props) {
  const { color, font } = useTheme()
  const id = useId()
  const { minX, minY, maxX, maxY } = boundsOf(printed)
  const [w, h] = [maxX - minX + 2 * MARGIN_MM, maxY - minY + 2 * MARGIN_MM]
  const size = Math.max(w, h)
  // The higher a contact, the farther it is from whoever looks from below: those are drawn first.
  // But the one looked at, which must be seen.
  const order = printed.contacts
    .map((contact, n) => ({ contact, n }))
    .toSorted(
      (a, b) =>
        Number(a.contact.key === selected) - Number(b.contact.key === selected) ||
        b.contact.atMm[2] - a.contact.atMm[2],
    )
  const mark = Math.max(1.4, size * (onSelect ? 0.021 : 0.035))
  // Of marks that would lie on each other the one on top stays.
  const marks: { n: number; contact: PrintedContact; x: number; y: number }[] = []
  for (const { contact, n } of order.toReversed()) {
    const [x, y] = placeInside(contact)
    if (marks.every((other) => Math.hypot(other.x - x, other.y - y) > 2.1 * mark))
      marks.push({ n, contact, x, y })
  }
  const unread = (key: string) => (markOf(key)?.release ?? null) === null
  return (
    <Svg
      viewBox={`${minX - MARGIN_MM} ${minY - MARGIN_MM} ${w} ${h}`}
      role={label ? 'img' : undefined}
      aria-label={label}
      aria-hidden={label || onSelect ? undefined : true}
    >
      <defs>
        <pattern
          id={`${id}u`}
          width={size / 60}
          height={size / 60}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width={size / 60} height={size / 60} fill={color.standWash} />
          <path d={`M${size / 120} 0v${size / 60}`} stroke={color.stand} strokeWidth={size / 400} />
        </pattern>
      </defs>
      <path
        d={pathOf(printed.silhouette)}
        fill={color.part}
        fillOpacity="0.35"
        stroke={color.partDeep}
        strokeWidth={size / 500}
        fillRule="evenodd"
      />
      {order.map(({ contact }) => {
        const own = markOf(contact.key)
        return (
          <path
            key={contact.key}
            d={pathOf(contact.outline)}
            fill={unread(contact.key) ? `url(#${id}u)` : gradeColour(own!.release!)}
            fillOpacity={own?.leftOut ? 0.3 : 0.85}
            fillRule="evenodd"
            stroke={contact.key === selected ? color.damson : color.sheet}
            strokeWidth={contact.key === selected ? size / 110 : size / 420}
            onClick={onSelect && (() => onSelect(contact.key))}
            style={onSelect && { cursor: 'pointer' }}
          />
        )
      })}
      {marks.map(({ contact, n, x, y }) => {
        const own = markOf(contact.key)
        return (
          <g key={contact.key} style={{ pointerEvents: 'none' }}>
            <circle
              cx={x}
              cy={y}
              r={mark}
              fill={color.sheet}
              stroke={contact.key === selected ? color.damson : color.ink}
              strokeWidth={mark / 7}
            />
            <text
              x={x}
              y={y + mark * 0.42}
              textAnchor="middle"
              fontSize={mark * 1.15}
              fontFamily={font.mono}
              fill={color.ink}
            >
              {onSelect ? n + 1 : (own?.release ?? '·')}
            </text>
          </g>
        )
      })}
    </Svg>
  )
}

const Svg = styled.svg`
  display: block;
  width: 100%;
  height: 100%;
`
