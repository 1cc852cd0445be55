import { DecodeUTF8, Unzip, UnzipInflate } from 'fflate'
import { SaxesParser } from 'saxes'
import { TenderError } from '../errors'
import type { ReadMesh } from './readMesh'
import { leftOutNote, TriangleList } from './triangleList'

/** A model of this many bytes holds more triangles than are taken; beyond it, or packed tighter than XML ever is, it is a bomb. */
const MOST_MODEL_BYTES = 1.5e9
const LOOSE_BYTES = 20e6
const TIGHTEST_RATIO = 60
const DEEPEST_COMPONENTS = 32
const MOST_PLACED = 20_000

/** Length of a unit in millimetres. Source: 3MF core specification 1.3, table of units. */
const UNITS_MM: Readonly<Record<string, number>> = { micron: 0.001, millimeter: 1, centimeter: 10, inch: 25.4, foot: 304.8, meter: 1000 }

/** Twelve numbers, row by row: a point (x, y, z, 1) times this gives its place. */
type Transform = readonly number[]
const STILL: Transform = [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]
type Reference = { readonly id: string; readonly path: string | null; readonly transform: Transform }
type ModelObject = { readonly name: string; readonly list: TriangleList; readonly components: Reference[] }
type Model = { readonly objects: Map<string, ModelObject>; readonly items: Reference[]; readonly scaleMm: number }

/**
 * Reads a 3MF file: all objects of its build, components in their places, in millimetres, each a body by its name. Colours and everything printers add are
 * passed over. Packed files are unpacked piece by piece and given up as soon as they grow past what a model can be.
 * @throws TenderError FILE_NOT_MESH, FILE_CUT_SHORT, FILE_TOO_LARGE, MESH_EMPTY, MESH_NOT_FINITE
 * Source: 3MF core specification 1.3 (units, objects, components, build items, transforms); production extension for paths.
 */
export function read3mf(bytes: Uint8Array): ReadMesh {
  const models = modelsOf(bytes)
  const main = models.get('/3d/3dmodel.model') ?? [...models.values()].find((model) => model.items.length > 0) ?? [...models.values()][0]
  if (!main) throw new TenderError('FILE_NOT_MESH', 'The file is a packed file without a 3D model in it; it is no 3MF file.')
  const mainPath = [...models].find(([, model]) => model === main)![0]
  const notes: string[] = []
  const whole = new TriangleList()
  let placed = 0
  let missing = 0
  let outOfRange = 0
  // A file without a build list prints what it holds.
  const items = main.items.length > 0 ? main.items : [...main.objects.keys()].map((id) => ({ id, path: null, transform: STILL }))
  if (main.items.length === 0) notes.push('The file names nothing to build; all of its objects were taken.')
  const place = (reference: Reference, fromPath: string, outer: Transform, depth: number, within: string): void => {
    const path = reference.path ?? fromPath
    const object = models.get(path)?.objects.get(reference.id)
    if (!object) return void missing++
    if (depth > DEEPEST_COMPONENTS) throw new TenderError('FILE_NOT_MESH', `Objects of the file contain each other more than ${DEEPEST_COMPONENTS} deep; they may go round in a circle.`)
    if (++placed > MOST_PLACED) throw new TenderError('FILE_TOO_LARGE', `The file places more than ${MOST_PLACED} objects; up to that many can be read.`)
    const transform = combined(reference.transform, outer)
    const name = object.name || within
    if (object.list.triangles > 0) whole.startBody(name)
    outOfRange += append(whole, object.list, transform, models.get(path)!.scaleMm)
    for (const component of object.components) place(component, path, transform, depth + 1, name)
  }
  for (const item of items) place(item, mainPath, STILL, 0, '')
  if (missing > 0) notes.push(`${missing} object${missing === 1 ? '' : 's'} that the file refers to ${missing === 1 ? 'is' : 'are'} not in it; the rest was taken.`)
  if (outOfRange > 0) notes.push(`${outOfRange} triangle${outOfRange === 1 ? ' names' : 's name'} a corner that is not there; left out.`)
  if (whole.triangles === 0) throw new TenderError('MESH_EMPTY', 'The file holds no triangle that is to be built; there is nothing to print.')
  const { mesh, leftOut } = whole.finish()
  return { mesh, notes: [...notes, ...leftOutNote(leftOut)] }
}

/** Every model part of the package, by its path in lower case. */
function modelsOf(bytes: Uint8Array): Map<string, Model> {
  const models = new Map<string, Model>()
  let unpacked = 0
  let open = 0
  const unzip = new Unzip((file) => {
    if (!/\.model$/i.test(file.name)) return
    const path = `/${file.name.replace(/^\/+/, '')}`.toLowerCase()
    const reader = modelReader()
    const decoder = new DecodeUTF8((text) => reader.write(text))
    open++
    file.ondata = (error, data, final) => {
      // What is thrown below comes back here.
      if (error) throw error instanceof TenderError ? error : new TenderError('FILE_CUT_SHORT', 'A packed part of the file is damaged and cannot be unpacked.', { reason: error.message })
      unpacked += data.length
      if (unpacked > MOST_MODEL_BYTES || (unpacked > LOOSE_BYTES && unpacked > TIGHTEST_RATIO * bytes.length))
        throw new TenderError('FILE_TOO_LARGE', `The file of ${bytes.length} bytes unpacks to more than ${Math.round(unpacked / 1e6)} MB; that is no model, and it was not read further.`)
      decoder.push(data, final)
      if (final) {
        models.set(path, reader.finish())
        open--
      }
    }
    file.start()
  })
  unzip.register(UnzipInflate)
  try {
    // In pieces, so that a bomb is noticed while it grows and not afterwards.
    const piece = 64 * 1024
    for (let at = 0; at < bytes.length; at += piece) unzip.push(bytes.subarray(at, at + piece), at + piece >= bytes.length)
  } catch (error) {
    if (error instanceof TenderError) throw error
    throw new TenderError('FILE_CUT_SHORT', 'The packed file is damaged and cannot be read.', { reason: (error as Error).message })
  }
  if (open > 0) throw new TenderError('FILE_CUT_SHORT', 'The file ends in the middle of its model.')
  return models
}

