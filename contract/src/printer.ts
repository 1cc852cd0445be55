import { FAN_SIDES, FEEDS, PLAIN_PRINTER } from '@tender/core/bench'
import { z } from 'zod'
import { Identity } from './filament'
import { Id, Name, Stored } from './stored'

const offset = z.number().min(-500).max(500)
const gcode = z.string().max(20_000)

export const PrinterFields = z.strictObject({
  name: Name,
  feed: z.enum(FEEDS),
  loads: z.number().int().min(2).max(16),
  nozzleMm: z.number().min(0.1).max(2),
  bedMm: z.tuple([z.number().min(20).max(2000), z.number().min(20).max(2000)]),
  heightMm: z.number().min(20).max(2000),
  wallMmS: z.number().min(1).max(1000),
  fillMmS: z.number().min(1).max(1000),
  standMmS: z.number().min(1).max(1000),
  interfaceMmS: z.number().min(1).max(1000),
  firstLayerMmS: z.number().min(1).max(1000),
  travelMmS: z.number().min(1).max(2000),
  accelMmS2: z.number().min(10).max(100_000),
  cornerMmS: z.number().min(0.1).max(100),
  retractS: z.number().min(0).max(10),
  swapS: z.number().min(0).max(600),
  minLayerS: z.number().min(0).max(600),
  purgeMm3S: z.number().min(0.1).max(200),
  // What came later has a default, so that older documents stay readable.
  offsetMm: z.tuple([offset, offset, offset]).default([...PLAIN_PRINTER.offsetMm]),
  layerMm: z
    .tuple([z.number().min(0.02).max(2), z.number().min(0.02).max(2)])
    .refine(([thin, thick]) => thin < thick, {
      message: 'The thinnest layer must be thinner than the thickest.',
      path: [0],
    })
    .nullable()
    .default(null),
  fanSide: z.enum(FAN_SIDES).default('around'),
  wipeMm: z.number().min(0).max(20).default(PLAIN_PRINTER.wipeMm),
  headAroundMm: z.number().min(5).max(500).default(PLAIN_PRINTER.headAroundMm),
  barAboveMm: z.number().min(0).max(500).default(PLAIN_PRINTER.barAboveMm),
  extrusion: z.enum(['relative', 'absolute']).default('relative'),
  startGcode: gcode.default(PLAIN_PRINTER.startGcode),
  swapGcode: gcode.default(PLAIN_PRINTER.swapGcode),
  endGcode: gcode.default(PLAIN_PRINTER.endGcode),
})

export type PrinterFields = z.infer<typeof PrinterFields>

/** A printer as a plan brings it along. */
export const PlanPrinterFields = PrinterFields.extend({ id: Identity })

/** A printer of the bench: what plans need, and the spool that sits on each nozzle or slot. */
export const PrinterInput = z.strictObject({
  ...PrinterFields.shape,
  loaded: z.array(Id.nullable()).max(16).default([]),
})
export type PrinterInput = z.infer<typeof PrinterInput>
export const Printer = z.object({ ...Stored.shape, ...PrinterInput.shape })
export type Printer = z.infer<typeof Printer>
