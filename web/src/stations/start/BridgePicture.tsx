import { useTheme } from 'styled-components'

/**
 * The whole idea in one drawing: a part leaning out, a stand under it, interface layers, and the gap that
 * lets go.
 */
export function BridgePicture() {
  const { color, font } = useTheme()
  const note = { fontFamily: font.sans, fontSize: 13, fill: color.soft }
  const stands = Array.from({ length: 9 }, (_, i) => 304 + i * 16.6)
  return (
    <svg
      viewBox="0 0 560 300"
      role="img"
      aria-label="A part leans out past its free angle; a stand ends in interface layers just below it, a small gap apart."
    >
      <path d="M20 268H540" stroke={color.ink} strokeWidth="2" />
      <path d="M90 268V96Q90 70 116 70H440V108H300L170 192V268Z" fill={color.part} />
      {Array.from({ length: 11 }, (_, i) => {
        const t = i / 11
        const x = 176 + 120 * t
        const y = 188 - 78 * t
        return (
          <path key={i} d={`M${x} ${y}l${1 + 2 * t} ${6 + 9 * t}`} stroke={color.ink} strokeWidth={0.7 + t} />
        )
      })}
      {stands.map((x) => (
        <rect key={x} x={x} y="148" width="7" height="120" rx="3" fill={color.stand} />
      ))}
      {[0, 1, 2].map((row) =>
        Array.from({ length: 11 }, (_, i) => (
          <rect
            key={`${row}${i}`}
            x={300 + i * 13.4}
            y={117 + row * 10}
            width="12"
            height="9"
            rx="4"
            fill={color.interface}
          />
        )),
      )}
      <path d="M440 108h54M440 116.5h54" stroke={color.damson} strokeWidth="1.2" />
      <path d="M470 92v15M470 132v-15" stroke={color.damson} strokeWidth="1.4" />
      <text x="500" y="117" style={{ ...note, fontFamily: font.mono, fill: color.damson }}>
        0.23
      </text>
      <text x="250" y="94" style={{ ...note, fill: color.ink }}>
        part
      </text>
      <text x="452" y="150" style={note}>
        interface
      </text>
      <text x="452" y="208" style={note}>
        stand
      </text>
      <path d="M170 192V140" stroke={color.soft} strokeDasharray="2 3" />
      <path d="M170 158A34 34 0 0 1 198 174" fill="none" stroke={color.damson} strokeWidth="1.4" />
      <text x="196" y="150" style={{ ...note, fontFamily: font.mono, fill: color.damson }}>
        52°
      </text>
    </svg>
  )
}
