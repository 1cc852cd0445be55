import type { Filament, Printer } from '../bench'
import { TenderError } from '../errors'
import { PathWriter, type ToolPaths } from '../path'
import { SAME_HEIGHT_MM } from '../tolerances'
import { byHeight, orderSweeps } from './orderSweeps'
import type { Print, Sweep } from './print'
import { boxOfSweeps, inTheMiddle } from './purge/placeTower'
import { settlePurges } from './purge/settlePurges'

/** Where a variant stands on the bed, and how many dots its tag has. */
export type BedPlace = {
  readonly name: string
  readonly dots: number
  /** Its corner nearest to the bed's zero, tag included, and its size. */
  readonly atMm: readonly [number, number]
  readonly sizeMm: readonly [number, number]
}

export const MOST_VARIANTS = 6
/** Free room between variants, and around the edge of the bed. */
const BETWEEN_MM = 8
const EDGE_MM = 3
/** A tag lies before its variant: a plate of three layers, with raised dots of two more. */
const TAG_MM = { depth: 6, gap: 3, plateLayers: 3, dotLayers: 2, dot: 2.4, pitch: 4 }

/**
 * Several prints side by side on one bed, printed together by layer. Each has a tag before it with as many raised dots as its number, in
 * the filament of its part. What swaps purge is settled for all of them together, so of none of them before.
 * @throws TenderError OFF_THE_BED when they do not fit, VALUE_OUT_OF_RANGE when they cannot be printed in one go
 */
export function bedPrint(
  variants: readonly { readonly name: string; readonly print: Print }[],
  printer: Printer,
): { readonly print: Print; readonly places: readonly BedPlace[] } {
  mustGoTogether(variants)
  const slots: Filament[] = []
  const slotOf = (filament: Filament) => {
    const at = slots.findIndex(({ id }) => id === filament.id)
    return at < 0 ? slots.push(filament) - 1 : at
  }
  const tagged = variants.map(({ name, print }, n) => {
    const box = boxOfSweeps(print.sweeps)
    return { name, print, box, tag: tagOf(print, n + 1, [box.minX, box.minY]) }
  })
  const sizes = tagged.map(({ box, tag }): [number, number] => [
    Math.max(box.maxX - box.minX, tag.widthMm),
    box.maxY - box.minY + TAG_MM.gap + TAG_MM.depth,
  ])
  const corners = layOut(sizes, printer.bedMm)
  const pieces = tagged.map(({ name, print, box, tag }, n): Sweep[] => {
    const [x, y] = corners[n]
    const by: [number, number] = [x - box.minX, y + TAG_MM.gap + TAG_MM.depth - box.minY]
    return [...print.sweeps, ...tag.sweeps].map((sweep) => ({
      ...sweep,
      slot: slotOf(print.slots[sweep.slot]),
      paths: moved(sweep.paths, by),
      piece: name,
    }))
  })
  const number = new Map(variants.map(({ name }, n) => [name, n]))
  const heights = byHeight(pieces.flat(), SAME_HEIGHT_MM).map((group) =>
    // Each variant keeps its own order; one is done before the next is gone to.
    group.toSorted((a, b) => number.get(a.piece!)! - number.get(b.piece!)!),
  )
  const [first] = variants
  const purging = first.print.purging && { ...first.print.purging, towerAtMm: null }
  const together = settlePurges(
    {
      ...first.print,
      title: variants.map(({ name }) => name).join(', '),
      sweeps: orderSweeps(heights),
      zeroMm: [0, 0],
      slots,
      tools: slots.map((_, s) => s),
      purgeMm3: slots.map((from) => slots.map((to) => (from === to ? 0 : purgeOf(variants, from, to)))),
      ...(purging && { purging }),
    },
    printer.bedMm,
  )
  const zeroMm = together.tower ? inTheMiddle(together.sweeps, printer.bedMm) : ([0, 0] as const)
  const places = variants.map(({ name }, n) => ({
    name,
    dots: n + 1,
    atMm: [corners[n][0] + zeroMm[0], corners[n][1] + zeroMm[1]] as const,
    sizeMm: sizes[n],
  }))
  return { print: { ...together, zeroMm }, places }
}

/** How a print is cooled, bridges and their speed included. */
const coolingOf = ({ fanPercent, fanFromMm, bridging }: Print) => [fanPercent, fanFromMm, bridging]

