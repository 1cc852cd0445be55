import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { FilamentInput, PlanInput, PrinterInput } from '@tender/contract'
import compression from 'compression'
import express, { json, type Express } from 'express'
import helmet from 'helmet'
import type { Pool } from 'pg'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { familyRepo } from './families/repo'
import { familyRoutes } from './families/routes'
import { filamentShelf } from './filaments/repo'
import { meshRoutes, partRoutes } from './parts/routes'
import { partShelf } from './parts/repo'
import { planShelf } from './plans/repo'
import { printerShelf } from './printers/repo'
import { HttpProblem, problemHandler } from './problem'
import type { Database } from './storage/database'
import type { BatchQueue } from './searches/queue'
import { searchRepo } from './searches/repo'
import { partSearchRoutes, searchRoutes } from './searches/routes'
import { shelfRoutes } from './storage/shelfRoutes'
import { photoRoutes, trialRoutes } from './trials/routes'
import { trialShelf } from './trials/repo'

export type AppOptions = {
  readonly db: Database
  readonly pool: Pool
  readonly queue: BatchQueue
  readonly log: Logger
  /** Folder of the built interface; null serves the API alone. */ readonly webFolder: string | null
}

/** A worker has a policy of its own. The polygon engine writes its bindings as code at run time, so its worker, and nothing else, may do that. */
const WORKER_POLICY = "default-src 'self'; script-src 'self' 'unsafe-eval' 'wasm-unsafe-eval'; connect-src 'self'"

function assetHeaders(res: { setHeader(name: string, value: string): unknown }, path: string): void {
  res.setHeader('Cache-Control', path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache')
  if (/(geometry|tracing)\.worker-[^/]*\.js$/.test(path)) res.setHeader('Content-Security-Policy', WORKER_POLICY)
}

/** The whole server but for its socket. */
export function createApp({ db, pool, queue, log, webFolder }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(pinoHttp({ logger: log, autoLogging: false }))
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          // The polygon and solid engines are WebAssembly.
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          workerSrc: ["'self'", 'blob:'],
          connectSrc: ["'self'", 'blob:'],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
    }),
  )
  app.use(compression())
  const parts = partShelf(db)
  app.get('/api/health', (_req, res) => void res.json({ ok: true }))
  app.use('/api/parts', json({ limit: '4mb' }), partRoutes(parts))
  app.use('/api/meshes', meshRoutes(parts))
  const searches = searchRepo(pool, db, queue)
  app.use('/api/parts', partSearchRoutes(searches))
  app.use('/api/searches', searchRoutes(searches))
  app.use('/api', json({ limit: '4mb' }))
  app.use('/api/printers', shelfRoutes(printerShelf(db), PrinterInput))
  app.use('/api/filaments', shelfRoutes(filamentShelf(db), FilamentInput))
  const trials = trialShelf(db)
  app.use('/api/trials', trialRoutes(trials))
  app.use('/api/photos', photoRoutes(trials))
  app.use('/api/families', familyRoutes(familyRepo(db)))
  app.use('/api/plans', shelfRoutes(planShelf(db), PlanInput))
  app.use('/api', () => {
    throw new HttpProblem('NOT_FOUND', 'There is nothing at this address.')
  })
  if (webFolder && existsSync(webFolder)) {
    app.use(express.static(webFolder, { index: false, setHeaders: assetHeaders }))
    // Every other address is a view of the interface.
    app.get('/{*view}', (_req, res) => void res.set('Cache-Control', 'no-cache').sendFile(join(webFolder, 'index.html')))
  }
  app.use(problemHandler)
  return app
}
