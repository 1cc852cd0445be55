/** Says in one sentence why a program does not start, and ends it. */
export function giveUp(sentence: string): never {
  process.stderr.write(`${sentence}\n`)
  process.exit(1)
}
