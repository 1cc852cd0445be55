/** Squares of distances that nobody knows yet. */
export const FAR = 1e9

/**
 * Lower envelope of parabolas: out[q] becomes the least of sites[s] + (q spacing + shift - s spacing)^2.
 * Source: Felzenszwalb and Huttenlocher, "Distance Transforms of Sampled Functions" (2012).
 */
export function lowerEnvelope(
  most: number,
): (
  sites: Float64Array,
  n: number,
  spacing: number,
  shift: number,
  out: Float64Array,
  count: number,
) => void {
  const site = new Int32Array(most)
  const from = new Float64Array(most + 1)
  return (sites, n, spacing, shift, out, count) => {
    let top = -1
    for (let s = 0; s < n; s++) {
      if (sites[s] >= FAR) continue
      const place = s * spacing
      const height = sites[s] + place * place
      let start = -Infinity
      while (top >= 0) {
        const p = site[top] * spacing
        start = (height - sites[site[top]] - p * p) / (2 * (place - p))
        if (start > from[top]) break
        top--
        start = -Infinity
      }
      site[++top] = s
      from[top] = start
    }
    if (top < 0) {
      out.fill(FAR, 0, count)
      return
    }
    from[top + 1] = Infinity
    let at = 0
    for (let q = 0; q < count; q++) {
      const place = q * spacing + shift
      while (from[at + 1] < place) at++
      const d = place - site[at] * spacing
      out[q] = sites[site[at]] + d * d
    }
  }
}

/**
 * Spreads squares of distances along a line of a grid, in place.
 * @param most cells of the longest line
 */
export function lineSpreader(
  most: number,
  spacing: number,
): (squares: Float32Array, first: number, stride: number, n: number) => void {
  const envelope = lowerEnvelope(most)
  const [sites, out] = [new Float64Array(most), new Float64Array(most)]
  return (squares, first, stride, n) => {
    for (let s = 0; s < n; s++) sites[s] = squares[first + s * stride]
    envelope(sites, n, spacing, 0, out, n)
    for (let s = 0; s < n; s++) squares[first + s * stride] = out[s]
  }
}

/** Of each cell of a grid the square of the distance to the nearest marked one, in cells. */
export function squaresFrom(
  marked: Uint8Array,
  [nx, ny, nz]: readonly [number, number, number],
): Float32Array {
  const squares = Float32Array.from(marked, (mark) => (mark ? 0 : FAR))
  const spread = lineSpreader(Math.max(nx, ny, nz), 1)
  for (let k = 0; k < nz; k++) {
    for (let j = 0; j < ny; j++) spread(squares, (k * ny + j) * nx, 1, nx)
    for (let i = 0; i < nx; i++) spread(squares, k * nx * ny + i, nx, ny)
  }
  for (let c = 0; c < nx * ny; c++) spread(squares, c, nx * ny, nz)
  return squares
}
