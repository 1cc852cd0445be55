import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { mkdtemp, open, readdir, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { blobOf, type NewBlob } from '../blobs/store'
import { knowMesh, type MeshKnowledge } from './knowMesh'
import { knowMeshApart } from './knowMeshApart'
import { HttpProblem } from '../problem'

/** A file that has arrived: its bytes are read piece by piece, never all at once. */
export type UploadedFile = NewBlob & {
  /** Its first bytes, which say what it is. */
  readonly head: Uint8Array
  /** Reads it as a mesh. @throws TenderError when it is none */
  knowledge(): Promise<MeshKnowledge>
}

const HEAD_BYTES = 16

/**
 * Folders of uploads carry the number of the process that takes them in, so that those of a killed one are
 * known.
 */
const FOLDER = /^tender-upload-(\d+)-/

/** Clears what uploads of servers that are no more left lying. */
export async function clearLeftUploads(): Promise<void> {
  for (const name of await readdir(tmpdir())) {
    const owner = Number(FOLDER.exec(name)?.[1])
    if (owner && !isRunning(owner)) await rm(join(tmpdir(), name), { recursive: true, force: true })
  }
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

/** Gives the work a file of its own, empty so far; it is gone afterwards, whatever happens. */
export async function withFile<T>(work: (path: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), `tender-upload-${process.pid}-`))
  try {
    return await work(join(folder, 'mesh'))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/**
 * Takes a request's body down to a file of its own, and gives it to the work.
 * @param gone aborted when whoever sent it has left
 * @throws HttpProblem TOO_LARGE as soon as more than `most` bytes have come
 */
export const withUpload = <T>(
  body: Readable,
  most: number,
  gone: AbortSignal,
  work: (file: UploadedFile) => Promise<T>,
): Promise<T> =>
  withFile(async (path) => {
    const hash = createHash('sha256')
    let byteLength = 0
    let head = Buffer.alloc(0)
    const file = await open(path, 'w')
    try {
      for await (const chunk of body) {
        const piece = chunk as Buffer
        byteLength += piece.length
        if (byteLength > most)
          throw new HttpProblem(
            'TOO_LARGE',
            'The file is larger than this server takes in. Nothing was stored.',
          )
        if (head.length < HEAD_BYTES) head = Buffer.concat([head, piece.subarray(0, HEAD_BYTES)])
        hash.update(piece)
        await file.appendFile(piece)
      }
    } finally {
      await file.close()
    }
    return work({
      sha256: hash.digest('hex'),
      byteLength,
      head,
      chunks: (size) => inPieces(createReadStream(path, { highWaterMark: size }), size),
      knowledge: () => knowMeshApart(path, gone),
    })
  })

/**
 * Takes a request's body down to a file, and gives its path to the work.
 * @throws HttpProblem TOO_LARGE as soon as more than `most` bytes have come
 */
export const withReceived = <T>(
  body: Readable,
  most: number,
  work: (path: string) => Promise<T>,
): Promise<T> =>
  withFile(async (path) => {
    let byteLength = 0
    const file = await open(path, 'w')
    try {
      for await (const chunk of body) {
        byteLength += (chunk as Buffer).length
        if (byteLength > most)
          throw new HttpProblem(
            'TOO_LARGE',
            'The file is larger than this server takes in. Nothing was stored.',
          )
        await file.appendFile(chunk as Buffer)
      }
    } finally {
      await file.close()
    }
    return work(path)
  })

/** A file that is in memory already: our own demo parts. */
export const fileInMemory = (bytes: Buffer): UploadedFile => ({
  ...blobOf(bytes),
  head: bytes.subarray(0, HEAD_BYTES),
  knowledge: async () => knowMesh(bytes),
})

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
