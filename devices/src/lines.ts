import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'

/** Nobody sends longer lines in good faith. */
const LONGEST_LINE = 4096

export type LineHandler = {
  /** One line without its end. What it gives back is written, each with an end of its own. */
  line(text: string): void
  closed?(): void
}

/**
 * Listens on loopback for lines of text. A line that never ends closes its connection.
 * @param open called for each connection, with a way to write lines to it
 */
export function serveLines(
  port: number,
  open: (write: (line: string) => void, socket: Socket) => LineHandler,
): Promise<{ readonly port: number; readonly server: Server }> {
  const server = createServer((socket) => {
    socket.setEncoding('utf8').setNoDelay(true)
    socket.on('error', () => socket.destroy())
    const handler = open((line) => void (socket.destroyed || socket.write(`${line}\n`)), socket)
    let rest = ''
    socket.on('data', (chunk: string) => {
      const lines = (rest + chunk).split('\n')
      rest = lines.pop()!
      if (rest.length > LONGEST_LINE || lines.some(({ length }) => length > LONGEST_LINE))
        return socket.destroy()
      for (const line of lines) handler.line(line.replace(/\r$/, ''))
    })
    socket.on('close', () => handler.closed?.())
  })
  return new Promise((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => resolve({ port: (server.address() as AddressInfo).port, server }))
  })
}
