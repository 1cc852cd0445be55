import type { Filament, Printer } from '../../bench'
import { TenderError } from '../../errors'
import type { ToolPaths } from '../../path'
import { SAME_HEIGHT_MM } from '../../tolerances'
import { byHeight, orderSweeps } from '../orderSweeps'
import type { Print, Sweep } from '../print'
import { boxOfSweeps, ontoBed } from '../purge/placeTower'
import { settlePurges } from '../purge/settlePurges'
import { laidOut, mustStandClear, type BedPlace } from './places'
import { TAG_DEPTH_MM, tagOf, type Tag } from './tag'

export const MOST_VARIANTS = 6
/** Free room between variants that grow together. */
const BETWEEN_MM = 8
/** The least that they may be moved together by hand. */
const NEAREST_MM = 2

/** All at one height before the next one, or each to its end. */
export const BED_ORDERS = ['by layer', 'one by one'] as const
export type BedOrder = (typeof BED_ORDERS)[number]

export type BedOptions = {
  readonly order?: BedOrder
  /** Corners on the bed where they were put by hand, tags included; without it they are laid out. */
  readonly atMm?: readonly (readonly [number, number])[]
}

export type Variant = { readonly name: string; readonly print: Print }

export type BedPrint = {
  readonly print: Print
  readonly places: readonly BedPlace[]
  /** Plates and dots, where they lie on the bed. */
  readonly tags: readonly Tag['boxes'][]
}

/**
 * Several prints on one bed: by layer, or one by one where the printer's head and bar clear what stands
 * already, the tallest last. Each has a tag before it with as many raised dots as its number, in the filament
 * of its part. What swaps purge is settled for all of them together, so of none of them before.
 * @throws TenderError OFF_THE_BED when they do not fit, VALUE_OUT_OF_RANGE when they cannot be printed in one
 * go or so
 */
export function bedPrint(
  variants: readonly Variant[],
  printer: Printer,
  { order = 'by layer', atMm }: BedOptions = {},
): BedPrint {
  mustGoTogether(variants)
  const tagged = variants.map(({ name, print }, n) => {
    const box = boxOfSweeps(print.sweeps)
    const topMm = print.sweeps.reduce((top, sweep) => Math.max(top, sweep.topMm), 0)
    return { name, print, box, topMm, tag: tagOf(print, n + 1, [box.minX, box.minY]) }
  })
  if (order === 'one by one') mustPassAbove(tagged, printer)
  const sizes = tagged.map(({ box, tag }): [number, number] => [
    Math.max(box.maxX - box.minX, tag.widthMm),
    box.maxY - box.minY + TAG_DEPTH_MM,
  ])
  const roomMm = order === 'one by one' ? Math.max(BETWEEN_MM, printer.headAroundMm) : BETWEEN_MM
  const corners = atMm ?? laidOut(sizes, roomMm, printer.bedMm)
  if (atMm) {
    if (atMm.length !== variants.length)
      throw cannot(`${variants.length} variants were given ${atMm.length} places.`)
    const names = variants.map(({ name }) => name)
    mustStandClear(names, atMm, sizes, order === 'one by one' ? roomMm : NEAREST_MM, printer.bedMm)
  }
  const moves = tagged.map(({ box }, n): [number, number] => [
    corners[n][0] - box.minX,
    corners[n][1] + TAG_DEPTH_MM - box.minY,
  ])
  const slots: Filament[] = []
  const slotOf = (filament: Filament) => {
    const at = slots.findIndex(({ id }) => id === filament.id)
    return at < 0 ? slots.push(filament) - 1 : at
  }
  const pieces = tagged.map(({ name, print, tag }, n): Sweep[] =>
    [...print.sweeps, ...tag.sweeps].map((sweep) => ({
      ...sweep,
      slot: slotOf(print.slots[sweep.slot]),
      paths: moved(sweep.paths, moves[n]),
      piece: name,
    })),
  )
  if (order === 'one by one' && slots.length > 1 && variants[0].print.purging?.where === 'tower')
    throw cannot(
      'One by one, each would need a prime tower of its own. Print them by layer, or purge through the swap block.',
    )
  const together = settlePurges(
    {
      ...variants[0].print,
      ...sharedBy(variants, slots),
      sweeps: orderSweeps(
        order === 'by layer'
          ? growing(pieces)
          : pieces
              .map((sweeps, n) => ({ sweeps, topMm: tagged[n].topMm }))
              .toSorted((a, b) => a.topMm - b.topMm)
              .flatMap(({ sweeps }) => byHeight(sweeps, SAME_HEIGHT_MM)),
      ),
      zeroMm: [0, 0],
      oneByOne: order === 'one by one',
    },
    printer.bedMm,
  )
  // A tower may find its room only when all of it moves over.
  const zeroMm = together.tower
    ? ontoBed(together.sweeps, printer.bedMm, atMm === undefined)
    : ([0, 0] as const)
  return {
    print: { ...together, zeroMm },
    places: variants.map(({ name }, n) => ({
      name,
      dots: n + 1,
      atMm: [corners[n][0] + zeroMm[0], corners[n][1] + zeroMm[1]] as const,
      sizeMm: sizes[n],
      fromMm: [moves[n][0] - corners[n][0], moves[n][1] - corners[n][1]] as const,
    })),
    tags: tagged.map(({ tag }, n) => {
      const [x, y] = [moves[n][0] + zeroMm[0], moves[n][1] + zeroMm[1]]
      return tag.boxes.map((box) => ({
        ...box,
        minX: box.minX + x,
        maxX: box.maxX + x,
        minY: box.minY + y,
        maxY: box.maxY + y,
      }))
    }),
  }
}

