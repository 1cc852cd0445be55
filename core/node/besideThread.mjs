// A thread knows no TypeScript of its own.
import { register } from 'tsx/esm/api'

register()
await import('./besideThread.ts')
