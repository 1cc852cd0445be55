// The built interface, made anew when anything it is made from has changed.
import { execFile } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './paths.mjs'
import { say, SetupError } from './say.mjs'

const SOURCES = [
  'web/src',
  'web/index.html',
  'web/vite.config.ts',
  'core/src',
  'contract/src',
  'package-lock.json',
]

export async function ensureBuild() {
  const stamp = join(ROOT, 'web/dist/.stamp')
  const wanted = fingerprint()
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  say('Building the interface ...')
  await new Promise((resolve, reject) =>
    execFile(
      'npm',
      ['run', 'build', '--workspace', 'web', '--silent'],
      { cwd: ROOT },
      (error, stdout, stderr) =>
        error ? reject(new SetupError(`The interface could not be built.\n${stdout}\n${stderr}`)) : resolve(),
    ),
  )
  writeFileSync(stamp, wanted)
}

function fingerprint() {
  const hash = createHash('sha256')
  const visit = (path) => {
    const full = join(ROOT, path)
    if (!existsSync(full)) return
    const entry = statSync(full)
    if (entry.isDirectory()) for (const name of readdirSync(full).sort()) visit(join(path, name))
    else if (!/\.test\.tsx?$/.test(path)) hash.update(path).update(readFileSync(full))
  }
  SOURCES.forEach(visit)
  return hash.digest('hex')
}
