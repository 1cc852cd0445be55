import type { Part, PartInput } from '@tender/contract'
import { guessUnit, saysUnit, UPRIGHT } from '@tender/core/mesh'
import { and, asc, count, eq, ilike, isNull, or, sql } from 'drizzle-orm'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { containing } from '../storage/search'
import { changeRoot, notFound, removeRoot, restoreRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { mesh, meshChunk, meshRough, part } from './schema'
import type { UploadedFile } from './uploadedFile'

const CHUNK_BYTES = 1 << 20

export type StoredMesh = { readonly byteLength: number; readonly chunks: Iterable<Buffer> | AsyncIterable<Buffer> }

export type PartShelf = Shelf<PartInput, Part> & {
  /**
   * Takes a file in: reads it, stores its bytes by content and makes a part of it. A newer version of a part lies as that one did, with its
   * tags and zones.
   * @throws TenderError when the file cannot be read as a mesh; nothing is stored then
   */
  bringIn(id: string, name: string, fileName: string, file: UploadedFile, olderId?: string | null): Promise<Part>
  /** The stored file, piece by piece. */
  meshBytes(sha256: string): Promise<StoredMesh>
  /** Enough of it for a small picture: a rough copy of a heavy file, the file itself otherwise. */
  roughBytes(sha256: string): Promise<StoredMesh>
}

export function partShelf(db: Database): PartShelf {
  const rowsWhere = (where: ReturnType<typeof and>) => db.select({ row: part, mesh }).from(part).innerJoin(mesh, eq(mesh.sha256, part.meshSha256)).where(where).orderBy(asc(part.name))
  const one = async (id: string) => {
    const [found] = await rowsWhere(eq(part.id, id))
    if (!found) throw notFound()
    return toPart(found)
  }
  const meshBytes = async (sha256: string): Promise<StoredMesh> => {
    const [found] = await db.select().from(mesh).where(eq(mesh.sha256, sha256))
    if (!found) throw notFound()
    const { byteLength } = found
    async function* chunks() {
      for (let position = 0; position * CHUNK_BYTES < byteLength; position++) {
        const [chunk] = await db.select().from(meshChunk).where(and(eq(meshChunk.sha256, sha256), eq(meshChunk.position, position))) // prettier-ignore
        yield chunk.bytes
      }
    }
    return { byteLength, chunks: chunks() }
  }
  return {
    one,
    async list({ search, limit, offset }) {
      const where = and(isNull(part.deletedAt), or(ilike(part.name, containing(search)), sql`${part.tags}::text ilike ${containing(search)}`))
      const rows = await rowsWhere(where).limit(limit).offset(offset)
      const [{ total }] = await db.select({ total: count() }).from(part).where(where)
      return { items: rows.map(toPart), total }
    },
    async save(id, revision, input) {
      if (revision === null) throw notFound()
      await changeRoot(db, part, id, revision, input, () => one(id))
      return one(id)
    },
    remove: (id) => removeRoot(db, part, id),
    restore: (id) => restoreRoot(db, part, id),
    async bringIn(id, name, fileName, { sha256, byteLength, head, chunks, facts: read }, olderId = null) {
      const [known] = await db.select().from(mesh).where(eq(mesh.sha256, sha256))
      const fresh = known ? null : await read()
      const { facts, notes, bodies } = known ?? fresh!
      const older = olderId ? await one(olderId) : null
      const scale = older?.pose.scale ?? guessUnit(Math.max(...facts.sizeMm), saysUnit(head)).scale
      await db.transaction(async (tx) => {
        const made = await tx.insert(mesh).values({ sha256, byteLength, facts, notes, bodies }).onConflictDoNothing().returning({ sha256: mesh.sha256 })
        if (made.length > 0) {
          let position = 0
          for await (const bytes of chunks(CHUNK_BYTES)) await tx.insert(meshChunk).values({ sha256, position: position++, bytes })
          if (fresh?.rough) await tx.insert(meshRough).values({ sha256, bytes: Buffer.from(fresh.rough) })
        }
        await tx
          .insert(part)
          .values({ id, name, fileName, meshSha256: sha256, pose: older?.pose ?? { ...UPRIGHT, turn: [...UPRIGHT.turn], scale }, tags: older?.tags ?? [], zones: older?.zones ?? [], olderId })
          .onConflictDoNothing()
      })
      return one(id)
    },
    meshBytes,
    async roughBytes(sha256) {
      const [rough] = await db.select().from(meshRough).where(eq(meshRough.sha256, sha256))
      return rough ? { byteLength: rough.bytes.length, chunks: [rough.bytes] } : meshBytes(sha256)
    },
  }
}

function toPart({ row, mesh: { byteLength, facts, notes, bodies } }: { row: typeof part.$inferSelect; mesh: typeof mesh.$inferSelect }): Part {
  return {
    ...storedOf(row),
    name: row.name,
    fileName: row.fileName,
    meshSha256: row.meshSha256,
    pose: row.pose,
    tags: row.tags,
    zones: row.zones,
    bodies: row.bodies,
    olderId: row.olderId,
    byteLength,
    facts,
    notes,
    meshBodies: bodies.length > 0 ? bodies : [{ name: '', triangles: facts.triangles }],
  }
}
