import type { Filament, Printer } from '@tender/core/bench'
import {
  buildCoupon,
  couponFile,
  couponStls,
  printCoupon,
  type BuiltCoupon,
  type CouponSize,
} from '@tender/core/coupon'
import type { SolidEngine } from '@tender/core/mesh'
import type { Bounds2, PolygonEngine } from '@tender/core/polygon'
import {
  boxOfSweeps,
  createPathMeasurer,
  measurePrint,
  writeGcode,
  type Print,
  type PrintMeasure,
} from '@tender/core/print'
import type { Coupon } from '@tender/core/trial'
import { massGrams } from '@tender/core/units'
import { strToU8, zipSync } from 'fflate'
import { gcodeFile } from './gcodeFile'
import { paintPicture } from './paintPicture'

/** Everything that decides how a coupon comes out. */
export type CouponOrder = {
  readonly title: string
  readonly coupon: Coupon
  readonly size: CouponSize
  readonly speedMmS: number
  readonly fanPercent: number
  readonly printer: Printer
  readonly filaments: readonly [Filament, Filament]
  readonly tools: readonly [number, number]
}
export type CouponForm = '3mf' | 'stl' | 'gcode'

export type CouponLook = {
  readonly picture: string
  readonly sizeMm: readonly [number, number, number]
  readonly uses: readonly { readonly name: string; readonly g: number; readonly cost: number }[]
  readonly timeS: number
  readonly swaps: number
}

/** Lines of a coupon at a height, on the bed that they are printed on. */
export type CouponLayer = {
  readonly boxMm: Bounds2
  readonly lines: readonly {
    readonly slot: number
    readonly xyMm: Float64Array
    readonly starts: Uint32Array
  }[]
}

const PICTURE = { width: 760, height: 420 }

type Made = {
  readonly key: string
  readonly built: BuiltCoupon
  readonly print: Print
  readonly measure: PrintMeasure
}
/** The last coupon made: files of it follow its picture. */
let last: Made | null = null

/** Makes coupons and keeps the last one. */
export async function couponWork(solids: () => Promise<SolidEngine>, polygons: () => Promise<PolygonEngine>) {
  async function make(order: CouponOrder): Promise<Made> {
    const { coupon, size, printer } = order
    const key = JSON.stringify(order)
    if (last?.key === key) return last
    const built = buildCoupon(await solids(), coupon, size, printer)
    const print = await printCoupon(
      built,
      await polygons(),
      { ...order, lineWidthMm: size.lineWidthMm },
      printer,
    )
    last = { key, built, print, measure: measurePrint(print, printer, createPathMeasurer()) }
    return last
  }
  return {
    async look(order: CouponOrder): Promise<CouponLook> {
      const { built, measure } = await make(order)
      const rgb = (hex: string) =>
        [1, 3, 5].map((at) => 28 + 0.7 * parseInt(hex.slice(at, at + 2), 16)) as [number, number, number]
      return {
        picture: await paintPicture(
          built.bodies.map(({ mesh, slot }) => ({ mesh, colour: rgb(order.filaments[slot].colour) })),
          PICTURE,
        ),
        sizeMm: built.sizeMm,
        uses: order.filaments.flatMap((filament, slot) => {
          const mm3 = measure.uses.reduce((sum, use) => sum + (use.slot === slot ? use.mm3 : 0), 0)
          const g = massGrams(mm3, filament.densityGcm3)
          return g > 0 ? [{ name: filament.name, g, cost: (g / 1000) * filament.pricePerKg }] : []
        }),
        timeS: measure.timeS,
        swaps: measure.swaps,
      }
    },
    async gcode(order: CouponOrder) {
      const { print } = await make(order)
      return gcodeFile(print, order.printer, async () => undefined)
    },
    async layer(order: CouponOrder, zMm: number): Promise<CouponLayer> {
      const { sweeps } = (await make(order)).print
      return {
        boxMm: boxOfSweeps(sweeps),
        lines: sweeps.flatMap(({ slot, bottomMm, topMm, paths: { xyMm, starts } }) =>
          bottomMm < zMm && zMm <= topMm ? [{ slot, xyMm: xyMm.slice(), starts: starts.slice() }] : [],
        ),
      }
    },
    async file(order: CouponOrder, form: CouponForm): Promise<Uint8Array> {
      const { built, print, measure } = await make(order)
      if (form === '3mf') return couponFile(order.title, built, order.filaments)
      if (form === 'gcode') return strToU8([...writeGcode(print, order.printer, measure)].join(''))
      return zipSync(Object.fromEntries(couponStls(built).map(({ name, bytes }) => [`${name}.stl`, bytes])))
    },
  }
}
