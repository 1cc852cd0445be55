// npm run bench: what our stages cost against the raw cost of the libraries under them, as ratios within one
// run; what changes cost, and what the lines of supports really hold.
// npm run bench -- changes runs one of them alone.
import { benchBranching } from './branching'
import { benchChanges } from './changes'
import { benchFiles } from './files'
import { benchLarge } from './large'
import { benchPlans } from './plans'
import { benchPlastic } from './plastic'
import { benchPoses } from './poses'
import { benchRounded } from './roundedPlans'
import { benchServer } from './server'

const ALL: Record<string, () => void | Promise<void>> = {
  plans: benchPlans,
  changes: benchChanges,
  branching: benchBranching,
  rounded: benchRounded,
  large: benchLarge,
  plastic: benchPlastic,
  poses: benchPoses,
  files: benchFiles,
  server: benchServer,
}
const asked = process.argv.slice(2)
for (const [name, run] of Object.entries(ALL)) {
  if (asked.length > 0 && !asked.includes(name)) continue
  console.log(`\n${name}`)
  await run()
}
