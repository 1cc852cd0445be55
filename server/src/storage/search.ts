/** A pattern for ILIKE that finds text literally, wherever it stands. */
export const containing = (text: string): string =>
  `%${text.trim().replace(/[\\%_]/g, (mark) => `\\${mark}`)}%`
