// Type-checks every workspace with the types it may see: core and contract without DOM or Node. Those that
// see the same are checked in one go, two goes at a time: each keeps one core busy.
import { spawn } from 'node:child_process'

// The longest first, so that none of them is left over at the end.
const places = ['web', 'tsconfig.node.json', 'tsconfig.tools.json', 'contract', 'core']
const check = (place) =>
  new Promise((resolve) => spawn('npx', ['tsc', '-p', place], { stdio: 'inherit' }).once('exit', resolve))

async function oneAfterTheOther() {
  for (let place = places.shift(); place; place = places.shift())
    if ((await check(place)) !== 0) process.exitCode = 1
}
await Promise.all([oneAfterTheOther(), oneAfterTheOther()])
