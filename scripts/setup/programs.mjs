// Programs for Node, put together from their TypeScript at every start: that takes some tenths of a
// second, and reading the sources one by one takes two seconds.
import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname, join, relative } from 'node:path'
import { ROOT } from './paths.mjs'
import { SetupError } from './say.mjs'

/** Per workspace, what it starts: processes and threads, by the name under which they are started. */
const PROGRAMS = {
  server: {
    main: 'server/src/main.ts',
    worker: 'server/src/worker.ts',
    openings: 'server/src/openings.ts',
    knowMeshThread: 'server/src/parts/knowMeshThread.ts',
    besideThread: 'core/node/besideThread.ts',
  },
  cli: { main: 'cli/src/main.ts', besideThread: 'core/node/besideThread.ts' },
  devices: { main: 'devices/src/main.ts' },
}

/**
 * Puts the programs of a workspace together, in its folder dist.
 * @returns the file that starts it
 */
export async function program(workspace) {
  // Not before the packages are there.
  const { build } = await import('esbuild')
  const folder = join(ROOT, workspace, 'dist')
  const { outputFiles } = await build({
    absWorkingDir: ROOT,
    entryPoints: PROGRAMS[workspace],
    outdir: folder,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: 'linked',
    sourcesContent: false,
    write: false,
    external: packagesOf(workspace, 'core', 'contract'),
  })
  for (const { path, contents } of outputFiles) put(path, contents)
  return join(folder, 'main.mjs')
}

/** What workspaces take from the registry stays where it is. */
function packagesOf(...workspaces) {
  const named = workspaces.flatMap((workspace) =>
    Object.keys(JSON.parse(readFileSync(join(ROOT, workspace, 'package.json'), 'utf8')).dependencies ?? {}),
  )
  return named.filter((name) => !name.startsWith('@tender/'))
}

/** Writes a file that has changed, as a whole: others may be starting from it. */
function put(path, contents) {
  try {
    if (readFileSync(path).equals(contents)) return
  } catch {
    // It is not there yet.
  }
  const part = `${path}.${process.pid}`
  try {
    mkdirSync(dirname(path), { recursive: true })
    writeFileSync(part, contents)
    renameSync(part, path)
  } catch (error) {
    throw new SetupError(`${relative(ROOT, path)} cannot be written (${error.code}).`)
  }
}
