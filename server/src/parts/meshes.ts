import { createWriteStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import { eq } from 'drizzle-orm'
import { blobOf, keepBlob, storedBlob, wholeOf, type StoredBlob } from '../blobs/store'
import type { Database } from '../storage/database'
import { notFound } from '../storage/shelf'
import type { MeshKnowledge } from './knowMesh'
import { knowMeshApart } from './knowMeshApart'
import { mesh } from './schema'
import { withFile, type UploadedFile } from './uploadedFile'

export type MeshStore = {
  /** The file as it was brought in. @throws HttpProblem NOT_FOUND */
  file(sha256: string): Promise<StoredBlob>
  /** The mended mesh, packed. @throws HttpProblem NOT_FOUND */
  packed(sha256: string): Promise<StoredBlob>
  /** Enough of it for a small picture, packed. @throws HttpProblem NOT_FOUND */
  rough(sha256: string): Promise<StoredBlob>
}

export type MeshRow = typeof mesh.$inferSelect

/** Stores a file with what is known of it, each once. */
export async function keepMesh(tx: Database, file: UploadedFile, knowledge: MeshKnowledge): Promise<void> {
  await keepBlob(tx, file)
  await tx
    .insert(mesh)
    .values({ sha256: file.sha256, ...(await keepKnowledge(tx, knowledge)) })
    .onConflictDoNothing()
}

async function keepKnowledge(tx: Database, { facts, notes, bodies, packed, rough }: MeshKnowledge) {
  return {
    facts,
    notes,
    bodies,
    packedSha256: await keepBlob(tx, blobOf(packed)),
    roughSha256: rough && (await keepBlob(tx, blobOf(rough))),
  }
}

export function meshStore(db: Database): MeshStore {
  async function row(sha256: string): Promise<MeshRow> {
    const [found] = await db.select().from(mesh).where(eq(mesh.sha256, sha256))
    if (!found) throw notFound()
    return found
  }
  /** A file from before packed meshes were kept is read now, once. */
  async function withPacked(sha256: string): Promise<MeshRow> {
    const known = await row(sha256)
    if (known.packedSha256 !== null) return known
    const { chunks } = await storedBlob(db, sha256)
    const knowledge = await withFile(async (path) => {
      await pipeline(chunks, createWriteStream(path))
      return knowMeshApart(path)
    })
    await db.transaction(async (tx) => {
      await tx
        .update(mesh)
        .set(await keepKnowledge(tx, knowledge))
        .where(eq(mesh.sha256, sha256))
    })
    return row(sha256)
  }
  /**
   * Small ones, which pictures ask for again and again; what stands at an address by content never changes.
   */
  const ready = new Map<string, Buffer>()
  async function remembered(key: string, stored: () => Promise<StoredBlob>): Promise<StoredBlob> {
    const known = ready.get(key)
    if (known) return oneChunk(known)
    const found = await stored()
    if (found.byteLength > MOST_REMEMBERED_BYTES) return found
    const bytes = await wholeOf(found)
    ready.set(key, bytes)
    if (ready.size > MOST_REMEMBERED) ready.delete(ready.keys().next().value!)
    return oneChunk(bytes)
  }
  return {
    file: async (sha256) => storedBlob(db, (await row(sha256)).sha256),
    packed: (sha256) =>
      remembered(`packed ${sha256}`, async () => storedBlob(db, (await withPacked(sha256)).packedSha256!)),
    rough: (sha256) =>
      remembered(`rough ${sha256}`, async () => {
        const { roughSha256, packedSha256 } = await withPacked(sha256)
        return storedBlob(db, roughSha256 ?? packedSha256!)
      }),
  }
}

const MOST_REMEMBERED_BYTES = 512 * 1024
const MOST_REMEMBERED = 64

function oneChunk(bytes: Buffer): StoredBlob {
  async function* chunks() {
    yield bytes
  }
  return { byteLength: bytes.length, chunks: chunks() }
}
