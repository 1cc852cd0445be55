#!/usr/bin/env node
import { program } from '../../scripts/setup/programs.mjs'

process.setSourceMapsEnabled(true)
await import(await program('cli'))
