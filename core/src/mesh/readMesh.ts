import { strFromU8 } from 'fflate'
import { TenderError } from '../errors'
import type { Mesh } from './mesh'
import { read3mf } from './read3mf'
import { readObj } from './readObj'
import { readStl } from './readStl'

/** A mesh as read, and a sentence for everything about the file that was not as it should be. */
export type ReadMesh = { readonly mesh: Mesh; readonly notes: readonly string[] }

/** Formats that are read, by what their files are usually called. */
export const MESH_ENDINGS = ['.stl', '.obj', '.3mf'] as const

/**
 * Reads an STL, OBJ or 3MF file. What the file is, its bytes say; its name may be wrong.
 * @throws TenderError FILE_EMPTY, FILE_NOT_STL, FILE_NOT_MESH, FILE_CUT_SHORT, FILE_TOO_LARGE, MESH_EMPTY, MESH_NOT_FINITE
 */
export function readMesh(bytes: Uint8Array): ReadMesh {
  if (bytes.length === 0) throw new TenderError('FILE_EMPTY', 'The file is empty: 0 bytes.')
  if (saysUnit(bytes)) return read3mf(bytes)
  if (looksLikeObj(bytes)) return readObj(bytes)
  return readStl(bytes)
}

/** Whether the file's format says its unit, so that nobody has to guess: only packed 3MF files do. */
export const saysUnit = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b

/** Whether a text's first telling line is one of an OBJ file. */
function looksLikeObj(bytes: Uint8Array): boolean {
  const text = strFromU8(bytes.subarray(0, 64 * 1024), true)
  if (/^\s*solid\b/i.test(text)) return false
  return /^\s*(?:#[^\n\r]*[\n\r]+\s*|(?:mtllib|o|g|s|usemtl)\s[^\n\r]*[\n\r]+\s*)*v\s+\S+\s+\S+\s+\S/.test(text)
}
