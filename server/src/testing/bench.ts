import { randomUUID } from 'node:crypto'
import { PLAIN_PRINTER, plainFilament } from '@tender/core/bench'
import { writeStl } from '@tender/core/mesh'
import { box } from '@tender/core/testing'
import { STARTING_COUPONS } from '@tender/core/trial'
import type { Express } from 'express'
import request from 'supertest'

const { id: _id, gramsLeft: _grams, lots: _lots, ...chalk } = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
const short = () => randomUUID().slice(0, 8)

export const aFilament = (changes: object = {}) => ({
  ...chalk,
  name: `Chalk ${short()}`,
  spools: [{ id: randomUUID(), label: 'new', gramsLeft: 1000 }],
  ...changes,
})
const { id: _plain, ...twin } = PLAIN_PRINTER
export const aPrinter = (changes: object = {}) => ({ ...twin, name: `Twin ${short()}`, ...changes })

/** A gap ladder as a maker describes it. */
export const aLadder = (printerId: string, partFilamentId: string, supportFilamentId: string) => ({
  name: 'Ladder',
  coupon: STARTING_COUPONS.gap,
  printerId,
  partFilamentId,
  supportFilamentId,
  nozzleMm: 0.4,
  layerHeightMm: 0.2,
  lineWidthMm: 0.45,
  speedMmS: 40,
  fanPercent: 100,
  damp: false,
  tileAreaMm2: 196,
  printedOn: '2026-11-19',
})

/** What tests do with a server, in the words of a maker. */
export function makerOf(server: { readonly app: Express }) {
  const api = () => request(server.app)
  async function put(shelf: string, input: object, id: string = randomUUID()) {
    const answer = await api().put(`/api/${shelf}/${id}`).send(input)
    if (answer.status !== 201) throw new Error(JSON.stringify(answer.body))
    return answer.body
  }
  return {
    api,
    put,
    /** A gap ladder on a printer and a filament of its own. */
    async aTrial() {
      const [printer, filament] = [await put('printers', aPrinter()), await put('filaments', aFilament())]
      const input = aLadder(printer.id, filament.id, filament.id)
      return { input, trial: await put('trials', input) }
    },
    bringIn: (bytes: Uint8Array = writeStl(box([10, 20, 30])), id: string = randomUUID()) =>
      api()
        .put(`/api/parts/${id}/file?name=Plate&fileName=plate.stl`)
        .set('Content-Type', 'application/octet-stream')
        .send(Buffer.from(bytes)),
    /** A file that the server sends, whole. */
    fileAt: (address: string) =>
      api()
        .get(address)
        .buffer(true)
        .parse((res, done) => {
          const got: Buffer[] = []
          res.on('data', (chunk) => got.push(chunk))
          res.on('end', () => done(null, Buffer.concat(got)))
        }),
  }
}
