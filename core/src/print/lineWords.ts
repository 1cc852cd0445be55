const A = 65
const E = 69
const LETTERS = 26
const SPACE = 32
const OPEN = 40
const STAR = 42
const LINE_NUMBER = /^n\d+$/i

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

  /** Takes what a line says, up to a letter of it: without its number, remarks in brackets and checksum. */
  read(line: string, end: number): void {
    this.given = 0
    this.command = ''
    let at = 0
    // Only where nothing stands between words is an E behind a number not its exponent.
    let isClose = false
    while (at < end) {
      while (at < end && line.charCodeAt(at) <= SPACE) at++
      const from = at
      if (line.charCodeAt(from) === OPEN) {
        const close = line.indexOf(')', from)
        at = close < 0 ? end : close + 1
        continue
      }
      at = wordEnd(line, from, end, isClose || this.command === '')
      if (at === from) break
      if (this.command === '' && LINE_NUMBER.test(line.slice(from, at))) continue
      if (this.command === '') {
        isClose = at < end && line.charCodeAt(at) > SPACE
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

/**
 * Where a word ends: at a space, a remark or a checksum, or without one where the next begins, a letter
 * between two numbers ("G1X10Y-4"). Whatever else stands in a word stays in it, so that it is told.
 */
function wordEnd(line: string, from: number, end: number, isClose: boolean): number {
  const own = line.charCodeAt(from) & ~SPACE
  let at = from
  for (; at < end && line.charCodeAt(at) > SPACE; at++) {
    if (line.charCodeAt(at) === STAR || line.charCodeAt(at) === OPEN) break
    if (at < from + 2 || at + 1 >= end || !isLetter(line.charCodeAt(at))) continue
    if (!isNumeric(line.charCodeAt(at - 1)) || !isNumeric(line.charCodeAt(at + 1))) continue
    const isExponent = (line.charCodeAt(at) & ~SPACE) === E && (!isClose || own === E)
    if (!isExponent) break
  }
  return at
}

function isLetter(code: number): boolean {
  const letter = (code & ~SPACE) - A
  return letter >= 0 && letter < LETTERS
}

/** Digits, a point, signs. */
function isNumeric(code: number): boolean {
  return (code >= 48 && code <= 57) || code === 46 || code === 45 || code === 43
}

/** As it is known: upper case, without zeros before its number. */
function commandOf(word: string): string {
  if (word === 'G1' || word === 'G0') return word
  return word.toUpperCase().replace(/^([GMT])0+(?=\d)/, '$1')
}
