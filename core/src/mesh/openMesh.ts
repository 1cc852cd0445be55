import { meshBounds, type Mesh } from './mesh'
import { guessUnit } from './meshFacts'
import { mendMesh, mendSentences, type MendReport } from './mendMesh'
import { readMesh, saysUnit } from './readMesh'

/** A file's mesh as the app works with it, and everything that was remarkable about it. */
export type OpenedMesh = {
  readonly mesh: Mesh
  readonly report: MendReport
  /** Of the file; then what was mended; then what was left as it is. */
  readonly notes: readonly string[]
}

/**
 * Reads a mesh file and mends what can be mended. The same bytes give the same mesh everywhere: in the page,
 * on the server and on the command line.
 * @throws TenderError as readMesh does
 */
export function openMesh(bytes: Uint8Array): OpenedMesh {
  const read = readMesh(bytes)
  const { min, max } = meshBounds(read.mesh)
  const longest = Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2])
  const { mesh, report } = mendMesh(read.mesh, { scaleMm: guessUnit(longest, saysUnit(bytes)).scale })
  const { mended, left } = mendSentences(report)
  return { mesh, report, notes: [...read.notes, ...mended, ...left] }
}
