// Words to the person in front of the terminal.
export const say = (text) => process.stdout.write(`${text}\n`)

/** A failure that needs no stack: what is wrong and what to do; empty when that was said already. */
export class SetupError extends Error {}

/** Runs a script's main function; a SetupError ends it with its sentence alone. */
export async function runMain(main) {
  try {
    await main()
  } catch (error) {
    if (!(error instanceof SetupError)) process.stderr.write(`${error?.stack ?? error}\n`)
    else if (error.message !== '') process.stderr.write(`${error.message}\n`)
    process.exit(1)
  }
}
