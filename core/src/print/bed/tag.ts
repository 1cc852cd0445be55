import { PathWriter } from '../../path'
import type { Bounds2 } from '../../polygon'
import { SAME_HEIGHT_MM } from '../../tolerances'
import type { Print, Sweep } from '../print'

/** A tag lies before its variant: a plate of three layers, with raised dots of two more. */
const TAG_MM = { depth: 6, gap: 3, plateLayers: 3, dotLayers: 2, dot: 2.4, pitch: 4 }

/** What a tag takes of the bed before its variant. */
export const TAG_DEPTH_MM = TAG_MM.depth + TAG_MM.gap

export type Tag = {
  readonly widthMm: number
  /** Its plate, and dots on it: solid boxes from one height to another. */
  readonly boxes: readonly (Bounds2 & { readonly bottomMm: number; readonly topMm: number })[]
  readonly sweeps: readonly Sweep[]
}

/** A plate with dots before the corner of a variant, in the layers and the filament of its part. */
export function tagOf(print: Print, dots: number, [cornerX, cornerY]: readonly [number, number]): Tag {
  const layers: { bottomMm: number; topMm: number; slot: number }[] = []
  for (const { role, bottomMm, topMm, slot } of print.sweeps) {
    if (role !== 'part' || layers.length >= TAG_MM.plateLayers + TAG_MM.dotLayers) continue
    if (layers.length === 0 || topMm > layers.at(-1)!.topMm + SAME_HEIGHT_MM)
      layers.push({ bottomMm, topMm, slot })
  }
  const widthMm = dots * TAG_MM.pitch + 2
  const y = cornerY - TAG_DEPTH_MM
  const plate = boxAt(cornerX, y, widthMm, TAG_MM.depth)
  const raised = Array.from({ length: dots }, (_, dot) =>
    boxAt(
      cornerX + 1 + dot * TAG_MM.pitch + (TAG_MM.pitch - TAG_MM.dot) / 2,
      y + (TAG_MM.depth - TAG_MM.dot) / 2,
      TAG_MM.dot,
      TAG_MM.dot,
    ),
  )
  const boxesOf = (layer: number) => (layer < TAG_MM.plateLayers ? [plate] : raised)
  return {
    widthMm,
    boxes: layers.flatMap(({ bottomMm, topMm }, n) => boxesOf(n).map((box) => ({ ...box, bottomMm, topMm }))),
    sweeps: layers.map(({ bottomMm, topMm, slot }, n) => {
      const writer = new PathWriter()
      for (const box of boxesOf(n)) fillBox(writer, box, print.lineWidthMm)
      return { role: 'part', slot, bottomMm, topMm, paths: writer.finish(), piece: null }
    }),
  }
}

const boxAt = (x: number, y: number, width: number, depth: number): Bounds2 => ({
  minX: x,
  minY: y,
  maxX: x + width,
  maxY: y + depth,
})

/** A box of plastic: a wall around it, and lines that fill it. */
function fillBox(writer: PathWriter, { minX, minY, maxX, maxY }: Bounds2, w: number): void {
  const half = w / 2
  const [left, right, front, back] = [minX + half, maxX - half, minY + half, maxY - half]
  writer.add('wall', Float64Array.of(left, front, right, front, right, back, left, back), 0, 4, true)
  const inner: number[] = []
  const count = Math.floor((back - front - w) / w)
  for (let line = 0; line < count; line++) {
    const at = front + w + line * w
    const ends = line % 2 === 0 ? [left + w, right - w] : [right - w, left + w]
    inner.push(ends[0], at, ends[1], at)
  }
  if (inner.length >= 4 && right - left > 2 * w)
    writer.add('skin', Float64Array.from(inner), 0, inner.length / 2, false)
}
