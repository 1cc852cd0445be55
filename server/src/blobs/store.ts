import { createHash } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import type { Database } from '../storage/database'
import { notFound } from '../storage/shelf'
import { blob, blobChunk } from './schema'

export const CHUNK_BYTES = 1 << 20

/** Bytes to be stored: what they are known by, and themselves, piece by piece. */
export type NewBlob = {
  readonly sha256: string
  readonly byteLength: number
  chunks(size: number): Iterable<Uint8Array> | AsyncIterable<Uint8Array>
}

export type StoredBlob = { readonly byteLength: number; readonly chunks: AsyncIterable<Buffer> }

/** Bytes that are in memory. */
export function blobOf(bytes: Uint8Array): NewBlob {
  return {
    sha256: createHash('sha256').update(bytes).digest('hex'),
    byteLength: bytes.length,
    *chunks(size) {
      for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size)
    },
  }
}

/** Stores bytes unless they are there already; call it in a transaction, so that all pieces come or none. */
export async function keepBlob(tx: Database, { sha256, byteLength, chunks }: NewBlob): Promise<string> {
  const made = await tx
    .insert(blob)
    .values({ sha256, byteLength })
    .onConflictDoNothing()
    .returning({ sha256: blob.sha256 })
  if (made.length === 0) return sha256
  let position = 0
  for await (const bytes of chunks(CHUNK_BYTES))
    await tx.insert(blobChunk).values({ sha256, position: position++, bytes: Buffer.from(bytes) })
  return sha256
}

/**
 * Stored bytes, read piece by piece as they are asked for.
 * @throws HttpProblem NOT_FOUND
 */
export async function storedBlob(db: Database, sha256: string): Promise<StoredBlob> {
  const [found] = await db.select().from(blob).where(eq(blob.sha256, sha256))
  if (!found) throw notFound()
  async function* chunks() {
    for (let position = 0; position * CHUNK_BYTES < found.byteLength; position++) {
      const [chunk] = await db
        .select({ bytes: blobChunk.bytes })
        .from(blobChunk)
        .where(and(eq(blobChunk.sha256, sha256), eq(blobChunk.position, position)))
      yield chunk.bytes
    }
  }
  return { byteLength: found.byteLength, chunks: chunks() }
}

/** All bytes at once: of what is small, or is worked on as a whole. */
export async function wholeOf({ chunks }: StoredBlob): Promise<Buffer> {
  const pieces: Buffer[] = []
  for await (const piece of chunks) pieces.push(piece)
  return Buffer.concat(pieces)
}
