import { z } from 'zod'
import { Id, Name } from './stored'

/** `lost`: the printer cannot be reached just now. `fault`: it said why it does not go on. */
export const RUN_STATES = ['printing', 'paused', 'fault', 'lost', 'done', 'given up'] as const
export type RunState = (typeof RUN_STATES)[number]

/**
 * Where a file is being printed: the stand-in that ships with the app, or a printer that takes lines over a
 * socket.
 */
export const RunPrinter = z.union([
  z.strictObject({ standIn: z.literal(true) }),
  z.strictObject({
    standIn: z.literal(false),
    host: z.string().trim().min(1).max(200),
    port: z.number().int().min(1).max(65535),
  }),
])
export type RunPrinter = z.infer<typeof RunPrinter>

/** What is printed, asked for beside the file itself. */
export const RunInput = z.strictObject({
  title: Name,
  /** What it is kept as: a print to be taken off, or a trial to be read. */
  takeOffId: Id.nullable(),
  trialId: Id.nullable().default(null),
  printer: RunPrinter,
  /** Where the zero of the plan's drawings lies on the bed. */
  zeroMm: z.tuple([z.number(), z.number()]),
  /** What is loaded, by the number of its tool. */
  filaments: z.array(z.string().max(200)).max(50).default([]),
  seconds: z.number().min(0).max(1e8),
  /** How much quicker than a printer a stand-in goes. */
  speed: z.number().min(1).max(100_000).default(300),
})
export type RunInput = z.infer<typeof RunInput>

/** How far a print is, by the lines its printer has done. */
export const RunProgress = z.object({
  /** Commands done. */
  commands: z.number().int(),
  doneBytes: z.number().int(),
  atMm: z.tuple([z.number(), z.number(), z.number()]).nullable(),
  layer: z.number().int().nullable(),
  layers: z.number().int().nullable(),
  zMm: z.number().nullable(),
  role: z.string().max(40).nullable(),
  minutesLeft: z.number().nullable(),
  tool: z.number().int(),
  /** Filament pushed forward and not drawn back, by tool, in mm. */
  filamentMm: z.record(z.string().max(4), z.number()),
  /** How the file counts filament just now. */
  extruder: z.object({ relative: z.boolean(), atMm: z.number() }),
})
export type RunProgress = z.infer<typeof RunProgress>

export const PrintRun = z.object({
  id: Id,
  ...RunInput.shape,
  state: z.enum(RUN_STATES),
  message: z.string().nullable(),
  bytes: z.number().int(),
  progress: RunProgress,
  /** As the printer tells them; null until it has. */
  temperatures: z.string().max(400).nullable(),
})
export type PrintRun = z.infer<typeof PrintRun>

export const STAND_IN_FAULTS = ['runs out', 'jams', 'loses a line', 'hangs up'] as const

/** Which stand-ins run beside this server. */
export const StandIns = z.object({
  printer: z.boolean(),
  look: z.boolean(),
  gauge: z.boolean(),
  scale: z.boolean(),
})
export type StandIns = z.infer<typeof StandIns>
