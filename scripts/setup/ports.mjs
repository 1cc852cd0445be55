import { createServer } from 'node:net'
import { SetupError } from './say.mjs'

/** A free port on loopback: the wished one if it is free, otherwise any. */
export async function freePort(wished = 0) {
  const tried = await listen(wished)
  return tried ?? (await listen(0))
}

/** The port that a person asked for, which must be one and free. */
export async function askedPort(text) {
  if (!/^\d+$/.test(text) || Number(text) > 65_535)
    throw new SetupError(`PORT is "${text}"; it must be a number from 1 to 65535, or 0 for any.`)
  const port = Number(text)
  if ((await listen(port)) === null) throw new SetupError(`Port ${port} is taken; set PORT to another one.`)
  return port
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
