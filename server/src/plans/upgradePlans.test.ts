import { randomUUID } from 'node:crypto'
import { expect, test } from '@jest/globals'
import { DEFAULT_PLAN } from '@tender/core/decide'
import { sql } from 'drizzle-orm'
import { aFilament, aPrinter } from '../testing/bench'
import { serverOfFile } from '../testing/serverOfFile'
import { upgradePlans } from './upgradePlans'

const { server, api, put, bringIn } = serverOfFile()

test('plans of version 1 become version 2 once, known by the bench, with revision and day as they were', async () => {
  const moss = await put('filaments', aFilament({ name: 'Moss PETG' }))
  const gone = await put('filaments', aFilament({ name: 'Gone PLA' }))
  await api().delete(`/api/filaments/${gone.id}`).expect(204)
  const twin = await put('printers', aPrinter({ name: 'Old twin' }))
  const { body: part } = await bringIn()
  const { exceptions: _, posts: __, cling: ___, ...rest } = DEFAULT_PLAN
  const [{ id: _id, ...filament }] = rest.filaments
  const { id: _printer, ...printer } = rest.printer
  const old = {
    ...rest,
    version: 1,
    printer: { ...printer, name: 'Old twin' },
    filaments: ['Moss PETG', 'Gone PLA', 'Never here'].map((name) => ({ ...filament, name })),
    decisions: {
      ...rest.decisions,
      partFilament: 'Moss PETG',
      standFilament: 'Gone PLA',
      interfaceFilament: 'Never here',
    },
  }
  const id = randomUUID()
  await server.db.execute(
    sql`insert into plan (id, name, part_id, document, revision, updated_at)
        values (${id}, 'Old', ${part.id}, ${JSON.stringify(old)}::jsonb, 3, '2026-10-01T00:00:00Z')`,
  )
  for (let start = 0; start < 2; start++) await upgradePlans(server.db)
  const { body } = await api().get(`/api/plans/${id}`)
  expect(body).toMatchObject({ revision: 3, updatedAt: '2026-10-01T00:00:00.000Z' })
  expect(body.document).toMatchObject({
    version: 2,
    printer: { id: twin.id, name: 'Old twin' },
    decisions: { partFilament: moss.id, standFilament: gone.id, interfaceFilament: 'Never here' },
  })
  expect(body.document.filaments.map((one: { id: string }) => one.id)).toEqual([
    moss.id,
    gone.id,
    'Never here',
  ])
})
