export { BetterFound, BetterInput, BetterSearch } from './better'
export { FamilyEntry, FamilyInput, FamilyName, FamilyTable, ClingEntry, ClingInput } from './family'
export {
  Colour,
  FilamentFields,
  PlanFilamentFields,
  FilamentInput,
  SpoolFields,
  StoredFilament,
} from './filament'
export { readFilamentCsv, writeFilamentCsv } from './filamentCsv'
export type { FilamentCsv } from './filamentCsv'
export { asOfToday, KeptAbout, keptQuestions, LastKept, leanTakeOff, MOST_KEPT_BYTES } from './kept'
export { loadProblems } from './loadMap'
export { MOST_UPLOAD_BYTES, Part, PartInput, PoseFields, ZoneFields } from './part'
export {
  PrintRun,
  RUN_STATES,
  RunInput,
  RunPrinter,
  RunProgress,
  STAND_IN_FAULTS,
  StandIns,
} from './printRun'
export type { RunState } from './printRun'
export { DecisionFields, EvidenceOfPlan, Plan, PlanDocumentFields, PlanFigures, PlanInput } from './plan'
export { completePlan, PlanFile } from './planFile'
export { Printer, PrinterFields, PrinterInput } from './printer'
export { Problem, PROBLEM_CODES } from './problem'
export type { ProblemCode } from './problem'
export { RestoreReport } from './restore'
export { FoundPose, PoseSearch, SearchInput } from './search'
export { Sharing } from './sharing'
export { issuePredicate, issueSentence } from './sentences'
export { PageQuery, pageOf, Revision, Stored } from './stored'
export type { Page } from './stored'
export { figuresOf, releaseJson, summaryJson, weighedJson } from './summaryJson'
export {
  NoteChange,
  NOTHING_NOTED,
  StoredNote,
  StoredTakeOff,
  TakeOffFile,
  takeOffFile,
  TakeOffInput,
  TakeOffNote,
  TakeOffPhoto,
  WHOLE,
} from './takeOff'
export { familyBook, knownTrial, knownTrials, planFilament, planPrinter, takeOffOf } from './toCore'
export {
  CouponFields,
  MOST_PHOTO_BYTES,
  MOST_PHOTOS_PER_STEP,
  PHOTO_SIDE_PX,
  ReadingChange,
  ReadingInput,
  StepPhoto,
  StepReading,
  Trial,
  TrialInput,
} from './trial'
export { CURRENCIES, Workshop, WorkshopInput } from './workshop'
