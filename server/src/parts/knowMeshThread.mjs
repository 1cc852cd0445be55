// The thread from its source, as tests start it; the server that is put together has this file made of
// knowMeshThread.ts itself. A thread starts without the loader of its process and brings its own.
import { register } from 'tsx/esm/api'

register()
await import('./knowMeshThread.ts')
