// The thread from its source, as tests and the bench start it; a program that is put together has this file
// made of besideThread.ts itself. A thread knows no TypeScript of its own.
import { register } from 'tsx/esm/api'

register()
await import('./besideThread.ts')
