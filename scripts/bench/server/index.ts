import { benchKills } from './kills'
import { benchLists } from './lists'
import { benchLoad } from './load'
import { benchWriters } from './writers'

/** The server under kills, writers and load, and with long lists. */
export async function benchServer(): Promise<void> {
  await benchKills()
  await benchWriters()
  await benchLoad()
  await benchLists()
}
