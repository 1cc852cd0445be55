import { readFileSync } from 'node:fs'
import { writeStl } from '@tender/core/mesh'
import { box, sphere } from '@tender/core/testing'
import { expect, expectAccessible, settled, test, violations } from './app'

const VIEWS: readonly [string, RegExp][] = [
  ['/', /Supports that hold/],
  ['/bench', /^Bench$/],
  ['/trials', /^Trials$/],
  ['/pairings', /^Pairings$/],
  ['/bench/families', /^Families$/],
  ['/trials/new', /^A new trial$/],
  ['/trials/new/fan', /Overhang fan/],
  ['/trials/new/offset', /Offset comb/],
  ['/trials/{trials:Chalk fan}', /Chalk fan/],
  ['/trials/{trials:Chalk on Chalk}', /Chalk on Chalk/],
  ['/parts', /^Parts$/],
  ['/parts/{parts:Vane pivot}', /Vane pivot/],
  ['/plans', /^Plans$/],
  ['/plans/{plans:Chalk only}', /Chalk only/],
  ['/plans/{plans:Chalk only}?view=layer&z=20&lines=1', /Chalk only/],
  ['/plans/{plans:Chalk only}/sheet', /Chalk only/],
  ['/nowhere', /Nothing here/],
]

for (const colorScheme of ['light', 'dark'] as const)
  test(`axe finds nothing on any view, ${colorScheme}`, async ({ page, demo }) => {
    test.setTimeout(240_000)
    await page.emulateMedia({ colorScheme })
    const found: string[] = []
    for (const [path, title] of VIEWS) {
      const [, shelf, name] = /\{(.*?):(.*?)\}/.exec(path) ?? []
      await page.goto(demo.url + (shelf ? path.replace(/\{.*?\}/, await demo.idOf(shelf, name)) : path))
      await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible()
      await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
      if (shelf === 'plans' && !path.endsWith('sheet')) await settled(page)
      found.push(...(await violations(page)).map((one) => `${path} ${one}`))
    }
    expect(found).toEqual([])
    expect(await page.locator('html').getAttribute('data-scheme')).toBe(colorScheme)
  })

