import { TenderError } from '../../errors'
import { weldCorners, type Mesh } from '../mesh'
import type { ReadMesh } from '../readMesh'
import { meshFrom, leftOutNote } from '../triangleList'
import type { Model, ModelObject, ObjectType, Reference } from './model'
import { unpack } from './unpack'
import { combined, STILL, stretchOf, type Transform } from './transform'

const DEEPEST_COMPONENTS = 32
/** What may be placed altogether: more than any plate holds, and little enough to be read in seconds. */
const MOST_PLACED = 2_000
const MOST_PLACED_TRIANGLES = 2e6

type Placed = {
  readonly model: Model
  readonly object: ModelObject
  readonly transform: Transform
  readonly name: string
}

/**
 * Reads a 3MF file: all objects of its build, components in their places, in millimetres, each a body by its
 * name. Colours and everything printers add are passed over. What would be placed is counted before any of it
 * is unfolded.
 * @throws TenderError FILE_NOT_MESH, FILE_CUT_SHORT, FILE_TOO_LARGE, MESH_EMPTY, MESH_NOT_FINITE
 * Source: 3MF core specification 1.3 (units, objects, components, build items, transforms); production
 * extension for paths.
 */
export function read3mf(bytes: Uint8Array): ReadMesh {
  const { models, startPath, hasContentTypes } = unpack(bytes)
  const mainPath =
    [startPath, '/3d/3dmodel.model'].find((path) => path !== null && models.has(path)) ??
    [...models].find(([, model]) => model.items.length > 0)?.[0] ??
    [...models.keys()][0]
  if (mainPath === undefined)
    throw new TenderError(
      'FILE_NOT_MESH',
      'The file is a packed file without a 3D model in it; it is no 3MF file.',
    )
  const main = models.get(mainPath!)!
  const notes: string[] = []
  const lacking = [!hasContentTypes && 'content types', startPath === null && 'relationships'].filter(Boolean)
  if (lacking.length > 0)
    notes.push(
      `The package lacks its list of ${lacking.join(' and of ')}; its model was found and read all the same.`,
    )
  const items = main.items.length > 0 ? main.items : notPartOfOthers(main)
  if (main.items.length === 0) notes.push('The file names nothing to build; all of its objects were taken.')
  const found = gather(models, items, mainPath!)
  notes.push(...found.notes)
  const { mesh, outOfRange, leftOut } = unfold(found.placed)
  if (outOfRange > 0)
    notes.push(
      `${outOfRange} triangle${outOfRange === 1 ? ' names' : 's name'} a corner that is not there; left out.`,
    )
  return { mesh, notes: [...notes, ...leftOutNote(leftOut)] }
}

/**
 * A file without a build list prints what it holds, each object once: those that others are made of come with
 * them.
 */
function notPartOfOthers({ objects }: Model): Reference[] {
  const inner = new Set([...objects.values()].flatMap(({ components }) => components.map(({ id }) => id)))
  const own = [...objects.keys()].filter((id) => !inner.has(id))
  return own.map((id) => ({ id, path: null, transform: STILL }))
}

/** Kinds of objects that are not printed. */
const NOT_PRINTED: readonly ObjectType[] = ['other', 'surface']

