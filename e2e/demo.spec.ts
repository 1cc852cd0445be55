import type { Locator } from '@playwright/test'
import { boxes } from '@tender/core/testing'
import { aSmallPlan, expect, expectAccessible, settled, test, violations } from './app'

const VIEWS: readonly [string, RegExp][] = [
  ['/', /Supports that hold/],
  ['/bench', /^Bench$/],
  ['/trials', /^Trials$/],
  ['/pairings', /^Pairings$/],
  ['/bench/families', /^Families$/],
  ['/trials/new', /^A new trial$/],
  ['/trials/new/fan', /Overhang fan/],
  ['/trials/{trials:Chalk on Chalk}', /Chalk on Chalk/],
  ['/parts', /^Parts$/],
  ['/parts/{parts:Vane pivot}', /Vane pivot/],
  ['/plans', /^Plans$/],
  ['/plans/{plans:Chalk only}', /Chalk only/],
  ['/plans/{plans:Chalk only}/sheet', /Chalk only/],
  ['/take-offs', /^Take-offs$/],
  ['/take-offs/{take-offs:Louvre shield, first print}', /Louvre shield, first print/],
  ['/nowhere', /Nothing here/],
]

test('axe finds nothing on any view, light and dark', async ({ page, demo }) => {
  test.setTimeout(600_000)
  const found: string[] = []
  for (const [path, title] of VIEWS) {
    const [, shelf, name] = /\{(.*?):(.*?)\}/.exec(path) ?? []
    await page.goto(demo.url + (shelf ? path.replace(/\{.*?\}/, await demo.idOf(shelf, name)) : path))
    await expect(page.getByRole('heading', { level: 1, name: title })).toBeVisible()
    await expect(page.locator('[aria-busy=true]')).toHaveCount(0)
    if (shelf === 'plans' && !path.endsWith('sheet')) await settled(page)
    // In the dark only colours can differ.
    for (const [colorScheme, rules] of [
      ['light', undefined],
      ['dark', ['color-contrast']],
    ] as const) {
      await page.emulateMedia({ colorScheme })
      await expect(page.locator('html')).toHaveAttribute('data-scheme', colorScheme)
      found.push(...(await violations(page, rules)).map((one) => `${path} ${colorScheme} ${one}`))
    }
    if (path.startsWith('/plans/{') && !path.endsWith('sheet')) {
      await page.getByRole('radio', { name: 'Layer' }).click()
      found.push(...(await violations(page)).map((one) => `${path} layer ${one}`))
    }
  }
  expect(found).toEqual([])
})

test('in the few colours of high contrast: what is chosen, what is on and what is measured show', async ({
  page,
  demo,
}) => {
  const groundOf = (found: Locator, part?: string) =>
    found.evaluate((element, of) => getComputedStyle(element, of).backgroundColor, part)
  await page.emulateMedia({ forcedColors: 'active' })
  await page.goto(`${demo.url}/pairings`)
  const [chosen, other] = ['by family', 'by name'].map((name) => page.getByRole('radio', { name }))
  await expect(chosen).toHaveAttribute('aria-checked', 'true')
  expect(await groundOf(chosen)).not.toBe(await groundOf(other))
  const track = page.getByText('Only what was measured').locator('.track')
  const off = [await groundOf(track), await groundOf(track, '::after')]
  expect(off[1]).not.toBe(off[0])
  await page.getByText('Only what was measured').click()
  const on = [await groundOf(track), await groundOf(track, '::after')]
  expect(on[0]).not.toBe(off[0])
  expect(on[1]).not.toBe(on[0])
  await page.goto(`${demo.url}/plans/${await demo.idOf('plans', 'Chalk only')}`)
  const dot = page.locator('[data-source=measured]').first()
  await expect(dot).toBeVisible()
  expect(await groundOf(dot)).not.toBe(await groundOf(dot.locator('..')))
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
  await page.goto(`${demo.url}/plans/${await aSmallPlan(demo.url, 'Table of cards')}`)
  await settled(page)
  for (const name of [
    /^Free angle/,
    /^Upper gap/,
    /^Where stands may rest/,
    /^What touches the part/,
    /^Printer:/,
  ]) {
    await page.getByRole('button', { name }).click()
    await expect(page.getByRole('dialog')).toBeVisible()
    await expectAccessible(page)
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  }
})