const cannot = (why: string) => new TenderError('VALUE_OUT_OF_RANGE', why)

/** How a print is cooled, bridges and their speed included. */
const coolingOf = ({ fanPercent, fanFromMm, bridging }: Print) => [fanPercent, fanFromMm, bridging]

function mustGoTogether(variants: readonly Variant[]): void {
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

/**
 * What stands already must pass under the bar that the nozzle hangs on; the last one is never passed over.
 */
function mustPassAbove(
  tagged: readonly { readonly name: string; readonly topMm: number }[],
  printer: Printer,
): void {
  for (const { name, topMm } of tagged.toSorted((a, b) => a.topMm - b.topMm).slice(0, -1))
    if (topMm > printer.barAboveMm)
      throw cannot(
        `One by one, ${name} would be struck while the next is printed: it is ${topMm.toFixed(1)} mm tall, and the bar of ${printer.name} passes ${printer.barAboveMm} mm above the nozzle. Print them by layer.`,
      )
}

/** All of them height by height; each keeps its own order, and one is done before the next is gone to. */
const growing = (pieces: readonly (readonly Sweep[])[]): Sweep[][] => {
  const number = new Map(pieces.map(([sweep], n) => [sweep?.piece, n]))
  return byHeight(pieces.flat(), SAME_HEIGHT_MM).map((group) =>
    group.toSorted((a, b) => number.get(a.piece)! - number.get(b.piece)!),
  )
}

/** What is told of all of them at once. */
function sharedBy(variants: readonly Variant[], slots: readonly Filament[]) {
  const [first] = variants
  const purging = first.print.purging && { ...first.print.purging, towerAtMm: null }
  return {
    title: variants.map(({ name }) => name).join(', '),
    slots,
    tools: slots.map((_, s) => s),
    purgeMm3: slots.map((from) => slots.map((to) => (from === to ? 0 : purgeOf(variants, from, to)))),
    ...(purging && { purging }),
  }
}

function moved(paths: ToolPaths, [dx, dy]: readonly [number, number]): ToolPaths {
  const xyMm = new Float64Array(paths.xyMm.length)
  for (let i = 0; i < xyMm.length; i += 2) {
    xyMm[i] = paths.xyMm[i] + dx
    xyMm[i + 1] = paths.xyMm[i + 1] + dy
  }
  return { ...paths, xyMm }
}

/** The most that any of the variants purges between two filaments. */
function purgeOf(variants: readonly Variant[], from: Filament, to: Filament): number {
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
