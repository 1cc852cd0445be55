import { createServer, type AddressInfo, type Server } from 'node:net'
import { randomUUID } from 'node:crypto'
import { afterAll, afterEach, beforeAll, describe, expect, test } from '@jest/globals'
import { PrintRun, STAND_IN_FAULTS, Trial, type RunInput } from '@tender/contract'
import request from 'supertest'
import { FAULTS } from '../../../devices/src/machine'
import { servePrinter } from '../../../devices/src/printer'
import { serveLines } from '../../../devices/src/lines'
import { aServer } from '../testing/aServer'
import { makerOf } from '../testing/bench'
import { createPrintRuns } from './runs'

const PATIENCE_MS = 300
let server: Awaited<ReturnType<typeof aServer>>
let printer: Awaited<ReturnType<typeof servePrinter>>
const others: Server[] = []
beforeAll(async () => {
  printer = await servePrinter(0, 300)
  server = await aServer({ standIns: { printer: printer.port }, patienceMs: PATIENCE_MS })
})
afterEach(() => others.splice(0).forEach((one) => one.close()))
afterAll(async () => {
  await server.close()
  printer.server.close()
})

/** A file of some thousand moves over two tools, and how much filament it pushes through each. */
function aFile(moves: number) {
  const lines = ['; a print', 'M109 T0 S210', 'M109 T1 S230', 'G21', 'G90', 'M83', 'T0']
  const pushed = [0, 0]
  for (let i = 0; i < moves; i++) {
    if (i % 500 === 0)
      lines.push(
        `; layer ${i / 500 + 1} of ${moves / 500}, z ${(0.2 * (i / 500 + 1)).toFixed(3)} mm, ${(9 - (i / moves) * 9) | 0} min left`,
        `T${(i / 500) % 2}`,
      )
    const mm = 0.01 + (i % 7) / 100
    lines.push(
      `G1 X${(10 + (i % 90)).toFixed(3)} Y${(10 + ((i * 7) % 80)).toFixed(3)} E${mm.toFixed(5)} F6000`,
    )
    pushed[Math.floor(i / 500) % 2] += Number(mm.toFixed(5))
  }
  return {
    text: `${lines.join('\n')}\n; done\n`,
    pushed,
    commands: lines.filter((line) => !line.startsWith(';')).length,
  }
}

const start = (text: string, more: Partial<Pick<RunInput, 'printer' | 'speed' | 'trialId'>> = {}) =>
  request(server.app)
    .post('/api/prints')
    .set(
      'tender-run',
      encodeURIComponent(
        JSON.stringify({
          title: 'Übung — funnel',
          takeOffId: null,
          printer: { standIn: true },
          zeroMm: [0, 0],
          seconds: 60,
          speed: 2000,
          ...more,
        }),
      ),
    )
    .set('content-type', 'text/x.gcode')
    .send(text)
const one = async (id: string) => PrintRun.parse((await request(server.app).get(`/api/prints/${id}`)).body)
const act = (id: string, what: string) => request(server.app).post(`/api/prints/${id}/${what}`)
async function until(id: string, is: (run: PrintRun) => boolean): Promise<PrintRun> {
  for (let i = 0; i < 1500; i++) {
    const run = await one(id)
    if (is(run)) return run
    await new Promise((resolve) => setTimeout(resolve, 10))
  }
  throw new Error(`It never came so far: ${JSON.stringify(await one(id))}`)
}
const pushedMustBe = (pushed: number[]) =>
  pushed.forEach((mm, tool) => expect(printer.pushedMm().get(tool)).toBeCloseTo(mm, 6))

