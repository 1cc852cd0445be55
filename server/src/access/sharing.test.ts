import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, expect, test } from '@jest/globals'
import { Sharing } from '@tender/contract'
import { pino } from 'pino'
import { createApp } from '../app'
import { aServer } from '../testing/aServer'
import { CODE_LASTS_MS, createCodes } from './codes'
import { deviceShelf } from './devices'
import { createSharing, type SharingDoor } from './sharing'

/** A second loopback address stands for the local network. */
const ELSEWHERE = '127.0.0.2'
let server: Awaited<ReturnType<typeof aServer>>
beforeAll(async () => {
  server = await aServer()
})
afterAll(() => server.close())

let clock = Date.now()
const doors: SharingDoor[] = []
/** The whole server with its shared door, as after a start. */
async function started() {
  const sharing = createSharing({
    devices: deviceShelf(server.db),
    host: ELSEWHERE,
    port: 0,
    codes: createCodes(() => clock),
  })
  const { db, pool, jobs } = server
  const cache = {
    answer: async (_: string, __: unknown, make: () => Promise<unknown>) => ({
      body: JSON.stringify(await make()),
      etag: '""',
    }),
    changed: () => undefined,
  }
  const app = createApp({
    db,
    pool,
    jobs,
    cache,
    sharing,
    runs: {} as never,
    standIns: {},
    log: pino({ level: 'silent' }),
    webFolder: null,
  })
  sharing.serve(app)
  doors.push(sharing)
  const own = createServer(app)
  await new Promise<void>((resolve) => own.listen(0, '127.0.0.1', resolve))
  const home = `http://127.0.0.1:${(own.address() as AddressInfo).port}`
  return { sharing, home, stop: () => (sharing.shut(), own.close()) }
}
const stateAt = async (home: string) => Sharing.parse(await (await fetch(`${home}/api/sharing`)).json())
const open = async (home: string) => {
  const answer = await fetch(`${home}/api/sharing`, {
    method: 'PUT',
    body: '{"on":true}',
    headers: { 'Content-Type': 'application/json' },
  })
  const { addresses, code } = Sharing.parse(await answer.json())
  return { door: addresses[0], code: code! }
}
const attempt = (door: string, code: string, headers: Record<string, string> = {}) =>
  fetch(`${door}/let-in`, {
    method: 'POST',
    body: new URLSearchParams({ code }),
    redirect: 'manual',
    headers,
  })

test('nothing but loopback is served until it is shared, and nothing of it without a code; a device let in stays so over a restart', async () => {
  const first = await started()
  expect(await stateAt(first.home)).toMatchObject({ on: false, addresses: [], code: null })
  const { door, code } = await open(first.home)
  expect(door).toContain(ELSEWHERE)
  for (const [method, path] of [
    ['GET', '/api/parts'],
    ['GET', '/api/backup'],
    ['POST', '/api/backup'],
    ['GET', '/api/photos/x'],
    ['PUT', '/api/printers/x'],
    ['GET', '/api/health'],
  ] as const) {
    const answer = await fetch(door + path, { method })
    expect([path, answer.status]).toEqual([path, 401])
  }
  expect((await fetch(door, { redirect: 'manual' })).headers.get('location')).toBe('/let-in')
  expect(await (await fetch(`${door}/let-in?code=123456`)).text()).toContain('value="123456"')

  const right = await attempt(door, `${code.slice(0, 3)} ${code.slice(3)}`)
  expect([right.status, right.headers.get('location')]).toEqual([303, '/'])
  const [cookie] = right.headers.get('set-cookie')!.split(';')
  expect(right.headers.get('set-cookie')).toContain('HttpOnly')
  const asDevice = (at: string, path: string, method = 'GET') =>
    fetch(at + path, { method, headers: { Cookie: cookie } })
  expect((await asDevice(door, '/api/parts')).status).toBe(200)
  // What goes out is packed, what stays is not.
  const packed = async (at: string) => (await asDevice(at, '/api/families')).headers.get('content-encoding')
  expect([await packed(door), await packed(first.home)]).toEqual(['gzip', null])
  // The same code lets nobody else in.
  expect((await attempt(door, code)).status).toBe(403)
  // What only the bench may: see the code, open the door, put others out.
  expect((await asDevice(door, '/api/sharing')).status).toBe(403)

  first.stop()
  await expect(fetch(door)).rejects.toThrow()
  const second = await started()
  const again = (await open(second.home)).door
  expect((await asDevice(again, '/api/parts')).status).toBe(200)
  const { devices } = await stateAt(second.home)
  expect(devices).toHaveLength(1)
  await fetch(`${second.home}/api/sharing/devices/${devices[0].id}`, { method: 'DELETE' })
  expect((await asDevice(again, '/api/parts')).status).toBe(401)
  second.stop()
})

test('foreign names and origins are refused at the shared door too, with a device or without', async () => {
  const { sharing, home, stop } = await started()
  const { door, code } = await open(home)
  const host = new URL(door)
  const { request } = await import('node:http')
  const statusAs = (name: string) =>
    new Promise<number>((resolve, reject) =>
      request({ host: ELSEWHERE, port: host.port, path: '/let-in', headers: { Host: name } }, (res) =>
        resolve(res.resume().statusCode!),
      )
        .on('error', reject)
        .end(),
    )
  expect(await statusAs(host.host)).toBe(200)
  expect(await statusAs('workshop.example:80')).toBe(403)
  expect((await attempt(door, code, { Origin: 'http://evil.example' })).status).toBe(403)
  expect((await attempt(door, code, { Origin: door })).status).toBe(303)
  expect((await sharing.state()).devices).toHaveLength(1)
  stop()
})

test('wrong codes are slowed more and more, codes run out, and guessing changes them', () => {
  clock = 1e12
  const codes = createCodes(() => clock)
  const { code } = codes.show()
  const wrong = code === '000000' ? '111111' : '000000'
  const waits: number[] = []
  for (let n = 0; n < 7; n++) {
    expect(codes.attempt(wrong)).toBe('wrong')
    // The right one is not looked at before its time either.
    const told = codes.attempt(code)
    waits.push((told as { waitMs: number }).waitMs)
    clock += waits.at(-1)!
  }
  expect(waits).toEqual([1000, 2000, 4000, 8000, 16_000, 32_000, 60_000])
  expect(codes.show().code).toBe(code)
  codes.attempt(wrong)
  const changed = codes.show()
  expect(changed.code).not.toBe(code)
  clock += CODE_LASTS_MS
  expect(codes.show().code).not.toBe(changed.code)
  expect(codes.attempt(changed.code)).toBe('wrong')
})
