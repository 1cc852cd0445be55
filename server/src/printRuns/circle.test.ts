import { afterAll, beforeAll, expect, test } from '@jest/globals'
import {
  knownTrial,
  planFilament,
  planPrinter,
  PrintRun,
  StoredTakeOff,
  Trial,
  takeOffOf,
} from '@tender/contract'
import { buildCoupon, printCoupon } from '@tender/core/coupon'
import { newDocument, startFromEvidence } from '@tender/core/decide'
import { polygonEngine, solidEngine } from '@tender/core/node'
import { knownPairing } from '@tender/core/pairing'
import { createPlanner, planPrint, printedOf } from '@tender/core/plan'
import { createPathMeasurer, measurePrint, writeGcode, type Print } from '@tender/core/print'
import { trialsOfTakeOffs } from '@tender/core/takeOff'
import { seeded, table } from '@tender/core/testing'
import { writeStl } from '@tender/core/mesh'
import type { Server } from 'node:net'
import request from 'supertest'
import { serveLines } from '../../../devices/src/lines'
import { servePrinter } from '../../../devices/src/printer'
import { answerLine, type Reader } from '../../../devices/src/readers'
import { truthOf } from '../../../devices/src/truth'
import { aServer } from '../testing/aServer'
import { aFilament, aLadder, aPrinter, makerOf } from '../testing/bench'

let server: Awaited<ReturnType<typeof aServer>>
let printer: Awaited<ReturnType<typeof servePrinter>>
const listening: Server[] = []
const luck = seeded(7)
const random = () => luck.next()
async function reader(kind: Reader): Promise<number> {
  const { port, server: own } = await serveLines(0, (write) => ({
    line: (line) => write(answerLine(line, kind, random)),
  }))
  listening.push(own)
  return port
}
beforeAll(async () => {
  printer = await servePrinter(0, 1e5)
  const standIns = {
    printer: printer.port,
    look: await reader('look'),
    gauge: await reader('gauge'),
    scale: await reader('scale'),
  }
  server = await aServer({ standIns })
})
afterAll(async () => {
  await server.close()
  for (const one of [...listening, printer.server]) one.close()
})
const { api, put, bringIn } = makerOf({
  get app() {
    return server.app
  },
})

/** Prints on the stand-in to the end, and checks that as much filament went through it as was counted. */
async function printed(print: Print, bench: Parameters<typeof writeGcode>[1], takeOffId: string | null) {
  const measure = measurePrint(print, bench, createPathMeasurer())
  const begun = await request(server.app)
    .post('/api/prints')
    .set(
      'tender-run',
      encodeURIComponent(
        JSON.stringify({
          title: print.title,
          takeOffId,
          printer: { standIn: true },
          zeroMm: print.zeroMm,
          seconds: measure.timeS,
          speed: 100_000,
        }),
      ),
    )
    .set('content-type', 'text/x.gcode')
    .send([...writeGcode(print, bench, measure)].join(''))
  const { id } = PrintRun.parse(begun.body)
  let run: PrintRun
  do {
    await new Promise((resolve) => setTimeout(resolve, 50))
    run = PrintRun.parse((await api().get(`/api/prints/${id}`)).body)
  } while (run.state === 'printing')
  expect(run).toMatchObject({ state: 'done', message: null })
  const section = (Math.PI * 1.75 ** 2) / 4
  print.slots.forEach((_, slot) => {
    const mm3 = measure.uses.reduce(
      (sum, use) => sum + (use.slot === slot && use.role !== 'purge' ? use.mm3 : 0),
      0,
    )
    // What is drawn back at the end is 0.8 mm of filament.
    const pushed = printer.pushedMm().get(print.tools[slot])! * section
    expect(Math.abs(pushed / mm3 - 1)).toBeLessThan(0.01)
  })
}

/** P(comes off and looks well) by the hidden truth. */
const tender = (gapMm: number, { letsGoMm, looksWellMm }: ReturnType<typeof truthOf>) => {
  const well = (by: number) => 1 / (1 + Math.exp(-by / 0.02))
  return well(gapMm - letsGoMm) * well(looksWellMm - gapMm)
}

