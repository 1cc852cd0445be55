// Type-checks every workspace, each with the types it may see: core without DOM or Node, and so on. Two at a
// time: each
// check keeps one core busy.
import { spawn } from 'node:child_process'

// The longest first, so that none of them is left over at the end.
const places = [
  'web',
  'server',
  'core/tsconfig.test.json',
  'cli',
  'devices',
  'e2e',
  'contract/tsconfig.test.json',
  'contract',
  'core',
  'scripts',
]
const check = (place) =>
  new Promise((resolve) => spawn('npx', ['tsc', '-p', place], { stdio: 'inherit' }).once('exit', resolve))

async function oneAfterTheOther() {
  for (let place = places.shift(); place; place = places.shift())
    if ((await check(place)) !== 0) process.exitCode = 1
}
await Promise.all([oneAfterTheOther(), oneAfterTheOther()])
