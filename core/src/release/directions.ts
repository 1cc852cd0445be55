/** A direction in which something leaves whole, as a unit vector and in words; z points away from the bed. */
export type WayOut = { readonly direction: Direction; readonly words: string }

export type Direction = readonly [number, number, number]

/** Directions that are tried: the plain ones first, then all between, in steps of a third. */
export const DIRECTIONS: readonly WayOut[] = directions()

function directions(): WayOut[] {
  const found = new Map<string, [number, number, number]>()
  for (let z = -3; z <= 3; z++)
    for (let y = -3; y <= 3; y++)
      for (let x = -3; x <= 3; x++) {
        const far = Math.hypot(x, y, z)
        if (far === 0) continue
        const unit: [number, number, number] = [x / far, y / far, z / far]
        found.set(unit.map((value) => value.toFixed(3)).join(' '), unit)
      }
  // Along an axis first, and downwards before anything else: that is how supports are taken off.
  const plain = ([x, y, z]: readonly number[]) => Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) - z / 100
  return [...found.values()]
    .toSorted((a, b) => plain(b) - plain(a))
    .map((direction) => ({ direction, words: wordsOf(direction) }))
}

/** A direction in words. @param direction unit vector */
export function wordsOf([x, y, z]: readonly [number, number, number]): string {
  const aside = [
    Math.abs(y) > 0.35 ? (y < 0 ? 'front' : 'back') : '',
    Math.abs(x) > 0.35 ? (x < 0 ? 'left' : 'right') : '',
  ].filter(Boolean)
  const upright = Math.abs(z) > 0.35 ? (z < 0 ? 'down' : 'up') : ''
  if (aside.length === 0) return upright || 'aside'
  return `toward the ${aside.join(' and ')}${upright ? ` and ${upright}` : ''}`
}
