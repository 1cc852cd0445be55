import { readFileSync } from 'node:fs'
import { PLAIN_PRINTER, plainFilament, type Family } from '@tender/core/bench'
import { readGcode } from '@tender/core/testing'
import { STARTING_COUPONS, stepsOf, type Coupon } from '@tender/core/trial'
import { strFromU8, unzipSync } from 'fflate'
import sharp from 'sharp'
import { choose, expect, expectAccessible, test, type App } from './app'

const { id: _plain, ...twin } = PLAIN_PRINTER

const idOf = (n: number) => `00000000-0000-4000-8000-0000000000${String(n).padStart(2, '0')}`
const put = async (app: App, path: string, body: object) => {
  const answer = await fetch(`${app.url}/api/${path}`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  })
  if (!answer.ok) throw new Error(await answer.text())
  return answer.json()
}
const aFilament = (name: string, family: Family) => {
  const { id: _id, gramsLeft: _grams, lots: _lots, ...filament } = plainFilament(name, family, '#6d7f4b')
  return { ...filament, spools: [] }
}
async function aBench(app: App) {
  await put(app, `printers/${idOf(1)}`, { ...twin, name: 'Changer', feed: 'changer' })
  await put(app, `printers/${idOf(2)}`, { ...twin, name: 'Twin' })
  await put(app, `filaments/${idOf(3)}`, aFilament('Chalk PLA', 'PLA'))
  await put(app, `filaments/${idOf(4)}`, aFilament('Moss PETG', 'PETG'))
}
const aTrial = (app: App, n: number, name: string, coupon: Coupon) =>
  put(app, `trials/${idOf(n)}`, {
    name,
    coupon,
    printerId: idOf(coupon.kind === 'purge' ? 1 : 2),
    partFilamentId: idOf(3),
    supportFilamentId: idOf(coupon.kind === 'fan' || coupon.kind === 'span' ? 3 : 4),
    nozzleMm: 0.4,
    layerHeightMm: 0.2,
    lineWidthMm: 0.45,
    speedMmS: 60,
    fanPercent: 100,
    damp: false,
    tileAreaMm2: null,
    printedOn: '2026-11-20',
  })

test('a whole evening of readings on a phone, by keys alone, the connection gone in the middle: nothing lost, nothing doubled', async ({
  page,
  empty,
}) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await aBench(empty)
  const { fan, span, gap, purge, offset } = STARTING_COUPONS
  /** What is pressed on each step, and the grade that must then be stored. */
  const evening = [
    { n: 11, coupon: { ...fan, directions: ['any'] }, keys: ['1', '1', '1', '1', '2', '3', '4', '5', '5'] },
    { n: 12, coupon: span, keys: ['1', '1', '1', '1', '2', '3', '4', '5'] },
    { n: 13, coupon: gap, keys: ['5', '4q', '2q', '2w', '1w', '1e', '1r', '1t', '1t'] },
    { n: 14, coupon: { ...purge, swaps: ['AB'] as const }, keys: ['5', '4', '3', '2', '2', '1', '1', '1'] },
    {
      n: 15,
      coupon: { ...offset, axes: ['x'] as const },
      keys: ['', '', '', '', '2', '1', '2', '', '', '', ''],
    },
  ]
  for (const { n, coupon } of evening) await aTrial(empty, n, `Evening ${n}`, coupon)
  for (const { n, coupon, keys } of evening) {
    const steps = stepsOf(coupon)
    expect(keys).toHaveLength(steps.length)
    await page.goto(`${empty.url}/trials/${idOf(n)}`)
    await expect(page.getByRole('heading', { level: 1, name: `Evening ${n}` })).toBeVisible()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    await page.locator('[aria-label="The coupon"] button[aria-pressed="true"]').first().focus()
    const gone = n === 13
    for (const [i, pressed] of keys.entries()) {
      if (gone && i === 3) {
        await expect(page.getByText('not with the server yet')).toHaveCount(0)
        await empty.stop()
      }
      for (const key of pressed) await page.keyboard.press(key)
      if (i < keys.length - 1) await page.keyboard.press('ArrowRight')
    }
    if (gone) {
      // Six that were never sent; one more where the answer to the last before them was cut off.
      await expect(page.getByRole('status').filter({ hasText: 'not with the server yet' })).toContainText(
        /[67] readings/,
      )
      await empty.restart()
    }
    await expect(page.getByText('not with the server yet')).toHaveCount(0)
    const { readings } = await (await fetch(`${empty.url}/api/trials/${idOf(n)}`)).json()
    const graded = (step: string) => readings.filter((one: { step: string }) => one.step === step)
    steps.forEach(({ key }, i) => {
      const [first, second] = keys[i]
      expect(graded(key)).toHaveLength(keys[i] === '' ? 0 : 1)
      if (keys[i] === '') return
      const [{ grade, release, finish }] = graded(key)
      expect([coupon.kind === 'gap' ? release : grade, finish]).toEqual([
        Number(first),
        second ? 'qwert'.indexOf(second) + 1 : null,
      ])
    })
  }
  await expect(page.getByRole('region', { name: 'Offset of the second nozzle' })).toContainText(
    'The offset stored in the printer is right as it is.',
  )
  for (const [n, says] of [
    [12, /Bridges up to \d\d mm/],
    [14, /From Chalk PLA to Moss PETG purge \d+ mm³/],
  ] as const) {
    await page.goto(`${empty.url}/trials/${idOf(n)}`)
    await expect(page.getByText(says)).toBeVisible()
    await expectAccessible(page)
  }
})

