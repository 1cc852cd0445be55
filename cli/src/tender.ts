import { TenderError } from '@tender/core'
import { Command, CommanderError } from 'commander'
import { couponCommand } from './coupon'
import { fitCommand } from './fit'
import { partCommand, posesCommand, reliefCommand } from './part'
import { planCommand } from './plan'

/**
 * Runs the command line. What it says goes to the standard outputs; whether it failed is the process's exit code.
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
    .addCommand(fitCommand())
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
  const known = error instanceof TenderError ? error : fileError(error)
  if (!known) throw error
  if (json)
    process.stdout.write(`${JSON.stringify({ error: { code: known.code, message: known.message } })}\n`)
  process.stderr.write(`${known.message}\n`)
  process.exitCode = 1
}

function fileError(error: unknown): { code: string; message: string } | null {
  const { code, path } = error as { code?: string; path?: string }
  if (code === 'ENOENT') return { code: 'FILE_MISSING', message: `There is no file "${path}".` }
  if (code === 'EISDIR') return { code: 'FILE_MISSING', message: `"${path}" is a folder, not a file.` }
  if (code === 'EACCES') return { code: 'FILE_MISSING', message: `"${path}" may not be read or written.` }
  return null
}
