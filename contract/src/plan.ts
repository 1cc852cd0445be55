import { FAMILIES, FAN_SIDES, FEEDS, PLAIN_PRINTER } from '@tender/core/bench'
import { BODY_ROLES, DECISION_RANGES, DEFAULT_DECISIONS, DEFAULT_PLAN, startingPurgeMm3, type PlanDocument } from '@tender/core/plan'
import { z } from 'zod'

const name = z.string().trim().min(1).max(80)
const ranged = (key: keyof typeof DECISION_RANGES) => z.number().min(DECISION_RANGES[key][0]).max(DECISION_RANGES[key][1])

export const Colour = z.string().regex(/^#[0-9a-fA-F]{6}$/, 'A colour is written as # and six hexadecimal digits.')

const offset = z.number().min(-500).max(500)
const gcode = z.string().max(20_000)

export const PrinterFields = z.strictObject({
  name,
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
  layerMm: z.tuple([z.number().min(0.02).max(2), z.number().min(0.02).max(2)]).refine(([thin, thick]) => thin < thick, { message: 'The thinnest layer must be thinner than the thickest.', path: [0] }).nullable().default(null), // prettier-ignore
  fanSide: z.enum(FAN_SIDES).default('around'),
  extrusion: z.enum(['relative', 'absolute']).default('relative'),
  startGcode: gcode.default(PLAIN_PRINTER.startGcode),
  swapGcode: gcode.default(PLAIN_PRINTER.swapGcode),
  endGcode: gcode.default(PLAIN_PRINTER.endGcode),
})

export type PrinterFields = z.infer<typeof PrinterFields>

export const FilamentFields = z.strictObject({
  name,
  family: z.enum(FAMILIES),
  colour: Colour,
  densityGcm3: z.number().min(0.3).max(5),
  diameterMm: z.number().min(0.5).max(5),
  pricePerKg: z.number().min(0).max(10_000),
  nozzleC: z.number().min(100).max(500),
  bedC: z.number().min(0).max(200),
  gramsLeft: z.number().min(0).max(100_000).nullable(),
  lots: z.array(z.string().max(60)).max(50).default([]),
})

export const DecisionFields = z.strictObject({
  layerHeightMm: ranged('layerHeightMm'),
  firstLayerHeightMm: ranged('firstLayerHeightMm'),
  lineWidthMm: ranged('lineWidthMm'),
  walls: ranged('walls').int(),
  fillDensity: ranged('fillDensity'),
  skinLayers: ranged('skinLayers').int(),
  partFilament: name,
  standFilament: name,
  interfaceFilament: name,
  supports: z.boolean(),
  freeAngleDeg: ranged('freeAngleDeg'),
  sideAnglesDeg: z.array(ranged('freeAngleDeg')).length(8).nullable().default(null),
  // Plans from before bridges were told apart held them all.
  freeSpanMm: ranged('freeSpanMm').default(0),
  placement: z.enum(['bed', 'anywhere']),
  upperGapMm: ranged('upperGapMm'),
  lowerGapMm: ranged('lowerGapMm'),
  sideGapMm: ranged('sideGapMm'),
  marginMm: ranged('marginMm'),
  interfaceLayers: ranged('interfaceLayers').int(),
  interfaceSpacingMm: ranged('interfaceSpacingMm'),
  interfaceDirection: z.enum(['across', 'along']),
  stackMode: z.enum(['own', 'shared']),
  standDensity: ranged('standDensity'),
  footingLines: ranged('footingLines').int(),
  purgeMm3: ranged('purgeMm3'),
  fanPercent: ranged('fanPercent').default(DEFAULT_DECISIONS.fanPercent),
})

export const PoseFields = z.strictObject({
  turn: z.tuple([z.number().min(-1.0001).max(1.0001), z.number().min(-1.0001).max(1.0001), z.number().min(-1.0001).max(1.0001), z.number().min(-1.0001).max(1.0001)]),
  scale: z.number().min(1e-4).max(1e5),
})

const EvidenceFields = z.strictObject({
  source: z.enum(['measured', 'transferred', 'guess']),
  value: z.number(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  readings: z.number().int().min(0),
  trials: z.array(z.strictObject({ id: z.string().max(80), name: z.string().max(200) })).max(500),
  sentence: z.string().max(1000),
  mismatches: z.array(z.string().max(500)).max(100),
  newest: z.string().max(40).nullable().default(null),
  sidesDeg: z.array(z.number()).length(8).optional(),
  tender: z.strictObject({ gapsMm: z.array(z.number()).max(2000), chance: z.array(z.number()).max(2000) }).optional(),
})

export const EvidenceOfPlan = z.strictObject({
  freeAngleDeg: EvidenceFields.optional(),
  freeSpanMm: EvidenceFields.optional(),
  upperGapMm: EvidenceFields.optional(),
  purgeMm3: EvidenceFields.optional(),
})

const millimetres = z.number().min(-1e5).max(1e5)
const place = z.tuple([millimetres, millimetres, millimetres])

/** Where to hold, or never to: a mark of the maker's on the part as drawn. */
export const ZoneFields = z.strictObject({
  id: z.string().min(1).max(80),
  name,
  kind: z.enum(['hold', 'keepOff', 'show']),
  limitDeg: z.number().min(0).max(90),
  shape: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('box'), minMm: place, maxMm: place }).refine(({ minMm, maxMm }) => minMm.every((low, axis) => low < maxMm[axis]), { message: 'A box needs a size above zero on every side.', path: ['maxMm'] }), // prettier-ignore
    z.strictObject({ kind: z.literal('cylinder'), footMm: place, radiusMm: z.number().min(0.01).max(1e5), heightMm: z.number().min(0.01).max(1e5) }),
    z.strictObject({ kind: z.literal('brush'), radiusMm: z.number().min(0.01).max(1e5), atMm: z.array(millimetres).min(3).max(9000) }),
    z.strictObject({ kind: z.literal('body'), body: z.number().int().min(0).max(20_000) }),
  ]),
})
export const ZoneList = z.array(ZoneFields).max(200)
export const BodyRoles = z.array(z.enum(BODY_ROLES)).max(20_000)

