export { Colour, completePlan, DecisionFields, EvidenceOfPlan, FilamentFields, PlanDocumentFields, PlanFile, PoseFields, PrinterFields } from './plan'
export { issuePredicate, issueSentence } from './sentences'
export { figuresOf, summaryJson } from './summaryJson'
export {
  FilamentInput,
  MOST_UPLOAD_BYTES,
  pageOf,
  PageQuery,
  Part,
  PartInput,
  Plan,
  PlanFigures,
  PlanInput,
  Printer,
  Problem,
  PROBLEM_CODES,
  ReadingInput,
  Revision,
  SpoolFields,
  StepReading,
  Stored,
  StoredFilament,
  Trial,
  TrialInput,
} from './wire'
export type { Page } from './wire'
export { knownTrial, planFilament } from './toCore'
