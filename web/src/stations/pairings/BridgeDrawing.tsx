import type { ReleaseChain } from '@tender/core/release'
import { useTheme } from 'styled-components'
import { inkOn } from '../../drawings/grades'

/**
 * Part, interface, stand and bed as a bridge, its three bonds named; the colours are those of the filaments.
 */
export function BridgeDrawing({
  chain,
  colours,
}: {
  chain: ReleaseChain
  colours: { readonly part: string; readonly touching: string; readonly bulk: string }
}) {
  const { color, font } = useTheme()
  const { interfaceFollows, bedHolds } = chain
  const follow = {
    surely: { word: 'comes along', ink: color.pine },
    perhaps: { word: 'may not follow', ink: color.clay },
    hardly: { word: 'stays behind', ink: color.wine },
  }[interfaceFollows]
  const first =
    interfaceFollows === 'hardly'
      ? { word: 'holds on', ink: color.clay }
      : { word: 'lets go first', ink: color.pine }
  const bed = bedHolds ? { word: 'bed holds', ink: color.pine } : { word: 'bed may let go', ink: color.clay }
  const label = (y: number, from: number, { word, ink }: { word: string; ink: string }) => (
    <>
      <path d={`M${from} ${y}H322`} stroke={ink} strokeDasharray="2 3" />
      <text x="328" y={y + 5} fontSize="13.5" fontWeight="600" fontFamily={font.sans} fill={ink}>
        {word}
      </text>
    </>
  )
  const edge = { stroke: color.ink, strokeWidth: 0.8, strokeOpacity: 0.45 }
  return (
    <svg
      viewBox="0 0 440 214"
      role="img"
      aria-label={`Part and interface: ${first.word}. Interface and stand: ${follow.word}. Stand and ${bed.word}.`}
      style={{ width: '100%', maxWidth: 520, display: 'block' }}
    >
      <path d="M22 40Q168 -12 314 40V66Q168 14 22 66Z" fill={colours.part} {...edge} />
      <text
        x="168"
        y="31"
        textAnchor="middle"
        fontSize="13.5"
        fontFamily={font.sans}
        fill={inkOn(colours.part)}
      >
        part
      </text>
      <rect x="92" y="56" width="152" height="18" rx="5" fill={colours.touching} {...edge} />
      {[0, 1, 2, 3, 4, 5].map((i) => (
        <rect key={i} x={98 + 25.6 * i} y="88" width="11" height="102" rx="4" fill={colours.bulk} {...edge} />
      ))}
      <path d="M8 192H432" stroke={color.ink} strokeWidth="2.4" />
      {label(51, 250, first)}
      {label(81, 250, follow)}
      {label(180, 250, bed)}
    </svg>
  )
}
