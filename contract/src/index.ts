export { Colour, completePlan, DecisionFields, EvidenceOfPlan, FilamentFields, PlanDocumentFields, PlanFile, PoseFields, PrinterFields, ZoneFields } from './plan'
export { issuePredicate, issueSentence } from './sentences'
export { figuresOf, summaryJson } from './summaryJson'
export {
  ClingEntry,
  ClingInput,
  CouponFields,
  FamilyEntry,
  FamilyInput,
  FamilyName,
  FamilyTable,
  FilamentInput,
  FoundPose,
  MOST_PHOTO_BYTES,
  MOST_PHOTOS_PER_STEP,
  MOST_UPLOAD_BYTES,
  pageOf,
  PageQuery,
  Part,
  PartInput,
  PHOTO_SIDE_PX,
  Plan,
  PlanFigures,
  PlanInput,
  PoseSearch,
  Printer,
  PrinterInput,
  Problem,
  PROBLEM_CODES,
  ReadingInput,
  Revision,
  SearchInput,
  SpoolFields,
  StepPhoto,
  StepReading,
  Stored,
  StoredFilament,
  Trial,
  TrialInput,
} from './wire'
export type { Page } from './wire'
export { familyBook, knownTrial, knownTrials, planFilament } from './toCore'
export { readFilamentCsv, writeFilamentCsv } from './filamentCsv'
export type { FilamentCsv } from './filamentCsv'
export { loadProblems } from './loadMap'
