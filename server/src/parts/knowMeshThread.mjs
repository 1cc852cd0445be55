// A thread starts without the loader of its process: it brings its own before it can read TypeScript.
import { register } from 'tsx/esm/api'

register()
await import('./knowMeshThread.ts')
