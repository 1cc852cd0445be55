import { TenderError } from '@tender/core'
import { Command, CommanderError } from 'commander'
import { couponCommand } from './coupon'
import { fitCommand } from './fit'
import { learnCommand } from './learn'
import { partCommand, posesCommand, reliefCommand } from './part'
import { planCommand } from './plan'
import { printCommand } from './print'
import { readCommand } from './read'

/**
 * Runs the command line. What it says goes to the standard outputs; whether it failed is the process's exit
 * code.
 * @param args without the names of Node and of the program
 */
export async function tender(args: readonly string[]): Promise<void> {
  const program = new Command('tender').description(
    'Supports that hold while printing and let go cleanly: files in, numbers and files out.',
  )
  program
    .addCommand(partCommand())
    .addCommand(posesCommand())
    .addCommand(reliefCommand())
    .addCommand(planCommand())
    .addCommand(printCommand())
    .addCommand(readCommand())
    .addCommand(fitCommand())
    .addCommand(learnCommand())
    .addCommand(couponCommand())
  for (const command of [program, ...program.commands]) command.exitOverride()
  try {
    await program.parseAsync(args, { from: 'user' })
  } catch (error) {
    // A wrong use has been told already, and so has help.
    if (error instanceof CommanderError) process.exitCode = error.exitCode
    else refuse(error, args.includes('--json'))
  }
}

/** Prints a refusal as one line, as JSON when the caller asked for JSON, and ends with a failure. */
function refuse(error: unknown, json: boolean): void {
  if (!(error instanceof TenderError)) throw error
  if (json)
    process.stdout.write(`${JSON.stringify({ error: { code: error.code, message: error.message } })}\n`)
  process.stderr.write(`${error.message}\n`)
  process.exitCode = 1
}