test('a coupon is made, looked at and taken to the printer as 3MF, STL and G-code', async ({
  page,
  empty,
}) => {
  await aBench(empty)
  await page.goto(`${empty.url}/trials/new/purge`)
  // The printer with a changer is the one meant.
  await expect(page.getByRole('button', { name: /Printer/ })).toContainText('Changer')
  const coupon = page.getByRole('region', { name: 'The coupon to print' })
  await expect(coupon.getByRole('img')).toHaveAttribute(
    'alt',
    /as it lies on the bed, \d+ by \d+ by 1 millimetres/,
  )
  await expect(coupon).toContainText(/min, 2 swaps; Chalk PLA/)
  await choose(page, /Printer/, 'Twin')
  await expect(coupon).toContainText(
    'Twin has a nozzle for each filament, so nothing is left behind at a swap.',
  )
  await choose(page, /Printer/, 'Changer')
  await page.getByLabel('Volumes, mm³').fill('50 100 150')
  const save = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      coupon.getByRole('button', { name }).click(),
    ])
    return { name: download.suggestedFilename(), bytes: readFileSync((await download.path())!) }
  }
  await expect(coupon.getByRole('button', { name: 'G-code' })).toBeEnabled()
  await expect
    .poll(async () => (await coupon.getByRole('img').getAttribute('alt')) ?? '')
    .toMatch(/on the bed, 30 by/)
  const gcode = await save('G-code')
  expect(gcode.name).toBe('new-purge-ladder.gcode')
  const text = gcode.bytes.toString()
  expect(text.match(/^; step .*/gm)).toEqual([
    '; step AB:50',
    '; step AB:100',
    '; step AB:150',
    '; step BA:50',
    '; step BA:100',
    '; step BA:150',
  ])
  const read = readGcode(text, 1.75)
  expect(read.lowTravels).toEqual([])
  expect(read.swaps).toBe(2)
  const model = strFromU8(unzipSync((await save('3MF')).bytes)['3D/3dmodel.model'])
  expect(model).toContain('name="Second filament, Moss PETG"')
  expect(Object.keys(unzipSync((await save('STL')).bytes)).sort()).toEqual([
    'Part.stl',
    'Second filament.stl',
  ])

  // What cannot be made says so, and the form stays.
  await page.goto(`${empty.url}/trials/new/span`)
  await page.getByLabel('Spans, mm').fill('10 400')
  await expect(coupon.getByRole('alert')).toContainText('Fewer steps would fit.')
  await page.getByLabel('Spans, mm').fill('10 many')
  await expect(coupon).toContainText('Once all is filled in')
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText('Must be a number.')).toBeVisible()
})

