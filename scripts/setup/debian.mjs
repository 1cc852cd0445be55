// Debian packages that npm cannot bring.
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { say, SetupError } from './say.mjs'

const VERSIONS = '/usr/lib/postgresql'
const programs = (version) => join(VERSIONS, version, 'bin')
const isThere = (version) => existsSync(join(programs(version), 'initdb'))

/** The newest version that is installed; null when none is. */
function newestPostgres() {
  if (!existsSync(VERSIONS)) return null
  return (
    readdirSync(VERSIONS)
      .sort((a, b) => Number(b) - Number(a))
      .find(isThere) ?? null
  )
}

/**
 * Folder of PostgreSQL's programs.
 * @param version the one that wrote the data, since no other can read them; null takes the newest there is
 */
export function postgresOf(version) {
  if (version === null) {
    if (!newestPostgres()) install('postgresql', 'the database')
    const newest = newestPostgres()
    if (!newest)
      throw new SetupError('PostgreSQL was installed, but its programs are not under /usr/lib/postgresql.')
    return programs(newest)
  }
  if (isThere(version)) return programs(version)
  try {
    install(`postgresql-${version}`, 'the data of this workshop, which it wrote')
  } catch {
    // Told below, in words about the data.
  }
  if (!isThere(version))
    throw new SetupError(
      `The workshop's data were written by PostgreSQL ${version}, which is not here${newestPostgres() ? ` (${newestPostgres()} is, and cannot read them)` : ''}. Install the Debian package "postgresql-${version}", or set TENDER_DATA_DIR to start with another folder.`,
    )
  return programs(version)
}

/** Waits for Debian only where Chromium is missing: other things can be set up meanwhile. */
export async function ensureChromium() {
  if (existsSync('/usr/bin/chromium')) return
  const [name, what] = ['chromium', 'the tests of the interface']
  const child = spawn(...installing(name, what), { stdio: ['ignore', 'ignore', 'pipe'] })
  let words = ''
  child.stderr.on('data', (chunk) => (words += chunk))
  const status = await new Promise((resolve) => child.once('close', resolve))
  if (status !== 0) throw notInstalled(name, what, words)
}

function install(name, what) {
  const { status, stderr } = spawnSync(...installing(name, what), { encoding: 'utf8' })
  if (status !== 0) throw notInstalled(name, what, stderr)
}

/** What installs a package. */
function installing(name, what) {
  if (process.getuid() !== 0)
    throw new SetupError(
      `Tender Bridge needs the Debian package "${name}" for ${what}. Install it with: sudo apt-get install ${name}`,
    )
  say(`Installing ${name} ...`)
  const run =
    'export DEBIAN_FRONTEND=noninteractive; apt-get update -qq; apt-get install -y -qq --no-install-recommends "$0"'
  return ['sh', ['-c', run, name]]
}

const notInstalled = (name, what, words) =>
  new SetupError(`apt could not install "${name}", which is needed for ${what}.\n${words ?? ''}`)
