import type { Printer } from '@tender/contract'
import { useTheme } from 'styled-components'
import { three } from '../../format/numbers'

/** Colour of what sits on each nozzle or slot; null where nothing does. */
export type Loaded = readonly (string | null)[]

const [W, GANTRY, TIP, BED] = [300, 40, 92, 128]
/** Heights between nozzles are hundredths of a millimetre: drawn a hundred times larger, they can be seen. */
const Z_SCALE = 100

/**
 * A printer from the front: how its filaments get to the part, where its nozzles are, and from where it is
 * cooled.
 */
export function PrinterDrawing({
  printer,
  loaded,
}: {
  printer: Pick<Printer, 'feed' | 'loads' | 'offsetMm' | 'fanSide'>
  loaded: Loaded
}) {
  const { color, font } = useTheme()
  const { feed, loads, offsetMm, fanSide } = printer
  const [dx, , dz] = offsetMm
  const shared = feed === 'changer'
  const first = shared ? W / 2 : 112
  // The real distance would not fit when it is large; its sign and figure tell it.
  const second = first + Math.sign(dx || 1) * Math.max(34, Math.min(76, Math.abs(dx) * 2.6))
  const rise = Math.max(-16, Math.min(16, dz * Z_SCALE))
  const nozzle = (x: number, up: number, slot: number) => (
    <g key={slot}>
      <path
        d={`M${x - 11} ${GANTRY}h22v${30 - up}h-22z`}
        fill={color.sheet}
        stroke={color.ink}
        strokeWidth="1.5"
      />
      <path
        d={`M${x - 8} ${GANTRY + 30 - up}h16v10l-6 12h-4l-6 -12z`}
        fill={loaded[slot] ?? color.line}
        stroke={color.ink}
        strokeWidth="1.5"
        strokeLinejoin="round"
      />
    </g>
  )
  const says = shared
    ? `One nozzle fed by a changer with ${loads} slots`
    : `${loads} nozzles ${feed === 'nozzles' ? 'on one carriage' : 'on carriages of their own'}, the second ${three(dx)} mm along X and ${three(dz)} mm in height from the first`
  return (
    <svg viewBox={`0 0 ${W} 158`} role="img" aria-label={says} style={{ width: '100%', display: 'block' }}>
      <path d={`M14 ${GANTRY - 6}H${W - 14}`} stroke={color.line} strokeWidth="7" strokeLinecap="round" />
      <path d={`M30 ${BED}H${W - 30}`} stroke={color.ink} strokeWidth="2.4" />
      <path d={`M44 ${BED + 4}v8M${W - 44} ${BED + 4}v8`} stroke={color.soft} strokeWidth="1.4" />
      {feed === 'nozzles' && (
        <rect
          x={Math.min(first, second) - 20}
          y={GANTRY - 16}
          width={Math.abs(second - first) + 40}
          height="22"
          rx="5"
          fill={color.faint}
          stroke={color.ink}
          strokeWidth="1.4"
        />
      )}
      {feed === 'carriages' &&
        [first, second].map((x) => (
          <rect
            key={x}
            x={x - 15}
            y={GANTRY - 16}
            width="30"
            height="22"
            rx="5"
            fill={color.faint}
            stroke={color.ink}
            strokeWidth="1.4"
          />
        ))}
      {shared && (
        <rect
          x={first - 22}
          y={GANTRY - 16}
          width="44"
          height="22"
          rx="5"
          fill={color.faint}
          stroke={color.ink}
          strokeWidth="1.4"
        />
      )}
      {nozzle(first, 0, 0)}
      {!shared && nozzle(second, rise, 1)}
      {shared &&
        Array.from({ length: Math.min(loads, 8) }, (_, slot) => {
          const x = 40 + ((W - 80) * slot) / Math.max(1, Math.min(loads, 8) - 1)
          return (
            <g key={`slot ${slot}`}>
              <path
                d={`M${x} 11Q${x} 22 ${first} ${GANTRY - 16}`}
                fill="none"
                stroke={loaded[slot] ?? color.line}
                strokeWidth="2"
              />
              <circle
                cx={x}
                cy="8"
                r="6.5"
                fill={loaded[slot] ?? color.sheet}
                stroke={color.ink}
                strokeWidth="1.3"
              />
            </g>
          )
        })}
      {!shared && (
        <>
          <path
            d={`M${first} ${TIP + 5}V${BED + 14}M${second} ${TIP + 5 - rise}V${BED + 14}`}
            stroke={color.soft}
            strokeDasharray="2 3"
          />
          <path d={`M${first} ${BED + 12}H${second}`} stroke={color.damson} strokeWidth="1.6" />
          <text
            x={(first + second) / 2}
            y={BED + 25}
            fontSize="11"
            textAnchor="middle"
            fontFamily={font.mono}
            fill={color.damson}
          >
            {three(dx)}
          </text>
          {dz !== 0 && (
            <text x={second + 14} y={GANTRY + 22} fontSize="11" fontFamily={font.mono} fill={color.damson}>
              Z {dz < 0 ? '−' : '+'}
              {Math.abs(dz).toFixed(2)}
            </text>
          )}
        </>
      )}
      <Breeze
        side={fanSide}
        from={Math.min(first, shared ? first : second)}
        to={Math.max(first, shared ? first : second)}
      />
    </svg>
  )
}

/** Strokes of air from the side the fan blows. */
function Breeze({ side, from, to }: { side: Printer['fanSide']; from: number; to: number }) {
  const { color } = useTheme()
  const stroke = (x: number, towards: 1 | -1) =>
    [0, 8, 16].map((y) => (
      <path
        key={`${x}${y}`}
        d={`M${x} ${TIP + y - 8}q${towards * 7} -4 ${towards * 14} 0t${towards * 14} 0`}
        fill="none"
        stroke={color.purge}
        strokeWidth="1.4"
      />
    ))
  const [left, right] = [from - 46, to + 46]
  if (side === 'left') return stroke(left, 1)
  if (side === 'right') return stroke(right, -1)
  if (side === 'around') return [...stroke(left, 1), ...stroke(right, -1)]
  // From the front or the back: air towards or away from the eye.
  return [0, 1, 2].map((i) => (
    <g key={i} transform={`translate(${left + 4 + 12 * i} ${TIP - 2})`}>
      <circle r="4.4" fill="none" stroke={color.purge} strokeWidth="1.4" />
      {side === 'front' ? (
        <path d="M-3 -3l6 6M3 -3l-6 6" stroke={color.purge} strokeWidth="1.4" />
      ) : (
        <circle r="1.5" fill={color.purge} />
      )}
    </g>
  ))
}
