import { MOST_PHOTOS_PER_STEP } from '@tender/contract'
import { and, eq, isNull, ne, sql } from 'drizzle-orm'
import type { PgColumn, PgTable } from 'drizzle-orm/pg-core'
import { HttpProblem } from '../problem'
import type { Database } from '../storage/database'
import { notFound } from '../storage/shelf'
import { blobOf, keepBlob, storedBlob, wholeOf } from './store'
import type { TakenPhoto } from './takePhoto'

type PhotoTable = PgTable & {
  id: PgColumn
  sha256: PgColumn
  deletedAt: PgColumn
  widthPx: PgColumn
  heightPx: PgColumn
}

export type KeptPhotos<Photo> = {
  /**
   * Keeps a picture; the same picture sent twice is one picture.
   * @throws HttpProblem TOO_MANY, and whatever `mustHave` throws
   */
  add(db: Database, parentId: string, key: string, id: string, photo: TakenPhoto): Promise<Photo>
  /** Its bytes; null when there is no such picture here. */
  bytes(db: Database, id: string): Promise<Buffer | null>
  /**
   * Marks a picture as removed, or brings it back; nothing is lost. @returns whether there is such a picture
   */
  keep(db: Database, id: string, keep: boolean): Promise<boolean>
}

/**
 * Pictures of the things under a parent.
 * @param parent name of the column with the parent's identity, `key` that of the thing beneath it
 * @param mustHave makes sure that there is such a thing, and holds the parent until the transaction ends
 * @throws TOO_MANY when another picture would be one too many
 */
export function keptPhotos<Photo>(
  table: PhotoTable,
  parent: string,
  key: string,
  mustHave: (db: Database, parentId: string, key: string) => Promise<void>,
): KeptPhotos<Photo> {
  const columns = table as unknown as Record<string, PgColumn>
  const fields = { id: table.id, [key]: columns[key], widthPx: table.widthPx, heightPx: table.heightPx }
  return {
    add: (db, parentId, keyValue, id, { jpeg, ...size }) =>
      db.transaction(async (tx) => {
        // Several that come at once are counted one after the other.
        await mustHave(tx, parentId, keyValue)
        const others = await tx
          .select({ id: table.id })
          .from(table as PgTable)
          .where(
            and(
              eq(columns[parent], parentId),
              eq(columns[key], keyValue),
              isNull(table.deletedAt),
              ne(table.id, id),
            ),
          )
        if (others.length >= MOST_PHOTOS_PER_STEP)
          throw new HttpProblem(
            'TOO_MANY',
            `One place holds up to ${MOST_PHOTOS_PER_STEP} pictures. This one was not stored; remove another first.`,
          )
        const sha256 = await keepBlob(tx, blobOf(jpeg))
        await tx
          .insert(table)
          .values({ ...size, sha256, id, [parent]: parentId, [key]: keyValue } as never)
          .onConflictDoNothing({ target: table.id })
        const [kept] = await tx
          .select(fields)
          .from(table as PgTable)
          .where(eq(table.id, id))
        return kept as Photo
      }),
    async bytes(db, id) {
      const [found] = await db
        .select({ sha256: table.sha256 })
        .from(table as PgTable)
        .where(and(eq(table.id, id), isNull(table.deletedAt)))
      return found ? wholeOf(await storedBlob(db, found.sha256 as string)) : null
    },
    async keep(db, id, keep) {
      const rows = (await db
        .update(table)
        .set({ deletedAt: keep ? null : sql`coalesce(${table.deletedAt}, now())` } as never)
        .where(eq(table.id, id))
        .returning({ id: table.id })) as unknown[]
      return rows.length > 0
    },
  }
}

/** Pictures of all kinds by their identity alone. @throws HttpProblem NOT_FOUND */
export function anyPhotos(db: Database, kinds: readonly KeptPhotos<unknown>[]) {
  return {
    async bytes(id: string): Promise<Buffer> {
      for (const kind of kinds) {
        const bytes = await kind.bytes(db, id)
        if (bytes) return bytes
      }
      throw notFound()
    },
    async keep(id: string, keep: boolean): Promise<void> {
      for (const kind of kinds) if (await kind.keep(db, id, keep)) return
      throw notFound()
    },
  }
}
export type AnyPhotos = ReturnType<typeof anyPhotos>
