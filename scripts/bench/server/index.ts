import { benchKills } from './kills'
import { benchLoad } from './load'
import { benchWriters } from './writers'

/** The server under kills, writers and load. */
export async function benchServer(): Promise<void> {
  await benchKills()
  await benchWriters()
  await benchLoad()
}
