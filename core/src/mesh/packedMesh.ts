import { strFromU8, strToU8 } from 'fflate'
import { TenderError } from '../errors'
import type { MendReport, ShellPlace } from './mendMesh'
import type { Body, Mesh } from './mesh'

/**
 * A mended mesh with what was found out about it, as it is stored and sent: nobody has to read and mend its
 * file again.
 */
export type PackedMesh = { readonly mesh: Mesh; readonly report: MendReport }

const MAGIC = 'TBM1'
/** Magic, then the length of the header. */
const FIXED_BYTES = 8

type Header = {
  readonly vertices: number
  readonly triangles: number
  readonly openEdges: number
  readonly turned: number
  readonly bodies?: readonly Body[]
  readonly report: Omit<MendReport, 'openEdgesMm' | 'turned' | 'places'>
  readonly places: readonly ShellPlace[]
}

const aligned = (bytes: number) => Math.ceil(bytes / 8) * 8

/**
 * Layout: "TBM1", the header's length (uint32), the header as JSON, zeros up to a multiple of eight; then,
 * little-endian: positions and ends of open edges (float64), corners and turned triangles (uint32). The same
 * mesh gives the same bytes.
 */
export function packMesh({ mesh, report }: PackedMesh): Uint8Array<ArrayBuffer> {
  const { openEdgesMm, turned, places, ...counts } = report
  const header: Header = {
    vertices: mesh.positionsMm.length / 3,
    triangles: mesh.corners.length / 3,
    openEdges: openEdgesMm.length / 6,
    turned: turned.length,
    ...(mesh.bodies ? { bodies: mesh.bodies } : {}),
    report: counts,
    places,
  }
  const text = strToU8(MAGIC + '\0\0\0\0' + JSON.stringify(header))
  const start = aligned(text.length)
  const bytes = new Uint8Array(
    start + 8 * (mesh.positionsMm.length + openEdgesMm.length) + 4 * (mesh.corners.length + turned.length),
  )
  bytes.set(text)
  new DataView(bytes.buffer).setUint32(MAGIC.length, text.length - FIXED_BYTES, true)
  let at = start
  for (const values of [mesh.positionsMm, openEdgesMm]) {
    new Float64Array(bytes.buffer, at, values.length).set(values)
    at += values.byteLength
  }
  for (const values of [mesh.corners, turned]) {
    new Uint32Array(bytes.buffer, at, values.length).set(values)
    at += values.byteLength
  }
  return bytes
}

/**
 * Takes a packed mesh apart. Positions and corners are views of the bytes where those lie right, so that
 * nothing large is copied.
 * @throws TenderError FILE_NOT_MESH, FILE_CUT_SHORT when the bytes are not what packMesh made
 */
export function unpackMesh(bytes: Uint8Array): PackedMesh {
  const whole = bytes.byteOffset % 8 === 0 ? bytes : bytes.slice()
  const view = new DataView(whole.buffer, whole.byteOffset, whole.byteLength)
  const magic = String.fromCharCode(...whole.subarray(0, MAGIC.length))
  if (magic !== MAGIC || whole.length < FIXED_BYTES)
    throw new TenderError('FILE_NOT_MESH', 'The stored mesh is not one of this version.')
  const headerBytes = view.getUint32(MAGIC.length, true)
  const cut = () => new TenderError('FILE_CUT_SHORT', 'The stored mesh ends too early.')
  if (FIXED_BYTES + headerBytes > whole.length) throw cut()
  const text = strFromU8(whole.subarray(FIXED_BYTES, FIXED_BYTES + headerBytes))
  let header: Header
  try {
    header = JSON.parse(text) as Header
  } catch {
    throw new TenderError('FILE_NOT_MESH', 'The stored mesh is damaged.')
  }
  const { vertices, triangles, openEdges, turned } = header
  let at = aligned(FIXED_BYTES + headerBytes)
  if (whole.length !== at + 8 * (3 * vertices + 6 * openEdges) + 4 * (3 * triangles + turned)) throw cut()
  const floats = (count: number) => {
    const values = new Float64Array(whole.buffer as ArrayBuffer, whole.byteOffset + at, count)
    at += values.byteLength
    return values
  }
  const indices = (count: number) => {
    const values = new Uint32Array(whole.buffer as ArrayBuffer, whole.byteOffset + at, count)
    at += values.byteLength
    return values
  }
  const [positionsMm, openEdgesMm] = [floats(3 * vertices), floats(6 * openEdges)]
  const [corners, turnedTriangles] = [indices(3 * triangles), indices(turned)]
  for (let c = 0; c < corners.length; c++)
    if (corners[c] >= vertices) throw new TenderError('FILE_NOT_MESH', 'The stored mesh is damaged.')
  return {
    mesh: { positionsMm, corners, ...(header.bodies ? { bodies: header.bodies } : {}) },
    report: { ...header.report, openEdgesMm, turned: turnedTriangles, places: header.places },
  }
}
