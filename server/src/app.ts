import { existsSync } from 'node:fs'
import { BetterInput, FilamentInput, PlanInput, PrinterInput, SearchInput } from '@tender/contract'
import compression from 'compression'
import express, { json, type Express } from 'express'
import helmet from 'helmet'
import type { Pool } from 'pg'
import type { Logger } from 'pino'
import { ownHostsOnly } from './access/hosts'
import type { SharingDoor } from './access/sharing'
import { backupRoutes } from './backup/routes'
import { photoRoutes } from './blobs/photoRoutes'
import { anyPhotos } from './blobs/photos'
import { familyRepo } from './families/repo'
import { familyRoutes } from './families/routes'
import { filamentShelf } from './filaments/repo'
import { keptAnswers } from './kept/repo'
import { keptRoutes } from './kept/routes'
import { meshRoutes, partRoutes } from './parts/routes'
import { meshStore } from './parts/meshes'
import { partShelf } from './parts/repo'
import { planShelf } from './plans/repo'
import { printerShelf } from './printers/repo'
import { HttpProblem, problemHandler } from './problem'
import { answers, type Database } from './storage/database'
import type { JobRepo } from './jobs/repo'
import { jobRoutes, partJobRoutes } from './jobs/routes'
import { BETTER_PLANS, betterSearchOf } from './searches/betterPlans'
import { POSE_SEARCH, poseSearchOf } from './searches/poseSearch'
import { printRunRoutes, standInRoutes } from './printRuns/routes'
import { readTakeOffByStandIns, readTrialByStandIns } from './printRuns/readByStandIns'
import type { PrintRuns } from './printRuns/runs'
import type { DeviceAddresses } from './printRuns/standIns'
import type { ReadCache } from './storage/readCache'
import { shelfRoutes, type Ready } from './storage/shelfRoutes'
import { webFiles } from './webFiles'
import { workshopRoutes } from './workshop/routes'
import { trialRoutes } from './trials/routes'
import { trialPhotos, trialShelf } from './trials/repo'
import { takeOffPhotos, takeOffShelf } from './takeOffs/repo'
import { takeOffRoutes } from './takeOffs/routes'

export type AppOptions = {
  readonly db: Database
  readonly pool: Pool
  readonly jobs: JobRepo
  /** Told of every change of a table, so that it keeps no answer that is stale. */
  readonly cache: ReadCache
  /** Called when somebody started a job. */
  readonly onJob?: () => void
  /** The door for others in the local network; without one nothing but loopback is served. */
  readonly sharing?: SharingDoor
  readonly runs: PrintRuns
  readonly standIns: DeviceAddresses
  readonly log: Logger
  /** Folder of the built interface; null serves the API alone. */ readonly webFolder: string | null
}

/**
 * The whole server but for its socket.
 * @throws OFFLINE, NOT_FOUND as answers
 */
export function createApp({
  db,
  pool,
  jobs,
  cache,
  sharing,
  runs,
  standIns,
  log,
  webFolder,
  onJob,
}: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  // Answers that are kept ready bring their own; of changes nobody asks twice.
  app.disable('etag')
  app.set('query parser', 'simple')
  app.use((req, _res, next) => {
    req.log = log
    next()
  })
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
  app.use(ownHostsOnly(sharing?.names))
  if (sharing) {
    app.use(sharing.letIn)
    app.use(sharing.gate)
    app.use('/api/sharing', sharing.routes)
  }
  // What stays on this machine is sent sooner than it is packed.
  if (sharing)
    app.use(compression({ filter: (req, res) => sharing.isOutside(req) && compression.filter(req, res) }))
  const ready = (table: string, ...also: string[]): Ready => ({ cache, table, sources: [table, ...also] })
  app.get('/api/health', async (_req, res) => {
    if (!(await answers(pool))) throw new HttpProblem('OFFLINE', 'The database does not answer.')
    res.json({ ok: true })
  })
  app.use('/api/backup', backupRoutes(pool, cache))
  const body = json({ limit: '4mb' })
  const parts = partShelf(db)
  app.use('/api/parts', body, partRoutes(parts, ready('part', 'mesh')))
  app.use('/api/meshes', meshRoutes(meshStore(db)))
  app.use('/api/prints', printRunRoutes(runs, body))
  app.use('/api/kept', keptRoutes(keptAnswers(db)))
  app.use('/api', body)
  app.use('/api/stand-ins', standInRoutes(standIns))
  app.use('/api/parts/:id/searches', partJobRoutes(jobs, POSE_SEARCH, SearchInput, poseSearchOf, onJob))
  app.use('/api/searches', jobRoutes(jobs, POSE_SEARCH, poseSearchOf))
  app.use('/api/parts/:id/better', partJobRoutes(jobs, BETTER_PLANS, BetterInput, betterSearchOf, onJob))
  app.use('/api/better', jobRoutes(jobs, BETTER_PLANS, betterSearchOf))
  app.use('/api/printers', shelfRoutes(printerShelf(db), PrinterInput, ready('printer')))
  app.use('/api/filaments', shelfRoutes(filamentShelf(db), FilamentInput, ready('filament', 'spool')))
  const trials = trialShelf(db)
  // A trial's answer has the names of what it was printed on and in.
  const ofTrials = ready('trial', 'step_reading', 'step_photo', 'printer', 'filament')
  app.use(
    '/api/trials',
    trialRoutes(trials, ofTrials, (id) => readTrialByStandIns(trials, id, standIns)),
  )
  const ofTakeOffs = ready('take_off', 'part')
  const takeOffs = takeOffShelf(db)
  app.use(
    '/api/take-offs',
    takeOffRoutes(takeOffs, ofTakeOffs, (id) => readTakeOffByStandIns(takeOffs, id, standIns)),
  )
  app.use('/api/photos', photoRoutes(anyPhotos(db, [trialPhotos, takeOffPhotos]), [ofTrials, ofTakeOffs]))
  app.use('/api/workshop', workshopRoutes(db))
  app.use('/api/families', familyRoutes(familyRepo(db)))
  app.use('/api/plans', shelfRoutes(planShelf(db), PlanInput, ready('plan', 'part')))
  app.use('/api', () => {
    throw new HttpProblem('NOT_FOUND', 'There is nothing at this address.')
  })
  if (webFolder && existsSync(webFolder)) app.use(webFiles(webFolder))
  app.use(problemHandler)
  return app
}
