export { trialsOfTakeOffs } from './asTrials'
export { CAUSES, causesOf, changeOf, COMPLAINTS } from './complaints'
export type { Cause, CauseName, Complaint, ComplaintInput } from './complaints'
export { correctedGrams } from './corrected'
export type { CorrectedGrams } from './corrected'
export { learntFrom } from './learnt'
export { lessonsOf } from './lessons'
export type { Lesson, LessonBench } from './lessons'
export { DAMAGES, LESSONS, SPECKS, STAYED, TOOLS } from './record'
export type {
  ContactReading,
  Damage,
  LessonKind,
  PlannedGrams,
  Printed,
  PrintedContact,
  Specks,
  Stayed,
  TakeOff,
  Tool,
  WholeReading,
} from './record'
export { storyOf } from './story'
export type { StoryStep } from './story'
