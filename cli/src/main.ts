import { TenderError } from '@tender/core'
import { Command } from 'commander'
import { couponCommand } from './coupon'
import { fitCommand } from './fit'
import { partCommand, posesCommand, reliefCommand } from './part'
import { planCommand } from './plan'

/** Prints a refusal as one line, as JSON when the caller asked for JSON, and ends with a failure. */
function refuse(error: unknown): void {
  const known = error instanceof TenderError ? error : fileError(error)
  if (!known) throw error
  if (process.argv.includes('--json')) process.stdout.write(`${JSON.stringify({ error: { code: known.code, message: known.message } })}\n`)
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

const program = new Command('tender').description('Supports that hold while printing and let go cleanly: files in, numbers and files out.')
program.addCommand(partCommand()).addCommand(posesCommand()).addCommand(reliefCommand()).addCommand(planCommand()).addCommand(fitCommand()).addCommand(couponCommand())
program.parseAsync().catch(refuse)
