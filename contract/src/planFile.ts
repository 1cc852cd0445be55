import { DEFAULT_PLAN, newDocument, upgradeDocument, type PlanDocument } from '@tender/core/decide'
import { z } from 'zod'
import { Identity, PlanFilamentFields } from './filament'
import { BodyRoles, PoseFields, ZoneList } from './part'
import { ClingFields, DecisionFields, EvidenceOfPlan, ExceptionList, LearntFields, PostList } from './plan'
import { PlanPrinterFields } from './printer'
import { Name } from './stored'

/**
 * Some of the fields: one that is absent stays absent. (Zod would fill in the default of a field that came
 * later than the format.)
 */
export const someOf = <Shape extends z.ZodRawShape>(fields: z.ZodObject<Shape>) =>
  z
    .strictObject(
      Object.fromEntries(
        Object.entries(fields.shape).map(([key, field]) => [
          key,
          field instanceof z.ZodDefault ? field.unwrap() : field,
        ]),
      ) as {
        [K in keyof Shape]: Shape[K] extends z.ZodDefault<infer Inner extends z.ZodType> ? Inner : Shape[K]
      },
    )
    .partial()

/**
 * A plan file as a maker may write it: whatever is left out takes its default, and a name does for an
 * identity.
 */
export const PlanFile = z.preprocess(
  (value) => upgradeDocument(value),
  z.strictObject({
    format: z.literal('tender-plan').optional(),
    version: z.literal(2).optional(),
    name: Name.optional(),
    pose: someOf(PoseFields).optional(),
    decisions: someOf(DecisionFields).optional(),
    exceptions: ExceptionList.optional(),
    posts: PostList.optional(),
    printer: someOf(PlanPrinterFields).optional(),
    filaments: z
      .array(someOf(PlanFilamentFields).extend({ id: Identity.optional(), name: Name }))
      .min(1)
      .max(50)
      .optional(),
    cling: ClingFields.optional(),
    evidence: EvidenceOfPlan.optional(),
    zones: ZoneList.optional(),
    bodies: BodyRoles.optional(),
    learnt: LearntFields.optional(),
  }),
)
export type PlanFile = z.infer<typeof PlanFile>

/**
 * Fills in a plan file. Filaments that no role names take their place by order: the part's and the stands',
 * then the interface's.
 */
export function completePlan(file: PlanFile): PlanDocument {
  const { printer, filaments, decisions, cling, pose, ...rest } = file
  const document = newDocument({
    ...rest,
    pose: { ...DEFAULT_PLAN.pose, ...pose },
    printer: { ...DEFAULT_PLAN.printer, ...printer },
    ...(filaments && {
      filaments: filaments.map((filament) => ({
        ...DEFAULT_PLAN.filaments[0],
        id: filament.name,
        ...filament,
      })),
    }),
    decisions: {
      ...(decisions?.partFilament !== undefined && { standFilament: decisions.partFilament }),
      ...decisions,
    },
  })
  return { ...document, cling: { ...document.cling, ...cling }, ...(file.learnt && { learnt: file.learnt }) }
}
