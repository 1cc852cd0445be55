export { Colour, completePlan, DecisionFields, EvidenceOfPlan, FilamentFields, PlanDocumentFields, PlanFile, PoseFields, PrinterFields } from './plan'
export { issueSentence } from './sentences'
export { summaryJson } from './summaryJson'
export * from './wire'
