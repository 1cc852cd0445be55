import type { Part, PartInput } from '@tender/contract'
import { guessUnit, saysUnit, UPRIGHT } from '@tender/core/mesh'
import { eq, sql } from 'drizzle-orm'
import { blob } from '../blobs/schema'
import { HttpProblem } from '../problem'
import { storedOf } from '../storage/columns'
import type { Database } from '../storage/database'
import { amongIds, pagesOf } from '../storage/pages'
import { changeRoot, mustStand, notFound, removeRoot, restoreRoot } from '../storage/shelf'
import type { Shelf } from '../storage/shelfRoutes'
import { keepMesh, type MeshRow } from './meshes'
import { mesh, part } from './schema'
import type { UploadedFile } from './uploadedFile'

export type PartShelf = Shelf<PartInput, Part> & {
  /**
   * Takes a file in: reads it, stores its bytes by content and makes a part of it. A newer version of a part
   * lies as that one did, with its tags and zones.
   * @throws TenderError when the file cannot be read as a mesh; nothing is stored then
   */
  bringIn(
    id: string,
    name: string,
    fileName: string,
    file: UploadedFile,
    olderId?: string | null,
  ): Promise<Part>
}

/**
 * Parts as they are kept.
 * @throws TAKEN when another part has the identity already
 */
export function partShelf(db: Database): PartShelf {
  const fields = { row: part, mesh, byteLength: blob.byteLength }
  const oneQuery = db
    .select(fields)
    .from(part)
    .innerJoin(mesh, eq(mesh.sha256, part.meshSha256))
    .innerJoin(blob, eq(blob.sha256, mesh.sha256))
    .where(eq(part.id, sql.placeholder('id')))
    .prepare('part_one')
  const rowsQuery = db
    .select(fields)
    .from(part)
    .innerJoin(mesh, eq(mesh.sha256, part.meshSha256))
    .innerJoin(blob, eq(blob.sha256, mesh.sha256))
    .where(amongIds(part.id))
    .prepare('part_rows')
  const list = pagesOf(
    db,
    {
      table: part,
      searched: [part.name, sql`${part.tags}::text`],
      orders: { name: [part.name], touched: [part.updatedAt] },
    },
    (ids) => rowsQuery.execute({ ids }),
    toPart,
  )
  const one = async (id: string) => {
    const [found] = await oneQuery.execute({ id })
    return toPart(mustStand(found, found?.row.deletedAt))
  }
  return {
    one,
    list,
    async save(id, revision, input) {
      if (revision === null) throw notFound()
      const row = await changeRoot(db, part, id, revision, input, () => one(id))
      const [found] = await oneQuery.execute({ id })
      return toPart({ ...found, row })
    },
    remove: (id, revision) => removeRoot(db, part, id, revision, () => one(id)),
    restore: (id) => restoreRoot(db, part, id),
    async bringIn(id, name, fileName, file, olderId = null) {
      const [known] = await db.select().from(mesh).where(eq(mesh.sha256, file.sha256))
      const fresh = known ? null : await file.knowledge()
      const { facts, bodies } = known ?? fresh!
      const older = olderId ? await one(olderId) : null
      const scale = older?.pose.scale ?? guessUnit(Math.max(...facts.sizeMm), saysUnit(file.head)).scale
      // What the file itself calls a support is one.
      const roles = bodies.some(({ drawnStand }) => drawnStand)
        ? bodies.map(({ drawnStand }) => (drawnStand ? ('stand' as const) : ('part' as const)))
        : []
      await db.transaction(async (tx) => {
        if (fresh) await keepMesh(tx, file, fresh)
        await tx
          .insert(part)
          .values({
            id,
            name,
            fileName,
            meshSha256: file.sha256,
            pose: older?.pose ?? { ...UPRIGHT, turn: [...UPRIGHT.turn], scale },
            tags: older?.tags ?? [],
            zones: older?.zones ?? [],
            bodies: roles,
            olderId,
          })
          .onConflictDoNothing()
      })
      const stored = await one(id)
      if (stored.meshSha256 !== file.sha256)
        throw new HttpProblem(
          'TAKEN',
          'Another part has this identity already. This file was not made a part; bring it in anew.',
        )
      return stored
    },
  }
}

type Row = { row: typeof part.$inferSelect; mesh: MeshRow; byteLength: number }

function toPart({ row, mesh: { facts, notes, bodies }, byteLength }: Row): Part {
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
