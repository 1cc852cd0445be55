// Type-checks every workspace with the types it may see: core and contract without DOM or Node. Those that
// see the same are checked in one go. One checker each: several would each
// work out the types that all of them need.
import { spawnSync } from 'node:child_process'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'

const compiler = join(dirname(createRequire(import.meta.url).resolve('typescript/package.json')), 'bin/tsc')
for (const place of ['web', 'tsconfig.node.json', 'tsconfig.tools.json', 'contract', 'core']) {
  const { status } = spawnSync(process.execPath, [compiler, '-p', place, '--checkers', '1'], {
    stdio: 'inherit',
  })
  if (status !== 0) process.exitCode = 1
}
