import { createReadStream } from 'node:fs'

/** A line of a file, and where it ends. */
export type FileLine = { readonly text: string; readonly endByte: number }

/** Longer lines are no commands. */
const LONGEST_LINE = 4096

/**
 * Lines of a file from a byte on, read piece by piece however long it is.
 * @throws Error when a line is longer than any command
 */
export async function* fileLines(path: string, fromByte: number): AsyncGenerator<FileLine> {
  let rest = Buffer.alloc(0)
  let at = fromByte
  for await (const chunk of createReadStream(path, { start: fromByte, highWaterMark: 1 << 16 })) {
    let piece = Buffer.concat([rest, chunk as Buffer])
    for (let end = piece.indexOf(10); end >= 0; end = piece.indexOf(10)) {
      at += end + 1
      yield { text: piece.subarray(0, end).toString('utf8').trimEnd(), endByte: at }
      piece = piece.subarray(end + 1)
    }
    if (piece.length > LONGEST_LINE)
      throw new Error(`A line of the file is longer than ${LONGEST_LINE} characters.`)
    rest = Buffer.from(piece)
  }
  if (rest.length > 0) yield { text: rest.toString('utf8').trimEnd(), endByte: at + rest.length }
}
