import { TenderError } from '@tender/core'
import type { PlanDocument } from '@tender/core/decide'
import { unpackMesh } from '@tender/core/mesh'
import { planPrint } from '@tender/core/plan'
import { toolsFor, type Loaded } from '@tender/core/print'
import { planAs3mf } from '@tender/core/solid'
import { answer } from '../answer'
import { layBed, type BedAsked } from '../bedWork'
import { couponWork, type CouponForm, type CouponOrder } from '../couponWork'
import { gcodeFile } from '../gcodeFile'
import { readGcodeFile } from '../readGcodeFile'
import { engines, thePlanner } from './engines'
import { polygonEngine, solidEngine } from './libraries'
import { filePulse, shareOf } from './running'

/** A file to be made of a part that this thread need not hold. */
type FileOrder = [
  ticket: number,
  key: string,
  bytes: Uint8Array,
  document: PlanDocument,
  onShare: (share: number) => void,
]

const plannedFor = async (
  key: string,
  bytes: Uint8Array,
  document: PlanDocument,
  onShare: (share: number) => Promise<void>,
) =>
  (await thePlanner()).plan(key, unpackMesh(bytes).mesh, document, (stage, share) =>
    onShare(shareOf(stage, share)),
  )

/**
 * Files made and read. Meant for a thread of its own, which need not hold up drawings.
 */
export const fileCalls = {
  /**
   * Part, stand and interface as bodies of one 3MF file. Meant for a worker of its own: the joining of solids
   * is not to hold up drawings.
   */
  bodies: (...[ticket, key, bytes, document, onShare]: FileOrder) =>
    answer(async () => {
      const pulse = filePulse(ticket, onShare)
      const result = await plannedFor(key, bytes, document, (share) => pulse(0.3 * share))
      const { file } = await planAs3mf({ document, result }, await engines(), (done, total) =>
        pulse(0.3 + (0.7 * done) / total),
      )
      if (!file)
        throw new TenderError(
          'SOLID_NOT_CLOSED',
          'The part is open, and a 3MF file may only hold closed solids.',
        )
      return file
    }),

  /**
   * The whole print as G-code, put together piece by piece. Meant for a worker of its own.
   * @param loaded what is loaded on the printer
   */
  print: (...[ticket, key, bytes, document, onShare, loaded]: [...FileOrder, loaded: Loaded]) =>
    answer(async () => {
      const pulse = filePulse(ticket, onShare)
      const { geometry, groups } = await plannedFor(key, bytes, document, (share) => pulse(0.7 * share))
      const print = planPrint(document, groups, geometry)
      const tools = toolsFor(print.slots, loaded)
      return gcodeFile({ ...print, tools }, document.printer, (share) => pulse(0.7 + 0.3 * share))
    }),

  /**
   * What a G-code file really does, read piece by piece however long it is. Meant for a worker of its own.
   */
  readGcode: (ticket: number, file: Blob, document: PlanDocument, onShare: (share: number) => void) =>
    answer(() => readGcodeFile(file, document, filePulse(ticket, onShare))),

  /**
   * Variants of a part on one bed: where each stands and what that takes, and a file of it when one is asked
   * for.
   */
  bed: (ticket: number, asked: BedAsked, bytes: Uint8Array, onShare: (share: number) => void) =>
    answer(() => {
      const pulse = filePulse(ticket, onShare)
      return layBed(
        asked,
        (document, onPlan) => plannedFor(asked.key, bytes, document, onPlan),
        engines,
        pulse,
      )
    }),

  /** A coupon as it would be printed: its picture, and what it takes. */
  coupon: (order: CouponOrder) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).look(order)),

  /** A coupon as a file. */
  couponFile: (order: CouponOrder, form: CouponForm) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).file(order, form)),

  /** A coupon as its printer takes it, with what it takes. */
  couponPrint: (order: CouponOrder) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).gcode(order)),

  /** A height of a coupon from above. */
  couponLayer: (order: CouponOrder, zMm: number) =>
    answer(async () => (await couponWork(solidEngine, polygonEngine)).layer(order, zMm)),
}