test('the whole circle without hardware: coupons printed and read by stand-ins find the hidden truth, and a plan made by them comes off better than a guess', async () => {
  const engine = await polygonEngine()
  const own = planPrinter({ ...(await put('printers', aPrinter())), loaded: [] })
  const partId = (await bringIn(writeStl(table))).body.id as string
  const pairs = [
    ['Chalk PLA', 'Moss PETG'],
    ['Slate PETG', 'Chalk PLA'],
    ['Rust ASA', 'Moss PETG'],
    ['Chalk PLA', 'Dew PVA'],
    ['Tin ABS', 'Chalk PLA'],
    ['Sand PLA', 'Loam PLA'],
  ] as const
  const filaments = new Map<string, Awaited<ReturnType<typeof put>>>()
  for (const name of new Set(pairs.flat()))
    filaments.set(name, await put('filaments', aFilament({ name, family: name.split(' ')[1] })))
  const found = { release: 0, finish: 0 }
  const chances = { guess: 0, advised: 0 }
  for (const [n, [part, touching]] of pairs.entries()) {
    const two = [part, touching].map((name) => planFilament(filaments.get(name)!))
    const input = {
      ...aLadder(own.id, two[0].id, two[1].id),
      name: `Ladder ${part} ${touching}`,
      coupon: {
        kind: 'gap' as const,
        gapsMm: [0, 0.03, 0.06, 0.09, 0.12, 0.15, 0.18, 0.21, 0.24, 0.28, 0.32],
        spacingsMm: [0],
        interfaceLayers: 3,
      },
    }
    if (n === 0) {
      const built = buildCoupon(
        await solidEngine(),
        input.coupon,
        {
          layerHeightMm: 0.2,
          lineWidthMm: 0.45,
          nozzleMm: 0.4,
          tileAreaMm2: 196,
        },
        own,
      )
      const coupon = await printCoupon(
        built,
        engine,
        {
          title: input.name,
          lineWidthMm: 0.45,
          speedMmS: 40,
          fanPercent: 100,
          filaments: [two[0], two[1]],
          tools: [0, 1],
        },
        own,
      )
      await printed(coupon, own, null)
    }
    const trial = await put('trials', input)
    const read = Trial.parse((await api().post(`/api/trials/${trial.id}/stand-ins`)).body)
    expect(read).toMatchObject({ simulated: true })
    expect(read.readings).toHaveLength(11)
    expect(read.readings.every(({ forceN }) => forceN !== null && forceN > 0)).toBe(true)
    const known = knownTrial(read)
    expect(known.name).toMatch(/\(simulated\)$/)
    const truth = truthOf(part, touching)
    const { fit } = knownPairing(two[0], two[1], [known], {})
    const holds = ({ low, high }: { low: number; high: number }, mm: number) => low <= mm && mm <= high
    if (holds(fit.releaseThresholdMm, truth.letsGoMm)) found.release++
    if (holds(fit.finishThresholdMm, truth.looksWellMm)) found.finish++
    const plain = newDocument({ printer: own, filaments: two })
    const guessed = startFromEvidence(plain, [])
    const advised = startFromEvidence(plain, [known])
    expect(advised.evidence.upperGapMm!.mismatches.join(' ')).toMatch(/read by stand-ins/)
    chances.guess += tender(guessed.decisions.upperGapMm, truth) / pairs.length
    chances.advised += tender(advised.decisions.upperGapMm, truth) / pairs.length

    if (n > 0) continue
    const document = { ...advised, name: 'Table by what was read' }
    const result = await createPlanner(engine).plan('table', table, document)
    const takeOff = await put('take-offs', {
      name: 'Table, rehearsed',
      printedOn: '2026-11-20',
      partId,
      planId: null,
      document,
      printed: printedOf(document, result, engine),
    })
    await printed(planPrint(document, result.groups, result.geometry), own, takeOff.id)
    expect((await api().get(`/api/prints?takeOff=${takeOff.id}`)).body).toHaveLength(1)
    const off = StoredTakeOff.parse((await api().post(`/api/take-offs/${takeOff.id}/stand-ins`)).body)
    expect(off.simulated).toBe(true)
    const contacts = off.notes.filter(({ at }) => at !== 'whole')
    expect(contacts).toHaveLength(off.printed.contacts.length)
    const whole = off.notes.find(({ at }) => at === 'whole')!
    const planned = off.printed.grams.reduce((sum, { partG }) => sum + partG, 0)
    expect(Math.abs(whole.partG! / planned / truthOf(part, part).gramsFactor - 1)).toBeLessThan(0.03)
    // It teaches, marked as what it is.
    const [lesson] = trialsOfTakeOffs([takeOffOf(off)])
    expect(lesson).toMatchObject({ name: 'Table, rehearsed (simulated)', kind: 'gap' })
  }
  // Intervals of nine in ten: of twelve, fewer than nine are right by bad luck once in two hundred times.
  expect(found.release + found.finish).toBeGreaterThanOrEqual(9)
  expect(chances.advised).toBeGreaterThan(0.8)
  expect(chances.advised).toBeGreaterThan(chances.guess + 0.1)
})

test('what a maker has seen is not mixed with what is simulated', async () => {
  const { trial } = await makerOf({ app: server.app }).aTrial()
  await api()
    .patch(`/api/trials/${trial.id}/readings/${encodeURIComponent('0:0.1')}`)
    .send({ base: 0, by: 'me', changes: { release: 2 } })
    .expect(200)
  const refused = await api().post(`/api/trials/${trial.id}/stand-ins`)
  expect(refused.body.title).toMatch(/not mixed/)
  expect(Trial.parse((await api().get(`/api/trials/${trial.id}`)).body).simulated).toBe(false)
})
