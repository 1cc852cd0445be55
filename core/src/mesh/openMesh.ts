import type { Mesh } from './mesh'
import { mendMesh, mendSentences, type MendReport } from './mendMesh'
import { readMesh } from './readMesh'

/** A file's mesh as the app works with it, and everything that was remarkable about it. */
export type OpenedMesh = {
  readonly mesh: Mesh
  readonly report: MendReport
  /** Of the file; then what was mended; then what was left as it is. */
  readonly notes: readonly string[]
}

/**
 * Reads a mesh file and mends what can be mended. The same bytes give the same mesh everywhere: in the page, on the server and on the
 * command line.
 * @throws TenderError as readMesh does
 */
export function openMesh(bytes: Uint8Array): OpenedMesh {
  const read = readMesh(bytes)
  const { mesh, report } = mendMesh(read.mesh)
  const { mended, left } = mendSentences(report)
  return { mesh, report, notes: [...read.notes, ...mended, ...left] }
}
