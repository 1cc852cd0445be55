import { readFileSync } from 'node:fs'
import { writeStl } from '@tender/core/mesh'
import { box, sphere } from '@tender/core/testing'
import { expect, settled, test } from './app'

test('the server goes away in the middle of a reading: nothing is lost, nothing doubled', async ({ page, empty }) => {
  const put = async (path: string, body: object) => (await fetch(`${empty.url}/api/${path}`, { method: 'PUT', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) })).json()
  const [printerId, filamentId, trialId] = [1, 2, 3].map((n) => `00000000-0000-4000-8000-00000000000${n}`)
  const { PLAIN_PRINTER, plainFilament } = await import('@tender/core/bench')
  const { gramsLeft: _grams, lots: _lots, ...filament } = plainFilament('Chalk PLA', 'PLA', '#d8d3c8')
  await put(`printers/${printerId}`, PLAIN_PRINTER)
  await put(`filaments/${filamentId}`, { ...filament, spools: [] })
  await put(`trials/${trialId}`, {
    name: 'Fan',
    coupon: { kind: 'fan', anglesDeg: [40, 50, 60], directions: ['any'] },
    printerId,
    partFilamentId: filamentId,
    supportFilamentId: filamentId,
    nozzleMm: 0.4,
    layerHeightMm: 0.2,
    lineWidthMm: 0.45,
    speedMmS: 60,
    fanPercent: 100,
    damp: false,
    tileAreaMm2: null,
    printedOn: '2026-11-20',
  })
  await page.goto(`${empty.url}/trials/${trialId}`)
  await page.getByRole('button', { name: /^40°/ }).click()
  await page.keyboard.press('1')
  await expect(page.getByText('not with the server yet')).toHaveCount(0)
  await empty.stop()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('2')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('5')
  await expect(page.getByRole('status')).toContainText('2 readings not with the server yet')
  await expect(page.getByRole('region', { name: 'Free angle' })).toContainText('3 arms read')
  await empty.restart()
  await expect(page.getByText('not with the server yet')).toHaveCount(0)
  const { readings } = await (await fetch(`${empty.url}/api/trials/${trialId}`)).json()
  expect(readings.map((one: { step: string; grade: number }) => [one.step, one.grade]).sort()).toEqual([['any:40', 1], ['any:50', 2], ['any:60', 5]]) // prettier-ignore
})

test('removing asks for nothing and can be taken back', async ({ page, demo }) => {
  await page.goto(`${demo.url}/bench`)
  await page.getByRole('button', { name: 'Remove Reed TPU' }).click()
  await expect(page.getByRole('row', { name: /^Reed TPU/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Bring back' }).click()
  await expect(page.getByRole('row', { name: /^Reed TPU/ })).toContainText('318')
})

test('find goes anywhere by name', async ({ page, demo }) => {
  await page.goto(demo.url)
  await expect(page.getByText('6 filaments')).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.type('vane')
  await expect(page.getByRole('menuitem')).toHaveCount(1)
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'Vane pivot' })).toBeVisible()
  await page.goBack()
  await expect(page.getByRole('heading', { name: /Supports that hold/ })).toBeVisible()
})

test('files that are no parts get a sentence each, and a large real one goes through', async ({ page, demo }) => {
  await page.goto(`${demo.url}/parts`)
  const bring = (name: string, buffer: Buffer) => page.locator('input[type=file]').setInputFiles({ name, mimeType: 'model/stl', buffer })
  const nan = Buffer.from(writeStl(box([5, 5, 5])))
  for (let t = 0; t < 12; t++) for (let c = 0; c < 9; c++) nan.writeFloatLE(NaN, 84 + 50 * t + 12 + 4 * c)
  for (const [name, buffer, sentence] of [
    ['empty.stl', Buffer.alloc(0), 'The file is empty'],
    ['letter.stl', Buffer.from('Dear workshop'), 'plain text that does not start with "solid"'],
    ['none.stl', Buffer.alloc(84), '0 triangles'],
    ['nan.stl', nan, 'None of the 12 triangles has usable corners'],
  ] as const) {
    await bring(name, buffer)
    await expect(page.getByRole('alert')).toContainText(sentence)
    await expect(page.getByRole('alert')).toContainText(name)
  }
  const whole = writeStl(sphere(6, 48))
  await bring('half.stl', Buffer.from(whole.slice(0, whole.length / 2)))
  await expect(page.getByRole('dialog')).toContainText('those were kept, so the part is probably incomplete')
  await page.keyboard.press('Escape')
  const large = writeStl(sphere(25, 550))
  expect((large.length - 84) / 50).toBeGreaterThan(300_000)
  await bring('large.stl', Buffer.from(large))
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'large' })).toBeVisible({ timeout: 30_000 })
  await page.getByRole('button', { name: 'Plan how to hold it' }).click()
  await settled(page)
  await expect(page.getByLabel('Contact')).toContainText('Sloped underside')
})

test('numbers leave as CSV and JSON, the plan as the document the command line reads', async ({ page, demo }) => {
  await page.goto(`${demo.url}/plans/${await demo.idOf('plans', 'Chalk only')}`)
  await settled(page)
  const save = async (item: RegExp) => {
    await page.getByRole('button', { name: 'Take to printer' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('menuitem', { name: item }).click()
    return readFileSync(await (await download).path(), 'utf8')
  }
  const csv = await save(/CSV/)
  expect(csv.split('\n')[0]).toBe('kind,name,mm3,g,m,cost,zMm,areaMm2,gapMm,achievedGapMm')
  expect(csv).toMatch(/^island,held,/m)
  const numbers = JSON.parse(await save(/Numbers as JSON/))
  expect(numbers.islands).toHaveLength(3)
  const { completePlan, PlanFile } = await import('@tender/contract')
  expect(completePlan(PlanFile.parse(JSON.parse(await save(/Plan as JSON/)))).decisions.upperGapMm).toBe(0.23)
})