/** A plan as the app saves and exports it: complete. */
export const PlanDocumentFields = z.strictObject({
  format: z.literal('tender-plan'),
  version: z.literal(1),
  name,
  pose: PoseFields,
  decisions: DecisionFields,
  printer: PrinterFields,
  filaments: z.array(FilamentFields).min(1).max(50),
  evidence: EvidenceOfPlan,
  zones: ZoneList.default([]),
  bodies: BodyRoles.default([]),
})

/** A plan file as a maker may write it: whatever is left out takes its default. */
export const PlanFile = z.strictObject({
  format: z.literal('tender-plan').optional(),
  version: z.literal(1).optional(),
  name: name.optional(),
  pose: PoseFields.partial().optional(),
  decisions: DecisionFields.partial().optional(),
  printer: PrinterFields.partial().optional(),
  filaments: z.array(FilamentFields.partial().extend({ name })).min(1).max(50).optional(),
  evidence: EvidenceOfPlan.optional(),
  zones: ZoneList.optional(),
  bodies: BodyRoles.optional(),
})
export type PlanFile = z.infer<typeof PlanFile>

/** Fills in a plan file. Filaments named by no role take their place by order: part, then interface, then stand. */
export function completePlan(file: PlanFile): PlanDocument {
  const base = DEFAULT_PLAN
  const printer = { ...base.printer, ...file.printer }
  const filaments = file.filaments?.map((filament) => ({ ...base.filaments[0], ...filament })) ?? base.filaments
  const first = filaments[0].name
  const second = filaments[1]?.name ?? first
  const part = file.decisions?.partFilament ?? first
  return {
    ...base,
    name: file.name ?? base.name,
    pose: { ...base.pose, ...file.pose },
    printer,
    filaments,
    evidence: file.evidence ?? {},
    zones: file.zones ?? [],
    bodies: file.bodies ?? [],
    decisions: {
      ...base.decisions,
      partFilament: part,
      standFilament: part,
      interfaceFilament: second,
      purgeMm3: startingPurgeMm3(printer),
      ...file.decisions,
    },
  }
}
