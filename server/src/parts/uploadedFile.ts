import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { mkdtemp, open, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { knowMesh, type MeshKnowledge } from './knowMesh'
import { knowMeshApart } from './knowMeshApart'
import { HttpProblem } from '../problem'

/** A file that has arrived: its bytes are read piece by piece, never all at once. */
export type UploadedFile = {
  readonly sha256: string
  readonly byteLength: number
  /** Its first bytes, which say what it is. */
  readonly head: Uint8Array
  chunks(size: number): AsyncIterable<Buffer>
  /** Reads it as a mesh. @throws TenderError when it is none */
  facts(): Promise<MeshKnowledge>
}

const HEAD_BYTES = 16

/**
 * Takes a request's body down to a file of its own, and gives it to the work; the file is gone afterwards, whatever happens.
 * @throws HttpProblem TOO_LARGE as soon as more than `most` bytes have come
 */
export async function withUpload<T>(body: Readable, most: number, work: (file: UploadedFile) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'tender-upload-'))
  const path = join(folder, 'mesh')
  try {
    const hash = createHash('sha256')
    let byteLength = 0
    let head = Buffer.alloc(0)
    const file = await open(path, 'w')
    try {
      for await (const piece of body) {
        byteLength += (piece as Buffer).length
        if (byteLength > most) throw new HttpProblem('TOO_LARGE', 'The file is larger than this server takes in. Nothing was stored.')
        if (head.length < HEAD_BYTES) head = Buffer.concat([head, (piece as Buffer).subarray(0, HEAD_BYTES)])
        hash.update(piece as Buffer)
        await file.write(piece as Buffer)
      }
    } finally {
      await file.close()
    }
    return await work({ sha256: hash.digest('hex'), byteLength, head, chunks: (size) => inPieces(createReadStream(path, { highWaterMark: size }), size), facts: () => knowMeshApart(path) })
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** A file that is in memory already: our own demo parts. */
export function fileInMemory(bytes: Buffer): UploadedFile {
  return {
    sha256: createHash('sha256').update(bytes).digest('hex'),
    byteLength: bytes.length,
    head: bytes.subarray(0, HEAD_BYTES),
    async *chunks(size) {
      for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size)
    },
    facts: async () => knowMesh(bytes),
  }
}

/** A stream cut into pieces of exactly one size, but for the last. */
async function* inPieces(stream: AsyncIterable<Buffer>, size: number): AsyncIterable<Buffer> {
  let waiting: Buffer[] = []
  let held = 0
  for await (const piece of stream) {
    waiting.push(piece)
    held += piece.length
    while (held >= size) {
      const all = Buffer.concat(waiting)
      yield all.subarray(0, size)
      waiting = [all.subarray(size)]
      held -= size
    }
  }
  if (held > 0) yield Buffer.concat(waiting)
}
