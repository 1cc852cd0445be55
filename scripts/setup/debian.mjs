// Debian packages that npm cannot bring.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { say, SetupError } from './say.mjs'

const VERSIONS = '/usr/lib/postgresql'

/** Folder of PostgreSQL's programs, newest version first; null when it is not installed. */
export function postgresPrograms() {
  if (!existsSync(VERSIONS)) return null
  const versions = readdirSync(VERSIONS).sort((a, b) => Number(b) - Number(a))
  return versions.map((version) => join(VERSIONS, version, 'bin')).find((folder) => existsSync(join(folder, 'initdb'))) ?? null
}

export function ensurePostgres() {
  if (!postgresPrograms()) install('postgresql', 'the database')
  const programs = postgresPrograms()
  if (!programs) throw new SetupError('PostgreSQL was installed, but its programs are not under /usr/lib/postgresql.')
  return programs
}

export function ensureChromium() {
  if (!existsSync('/usr/bin/chromium')) install('chromium', 'the tests of the interface')
}

function install(name, what) {
  if (process.getuid() !== 0) throw new SetupError(`Tender Bridge needs the Debian package "${name}" for ${what}. Install it with: sudo apt-get install ${name}`)
  say(`Installing ${name} ...`)
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' }
  const run = (args) => spawnSync('apt-get', args, { env, encoding: 'utf8' })
  run(['update', '-qq'])
  const { status, stderr } = run(['install', '-y', '-qq', '--no-install-recommends', name])
  if (status !== 0) throw new SetupError(`apt could not install "${name}", which is needed for ${what}.\n${stderr ?? ''}`)
}
