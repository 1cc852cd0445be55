import { ensurePackages } from './setup/packages.mjs'
import { runMain } from './setup/say.mjs'

await runMain(ensurePackages)
