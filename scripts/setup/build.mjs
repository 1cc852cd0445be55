// The built interface, made anew when anything it is made from has changed.
import { execFile } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './paths.mjs'
import { say, SetupError } from './say.mjs'

const BUILT = join(ROOT, 'web/dist')
/** A folder for each that builds, by its process. */
const BUILDS = join(ROOT, 'web/.cache/builds')
const STAMP = join(BUILT, '.stamp')
const SOURCES = [
  'web/src',
  'web/index.html',
  'web/vite.config.ts',
  'core/src',
  'contract/src',
  'package-lock.json',
]

/** Built beside what is there and then put in its place: another start may build or read it meanwhile. */
export async function ensureBuild() {
  const wanted = fingerprint()
  const isBuilt = () => existsSync(STAMP) && readFileSync(STAMP, 'utf8') === wanted
  if (isBuilt()) return
  say('Building the interface ...')
  const made = join(BUILDS, String(process.pid))
  clearAway()
  try {
    await new Promise((resolve, reject) =>
      execFile(
        'npm',
        ['run', 'build', '--workspace', 'web', '--silent', '--', '--outDir', made],
        { cwd: ROOT },
        (error, stdout, stderr) =>
          error
            ? reject(new SetupError(`The interface could not be built.\n${stdout}\n${stderr}`))
            : resolve(),
      ),
    )
    writeFileSync(join(made, '.stamp'), wanted)
    if (isBuilt()) return
    rmSync(BUILT, { recursive: true, force: true })
    renameSync(made, BUILT)
  } finally {
    rmSync(made, { recursive: true, force: true })
  }
}

/** What builds left behind that were stopped halfway. */
function clearAway() {
  for (const pid of existsSync(BUILDS) ? readdirSync(BUILDS) : [])
    if (Number(pid) === process.pid || !isRunning(Number(pid)))
      rmSync(join(BUILDS, pid), { recursive: true, force: true })
}

function isRunning(pid) {
  try {
    return process.kill(pid, 0)
  } catch (error) {
    return error.code === 'EPERM'
  }
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
