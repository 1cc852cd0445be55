// Type-checks every workspace, each with the types it may see: core without DOM or Node, web without Node, and so on.
import { execFileSync } from 'node:child_process'

for (const place of ['core', 'core/tsconfig.test.json', 'contract', 'server', 'web', 'web/tsconfig.test.json', 'cli', 'e2e', 'scripts']) execFileSync('npx', ['tsc', '-p', place], { stdio: 'inherit' })
