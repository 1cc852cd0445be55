// Words to the person in front of the terminal.
export const say = (text) => process.stdout.write(`${text}\n`)

/** A failure that needs no stack: what is wrong and what to do. */
export class SetupError extends Error {}

/** Runs a script's main function; a SetupError ends it with its sentence alone. */
export async function runMain(main) {
  try {
    await main()
  } catch (error) {
    process.stderr.write(error instanceof SetupError ? `${error.message}\n` : `${error?.stack ?? error}\n`)
    process.exit(1)
  }
}
