import { createHash } from 'node:crypto'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { extname, join, sep } from 'node:path'
import { Router } from 'express'

/**
 * A worker has a policy of its own. The polygon engine writes its bindings as code at run time, so its
 * worker, and nothing else, may do that.
 */
const WORKER_POLICY =
  "default-src 'self'; script-src 'self' 'unsafe-eval' 'wasm-unsafe-eval'; connect-src 'self'"

type WebFile = { readonly type: string; readonly bytes: Buffer; readonly headers: Record<string, string> }

/**
 * The built interface, from memory: a first visit asks for sixty files at once, and opening each of them on
 * the disk takes as long as all else that is done to answer. Every other address is a view.
 */
export function webFiles(folder: string): Router {
  const files = new Map<string, WebFile>()
  for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' })) {
    if (name.startsWith('.') || !statSync(join(folder, name)).isFile()) continue
    const path = `/${name.split(sep).join('/')}`
    const bytes = readFileSync(join(folder, name))
    files.set(path, { type: extname(name), bytes, headers: headersOf(path, bytes) })
  }
  const view = files.get('/index.html')
  const routes = Router()
  routes.get('/{*path}', ({ path }, res, next) => {
    const file = files.get(path) ?? view
    if (file) res.type(file.type).set(file.headers).send(file.bytes)
    else next()
  })
  return routes
}

/** What is named after its contents never changes; of the rest is asked each time whether it is the same. */
const headersOf = (path: string, bytes: Buffer): Record<string, string> => ({
  'Cache-Control': path.startsWith('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
  // Weak, as other devices get it packed.
  ETag: `W/"${createHash('sha256').update(bytes).digest('base64url')}"`,
  ...(/(geometry|beside)\.worker-[^/]*\.js$/.test(path) && { 'Content-Security-Policy': WORKER_POLICY }),
})
