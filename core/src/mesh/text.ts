/** Marks that tell the order of bytes, before text that is otherwise plain. */
const BYTE_MARK = [0xef, 0xbb, 0xbf]

/** Where the text of a file begins: behind its byte mark, if it has one. */
export const startOfText = (bytes: Uint8Array): number =>
  BYTE_MARK.every((byte, i) => bytes[i] === byte) ? BYTE_MARK.length : 0