/** Takes a model's XML piece by piece. Entities of its own a document may not have; the parser knows none but XML's. */
function modelReader(): { write: (text: string) => void; finish: () => Model } {
  const objects = new Map<string, ModelObject>()
  const items: Reference[] = []
  let scaleMm = 1
  let current: ModelObject | null = null
  const parser = new SaxesParser({ fragment: false })
  const numbersOf = (text: string | undefined): Transform => {
    if (text === undefined) return STILL
    const values = text.trim().split(/\s+/).map(Number)
    return values.length === 12 && values.every(Number.isFinite) ? values : STILL
  }
  parser.on('opentag', ({ name, attributes }) => {
    const of = (key: string): string | undefined => attributes[key] as unknown as string | undefined
    switch (name.replace(/^.*:/, '')) {
      case 'model': {
        const unit = of('unit') ?? 'millimeter'
        scaleMm = UNITS_MM[unit] ?? 1
        break
      }
      case 'object':
        current = { name: (of('name') ?? '').slice(0, 80), list: new TriangleList(), components: [] }
        // Objects that only hold up others in another program are not part of the model.
        if (of('type') !== 'support') objects.set(of('id') ?? '', current)
        break
      case 'vertex':
        current?.list.addVertex(Number(of('x')), Number(of('y')), Number(of('z')))
        break
      case 'triangle':
        current?.list.addTriangle(indexOf(of('v1')), indexOf(of('v2')), indexOf(of('v3')))
        break
      case 'component':
      case 'item': {
        const path = Object.keys(attributes).find((key) => /(^|:)path$/.test(key))
        const reference = { id: of('objectid') ?? '', path: path ? `/${of(path)!.replace(/^\/+/, '')}`.toLowerCase() : null, transform: numbersOf(of('transform')) }
        if (name.endsWith('item')) items.push(reference)
        else current?.components.push(reference)
      }
    }
  })
  parser.on('doctype', () => {
    throw new TenderError('FILE_NOT_MESH', 'The model of the file declares a document type of its own, which a 3MF file may not.')
  })
  parser.on('error', (error) => {
    throw new TenderError('FILE_NOT_MESH', `The model of the file is no valid XML: ${error.message.slice(0, 120)}.`)
  })
  return {
    write: (text) => void parser.write(text),
    finish: () => {
      parser.close()
      return { objects, items, scaleMm }
    },
  }
}

/** What is no index becomes one that no mesh has. */
const indexOf = (text: string | undefined): number => {
  const index = Number(text)
  return Number.isInteger(index) && index >= 0 ? index : 0xffffffff
}

/** Adds an object at its place; returns how many of its triangles name corners that are not there. */
function append(whole: TriangleList, part: TriangleList, m: Transform, scaleMm: number): number {
  const offset = whole.vertices
  for (let v = 0; v < part.vertices; v++) {
    const [x, y, z] = [part.at(v, 0), part.at(v, 1), part.at(v, 2)]
    whole.addVertex(scaleMm * (x * m[0] + y * m[3] + z * m[6] + m[9]), scaleMm * (x * m[1] + y * m[4] + z * m[7] + m[10]), scaleMm * (x * m[2] + y * m[5] + z * m[8] + m[11]))
  }
  // A mirroring transform turns triangles inside out.
  const mirrored = m[0] * (m[4] * m[8] - m[5] * m[7]) - m[1] * (m[3] * m[8] - m[5] * m[6]) + m[2] * (m[3] * m[7] - m[4] * m[6]) < 0
  const { corners } = part
  let bad = 0
  for (let t = 0; t < corners.length; t += 3) {
    const [a, b, c] = [corners[t], corners[t + 1], corners[t + 2]]
    if (a >= part.vertices || b >= part.vertices || c >= part.vertices) bad++
    else whole.addTriangle(offset + a, offset + (mirrored ? c : b), offset + (mirrored ? b : c))
  }
  return bad
}

/** First `inner`, then `outer`. */
function combined(inner: Transform, outer: Transform): Transform {
  if (outer === STILL) return inner
  const out: number[] = []
  for (let row = 0; row < 4; row++)
    for (let column = 0; column < 3; column++) {
      let sum = row === 3 ? outer[9 + column] : 0
      for (let k = 0; k < 3; k++) sum += inner[3 * row + k] * outer[3 * k + column]
      out.push(sum)
    }
  return out
}
