import { CLINGS } from '@tender/core/bench'
import { DECISION_RANGES, DEFAULT_DECISIONS, SPOKEN_FOR, upgradeDocument } from '@tender/core/decide'
import { PATCH_KINDS } from '@tender/core/overhang'
import { INTERFACE_LINES, STAND_LINES } from '@tender/core/path'
import { BRANCHES, STAND_KINDS } from '@tender/core/stand'
import { z } from 'zod'
import { Identity, PlanFilamentFields } from './filament'
import { BodyRoles, PoseFields, ZoneList } from './part'
import { PlanPrinterFields } from './printer'
import { Id, Name, Stored } from './stored'

const ranged = (key: keyof typeof DECISION_RANGES) =>
  z.number().min(DECISION_RANGES[key][0]).max(DECISION_RANGES[key][1])

const millimetres = z.number().min(-1e5).max(1e5)

/** Decisions of holding: an exception may make each differently. */
const HoldingFields = z.strictObject({
  supports: z.boolean(),
  placement: z.enum(['bed', 'anywhere']),
  standFilament: Identity,
  interfaceFilament: Identity,
  upperGapMm: ranged('upperGapMm'),
  lowerGapMm: ranged('lowerGapMm'),
  sideGapMm: ranged('sideGapMm'),
  marginMm: ranged('marginMm'),
  interfaceLayers: ranged('interfaceLayers').int(),
  lowerInterfaceLayers: ranged('lowerInterfaceLayers').int(),
  interfaceSpacingMm: ranged('interfaceSpacingMm'),
  interfaceLines: z.enum(INTERFACE_LINES),
  interfaceDirection: z.enum(['across', 'along']),
  stackMode: z.enum(['own', 'shared']),
  standKind: z.enum(STAND_KINDS),
  branches: z.enum(BRANCHES),
  standLines: z.enum(STAND_LINES),
  standWalls: ranged('standWalls').int(),
  standDensity: ranged('standDensity'),
  denseTopMm: ranged('denseTopMm'),
  denseTopDensity: ranged('denseTopDensity'),
  thickStands: z.boolean(),
})

export const DecisionFields = z.strictObject({
  ...HoldingFields.shape,
  layerHeightMm: ranged('layerHeightMm'),
  firstLayerHeightMm: ranged('firstLayerHeightMm'),
  lineWidthMm: ranged('lineWidthMm'),
  walls: ranged('walls').int(),
  fillDensity: ranged('fillDensity'),
  skinLayers: ranged('skinLayers').int(),
  partFilament: Identity,
  freeAngleDeg: ranged('freeAngleDeg'),
  sideAnglesDeg: z.array(ranged('freeAngleDeg')).length(8).nullable().default(null),
  // Plans from before bridges were told apart held them all.
  freeSpanMm: ranged('freeSpanMm').default(0),
  supportSpanMm: ranged('supportSpanMm'),
  leanDeg: ranged('leanDeg'),
  footingLines: ranged('footingLines').int(),
  brimLines: ranged('brimLines').int(),
  purgeMm3: ranged('purgeMm3'),
  purgeAwayMm3: ranged('purgeAwayMm3'),
  // Plans from before there were towers leave it to the printer.
  purgeWhere: z.enum(['printer', 'tower']).default('printer'),
  purgeInto: z.enum(['nothing', 'stands', 'fill']).default('nothing'),
  towerAtMm: z.tuple([millimetres, millimetres]).nullable().default(null),
  fanPercent: ranged('fanPercent').default(DEFAULT_DECISIONS.fanPercent),
  supportFanPercent: ranged('supportFanPercent').default(DEFAULT_DECISIONS.supportFanPercent),
  fanOffLayers: ranged('fanOffLayers').int().default(DEFAULT_DECISIONS.fanOffLayers),
  wallsFrom: z.enum(['outside', 'inside']).default('outside'),
  bridgeMmS: ranged('bridgeMmS').default(DEFAULT_DECISIONS.bridgeMmS),
  bridgeFanPercent: ranged('bridgeFanPercent').default(DEFAULT_DECISIONS.bridgeFanPercent),
  // Plans from before stands could branch are straight.
  standKind: z.enum(STAND_KINDS).default('straight'),
  // And from before branches could be sturdier they are slim.
  branches: z.enum(BRANCHES).default('slim'),
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
  tender: z
    .strictObject({ gapsMm: z.array(z.number()).max(2000), chance: z.array(z.number()).max(2000) })
    .optional(),
  leftovers: z
    .array(
      z.strictObject({ from: Identity, to: Identity, deadMm3: z.number(), decayMm3: z.number().positive() }),
    )
    .max(20)
    .optional(),
  pull: z
    .strictObject({ gapsMm: z.array(z.number()).max(2000), nPerMm2: z.array(z.number()).max(2000) })
    .optional(),
})

export const EvidenceOfPlan = z.partialRecord(z.enum(SPOKEN_FOR), EvidenceFields)

const place = z.tuple([millimetres, millimetres, millimetres])

export const ExceptionList = z
  .array(
    HoldingFields.partial().extend({
      where: z.union([
        z.strictObject({ kind: z.enum(PATCH_KINDS) }),
        z.strictObject({ zone: z.string().min(1).max(80) }),
        z.strictObject({ contact: place }),
      ]),
      evidence: z.strictObject({ upperGapMm: EvidenceFields.optional() }).optional(),
    }),
  )
  .max(50)

export const PostList = z
  .array(z.strictObject({ atMm: place, widthMm: z.number().min(0.3).max(100) }))
  .max(500)

export const ClingFields = z.record(z.string().max(20), z.literal([...CLINGS]))

const Factor = z.strictObject({ median: z.number(), low: z.number(), high: z.number() })
const count = z.number().int().min(0)
export const LearntFields = z.strictObject({
  followed: z
    .array(z.strictObject({ part: Identity, touching: Identity, bulk: Identity, came: count, stayed: count }))
    .max(500),
  grams: z.array(z.strictObject({ filament: Identity, factor: Factor, weighings: count })).max(500),
  minutes: z.strictObject({ factor: Factor, takeOffs: count }).nullable(),
})

/**
 * A plan as the app saves and exports it: complete. Documents of version 1 are taken as what they say in
 * version 2.
 */
export const PlanDocumentFields = z.preprocess(
  (value) => upgradeDocument(value),
  z.strictObject({
    format: z.literal('tender-plan'),
    version: z.literal(2),
    name: Name,
    pose: PoseFields,
    decisions: DecisionFields,
    exceptions: ExceptionList,
    posts: PostList,
    printer: PlanPrinterFields,
    filaments: z.array(PlanFilamentFields).min(1).max(50),
    cling: ClingFields,
    evidence: EvidenceOfPlan,
    zones: ZoneList.default([]),
    bodies: BodyRoles.default([]),
    learnt: LearntFields.optional(),
  }),
)

/** A plan's numbers in short, for lists and for comparing variants. */
export const PlanFigures = z.strictObject({
  massG: z.number(),
  wasteG: z.number(),
  cost: z.number(),
  timeS: z.number(),
  swapTimeS: z.number(),
  swaps: z.number(),
  pTender: z.number().nullable(),
  errors: z.number(),
})
export type PlanFigures = z.infer<typeof PlanFigures>

export const PlanInput = z.strictObject({
  partId: Id,
  document: PlanDocumentFields,
  figures: PlanFigures.nullable(),
})
export type PlanInput = z.infer<typeof PlanInput>
export const Plan = z.object({ ...Stored.shape, ...PlanInput.shape, partName: z.string() })
export type Plan = z.infer<typeof Plan>
