import { z } from 'zod'

/** Whether others in the local network are served, and who was let in. */
export const Sharing = z.object({
  on: z.boolean(),
  /** Where others reach it; empty while it is not shared. */
  addresses: z.array(z.string()),
  code: z.string().nullable(),
  codeUntil: z.string().nullable(),
  devices: z.array(z.object({ id: z.uuid(), name: z.string(), letInAt: z.string(), seenAt: z.string() })),
})
export type Sharing = z.infer<typeof Sharing>
