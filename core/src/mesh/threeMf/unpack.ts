import { DecodeUTF8, Unzip, UnzipInflate } from 'fflate'
import { SaxesParser } from 'saxes'
import { TenderError } from '../../errors'
import { localName, modelReader, partPath, type Model } from './model'

/**
 * A model of this many bytes holds more triangles than are taken; beyond it, or packed tighter than XML ever
 * is, it is a bomb.
 */
const MOST_MODEL_BYTES = 1.5e9
const LOOSE_BYTES = 20e6
const TIGHTEST_RATIO = 60
/** Parts of a package that are neither model nor picture are small. */
const MOST_LISTING_BYTES = 1e6
/** Data are unpacked in pieces, so that a bomb is noticed while it grows and not afterwards. */
const PIECE_BYTES = 64 * 1024

const START_PART = 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel'

export type Package = {
  /** Every model, by its path in lower case. */
  readonly models: ReadonlyMap<string, Model>
  /** The model to start from, as the package says; null when it does not. */
  readonly startPath: string | null
  readonly hasContentTypes: boolean
}

type Sink = { readonly write: (text: string) => void; readonly finish: () => void }

/**
 * Unpacks what matters of a 3MF package, and gives up as soon as it grows past what a model can be.
 * @throws TenderError FILE_NOT_MESH, FILE_CUT_SHORT, FILE_TOO_LARGE
 * Source: 3MF core specification 1.3 (package, content types, relationships).
 */
export function unpack(bytes: Uint8Array): Package {
  const models = new Map<string, Model>()
  let startPath: string | null = null
  let hasContentTypes = false
  let unpacked = 0
  let open = 0
  const sinkFor = (path: string): Sink | null => {
    if (path.endsWith('.model')) {
      const reader = modelReader()
      return { write: reader.write, finish: () => void models.set(path, reader.finish()) }
    }
    if (path === '/[content_types].xml')
      return { write: () => (hasContentTypes = true), finish: () => undefined }
    if (path === '/_rels/.rels') return relationships((target) => (startPath ??= partPath(target)))
    return null
  }
  const unzip = new Unzip((file) => {
    const path = partPath(file.name)
    const sink = sinkFor(path)
    if (!sink) return
    const most = path.endsWith('.model') ? MOST_MODEL_BYTES : MOST_LISTING_BYTES
    const decoder = new DecodeUTF8((text) => sink.write(text))
    let size = 0
    open++
    file.ondata = (error, data, final) => {
      // What is thrown below comes back here.
      if (error instanceof TenderError) throw error
      if (error)
        throw new TenderError(
          'FILE_CUT_SHORT',
          'A packed part of the file is damaged and cannot be unpacked.',
          {
            reason: error.message,
          },
        )
      size += data.length
      unpacked += data.length
      if (size > most || (unpacked > LOOSE_BYTES && unpacked > TIGHTEST_RATIO * bytes.length))
        throw new TenderError(
          'FILE_TOO_LARGE',
          `The file of ${bytes.length} bytes unpacks to more than ${Math.round(unpacked / 1e6)} MB; that is no model, and it was not read further.`,
        )
      decoder.push(data, final)
      if (!final) return
      sink.finish()
      open--
    }
    file.start()
  })
  unzip.register(UnzipInflate)
  try {
    for (let at = 0; at < bytes.length; at += PIECE_BYTES)
      unzip.push(bytes.subarray(at, at + PIECE_BYTES), at + PIECE_BYTES >= bytes.length)
  } catch (error) {
    if (error instanceof TenderError) throw error
    throw new TenderError('FILE_CUT_SHORT', 'The packed file is damaged and cannot be read.', {
      reason: (error as Error).message,
    })
  }
  if (open > 0) throw new TenderError('FILE_CUT_SHORT', 'The file ends in the middle of its model.')
  return { models, startPath, hasContentTypes }
}

/** Listens for the relationship that names the model to start from. One that is damaged names none. */
function relationships(onStart: (target: string) => void): Sink {
  const parser = new SaxesParser({ fragment: false })
  let broken = false
  parser.on('error', () => (broken = true))
  parser.on('opentag', ({ name, attributes }) => {
    const { Type, Target } = attributes as unknown as { Type?: string; Target?: string }
    if (localName(name) === 'Relationship' && Type === START_PART && Target) onStart(Target)
  })
  return {
    write: (text) => void (broken || parser.write(text)),
    finish: () => void (broken || parser.close()),
  }
}