/** Everything that is to be placed, counted as it is found. */
function gather(models: ReadonlyMap<string, Model>, items: readonly Reference[], mainPath: string) {
  const placed: Placed[] = []
  const own = [...models.values()].reduce((sum, { corners }) => sum + corners.length / 3, 0)
  let references = 0
  let triangles = 0
  let missing = 0
  let notPrinted = 0
  let supports = 0
  const place = (
    reference: Reference,
    fromPath: string,
    outer: Transform,
    depth: number,
    within: string,
  ): void => {
    const path = reference.path ?? fromPath
    const model = models.get(path)
    const object = model?.objects.get(reference.id)
    if (!model || !object) return void missing++
    if (depth > DEEPEST_COMPONENTS)
      throw new TenderError(
        'FILE_NOT_MESH',
        `Objects of the file contain each other more than ${DEEPEST_COMPONENTS} deep; they may go round in a circle.`,
      )
    if (NOT_PRINTED.includes(object.type)) return void notPrinted++
    triangles += object.triangles.to - object.triangles.from
    // A heavy file may hold more by itself; what is listed again and again may not add up to that.
    if (++references > MOST_PLACED || triangles > Math.max(MOST_PLACED_TRIANGLES, own))
      throw new TenderError(
        'FILE_TOO_LARGE',
        `The file places more than ${MOST_PLACED} objects or ${MOST_PLACED_TRIANGLES / 1e6} million triangles by listing some again and again; up to that many can be read.`,
      )
    const transform = combined(reference.transform, outer)
    const name = object.name || within
    if (object.triangles.to > object.triangles.from) {
      placed.push({ model, object, transform, name })
      if (object.type !== 'model') supports++
    }
    for (const component of object.components) place(component, path, transform, depth + 1, name)
  }
  for (const item of items) place(item, mainPath, STILL, 0, '')
  const notes: string[] = []
  if (missing > 0)
    notes.push(
      `${missing} object${missing === 1 ? '' : 's'} that the file refers to ${missing === 1 ? 'is' : 'are'} not in it; the rest was taken.`,
    )
  if (notPrinted > 0)
    notes.push(
      `${notPrinted} object${notPrinted === 1 ? ' is marked' : 's are marked'} in the file as not to be printed; left out.`,
    )
  if (supports > 0)
    notes.push(
      `${supports} ${supports === 1 ? 'body is marked' : 'bodies are marked'} in the file as supports; taken as stands already drawn.`,
    )
  if (placed.length === 0)
    throw new TenderError(
      'MESH_EMPTY',
      'The file holds no triangle that is to be built; there is nothing to print.',
    )
  return { placed, notes }
}

/** One mesh of all that is placed; corners of one object at the very same place become one. */
function unfold(placed: readonly Placed[]): { mesh: Mesh; outOfRange: number; leftOut: number } {
  const sum = (size: (object: ModelObject) => number) =>
    placed.reduce((total, { object }) => total + size(object), 0)
  const positions = new Float64Array(3 * sum(({ vertices }) => vertices.to - vertices.from))
  const corners = new Uint32Array(3 * sum(({ triangles }) => triangles.to - triangles.from))
  const bodies: { name: string; from: number; to: number; drawnStand?: true }[] = []
  let v = 0
  let c = 0
  let outOfRange = 0
  for (const { model, object, transform: m, name } of placed) {
    const first = v / 3
    const from = c / 3
    const { scaleMm } = model
    for (let k = 3 * object.vertices.from; k < 3 * object.vertices.to; k += 3) {
      const [x, y, z] = [model.positions[k], model.positions[k + 1], model.positions[k + 2]]
      positions[v++] = scaleMm * (x * m[0] + y * m[3] + z * m[6] + m[9])
      positions[v++] = scaleMm * (x * m[1] + y * m[4] + z * m[7] + m[10])
      positions[v++] = scaleMm * (x * m[2] + y * m[5] + z * m[8] + m[11])
    }
    const count = v / 3 - first
    // A mirroring transform turns triangles inside out.
    const mirrored = stretchOf(m) < 0
    const own = model.corners.subarray(3 * object.triangles.from, 3 * object.triangles.to)
    for (let t = 0; t < own.length; t += 3) {
      if (own[t] >= count || own[t + 1] >= count || own[t + 2] >= count) {
        outOfRange++
        continue
      }
      corners[c++] = first + own[t]
      corners[c++] = first + own[mirrored ? t + 2 : t + 1]
      corners[c++] = first + own[mirrored ? t + 1 : t + 2]
    }
    weldCorners(positions, corners.subarray(3 * from, c), first, v / 3)
    bodies.push({ name, from, to: c / 3, ...(object.type === 'model' ? {} : { drawnStand: true as const }) })
  }
  const { mesh, leftOut } = meshFrom(positions, corners.subarray(0, c), bodies)
  return { mesh, outOfRange, leftOut }
}
