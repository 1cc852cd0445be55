import { createHash } from 'node:crypto'
import type { Part, PartInput } from '@tender/contract'
import { guessUnit, meshFacts, openMesh, saysUnit, UPRIGHT } from '@tender/core/mesh'
import { and, asc, count, eq, ilike, isNull } from 'drizzle-orm'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { containing } from '../storage/search'
import { changeRoot, notFound, removeRoot, restoreRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { mesh, meshChunk, part } from './schema'

const CHUNK_BYTES = 1 << 20

export type PartShelf = Shelf<PartInput, Part> & {
  /**
   * Takes a file in: reads it, stores its bytes by content and makes a part of it.
   * @throws TenderError when the file cannot be read as a mesh; nothing is stored then
   */
  bringIn(id: string, name: string, fileName: string, bytes: Buffer): Promise<Part>
  /** The stored file, piece by piece. */
  meshBytes(sha256: string): Promise<{ readonly byteLength: number; readonly chunks: AsyncIterable<Buffer> }>
}

export function partShelf(db: Database): PartShelf {
  const rowsWhere = (where: ReturnType<typeof and>) => db.select({ row: part, mesh }).from(part).innerJoin(mesh, eq(mesh.sha256, part.meshSha256)).where(where).orderBy(asc(part.name))
  const one = async (id: string) => {
    const [found] = await rowsWhere(eq(part.id, id))
    if (!found) throw notFound()
    return toPart(found)
  }
  return {
    one,
    async list({ search, limit, offset }) {
      const where = and(isNull(part.deletedAt), ilike(part.name, containing(search)))
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
    async bringIn(id, name, fileName, bytes) {
      const sha256 = createHash('sha256').update(bytes).digest('hex')
      const [known] = await db.select().from(mesh).where(eq(mesh.sha256, sha256))
      const { facts, notes } = known ?? readFacts(bytes)
      const scale = guessUnit(Math.max(...facts.sizeMm), saysUnit(bytes)).scale
      await db.transaction(async (tx) => {
        const made = await tx.insert(mesh).values({ sha256, byteLength: bytes.length, facts, notes }).onConflictDoNothing().returning({ sha256: mesh.sha256 })
        if (made.length > 0)
          for (let at = 0; at < bytes.length; at += CHUNK_BYTES) await tx.insert(meshChunk).values({ sha256, position: at / CHUNK_BYTES, bytes: bytes.subarray(at, at + CHUNK_BYTES) })
        await tx
          .insert(part)
          .values({ id, name, fileName, meshSha256: sha256, pose: { ...UPRIGHT, turn: [...UPRIGHT.turn], scale } })
          .onConflictDoNothing()
      })
      return one(id)
    },
    async meshBytes(sha256) {
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
    },
  }
}

function readFacts(bytes: Buffer): { facts: Part['facts']; notes: string[] } {
  const { mesh: read, notes } = openMesh(bytes)
  const facts = meshFacts(read)
  return { facts: { ...facts, sizeMm: [...facts.sizeMm] }, notes: [...notes] }
}

function toPart({ row, mesh: { byteLength, facts, notes } }: { row: typeof part.$inferSelect; mesh: typeof mesh.$inferSelect }): Part {
  return { ...storedOf(row), name: row.name, fileName: row.fileName, meshSha256: row.meshSha256, pose: row.pose, byteLength, facts, notes }
}
