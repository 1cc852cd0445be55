import { readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { TenderError } from '@tender/core'
import { InvalidArgumentError } from 'commander'
import { guessUnit, meshBounds, openMesh, saysUnit, type MendReport, type Mesh } from '@tender/core/mesh'

/**
 * The bytes of a file.
 * @throws TenderError FILE_MISSING
 */
export function readInput(file: string): Uint8Array {
  try {
    return readFileSync(file)
  } catch (error) {
    throw sentenceOf(error, file, 'read')
  }
}

/**
 * Size of a file in bytes.
 * @throws TenderError FILE_MISSING when it is not there, or no file
 */
export function sizeOfFile(file: string): number {
  let facts
  try {
    facts = statSync(file)
  } catch (error) {
    throw sentenceOf(error, file, 'read')
  }
  if (facts.isDirectory()) throw new TenderError('FILE_MISSING', `"${file}" is a folder, not a file.`)
  if (!facts.isFile())
    throw new TenderError('FILE_MISSING', `"${file}" has no end that is known; only files are read.`)
  return facts.size
}

/**
 * What a JSON file says; a byte mark in front is no matter.
 * @throws TenderError FILE_MISSING, VALUE_OUT_OF_RANGE
 */
export function readJson(file: string): unknown {
  const text = new TextDecoder().decode(readInput(file))
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    throw new TenderError('VALUE_OUT_OF_RANGE', `"${file}" is not valid JSON: ${(error as Error).message}`)
  }
}

/** @throws TenderError FILE_MISSING */
export function writeOutput(file: string, content: Uint8Array | string): void {
  try {
    writeFileSync(file, content)
  } catch (error) {
    throw sentenceOf(error, file, 'written')
  }
}

function sentenceOf(error: unknown, file: string, done: 'read' | 'written'): unknown {
  const { code } = error as { code?: string }
  const says = (message: string) => new TenderError('FILE_MISSING', message)
  if (code === 'EISDIR') return says(`"${file}" is a folder, not a file.`)
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS') return says(`"${file}" may not be ${done}.`)
  if (code === 'ENOSPC') return says(`The disk is full; "${file}" was not written whole.`)
  if (code === 'ENOTDIR' || code === 'ENOENT') {
    const folder = dirname(file)
    const isThere = statSync(folder, { throwIfNoEntry: false })?.isDirectory() ?? false
    return says(isThere ? `There is no file "${file}".` : `There is no folder "${folder}".`)
  }
  return error
}

/**
 * A factor as an option says it.
 * @throws InvalidArgumentError when it is not a number above 0
 */
export function factor(text: string): number {
  const value = Number(text)
  if (!(value > 0) || !Number.isFinite(value)) throw new InvalidArgumentError('Write a number above 0.')
  return value
}

export type OpenedPart = {
  readonly mesh: Mesh
  readonly report: MendReport
  /** What was mended, and whether its size looks like another unit. */
  readonly notes: readonly string[]
}

/**
 * The mesh of a file, its coordinates times a factor.
 * @throws TenderError FILE_MISSING, or as openMesh
 */
export function openPart(file: string, scale = 1): OpenedPart {
  const bytes = readInput(file)
  const { mesh, report, notes } = openMesh(bytes)
  const { min, max } = meshBounds(mesh)
  const guess = guessUnit(Math.max(...max.map((high, axis) => high - min[axis])), saysUnit(bytes))
  const unit =
    guess.sentence && scale === 1 ? `${guess.sentence} Ask for --scale ${guess.scale} if so.` : null
  return {
    mesh: scale === 1 ? mesh : { ...mesh, positionsMm: mesh.positionsMm.map((value) => value * scale) },
    report,
    notes: unit ? [...notes, unit] : notes,
  }
}

/**
 * What comes of an opened part. Where nothing of it is there to work on, what was found in its file is told
 * with that: drawn in metres, or with half of its corners lost, it is nothing at all.
 * @throws TenderError as the work does
 */
export async function comingOf<T>({ notes }: OpenedPart, work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof TenderError && error.code === 'MESH_EMPTY')
      throw new TenderError(error.code, [error.message, ...notes].join(' '))
    throw error
  }
}
