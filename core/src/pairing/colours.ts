/** How different two colours look, and what that means for a pairing. */
export type ColourAdvice = {
  readonly difference: number
  readonly kind: 'close' | 'between' | 'apart'
  readonly sentence: string
}

/**
 * Below this two filaments pass for one on a finished part; above the other they are told apart at arm's
 * length.
 */
const CLOSE = 15
const APART = 35

/**
 * Says both sides of a pairing's colours: contrast helps to find specks, closeness hides lines where swaps
 * happened.
 * @param a #rrggbb
 * @param b #rrggbb
 * Source: CIE 1976 colour difference, the distance in L*a*b* (D65 white).
 */
export function colourAdvice(a: string, b: string): ColourAdvice {
  const [p, q] = [labOf(a), labOf(b)]
  const difference = Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])
  if (difference < CLOSE)
    return {
      difference,
      kind: 'close',
      sentence: 'The colours are close: lines where swaps happened hide, and so do specks that stay behind.',
    }
  if (difference > APART)
    return {
      difference,
      kind: 'apart',
      sentence:
        'The colours stand apart: specks that stay behind are easy to find, and each swap may show as a line.',
    }
  return {
    difference,
    kind: 'between',
    sentence:
      'The colours are neither close nor far apart: specks can be found in good light, and lines of swaps show a little.',
  }
}

function labOf(hex: string): [number, number, number] {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4
  })
  const x = (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b
  const z = (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089
  const f = (t: number) => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116)
  return [116 * f(y) - 16, 500 * (f(x) - f(y)), 200 * (f(y) - f(z))]
}
