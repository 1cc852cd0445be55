/**
 * Cells of a grid by a hash: those of a row lie side by side, since they are asked for together. Cells share
 * places: what comes from another cell is told by its distance.
 * @param count how many things will be put into cells
 */
export function cellPlaces(count: number) {
  const places = 2 ** Math.ceil(Math.log2(2 * count + 1))
  return {
    /** What was put into a place last; -1 is nothing. */
    lastIn: new Int32Array(places).fill(-1),
    placeOf: (cx: number, cy: number): number => (cx + Math.imul(cy, 0x9e3779b1)) & (places - 1),
  }
}
