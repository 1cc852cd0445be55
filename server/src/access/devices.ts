import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { asc, eq, sql } from 'drizzle-orm'
import type { Database } from '../storage/database'
import { device } from './schema'

/** When a device was last seen is written down no oftener than this. */
const SEEN_EVERY_MS = 5 * 60_000

export type Device = {
  readonly id: string
  readonly name: string
  readonly letInAt: string
  readonly seenAt: string
}

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

/** Devices that were let in: they stay so until they are put out, whoever restarts. */
export function deviceShelf(db: Database) {
  return {
    /** Lets a device in. @returns what it shows from now on */
    async letIn(name: string): Promise<string> {
      const token = randomBytes(32).toString('base64url')
      await db
        .insert(device)
        .values({ id: randomUUID(), name: name.slice(0, 80), tokenSha256: hashOf(token) })
      return token
    },
    async isLetIn(token: string): Promise<boolean> {
      const [found] = await db
        .select()
        .from(device)
        .where(eq(device.tokenSha256, hashOf(token)))
      if (!found) return false
      if (Date.now() - found.seenAt.getTime() > SEEN_EVERY_MS)
        await db
          .update(device)
          .set({ seenAt: sql`now()` })
          .where(eq(device.id, found.id))
      return true
    },
    async list(): Promise<Device[]> {
      const rows = await db.select().from(device).orderBy(asc(device.letInAt))
      return rows.map(({ id, name, letInAt, seenAt }) => ({
        id,
        name,
        letInAt: letInAt.toISOString(),
        seenAt: seenAt.toISOString(),
      }))
    },
    async putOut(id: string): Promise<void> {
      await db.delete(device).where(eq(device.id, id))
    },
  }
}
export type DeviceShelf = ReturnType<typeof deviceShelf>