test('readings leave as CSV and come back; a picture of a step is kept beside its grade', async ({
  page,
  empty,
}) => {
  await aBench(empty)
  await aTrial(empty, 21, 'Ladder', { ...STARTING_COUPONS.gap, gapsMm: [0.1, 0.2] })
  await page.goto(`${empty.url}/trials/${idOf(21)}`)
  await page.getByRole('button', { name: /^0\.10 mm/ }).click()
  await page.keyboard.press('2')
  await page.keyboard.press('w')
  await page.getByLabel('Note').fill('let go with a click')
  await expect(page.getByText('not with the server yet')).toHaveCount(0)
  const picture = await sharp({ create: { width: 1600, height: 1200, channels: 3, background: '#6d7f4b' } })
    .jpeg()
    .toBuffer()
  await page
    .getByLabel('Picture of 0.10')
    .setInputFiles({ name: 'tile.jpg', mimeType: 'image/jpeg', buffer: picture })
  const kept = page.getByRole('button', { name: /^Picture 1 of 0\.10/ })
  await expect(kept.locator('img')).toHaveJSProperty('naturalWidth', 1280)
  await kept.click()
  await expect(page.getByRole('dialog').getByRole('img')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Remove the picture' }).click()
  await expect(kept).toHaveCount(0)
  await page.getByRole('button', { name: 'Bring back' }).click()
  await expect(kept).toBeVisible()
  await page
    .getByLabel('Picture of 0.10')
    .setInputFiles({ name: 'tile.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture at all') })
  await expect(page.getByText('This is no picture that can be read')).toBeVisible()

  await page.getByRole('button', { name: 'Coupon and files' }).click()
  const dialog = page.getByRole('dialog')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('button', { name: 'Readings as CSV' }).click(),
  ])
  const csv = readFileSync((await download.path())!, 'utf8')
  expect(csv).toBe('trial,gapMm,spacingMm,release,finish,forceN,areaMm2\nLadder,0.1,0,2,2,,\n')
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    dialog.getByRole('button', { name: 'Bring in readings from CSV' }).click(),
  ])
  await chooser.setFiles({
    name: 'more.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`${csv}Ladder,0.2,0,1,3,2.5,196\nLadder,0.7,0,1,1,,\nLadder,0.2,0,9,1,,\n`),
  })
  await expect(dialog).toContainText('2 readings taken in.')
  await expect(dialog).toContainText('The coupon has no step at 0.7 mm')
  await expect(dialog).toContainText('Line 5 has release 9')
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await expect(page.getByText('not with the server yet')).toHaveCount(0)
  const { readings, photos } = await (await fetch(`${empty.url}/api/trials/${idOf(21)}`)).json()
  expect(photos).toHaveLength(1)
  expect(readings).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ step: '0:0.2', release: 1, finish: 3, forceN: 2.5 }),
      expect.objectContaining({ step: '0:0.1', note: 'let go with a click' }),
    ]),
  )
})

test('prints of one coupon are read together, what would tell most next is said with its price and leads to its coupon', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/trials/${await demo.idOf('trials', 'Moss under Chalk, again')}`)
  const answer = page.getByRole('region', { name: 'Release window' })
  await expect(answer).toContainText('13 tiles read')
  await page.getByText('Read together with the other print of it').click()
  await expect(answer).toContainText('5 tiles read')
  await page.goto(`${demo.url}/trials`)
  const next = page.getByRole('region', { name: 'What to print next' })
  await expect(next.getByRole('listitem')).toHaveCount(3)
  await expect(next.getByText(/\d\sg, .*to print/)).toHaveCount(3, { timeout: 90_000 })
  const link = next.getByRole('link', { name: /^Strips at/ })
  const volumes = [...(await link.innerText()).matchAll(/\d+/g)].map(([value]) => value)
  expect(volumes).toHaveLength(3)
  await link.click()
  await expect(page.getByLabel('Volumes, mm³')).toHaveValue(volumes.join(', '))
  await expect(page.getByLabel('Name')).toHaveValue('Slate and Fog, one nozzle, more')
})