function mustGoTogether(variants: readonly { readonly name: string; readonly print: Print }[]): void {
  const cannot = (why: string) => new TenderError('VALUE_OUT_OF_RANGE', why)
  if (variants.length < 2 || variants.length > MOST_VARIANTS)
    throw cannot(`Two to ${MOST_VARIANTS} variants go on one bed, not ${variants.length}.`)
  if (new Set(variants.map(({ name }) => name)).size < variants.length)
    throw cannot('Two of the variants have the same name; their sheet could not tell them apart.')
  const [{ print: first }] = variants
  for (const { name, print } of variants) {
    if (Math.abs(print.lineWidthMm - first.lineWidthMm) > 1e-6)
      throw cannot(
        `${name} has lines ${print.lineWidthMm} mm wide, ${variants[0].name} ${first.lineWidthMm} mm: one print has one width.`,
      )
    if (JSON.stringify(coolingOf(print)) !== JSON.stringify(coolingOf(first)))
      throw cannot(`${name} and ${variants[0].name} are cooled differently: one print has one cooling.`)
    if (print.purging?.where !== first.purging?.where || print.purging?.into !== first.purging?.into)
      throw cannot(
        `${name} and ${variants[0].name} purge into different places: one print has one place for it.`,
      )
  }
}

/** Rows from front to back, each as deep as its deepest; all of it in the middle of the bed. */
function layOut(
  sizes: readonly (readonly [number, number])[],
  [bedX, bedY]: readonly [number, number],
): [number, number][] {
  const roomMm = bedX - 2 * EDGE_MM
  const corners: [number, number][] = []
  let [x, y, deep, wide] = [0, 0, 0, 0]
  for (const [w, d] of sizes) {
    if (x > 0 && x + w > roomMm) [x, y, deep] = [0, y + deep + BETWEEN_MM, 0]
    corners.push([x, y])
    wide = Math.max(wide, x + w)
    deep = Math.max(deep, d)
    x += w + BETWEEN_MM
  }
  const tall = y + deep
  if (wide > roomMm || tall > bedY - 2 * EDGE_MM)
    throw new TenderError(
      'OFF_THE_BED',
      `${sizes.length} variants side by side take ${wide.toFixed(0)} by ${tall.toFixed(0)} mm; the bed has ${bedX} by ${bedY}. Print fewer at a time.`,
    )
  const by = [(bedX - wide) / 2, (bedY - tall) / 2]
  return corners.map(([cx, cy]) => [cx + by[0], cy + by[1]])
}

function moved(paths: ToolPaths, [dx, dy]: readonly [number, number]): ToolPaths {
  const xyMm = new Float64Array(paths.xyMm.length)
  for (let i = 0; i < xyMm.length; i += 2) {
    xyMm[i] = paths.xyMm[i] + dx
    xyMm[i + 1] = paths.xyMm[i + 1] + dy
  }
  return { ...paths, xyMm }
}

/** A plate with dots before the corner of a variant, in the layers and the filament of its part. */
function tagOf(print: Print, dots: number, [cornerX, cornerY]: readonly [number, number]) {
  const layers: { bottomMm: number; topMm: number; slot: number }[] = []
  for (const { role, bottomMm, topMm, slot } of print.sweeps) {
    if (role !== 'part' || layers.length >= TAG_MM.plateLayers + TAG_MM.dotLayers) continue
    if (layers.length === 0 || topMm > layers.at(-1)!.topMm + SAME_HEIGHT_MM)
      layers.push({ bottomMm, topMm, slot })
  }
  const widthMm = dots * TAG_MM.pitch + 2
  const y = cornerY - TAG_MM.gap - TAG_MM.depth
  const w = print.lineWidthMm
  const sweeps = layers.map(({ bottomMm, topMm, slot }, n): Sweep => {
    const writer = new PathWriter()
    if (n < TAG_MM.plateLayers) fillBox(writer, cornerX, y, widthMm, TAG_MM.depth, w)
    else
      for (let dot = 0; dot < dots; dot++)
        fillBox(
          writer,
          cornerX + 1 + dot * TAG_MM.pitch + (TAG_MM.pitch - TAG_MM.dot) / 2,
          y + (TAG_MM.depth - TAG_MM.dot) / 2,
          TAG_MM.dot,
          TAG_MM.dot,
          w,
        )
    return { role: 'part', slot, bottomMm, topMm, paths: writer.finish(), piece: null }
  })
  return { widthMm, sweeps }
}

/** A box of plastic: a wall around it, and lines that fill it. */
function fillBox(writer: PathWriter, x: number, y: number, width: number, depth: number, w: number): void {
  const half = w / 2
  const [left, right, front, back] = [x + half, x + width - half, y + half, y + depth - half]
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

/** The most that any of the variants purges between two filaments. */
function purgeOf(variants: readonly { readonly print: Print }[], from: Filament, to: Filament): number {
  const amounts = variants.flatMap(({ print: { slots, purgeMm3 } }) => {
    const [a, b] = [from, to].map(({ id }) => slots.findIndex((slot) => slot.id === id))
    return a >= 0 && b >= 0 ? [purgeMm3[a][b]] : []
  })
  // Two that no variant swaps between: as much as the most of all.
  return Math.max(
    0,
    ...(amounts.length > 0 ? amounts : variants.flatMap(({ print }) => print.purgeMm3.flat())),
  )
}
