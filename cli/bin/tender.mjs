#!/usr/bin/env node
import { program } from '../../scripts/setup/programs.mjs'
import { runMain } from '../../scripts/setup/say.mjs'

process.setSourceMapsEnabled(true)
let main
await runMain(async () => {
  main = await program('cli')
})
if (main) await import(main)
