import { strFromU8 } from 'fflate'
import { TenderError } from '../errors'
import { weldTriangles } from './mesh'
import type { ReadMesh } from './readMesh'
import { startOfText } from './text'
import { LARGEST_COORDINATE_MM, MOST_TRIANGLES } from './triangleList'

const HEADER_BYTES = 84
const TRIANGLE_BYTES = 50

/**
 * Reads an STL file, binary or text. What the header claims is checked against what the file holds; the bytes
 * win.
 * @throws TenderError FILE_EMPTY, FILE_NOT_STL, FILE_CUT_SHORT, FILE_TOO_LARGE, MESH_EMPTY, MESH_NOT_FINITE
 */
export function readStl(bytes: Uint8Array): ReadMesh {
  if (bytes.length === 0) throw new TenderError('FILE_EMPTY', 'The file is empty: 0 bytes.')
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const claimed = bytes.length >= HEADER_BYTES ? view.getUint32(80, true) : 0
  const exact = bytes.length >= HEADER_BYTES && HEADER_BYTES + claimed * TRIANGLE_BYTES === bytes.length
  if (!exact && isText(bytes)) return readText(bytes)
  if (bytes.length < HEADER_BYTES)
    throw new TenderError(
      'FILE_NOT_STL',
      `The file is ${bytes.length} bytes long and no text; an STL file starts with ${HEADER_BYTES} bytes of header.`,
    )
  return readBinary(view, claimed)
}

function readBinary(view: DataView, claimed: number): ReadMesh {
  const notes: string[] = []
  const present = Math.floor((view.byteLength - HEADER_BYTES) / TRIANGLE_BYTES)
  let count = claimed
  if (claimed > present) {
    if (present === 0)
      throw new TenderError(
        'FILE_CUT_SHORT',
        `The file promises ${claimed} triangles but ends before the first one is whole.`,
        { claimed, present },
      )
    count = present
    notes.push(
      `The file promises ${claimed} triangles but ends after ${present}; those were kept, so the part is probably incomplete.`,
    )
  } else if (claimed < present) {
    if (claimed === 0) {
      count = present
      notes.push(`The header says 0 triangles, yet ${present} follow; all were read.`)
    } else
      notes.push(
        `${view.byteLength - HEADER_BYTES - claimed * TRIANGLE_BYTES} bytes after the ${claimed} triangles of the header were left out.`,
      )
  }
  if (count === 0)
    throw new TenderError(
      'MESH_EMPTY',
      'The file is a valid STL file with 0 triangles; there is nothing to print.',
    )
  if (count > MOST_TRIANGLES)
    throw new TenderError(
      'FILE_TOO_LARGE',
      `The file has ${count} triangles; up to ${MOST_TRIANGLES} can be read.`,
      { count },
    )
  const soup = new Float32Array(count * 9)
  for (let t = 0, at = HEADER_BYTES + 12, to = 0; t < count; t++, at += TRIANGLE_BYTES)
    for (let i = 0; i < 9; i++) soup[to++] = view.getFloat32(at + 4 * i, true)
  return finish(soup, notes, claimed !== present)
}

function readText(bytes: Uint8Array): ReadMesh {
  const text = strFromU8(bytes.subarray(startOfText(bytes)), true)
  if (!/^\s*solid\b/i.test(text))
    throw new TenderError(
      'FILE_NOT_STL',
      `The file is plain text that does not start with "solid"; it begins "${text.trim().slice(0, 30)}".`,
    )
  // Each facet for itself: one with a corner too few or too many shifts none of those that follow.
  const telling = /\b(facet|endfacet|endloop|outer\s+loop)\b|\bvertex\s+(\S+)\s+(\S+)\s+(\S+)/gi
  let soup = new Float32Array(9 * 1024)
  let size = 0
  let corners = 0
  let odd = 0
  const endFacet = () => {
    if (corners !== 0 && corners !== 3) {
      odd++
      size -= 3 * corners
    }
    corners = 0
  }
  for (let found = telling.exec(text); found; found = telling.exec(text)) {
    if (found[1] !== undefined) {
      endFacet()
      continue
    }
    if (size + 3 > soup.length) {
      const larger = new Float32Array(soup.length * 2)
      larger.set(soup)
      soup = larger
    }
    corners++
    for (let axis = 0; axis < 3; axis++) soup[size++] = Number(found[2 + axis])
  }
  const halved = corners !== 0 && corners !== 3
  if (halved) size -= 3 * corners
  const notes: string[] = []
  const whole = Math.floor(size / 9)
  if (whole === 0)
    throw new TenderError(
      'MESH_EMPTY',
      'The file is a text STL without a complete triangle; there is nothing to print.',
    )
  if (odd > 0)
    notes.push(
      `${odd} facet${odd === 1 ? ' has' : 's have'} not three corners; ${odd === 1 ? 'it was' : 'they were'} left out, the others kept.`,
    )
  const cut = halved || !/endsolid[^\n]*\s*$/i.test(text)
  if (cut)
    notes.push(
      `The file stops before its "endsolid" line; the ${whole} complete triangles were kept, so the part may be incomplete.`,
    )
  return finish(soup.subarray(0, whole * 9), notes, false)
}

/** Leaves out triangles with impossible corners, then welds. */
function finish(soup: Float32Array, notes: string[], headerLied: boolean): ReadMesh {
  const count = soup.length / 9
  let kept = 0
  for (let t = 0; t < count; t++) {
    let good = true
    for (let i = 9 * t; i < 9 * t + 9; i++) if (!(Math.abs(soup[i]) <= LARGEST_COORDINATE_MM)) good = false
    if (!good) continue
    if (kept !== t) soup.copyWithin(9 * kept, 9 * t, 9 * t + 9)
    kept++
  }
  const bad = count - kept
  if (headerLied && bad > count / 4)
    throw new TenderError(
      'FILE_NOT_STL',
      'The bytes of the file do not form triangles; it is not an STL file, whatever its name says.',
      { bad, count },
    )
  if (kept === 0)
    throw new TenderError(
      'MESH_NOT_FINITE',
      `None of the ${count} triangles has usable corners: every one holds a value that is not a number or beyond 100 m.`,
      { count },
    )
  if (bad > 0)
    notes.push(
      `${bad} of ${count} triangles have a corner that is not a number or lies beyond 100 m; they were left out, the other ${kept} kept.`,
    )
  return { mesh: weldTriangles(soup.subarray(0, kept * 9)), notes }
}

function isText(bytes: Uint8Array): boolean {
  const look = Math.min(bytes.length, 2048)
  for (let i = 0; i < look; i++) {
    const b = bytes[i]
    if (b < 9 || (b > 13 && b < 32) || b === 127) return false
  }
  return true
}
