import { sql } from 'drizzle-orm'
import { FAN_SIDES, FEEDS, PLAIN_PRINTER } from '@tender/core/bench'
import { check, doublePrecision, integer, jsonb, pgTable, text, uniqueIndex } from 'drizzle-orm/pg-core'
import { storedColumns } from '../storage/columns'

export const printer = pgTable(
  'printer',
  {
    ...storedColumns(),
    name: text('name').notNull(),
    feed: text('feed', { enum: FEEDS }).notNull(),
    loads: integer('loads').notNull(),
    nozzleMm: doublePrecision('nozzle_mm').notNull(),
    bedWidthMm: doublePrecision('bed_width_mm').notNull(),
    bedDepthMm: doublePrecision('bed_depth_mm').notNull(),
    heightMm: doublePrecision('height_mm').notNull(),
    wallMmS: doublePrecision('wall_mm_s').notNull(),
    fillMmS: doublePrecision('fill_mm_s').notNull(),
    standMmS: doublePrecision('stand_mm_s').notNull(),
    interfaceMmS: doublePrecision('interface_mm_s').notNull(),
    firstLayerMmS: doublePrecision('first_layer_mm_s').notNull(),
    travelMmS: doublePrecision('travel_mm_s').notNull(),
    accelMmS2: doublePrecision('accel_mm_s2').notNull(),
    cornerMmS: doublePrecision('corner_mm_s').notNull(),
    retractS: doublePrecision('retract_s').notNull(),
    swapS: doublePrecision('swap_s').notNull(),
    minLayerS: doublePrecision('min_layer_s').notNull(),
    purgeMm3S: doublePrecision('purge_mm3_s').notNull(),
    offsetMm: jsonb('offset_mm')
      .$type<[number, number, number]>()
      .notNull()
      .default([...PLAIN_PRINTER.offsetMm]),
    layerMm: jsonb('layer_mm').$type<[number, number]>(),
    wipeMm: doublePrecision('wipe_mm').notNull().default(PLAIN_PRINTER.wipeMm),
    headAroundMm: doublePrecision('head_around_mm').notNull().default(PLAIN_PRINTER.headAroundMm),
    barAboveMm: doublePrecision('bar_above_mm').notNull().default(PLAIN_PRINTER.barAboveMm),
    fanSide: text('fan_side', { enum: FAN_SIDES }).notNull().default('around'),
    extrusion: text('extrusion', { enum: ['relative', 'absolute'] })
      .notNull()
      .default('relative'),
    startGcode: text('start_gcode').notNull().default(PLAIN_PRINTER.startGcode),
    swapGcode: text('swap_gcode').notNull().default(PLAIN_PRINTER.swapGcode),
    endGcode: text('end_gcode').notNull().default(PLAIN_PRINTER.endGcode),
    /**
     * Spool on each nozzle or slot. Spools may go; what is no longer on the shelf is then no longer loaded.
     */
    loaded: jsonb('loaded').$type<(string | null)[]>().notNull().default([]),
  },
  (t) => [
    uniqueIndex('printer_name')
      .on(t.name)
      .where(sql`${t.deletedAt} is null`),
    // NaN sorts above every number, so an upper bound bars it.
    check('printer_nozzle_range', sql`${t.nozzleMm} >= 0.1 and ${t.nozzleMm} <= 2`),
    check('printer_loads_range', sql`${t.loads} between 2 and 16`),
  ],
)