describe('a print on the stand-in', () => {
  test('goes wrong in the ways that can be asked for', () => expect(FAULTS).toEqual(STAND_IN_FAULTS))

  test('runs to its end through a lost line, a cut connection, a pause and an empty spool; every line is done once', async () => {
    const { text, pushed, commands } = aFile(6000)
    const begun = await start(text, { speed: 200 })
    expect(begun.status).toBe(201)
    const { id } = PrintRun.parse(begun.body)
    const second = await start(text)
    expect(second.status).toBe(409)
    expect(second.body.title).toMatch(/at work on “Übung — funnel”/)
    for (const [n, fault] of (['loses a line', 'hangs up'] as const).entries()) {
      await until(id, ({ progress }) => progress.commands > 300 * (n + 1))
      await act(id, 'fault').send({ fault })
    }
    await until(id, ({ progress }) => progress.commands > 1200)
    await act(id, 'fault').send({ fault: 'runs out' })
    const out = await until(id, ({ state }) => state === 'fault')
    expect(out.message).toMatch(/^The filament of nozzle \d has run out\.$/)
    const resumed = await act(id, 'resume')
    expect(resumed.body.state).toBe('printing')
    await until(id, ({ progress }) => progress.commands > 2500)
    await act(id, 'pause')
    const paused = await one(id)
    expect(paused.state).toBe('paused')
    expect(paused.progress).toMatchObject({ layers: 12, tool: expect.any(Number) })
    await act(id, 'resume')
    const done = await until(id, ({ state }) => state === 'done')
    expect(done.progress).toMatchObject({ commands, doneBytes: Buffer.byteLength(text), layer: 12 })
    pushedMustBe(pushed)
    for (const tool of [0, 1]) expect(done.progress.filamentMm[tool]).toBeCloseTo(pushed[tool], 6)
    expect((await act(id, 'resume')).status).toBe(422)
  })

  test('makes a trial a simulated one as it begins, and is found by that trial; a printer that is busy makes it nothing', async () => {
    const { api, aTrial } = makerOf(server)
    const [{ trial }, { trial: other }] = [await aTrial(), await aTrial()]
    const { text } = aFile(2000)
    const { id } = PrintRun.parse((await start(text, { trialId: trial.id, speed: 200 })).body)
    expect((await start(text, { trialId: other.id })).status).toBe(409)
    const stored = async (of: string) => Trial.parse((await api().get(`/api/trials/${of}`)).body)
    expect(await stored(trial.id)).toMatchObject({ simulated: true, revision: trial.revision + 1 })
    expect(await stored(other.id)).toMatchObject({ simulated: false, revision: other.revision })
    const runs = (await api().get(`/api/prints?trial=${trial.id}`)).body as PrintRun[]
    expect(runs.map((run) => run.id)).toEqual([id])
    expect((await api().get('/api/prints')).status).toBe(422)
    await until(id, ({ state }) => state === 'done')
  })

  test('goes on after the server was stopped and started anew, and does nothing twice', async () => {
    const { text, pushed } = aFile(5000)
    const { id } = PrintRun.parse((await start(text, { speed: 200 })).body)
    await until(id, ({ progress }) => progress.commands > 800)
    await server.runs.leave()
    const left = await one(id)
    expect(left.state).toBe('printing')
    const again = createPrintRuns({
      db: server.db,
      folder: server.prints,
      standIns: { printer: printer.port },
      told: (error) => {
        throw error
      },
    })
    await again.goOn()
    for (let i = 0; i < 1500 && (await again.one(id)).state !== 'done'; i++)
      await new Promise((resolve) => setTimeout(resolve, 10))
    expect(await again.one(id)).toMatchObject({ state: 'done' })
    pushedMustBe(pushed)
    await again.leave()
  })

  test('what is no printer, is silent, or is not there is told, and can be given up', async () => {
    const listening = async (answer: (line: string) => string | null) => {
      const { server: other, port } = await serveLines(0, (write) => ({
        line: (line) => {
          const said = answer(line)
          if (said !== null) write(said)
        },
      }))
      others.push(other)
      return { standIn: false as const, host: '127.0.0.1', port }
    }
    const { text } = aFile(500)
    const nonsense = PrintRun.parse(
      (await start(text, { printer: await listening(() => 'HTTP/1.1 400\n'.repeat(25)) })).body,
    )
    expect((await until(nonsense.id, ({ state }) => state === 'fault')).message).toMatch(
      /no printer: it says “HTTP/,
    )
    const silent = PrintRun.parse((await start(text, { printer: await listening(() => null) })).body)
    expect((await until(silent.id, ({ state }) => state === 'fault')).message).toMatch(/has not answered/)
    const gone = createServer()
    const port = await new Promise<number>((resolve) =>
      gone.listen(0, '127.0.0.1', () => resolve((gone.address() as AddressInfo).port)),
    )
    await new Promise((resolve) => gone.close(resolve))
    const nobody = PrintRun.parse(
      (await start(text, { printer: { standIn: false, host: '127.0.0.1', port } })).body,
    )
    expect((await until(nobody.id, ({ state }) => state === 'lost')).message).toMatch(
      /connection to the printer failed/,
    )
    for (const { id } of [nonsense, silent, nobody])
      expect((await act(id, 'give-up')).body.state).toBe('given up')
    expect((await start('')).body.title).toMatch(/empty/)
    const outside = await start(text, { printer: { standIn: false, host: '93.184.216.34', port: 80 } })
    expect(outside.body.title).toMatch(/local network/)
    expect((await request(server.app).get(`/api/prints/${randomUUID()}`)).status).toBe(404)
  })

  test('a plain printer, which only says ok, gets one line after the other', async () => {
    const heard: string[] = []
    const { server: other, port } = await serveLines(0, (write) => ({
      line: (line) => {
        heard.push(line)
        setTimeout(() => write(line === 'M105' ? 'ok T:20.0 /0.0 B:20.0 /0.0' : 'ok'), 1)
      },
    }))
    others.push(other)
    const { text, commands } = aFile(500)
    const { id } = PrintRun.parse(
      (await start(text, { printer: { standIn: false, host: '127.0.0.1', port } })).body,
    )
    const done = await until(id, ({ state }) => state === 'done')
    expect(done.progress.commands).toBe(commands)
    const numbers = heard.flatMap((line) => /^N(\d+) /.exec(line)?.[1] ?? []).map(Number)
    expect(numbers).toEqual(Array.from({ length: commands }, (_, i) => i + 1))
  })
})
