import { createServer } from 'node:net'

/** A free port on loopback: the wished one if it is free, otherwise any. */
export async function freePort(wished = 0) {
  const tried = await listen(wished)
  return tried ?? (await listen(0))
}

function listen(port) {
  return new Promise((resolve) => {
    const server = createServer()
    server.once('error', () => resolve(null))
    server.listen(port, '127.0.0.1', () => {
      const { port: got } = server.address()
      server.close(() => resolve(got))
    })
  })
}
