import { randomUUID } from 'node:crypto'
import { mkdirSync } from 'node:fs'
import { copyFile, readdir, rename, rm, stat } from 'node:fs/promises'
import { isIP } from 'node:net'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { RunInput, type PrintRun, type RunPrinter, type STAND_IN_FAULTS } from '@tender/contract'
import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import { withReceived } from '../parts/uploadedFile'
import { HttpProblem } from '../problem'
import type { Database } from '../storage/database'
import type { DeviceAddresses } from './standIns'
import { NOTHING_DONE } from './progress'
import { createRunner, type Runner } from './runner'
import { trial } from '../trials/schema'
import { printRun } from './schema'

/** A print of two million triangles and many layers. */
const MOST_BYTES = 600 * 1024 * 1024
const STAND_IN_WINDOW = 64
const PATIENCE_MS = 15_000

/** What runs are kept with. */
export type RunOf = { readonly takeOff: string } | { readonly trial: string }

export type PrintRuns = {
  /** @throws HttpProblem TOO_LARGE, TAKEN when the printer is at work, INVALID when it cannot be */
  start(input: RunInput, body: Readable): Promise<PrintRun>
  /** Those of a print, or of a trial; the newest first. */
  list(of: RunOf): Promise<PrintRun[]>
  /** @throws HttpProblem NOT_FOUND */
  one(id: string): Promise<PrintRun>
  act(id: string, what: 'pause' | 'resume' | 'give-up'): Promise<PrintRun>
  /** Lets a stand-in go wrong. @throws HttpProblem NOT_FOUND, INVALID */
  fail(id: string, fault: (typeof STAND_IN_FAULTS)[number]): Promise<PrintRun>
  /** Goes on with what the last stop left. */
  goOn(): Promise<void>
  leave(): Promise<void>
}

/**
 * Prints under way, one a printer. What a printer has done is written down as it goes, so that a stopped
 * server goes on where it was.
 * @param folder where their files lie
 * @throws NOT_FOUND, INVALID, TAKEN when a print cannot be begun or told what to do
 */
