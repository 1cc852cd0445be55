// One owner per data folder: whoever holds its lock file lives, or it is taken over.
import { linkSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { SetupError } from './say.mjs'

/**
 * When a process began, by the system's own count; null when there is none of that number. A number alone may
 * be somebody else by now.
 */
function bornAt(pid) {
  try {
    // The name stands in brackets and may hold anything; what counts comes behind them.
    return readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ').at(-1).split(' ')[19]
  } catch {
    return null
  }
}

function read(path) {
  try {
    const { pid, born } = JSON.parse(readFileSync(path, 'utf8'))
    return { pid, living: bornAt(pid) !== null && bornAt(pid) === born }
  } catch {
    return { pid: null, living: false }
  }
}

/**
 * Takes a folder for this process.
 * @returns a function that gives it back, or null when another living process has it
 */
export function takeFolder(folder) {
  const lock = join(folder, 'owner.json')
  const mine = join(folder, `owner.${process.pid}.json`)
  try {
    writeFileSync(mine, JSON.stringify({ pid: process.pid, born: bornAt(process.pid) }))
  } catch (error) {
    throw new SetupError(
      `Nothing can be written to ${folder} (${error.code}). Set TENDER_DATA_DIR to a folder of yours.`,
    )
  }
  try {
    for (let attempt = 0; attempt < 5; attempt++) {
      try {
        linkSync(mine, lock)
        return () => read(lock).pid === process.pid && rmSync(lock, { force: true })
      } catch (error) {
        if (error.code !== 'EEXIST') throw error
      }
      if (read(lock).living) return null
      // Only one can move a lock away; if it is a fresh one that came in between, it is put back.
      const aside = join(folder, `owner.${process.pid}.left.json`)
      try {
        renameSync(lock, aside)
      } catch {
        continue
      }
      if (read(aside).living) {
        try {
          linkSync(aside, lock)
        } catch {
          // Somebody else has it by now.
        }
        rmSync(aside, { force: true })
        return null
      }
      rmSync(aside, { force: true })
    }
    return null
  } finally {
    rmSync(mine, { force: true })
  }
}
