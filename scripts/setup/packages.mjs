// npm packages as the lock file says; nothing happens when they are in place.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './paths.mjs'
import { say, SetupError } from './say.mjs'

export function ensurePackages() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex')
  const stamp = join(ROOT, 'node_modules', '.tender-lock')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  say('Installing packages ...')
  const { status, stderr, stdout } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: ROOT,
    encoding: 'utf8',
  })
  if (status !== 0) throw new SetupError(`npm could not install the packages.\n${stderr || stdout}`)
  writeFileSync(stamp, lock)
}