export function createPrintRuns({
  db,
  folder,
  standIns,
  told,
  patienceMs = PATIENCE_MS,
}: {
  readonly db: Database
  readonly folder: string
  readonly standIns: DeviceAddresses
  readonly told: (error: unknown) => void
  readonly patienceMs?: number
}): PrintRuns {
  mkdirSync(folder, { recursive: true })
  const live = new Map<string, { runner: Runner; temperatures: string | null; saving: Promise<unknown> }>()
  const pathOf = (id: string) => join(folder, `${id}.gcode`)

  function run(row: typeof printRun.$inferSelect): void {
    const own: { runner: Runner; temperatures: string | null; saving: Promise<unknown> } = {
      runner: null as never,
      temperatures: null,
      saving: Promise.resolve(),
    }
    own.runner = createRunner({
      path: pathOf(row.id),
      address: addressOf(row.input.printer, standIns),
      window: row.input.printer.standIn ? STAND_IN_WINDOW : 1,
      standInSpeed: row.input.printer.standIn ? row.input.speed : null,
      from: row.progress,
      paused: row.state === 'paused' || row.state === 'fault' ? row.message : false,
      patienceMs,
      tell: (state, message, progress, temperatures) => {
        own.temperatures = temperatures
        // One after the other, so that the last word is the last one written.
        own.saving = own.saving
          .then(() => db.update(printRun).set({ state, message, progress }).where(eq(printRun.id, row.id)))
          .catch(told)
        if (state !== 'done' && state !== 'given up') return
        own.saving = own.saving.then(() => {
          live.delete(row.id)
          return rm(pathOf(row.id), { force: true })
        })
      },
    })
    live.set(row.id, own)
  }

  async function one(id: string): Promise<PrintRun> {
    await live.get(id)?.saving
    const [row] = await db.select().from(printRun).where(eq(printRun.id, id))
    if (!row) throw new HttpProblem('NOT_FOUND', 'There is no such print.')
    return toRun(row)
  }

  function toRun(row: typeof printRun.$inferSelect): PrintRun {
    const own = live.get(row.id)
    return {
      id: row.id,
      ...RunInput.parse(row.input),
      state: row.state,
      message: row.message,
      bytes: row.bytes,
      progress: own ? own.runner.progress : row.progress,
      temperatures: own?.temperatures ?? null,
    }
  }

  const runnerOf = async (id: string): Promise<Runner> => {
    const own = live.get(id)
    if (own) return own.runner
    await one(id)
    throw new HttpProblem('INVALID', 'This print has ended.')
  }

  return {
    async start(input, body) {
      addressOf(input.printer, standIns)
      const busy = await db
        .select()
        .from(printRun)
        .where(inArray(printRun.state, ['printing', 'paused', 'fault', 'lost']))
      const other = busy.find((row) => samePrinter(row.input.printer, input.printer))
      if (other)
        throw new HttpProblem(
          'TAKEN',
          `That printer is at work on “${other.input.title}”. Wait for it, or give it up first.`,
        )
      const id = randomUUID()
      await withReceived(body, MOST_BYTES, (path) => moved(path, pathOf(id)))
      const { size } = await stat(pathOf(id))
      if (size === 0) {
        await rm(pathOf(id), { force: true })
        throw new HttpProblem('INVALID', 'The file is empty; nothing is printed.')
      }
      const [row] = await db.transaction(async (tx) => {
        // Whatever comes of a stand-in is simulated, for good.
        if (input.printer.standIn && input.trialId)
          await tx
            .update(trial)
            .set({ simulated: true, revision: sql`${trial.revision} + 1`, updatedAt: new Date() })
            .where(and(eq(trial.id, input.trialId), eq(trial.simulated, false)))
        return tx
          .insert(printRun)
          .values({
            id,
            takeOffId: input.takeOffId,
            trialId: input.trialId,
            input,
            state: 'printing',
            bytes: size,
            progress: NOTHING_DONE,
          })
          .returning()
      })
      run(row)
      return one(id)
    },
    one,
    async list(of) {
      const rows = await db
        .select()
        .from(printRun)
        .where('trial' in of ? eq(printRun.trialId, of.trial) : eq(printRun.takeOffId, of.takeOff))
        .orderBy(desc(printRun.createdAt))
        .limit(20)
      return rows.map(toRun)
    },
    async act(id, what) {
      const runner = await runnerOf(id)
      if (what === 'pause') runner.pause()
      else if (what === 'resume') runner.resume()
      else runner.giveUp()
      return one(id)
    },
    async fail(id, fault) {
      const runner = await runnerOf(id)
      const [row] = await db.select().from(printRun).where(eq(printRun.id, id))
      if (!row.input.printer.standIn)
        throw new HttpProblem('INVALID', 'Only a stand-in goes wrong when it is told to.')
      runner.order(`!fail ${fault}`)
      return one(id)
    },
    async goOn() {
      const rows = await db
        .select()
        .from(printRun)
        .where(and(inArray(printRun.state, ['printing', 'lost', 'paused', 'fault'])))
      const files = new Set(await readdir(folder))
      for (const row of rows)
        if (files.has(`${row.id}.gcode`)) run(row)
        else
          await db
            .update(printRun)
            .set({ state: 'given up', message: 'Its file is gone.' })
            .where(eq(printRun.id, row.id))
      const known = new Set(rows.map(({ id }) => `${id}.gcode`))
      for (const file of files)
        if (file.endsWith('.gcode') && !known.has(file)) await rm(join(folder, file), { force: true })
    },
    async leave() {
      const all = [...live.values()]
      for (const { runner } of all) runner.leave()
      await Promise.all(all.map(({ saving }) => saving))
    },
  }
}

/** @throws HttpProblem INVALID when there is no stand-in, or when the address lies outside of the house */
function addressOf(printer: RunPrinter, standIns: DeviceAddresses): { host: string; port: number } {
  if (!printer.standIn) {
    if (!isOwnNetwork(printer.host))
      throw new HttpProblem(
        'INVALID',
        'A printer is reached by its number in the local network, such as 192.168.1.20.',
        { field: 'printer' },
      )
    return printer
  }
  if (standIns.printer === undefined)
    throw new HttpProblem(
      'INVALID',
      'No stand-in printer runs beside this server; npm start brings one along.',
    )
  return { host: '127.0.0.1', port: standIns.printer }
}

/** Numbers that lead out of the house are nobody's printer. */
function isOwnNetwork(host: string): boolean {
  if (isIP(host) !== 4) return host === 'localhost' || host === '::1'
  return /^(127\.|10\.|192\.168\.|169\.254\.|172\.(1[6-9]|2\d|3[01])\.)/.test(host)
}

const samePrinter = (a: RunPrinter, b: RunPrinter) =>
  a.standIn || b.standIn ? a.standIn === b.standIn : a.host === b.host && a.port === b.port

/** Upload and prints may lie on different disks. */
async function moved(from: string, to: string): Promise<void> {
  try {
    await rename(from, to)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error
    await copyFile(from, to)
  }
}
