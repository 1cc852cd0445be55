const A = 65
const LETTERS = 26
const SPACE = 32

/**
 * The words of one line of G-code: a command, and a number for each letter. One is used for all lines of a
 * file.
 */
export class LineWords {
  command = ''
  private readonly numbers = new Float64Array(LETTERS)
  private readonly words: string[] = new Array<string>(LETTERS).fill('')
  /** Bit by letter: it was given. */
  private given = 0

  /** Takes what a line says, up to a letter of it. */
  read(line: string, end: number): void {
    this.given = 0
    this.command = ''
    let at = 0
    while (at < end) {
      while (at < end && line.charCodeAt(at) <= SPACE) at++
      const from = at
      while (at < end && line.charCodeAt(at) > SPACE) at++
      if (at === from) break
      if (this.command === '') {
        this.command = commandOf(line.slice(from, at))
        continue
      }
      const letter = (line.charCodeAt(from) & ~SPACE) - A
      // Only the first of a letter counts.
      if (letter < 0 || letter >= LETTERS || this.given & (1 << letter)) continue
      this.given |= 1 << letter
      const text = line.slice(from + 1, at)
      this.numbers[letter] = Number(text)
      if (!Number.isFinite(this.numbers[letter])) this.words[letter] = line.slice(from, at)
    }
  }

  /** Whether a letter was given. */
  has(letter: number): boolean {
    return (this.given & (1 << (letter - A))) !== 0
  }

  /** The number of a letter that was given; not finite when it is none. */
  of(letter: number): number {
    return this.numbers[letter - A]
  }

  /** The word that is no number. */
  wordOf(letter: number): string {
    return this.words[letter - A]
  }
}

/** As it is known: upper case, without zeros before its number. */
function commandOf(word: string): string {
  if (word === 'G1' || word === 'G0') return word
  return word.toUpperCase().replace(/^([GMT])0+(?=\d)/, '$1')
}
