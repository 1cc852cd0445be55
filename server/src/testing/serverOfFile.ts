import { afterAll, beforeAll } from '@jest/globals'
import { aServer } from './aServer'
import { makerOf } from './bench'

/** One server for all tests of a file, and what a maker does with it. */
export function serverOfFile() {
  let running: Awaited<ReturnType<typeof aServer>>
  beforeAll(async () => void (running = await aServer()))
  afterAll(() => running.close())
  const server = {
    get app() {
      return running.app
    },
    get db() {
      return running.db
    },
    get pool() {
      return running.pool
    },
  }
  return { server, ...makerOf(server) }
}
