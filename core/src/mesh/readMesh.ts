import { strFromU8 } from 'fflate'
import { TenderError } from '../errors'
import type { Mesh } from './mesh'
import { startOfText } from './text'
import { read3mf } from './threeMf/read3mf'
import { readObj } from './readObj'
import { readStl } from './readStl'

/** A mesh as read, and a sentence for everything about the file that was not as it should be. */
export type ReadMesh = { readonly mesh: Mesh; readonly notes: readonly string[] }

/** Formats that are read, by what their files are usually called. */
export const MESH_ENDINGS = ['.stl', '.obj', '.3mf'] as const

/**
 * Reads an STL, OBJ or 3MF file. What the file is, its bytes say; its name may be wrong.
 * @throws TenderError FILE_EMPTY, FILE_NOT_STL, FILE_NOT_MESH, FILE_CUT_SHORT, FILE_TOO_LARGE, MESH_EMPTY,
 * MESH_NOT_FINITE
 */
export function readMesh(bytes: Uint8Array): ReadMesh {
  if (bytes.length === 0) throw new TenderError('FILE_EMPTY', 'The file is empty: 0 bytes.')
  if (saysUnit(bytes)) return read3mf(bytes)
  if (bytes[0] === 0x1f && bytes[1] === 0x8b)
    throw new TenderError(
      'FILE_NOT_MESH',
      'The file is packed by gzip. Unpack it first, then bring in what was in it.',
    )
  if (looksLikeObj(bytes)) return readObj(bytes)
  return readStl(bytes)
}

/** Whether the file's format says its unit, so that nobody has to guess: only packed 3MF files do. */
export const saysUnit = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

/** A file may begin with a licence as long as a book; the first line that tells is looked for this far. */
const LOOKED_THROUGH_BYTES = 4 * 1024 * 1024

/** Whether a text's first telling line is one of an OBJ file. */
function looksLikeObj(bytes: Uint8Array): boolean {
  const start = startOfText(bytes)
  const text = strFromU8(bytes.subarray(start, start + LOOKED_THROUGH_BYTES), true)
  for (const [line] of text.matchAll(/[^\r\n]+/g)) {
    const word = /^\s*(\S+)/.exec(line)?.[1]
    if (word === undefined || word.startsWith('#')) continue
    if (!/^(mtllib|usemtl|o|g|s|l|p|v[tnp]?|f)$/.test(word)) return false
    // Names may be anything, so that only numbers settle it.
    if (/^(v[tnp]?|f|l|p)$/.test(word)) return /^\s*\S+(\s+[-+.\d][-+.\deE/]*|\s+nan|\s+inf)+/i.test(line)
  }
  return false
}
