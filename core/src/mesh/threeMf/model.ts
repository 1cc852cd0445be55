import { SaxesParser } from 'saxes'
import { TenderError } from '../../errors'
import { MOST_TRIANGLES } from '../triangleList'
import { FloatList, IndexList } from './numberList'
import { STILL, stretchOf, type Transform } from './transform'

/** What an object is for. Source: 3MF core specification 1.3, object types. */
const OBJECT_TYPES = ['model', 'solidsupport', 'support', 'surface', 'other'] as const
export type ObjectType = (typeof OBJECT_TYPES)[number]

/** An object placed by another one, or by the list of what is to be built. */
export type Reference = { readonly id: string; readonly path: string | null; readonly transform: Transform }

/** Its vertices and triangles are runs of its model's lists; corners count from its first vertex. */
export type ModelObject = {
  readonly name: string
  readonly type: ObjectType
  readonly vertices: { readonly from: number; to: number }
  readonly triangles: { readonly from: number; to: number }
  readonly components: Reference[]
}

export type Model = {
  readonly objects: ReadonlyMap<string, ModelObject>
  readonly items: readonly Reference[]
  readonly scaleMm: number
  /** Three numbers a vertex, in units of the model. */
  readonly positions: Float64Array
  /** Three numbers a triangle. */
  readonly corners: Uint32Array
}

/** Length of a unit in millimetres. Source: 3MF core specification 1.3, table of units. */
const UNITS_MM: Readonly<Record<string, number>> = {
  micron: 0.001,
  millimeter: 1,
  centimeter: 10,
  inch: 25.4,
  foot: 304.8,
  meter: 1000,
}

/**
 * Extensions that a file may demand: paths between models, which are followed, and colours, which change no
 * shape.
 */
const KNOWN_EXTENSIONS: readonly string[] = [
  'http://schemas.microsoft.com/3dmanufacturing/production/2015/06',
  'http://schemas.microsoft.com/3dmanufacturing/material/2015/02',
]

/** More objects than any plate holds; beyond it, a file is made to exhaust whoever reads it. */
const MOST_OBJECTS = 20_000
const NO_INDEX = 0xffffffff

type Attributes = Readonly<Record<string, string>>

/**
 * Takes a model's XML piece by piece.
 * @throws TenderError FILE_NOT_MESH, FILE_TOO_LARGE
 * Source: 3MF core specification 1.3: what it tells readers to refuse is refused.
 */
export function modelReader(): { write: (text: string) => void; finish: () => Model } {
  const objects = new Map<string, ModelObject>()
  const items: Reference[] = []
  const positions = new FloatList()
  const corners = new IndexList()
  let components = 0
  let scaleMm = 1
  let current: ModelObject | null = null
  const begin = (of: Attributes): void => {
    if (objects.size >= MOST_OBJECTS)
      throw new TenderError(
        'FILE_TOO_LARGE',
        `The file holds more than ${MOST_OBJECTS} objects; up to that many can be read.`,
      )
    const type = (of.type ?? 'model') as ObjectType
    if (!OBJECT_TYPES.includes(type))
      refuse(`An object of the file is of the type "${brief(type)}", which the format does not know.`)
    const id = of.id ?? ''
    if (objects.has(id))
      refuse(`Two objects of the file have the number "${brief(id)}"; each must have one of its own.`)
    const here = { from: positions.length / 3, to: positions.length / 3 }
    const triangles = { from: corners.length / 3, to: corners.length / 3 }
    objects.set(
      id,
      (current = { name: (of.name ?? '').slice(0, 80), type, vertices: here, triangles, components: [] }),
    )
  }
  const refer = (of: Attributes, into: Reference[]): void => {
    const path = Object.keys(of).find((key) => /(^|:)path$/.test(key))
    if (++components > MOST_OBJECTS)
      throw new TenderError(
        'FILE_TOO_LARGE',
        `The file refers to objects more than ${MOST_OBJECTS} times; up to that often can be read.`,
      )
    into.push({
      id: of.objectid ?? '',
      path: path === undefined ? null : partPath(of[path]),
      transform: transformOf(of.transform),
    })
  }
  const parser = new SaxesParser({ fragment: false })
  parser.on('opentag', ({ name, attributes }) => {
    const of = attributes as unknown as Attributes
    switch (localName(name)) {
      case 'model':
        scaleMm = unitOf(of.unit)
        mustKnow(of)
        break
      case 'object':
        begin(of)
        break
      case 'vertex':
        if (current) {
          positions.push3(Number(of.x), Number(of.y), Number(of.z))
          current.vertices.to++
        }
        break
      case 'triangle':
        if (!current) break
        if (corners.length / 3 >= MOST_TRIANGLES)
          throw new TenderError(
            'FILE_TOO_LARGE',
            `The file has more than ${MOST_TRIANGLES} triangles; up to that many can be read.`,
          )
        corners.push3(indexOf(of.v1), indexOf(of.v2), indexOf(of.v3))
        current.triangles.to++
        break
      case 'component':
        if (current) refer(of, current.components)
        break
      case 'item':
        refer(of, items)
    }
  })
  parser.on('doctype', () =>
    refuse('The model of the file declares a document type of its own, which a 3MF file may not.'),
  )
  parser.on('error', (error) => refuse(`The model of the file is no valid XML: ${brief(error.message)}.`))
  return {
    write: (text) => void parser.write(text),
    finish: () => {
      parser.close()
      return { objects, items, scaleMm, positions: positions.values, corners: corners.values }
    },
  }
}

/** A path within the package as it is compared: from its root, in lower case. */
export const partPath = (path: string): string => `/${path.replace(/^\/+/, '')}`.toLowerCase()

/** A name without the prefix of its namespace. */
export const localName = (name: string): string => name.replace(/^.*:/, '')

const brief = (text: string) => text.slice(0, 120)

function refuse(sentence: string): never {
  throw new TenderError('FILE_NOT_MESH', sentence)
}

function unitOf(unit = 'millimeter'): number {
  const scale = UNITS_MM[unit]
  if (scale === undefined)
    refuse(
      `The file is in "${brief(unit)}", a unit the format does not know; its size cannot be told. Known are ${Object.keys(UNITS_MM).join(', ')}.`,
    )
  return scale
}

/** Extensions that a reader must know are named by prefix; what stands behind a prefix, an attribute says. */
function mustKnow(of: Attributes): void {
  for (const prefix of (of.requiredextensions ?? '').split(/\s+/).filter(Boolean)) {
    const meaning = of[`xmlns:${prefix}`] ?? prefix
    if (!KNOWN_EXTENSIONS.includes(meaning))
      refuse(
        `The file demands the extension "${brief(meaning)}", which is not known here; without it the part would come out wrong.`,
      )
  }
}

function transformOf(text: string | undefined): Transform {
  if (text === undefined) return STILL
  const values = text.trim().split(/\s+/).map(Number)
  if (values.length !== 12 || !values.every(Number.isFinite))
    refuse(`An object of the file is placed by "${brief(text)}"; a place is twelve numbers.`)
  if (stretchOf(values) === 0)
    refuse('An object of the file is placed so that it is pressed flat; it would have no volume.')
  return values
}

/** What is no index becomes one that no object has. */
const indexOf = (text: string | undefined): number => {
  const index = Number(text)
  return text !== undefined && Number.isInteger(index) && index >= 0 ? index : NO_INDEX
}
