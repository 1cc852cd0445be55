import { createConnection, type Socket } from 'node:net'

/** What a printer says that matters to whoever sends it lines. */
export type Said =
  | { readonly kind: 'ok'; readonly number: number | null }
  | { readonly kind: 'resend'; readonly number: number }
  | { readonly kind: 'fault'; readonly sentence: string }
  /** `asked` when it answers a question; told by itself, it is a sign of life. */
  | { readonly kind: 'temperatures'; readonly text: string; readonly asked: boolean }
  | { readonly kind: 'busy' }
  | { readonly kind: 'nonsense'; readonly text: string }

const LONGEST_LINE = 4096
const CONNECT_MS = 4000

/**
 * Reads one line of a printer. Plain answers are `ok`, `ok N12`, `resend: 12`, `error: ...`; temperatures may
 * stand behind an ok.
 */
export function readSaid(line: string): Said {
  const text = line.trim()
  const lower = text.toLowerCase()
  if (/^(ok\s+)?[tb]\d?:\s*-?\d/.test(lower))
    return {
      kind: 'temperatures',
      text: text.replace(/^ok\s+/i, ''),
      asked: lower.startsWith('ok'),
    }
  const ok = /^ok\b(?:.*?\bn(\d+))?/.exec(lower)
  if (ok) return { kind: 'ok', number: ok[1] === undefined ? null : Number(ok[1]) }
  const resend = /^(?:resend|rs)\b\D*(\d+)/.exec(lower)
  if (resend) return { kind: 'resend', number: Number(resend[1]) }
  if (lower.startsWith('error') || lower.startsWith('!!'))
    return {
      kind: 'fault',
      sentence: text.replace(/^(error:?|!!)\s*/i, '') || 'The printer says that something is wrong.',
    }
  if (text === '' || /^(\/\/|echo:|busy|start\b|wait\b)/.test(lower)) return { kind: 'busy' }
  return { kind: 'nonsense', text: text.slice(0, 80) }
}

/** A line of G-code with its number and checksum. */
export function numbered(number: number, command: string): string {
  const body = `N${number} ${command}`
  let sum = 0
  for (const byte of Buffer.from(body)) sum ^= byte
  return `${body}*${sum}`
}

export type PrinterLine = {
  write(line: string): void
  close(): void
}

/**
 * Opens a line to a printer.
 * @param on what to do with what it says, and when it is cut, with why
 * @throws Error when nobody answers there
 */
export function openPrinterLine(
  { host, port }: { readonly host: string; readonly port: number },
  on: { said(said: Said): void; cut(why: string): void },
): Promise<PrinterLine> {
  return new Promise((resolve, reject) => {
    const socket: Socket = createConnection({ host, port })
    socket.setNoDelay(true).setEncoding('utf8').setTimeout(CONNECT_MS)
    let open = false
    let rest = ''
    let why = 'The connection to the printer was cut.'
    socket.once('connect', () => {
      open = true
      socket.setTimeout(0)
      resolve({ write: (line) => void socket.write(`${line}\n`), close: () => socket.destroy() })
    })
    socket.on('timeout', () => socket.destroy(new Error('nobody answers there')))
    socket.on('error', (error) => {
      why = `The connection to the printer failed: ${error.message}.`
    })
    socket.on('data', (chunk: string) => {
      const lines = (rest + chunk).split('\n')
      rest = lines.pop()!
      if (rest.length > LONGEST_LINE) {
        why = 'What answers there is no printer: it sends a line without end.'
        return socket.destroy()
      }
      for (const line of lines) on.said(readSaid(line))
    })
    socket.on('close', () => (open ? on.cut(why) : reject(new Error(why))))
  })
}