test('a value of a plan: stepped by arrow keys, priced a step ahead, taken back to the evidence', async ({
  page,
  demo,
}) => {
  const board = boxes([
    { size: [8, 8, 30], at: [26, 26, 0] },
    { size: [60, 60, 4], at: [0, 0, 30] },
  ])
  const id = await aSmallPlan(demo.url, 'Stepped', board, await demo.idOf('plans', 'Chalk only'))
  await page.goto(`${demo.url}/plans/${id}`)
  await settled(page)
  const mass = async () =>
    Number(/([\d.]+)\u202fg/.exec((await page.getByLabel('Totals').textContent())!)![1])
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
  await expect(card).toContainText(/Anything from 0\.1[67] to 0\.29/)
  await card.getByLabel(/Air between the interface/).fill('0.34')
  await card.getByLabel(/Air between the interface/).press('Enter')
  await expect(card.getByText(/0\.35.mm/)).toBeVisible()
  await expect(card.locator('dd').first()).toContainText(/clean/)
  await card.getByRole('button', { name: /Back to 0\.23/ }).click()
  // The button is gone; the field takes over.
  await expect(card.getByLabel(/Air between the interface/)).toBeFocused()
  await page.keyboard.press('Escape')
  // Saved by itself, all of it.
  await settled(page)
  await expect
    .poll(async () => {
      const { decisions } = (await (await fetch(`${demo.url}/api/plans/${id}`)).json()).document
      return [decisions.standDensity, decisions.upperGapMm]
    })
    .toEqual([0.17, 0.23])
  await page.getByRole('button', { name: /^Free angle/ }).click()
  await expect(page.getByRole('dialog')).toContainText('52° from vertical, 38° from bed')
  await page.getByRole('dialog').getByRole('radio', { name: 'from bed' }).click()
  await expect(page.getByRole('dialog').getByLabel('Leans past')).toHaveValue('38')
})

test('the cut moves by key, layer by layer and from event to event, and stands in the address', async ({
  page,
  demo,
}) => {
  // A block, and two islands that begin beside it in mid-air.
  const block = boxes([
    { size: [20, 20, 44], at: [0, 0, 0] },
    { size: [10, 10, 5], at: [-20, 0, 5] },
    { size: [10, 10, 5], at: [30, 0, 15] },
  ])
  const id = await aSmallPlan(demo.url, 'Block with islands', block)
  await page.goto(`${demo.url}/plans/${id}?z=14.9`)
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
  await expect(page.getByRole('img', { name: /^Layer 76.*hangs past/ })).toBeVisible({ timeout: 180_000 })
})

test('two tabs change the same plan: the second is told, and keeps its own as a variant', async ({
  page,
  demo,
  context,
}) => {
  const id = await aSmallPlan(demo.url, 'Shared table')
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
  const stored = async () =>
    (await (await fetch(`${demo.url}/api/plans/${id}`)).json()).document.decisions.footingLines
  await expect.poll(stored).toBe(3)
  await step(other, 4)
  await expect(other.getByRole('alert')).toContainText('changed somewhere else')
  expect(await stored()).toBe(3)
  await other.getByRole('button', { name: 'Keep mine as a variant' }).click()
  await expect(other.getByRole('heading', { level: 1, name: 'Shared table, 2' })).toBeVisible()
  await expect(other.getByRole('button', { name: /^Footing: 6/ })).toBeVisible()
  expect(await stored()).toBe(3)
})
