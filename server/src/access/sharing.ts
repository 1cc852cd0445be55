import { createServer, type RequestListener, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { networkInterfaces } from 'node:os'
import { Sharing, type Sharing as SharingState } from '@tender/contract'
import express, { Router, urlencoded, type Request, type RequestHandler } from 'express'
import { z } from 'zod'
import { HttpProblem } from '../problem'
import { idOf } from '../storage/shelfRoutes'
import { createCodes, type Codes } from './codes'
import type { DeviceShelf } from './devices'
import { letInPage } from './letInPage'

/** A year: a device stays let in until it is put out. */
const COOKIE_LASTS_S = 365 * 24 * 3600
const COOKIE = 'tender_device'
const USUAL_PORT = 4781

export type SharingOptions = {
  readonly devices: DeviceShelf
  /** Address to listen on for others; all of the machine's own by default. */
  readonly host?: string
  /** Without one the usual port, or any other when that is taken. */
  readonly port?: number
  readonly codes?: Codes
}

/**
 * Serving the local network: a second door beside the one on loopback, shut unless the maker opens it.
 * Whoever comes by it must have been let in by code.
 * @throws FORBIDDEN to whoever is not let in
 */
export function createSharing({ devices, host = '0.0.0.0', port, codes = createCodes() }: SharingOptions) {
  let door: Server | null = null
  let listener: RequestListener = () => undefined
  const doorPort = () => (door?.address() as AddressInfo | null)?.port ?? null
  /** Doors that were ever opened: what came by one stays from outside, also while it is being shut. */
  const doors = new Set<number>()
  const isOutside = (req: Request) => doors.has(req.socket.localPort ?? -1)
  /** Addresses under which others reach this machine while it is shared. */
  const addresses = (): string[] =>
    door === null
      ? []
      : host !== '0.0.0.0'
        ? [host]
        : Object.values(networkInterfaces())
            .flat()
            .flatMap((one) => (one && one.family === 'IPv4' && !one.internal ? [one.address] : []))

  /** Names that a request may be for: our addresses, and the very one that it came to. */
  const names = (req: Request): string[] => [
    ...addresses(),
    ...(isOutside(req) ? [(req.socket.localAddress ?? '').replace('::ffff:', '')] : []),
  ]

  function doorAt(at: number): Promise<Server> {
    const opening = createServer((req, res) => listener(req, res))
    return new Promise((resolve, reject) => {
      opening.once('error', reject)
      opening.listen(at, host, () => resolve(opening))
    })
  }
  async function open(): Promise<void> {
    if (door) return
    door = await doorAt(port ?? USUAL_PORT).catch((error: NodeJS.ErrnoException) => {
      if (port === undefined && error.code === 'EADDRINUSE') return doorAt(0)
      throw error
    })
    doors.add(doorPort()!)
  }
  function shut(): void {
    door?.close()
    door?.closeAllConnections()
    door = null
  }

  async function state(): Promise<SharingState> {
    const on = door !== null
    const { code, until } = codes.show()
    return Sharing.parse({
      on,
      addresses: addresses().map((name) => `http://${name}:${doorPort()}`),
      code: on ? code : null,
      codeUntil: on ? new Date(until).toISOString() : null,
      devices: await devices.list(),
    })
  }

  /** Nobody comes in by the shared door without having been let in. */
  const gate: RequestHandler = async (req, res, next) => {
    if (!isOutside(req)) return next()
    // Who is let in, and by which code, is settled at the bench alone.
    if (req.path.startsWith('/api/sharing'))
      throw new HttpProblem(
        'FORBIDDEN',
        'Who is let in is settled on the machine that serves, not from elsewhere.',
      )
    const token = tokenOf(req.headers.cookie)
    if (token !== null && (await devices.isLetIn(token))) return next()
    if (req.path.startsWith('/api/') || req.method !== 'GET')
      throw new HttpProblem(
        'FORBIDDEN',
        'This device was not let in. Open the start page here and type the code that the bench shows.',
        { status: 401 },
      )
    res.redirect(303, '/let-in')
  }

  /** The page of the code itself, before the gate. */
  const letIn = Router()
  // Without a referrer a browser does not say either that the form is our own.
  letIn.use('/let-in', (_req, res, next) => {
    res.set({ 'Cache-Control': 'no-store', 'Referrer-Policy': 'same-origin' })
    next()
  })
  letIn.get('/let-in', (req, res) => {
    const given = z
      .string()
      .regex(/^\d{6}$/)
      .safeParse(req.query.code)
    res
      .set('Cache-Control', 'no-store')
      .type('html')
      .send(letInPage(given.data ?? '', null))
  })
  letIn.post('/let-in', urlencoded({ extended: false, limit: '1kb' }), async (req, res) => {
    const tried = codes.attempt(String((req.body as { code?: unknown } | undefined)?.code ?? ''))
    if (tried === 'right') {
      const token = await devices.letIn(deviceName(req))
      res.set('Set-Cookie', `${COOKIE}=${token}; Path=/; HttpOnly; SameSite=Lax; Max-Age=${COOKIE_LASTS_S}`)
      return void res.redirect(303, '/')
    }
    const [status, problem] =
      tried === 'wrong'
        ? [403, 'That is not the code that the bench shows now.']
        : [429, `Too many wrong codes. Wait ${Math.ceil(tried.waitMs / 1000)} s, then try again.`]
    res.status(status).type('html').send(letInPage('', problem))
  })

  const routes = Router()
  routes.use(express.json({ limit: '1kb' }))
  routes.get('/', async (_req, res) => void res.set('Cache-Control', 'no-store').json(await state()))
  routes.put('/', async (req, res) => {
    const { on } = z.strictObject({ on: z.boolean() }).parse(req.body)
    if (on) await open()
    else shut()
    res.json(await state())
  })
  routes.delete('/devices/:id', async (req, res) => {
    await devices.putOut(idOf(req.params))
    res.json(await state())
  })

  return {
    open,
    shut,
    names,
    isOutside,
    gate,
    letIn,
    routes,
    state,
    /** The app that answers at the shared door too. */
    serve: (app: RequestListener) => void (listener = app),
  }
}
export type SharingDoor = ReturnType<typeof createSharing>

function tokenOf(cookies: string | undefined): string | null {
  for (const part of cookies?.split(';') ?? []) {
    const [name, value] = part.trim().split('=')
    if (name === COOKIE && value) return value
  }
  return null
}

/** What a device is called, by what it says of itself. */
function deviceName(req: Request): string {
  const says = req.headers['user-agent'] ?? ''
  const kind = /iPhone|iPad|Android|Windows|Macintosh|Linux/.exec(says)?.[0] ?? 'A device'
  return `${kind} at ${req.socket.remoteAddress ?? 'an unknown address'}`
}