test('dialogs, cards and menus: axe finds nothing either, and Escape closes each', async ({ page, demo }) => {
  await page.goto(`${demo.url}/bench`)
  for (const name of ['Add a printer', 'Add a filament']) {
    await page.getByRole('button', { name }).click()
    await expectAccessible(page)
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog')).toContainText('one layer down or up')
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await page.goto(`${demo.url}/plans/${await demo.idOf('plans', 'Chalk only')}`)
  await settled(page)
  for (const name of [/^Free angle/, /^Upper gap/, /^Where stands may rest/, /^What touches the part/, /^Printer:/]) {
    await page.getByRole('button', { name }).click()
    await expect(page.getByRole('dialog')).toBeVisible()
    await expectAccessible(page)
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
})

test('a value of a plan: stepped by arrow keys, priced a step ahead, taken back to the evidence', async ({ page, demo }) => {
  const id = await demo.idOf('plans', 'Chalk only')
  await page.goto(`${demo.url}/plans/${id}`)
  await settled(page)
  const mass = async () => Number(/([\d.]+)\u2009g/.exec((await page.getByLabel('Totals').textContent())!)![1])
  const before = await mass()
  const token = page.getByRole('button', { name: /^Density of stands/ })
  await token.focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowUp')
  await expect(token).toHaveText(/17/)
  await settled(page)
  await expect.poll(mass).toBeGreaterThan(before + 1)
  const gap = page.getByRole('button', { name: /^Upper gap: 0\.23 mm, measured/ })
  await gap.focus()
  await page.keyboard.press('ArrowUp')
  await expect(page.getByRole('button', { name: /^Upper gap: 0\.24 mm, your own wish/ })).toBeFocused()
  await page.keyboard.press('Backspace')
  await expect(gap).toBeFocused()
  await settled(page)
  // The card says where it comes from and what one step more would do.
  await gap.click()
  const card = page.getByRole('dialog')
  await expect(card).toContainText('Chalk on Chalk')
  await expect(card).toContainText('Anything from 0.16 to 0.29')
  await card.getByLabel(/Air between the interface/).fill('0.34')
  await card.getByLabel(/Air between the interface/).press('Enter')
  await expect(card.getByText(/0\.35.mm/)).toBeVisible()
  await expect(card.locator('dd').first()).toContainText(/clean/)
  await card.getByRole('button', { name: /Back to 0\.23/ }).click()
  // The button is gone; the field takes over.
  await expect(card.getByLabel(/Air between the interface/)).toBeFocused()
  await page.keyboard.press('Escape')
  // Saved by itself.
  await settled(page)
  await expect.poll(async () => (await (await fetch(`${demo.url}/api/plans/${id}`)).json()).document.decisions.standDensity).toBe(0.17)
  await page.getByRole('button', { name: /^Free angle/ }).click()
  await expect(page.getByRole('dialog')).toContainText('52° from vertical, 38° from bed')
  await page.getByRole('dialog').getByRole('radio', { name: 'from bed' }).click()
  await expect(page.getByRole('dialog').getByLabel('Leans past')).toHaveValue('38')
})

test('the cut moves by key, layer by layer and from event to event, and stands in the address', async ({ page, demo }) => {
  await page.goto(`${demo.url}/plans/${await demo.idOf('plans', 'Moss touch layers')}?z=14.9`)
  await settled(page)
  const slider = page.getByRole('slider', { name: 'Height of the cut' })
  await expect(slider).toHaveAttribute('aria-valuetext', /layer 75 of 220/)
  await page.keyboard.press(']')
  await expect(slider).toHaveAttribute('aria-valuetext', /layer 76 of 220/)
  await page.keyboard.press('[')
  await page.keyboard.press('[')
  await expect(slider).toHaveAttribute('aria-valuetext', /layer 74 of 220/)
  await page.keyboard.press('}')
  const first = Number(await slider.getAttribute('aria-valuenow'))
  await page.keyboard.press('{')
  expect(Number(await slider.getAttribute('aria-valuenow'))).toBeLessThan(first)
  await slider.focus()
  await page.keyboard.press('End')
  await expect(slider).toHaveAttribute('aria-valuetext', /layer 220 of 220/)
  expect(Number(new URL(page.url()).searchParams.get('z'))).toBeGreaterThan(43.5)
  await page.getByRole('button', { name: /held 15\.00/ }).click()
  await expect(page.getByRole('img', { name: /^Layer 76/ })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('img', { name: /^Layer 76.*hangs past/ })).toBeVisible({ timeout: 60_000 })
})

test('two tabs change the same plan: the second is told, and keeps its own as a variant', async ({ page, demo, context }) => {
  const id = await demo.idOf('plans', 'Moss touch layers')
  const other = await context.newPage()
  for (const tab of [page, other]) await tab.goto(`${demo.url}/plans/${id}`)
  for (const tab of [page, other]) await settled(tab)
  const step = async (tab: typeof page, times: number) => {
    await tab.bringToFront()
    await tab.getByRole('button', { name: /^Footing/ }).focus()
    for (let i = 0; i < times; i++) await tab.keyboard.press('ArrowUp')
    await settled(tab)
  }
  await step(page, 1)
  const stored = async () => (await (await fetch(`${demo.url}/api/plans/${id}`)).json()).document.decisions.footingLines
  await expect.poll(stored).toBe(3)
  await step(other, 4)
  await expect(other.getByRole('alert')).toContainText('changed somewhere else')
  expect(await stored()).toBe(3)
  await other.getByRole('button', { name: 'Keep mine as a variant' }).click()
  await expect(other.getByRole('heading', { level: 1, name: 'Moss touch layers, 2' })).toBeVisible()
  await expect(other.getByRole('button', { name: /^Footing: 6/ })).toBeVisible()
  expect(await stored()).toBe(3)
})

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
