import type { Page } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { writeStl } from '@tender/core/mesh'
import { box, sphere } from '@tender/core/testing'
import { aSmallPlan, expect, settled, test } from './app'

test('removing asks for nothing and can be taken back', async ({ page, demo }) => {
  await page.goto(`${demo.url}/bench`)
  await page.getByRole('button', { name: 'Remove Reed TPU' }).click()
  await expect(page.getByRole('row', { name: /^Reed TPU/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Bring back' }).click()
  await expect(page.getByRole('row', { name: /^Reed TPU/ })).toContainText('318')
  // Whoever comes to the address of what was removed is told, and brings it back from there.
  await page.goto(`${demo.url}/plans`)
  await page
    .getByRole('link', { name: /Chalk only/ })
    .first()
    .click()
  await expect(page.getByRole('heading', { level: 1, name: 'Chalk only' })).toBeVisible()
  const address = page.url()
  const { pathname } = new URL(address)
  await page.request.delete(`${demo.url}/api${pathname}`)
  await page.goto(address)
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('This plan was removed')
  await page.getByRole('button', { name: 'Bring it back' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Chalk only')
})

test('a browser that sees no network asks the server all the same: it stands on this machine', async ({
  page,
  demo,
}) => {
  await page.goto(demo.url)
  await page.evaluate(() => window.dispatchEvent(new Event('offline')))
  await page.getByRole('link', { name: 'Trials', exact: true }).click()
  await expect(page.getByRole('link', { name: /Chalk fan/ }).first()).toBeVisible()
})

test('find goes anywhere by name', async ({ page, demo }) => {
  await page.goto(demo.url)
  await expect(page.getByText('6 filaments')).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.type('vane')
  await expect(page.getByRole('menuitem')).toHaveCount(1)
  // What is found may still be changing under the key.
  await expect(async () => {
    await page.keyboard.press('ArrowDown')
    await expect(page.locator('[role=menuitem][data-focused]')).toHaveCount(1, { timeout: 500 })
  }).toPass()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'Vane pivot' })).toBeVisible()
  await page.goBack()
  await expect(page.getByRole('heading', { name: /Supports that hold/ })).toBeVisible()
})

test('files that are no parts get a sentence each, and a large real one goes through', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/parts`)
  const bring = (name: string, buffer: Buffer) =>
    page.locator('input[type=file]').setInputFiles({ name, mimeType: 'model/stl', buffer })
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
  await expect(page.getByRole('heading', { level: 1, name: 'large' })).toBeVisible({ timeout: 90_000 })
  await page.getByRole('button', { name: 'Plan how to hold it' }).click()
  await settled(page)
  await expect(page.getByLabel('Contact')).toContainText('Rounded underside')
})

test('numbers leave as CSV and JSON, the plan as the document the command line reads', async ({
  page,
  demo,
}) => {
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

test('a plan that was worked out before, in this browser or another, shows its numbers and its section before its mesh has come and its readings are fitted, and goes on from there', async ({
  page,
  browser,
  demo,
}) => {
  const url = `${demo.url}/plans/${await aSmallPlan(demo.url, 'Kept table')}`
  // What stood for a while is kept, for others too.
  const kept = page.waitForResponse(
    (answer) => answer.url().includes('/api/kept/') && !!answer.request().postData()?.includes('"sections"'),
  )
  await page.goto(url)
  await settled(page)
  const sectionOf = (of: Page) => of.getByRole('img', { name: /^Section across/ })
  const says = await sectionOf(page).getAttribute('aria-label')
  expect((await kept).ok()).toBe(true)
  const another = await browser.newContext()
  // Like a phone on the workshop's network, it came by no safe way, and cannot hash by itself.
  await another.addInitScript('delete Crypto.prototype.subtle')
  for (const opened of [page, await another.newPage()]) {
    let letGo = () => undefined as void
    const held = new Promise<void>((resolve) => (letGo = resolve))
    for (const late of ['**/api/meshes/**', '**/fitting.worker*'])
      await opened.route(late, async (route) => {
        await held
        await route.continue()
      })
    const asked: string[] = []
    opened.on('request', (request) => request.url().includes('/api/') && asked.push(request.url()))
    await opened.goto(url)
    const section = sectionOf(opened)
    await expect(section).toHaveAttribute('aria-label', says!)
    // Asked for ahead of the view, and not again by it.
    expect(asked.some((one) => one.includes('/api/parts/'))).toBe(true)
    expect(asked).toEqual([...new Set(asked)])
    // What was kept came along with that: nobody had to know first what to ask for.
    expect(asked.filter((one) => /\/api\/kept\/[0-9a-f]{64}/.test(one))).toEqual([])
    const longest = () =>
      section
        .locator('path')
        .evaluateAll((paths) => Math.max(...paths.map((path) => path.getAttribute('d')?.length ?? 0)))
    await expect.poll(longest).toBeGreaterThan(150)
    await expect(opened.getByRole('slider', { name: 'Height of the cut' })).toBeVisible()
    await expect(opened.getByText(/^Flat underside/)).toBeVisible()
    await expect(opened.getByRole('button', { name: 'Take to printer' })).toBeDisabled()
    letGo()
    await settled(opened)
    await expect(section).toHaveAttribute('aria-label', says!)
  }
  await another.close()
})

test('a plan that no browser has worked out opens at once as well, some time after a start', async ({
  page,
  empty,
}) => {
  const url = `${empty.url}/plans/${await aSmallPlan(empty.url, 'Table by script')}`
  await empty.stop()
  await empty.restart('yes')
  // Nothing is worked out here.
  await page.route(/(geometry|fitting)\.worker/, (route) => route.abort())
  await expect(async () => {
    await page.goto(url)
    await expect(page.getByRole('img', { name: /^Section across/ })).toBeVisible({ timeout: 3_000 })
  }).toPass()
  await expect(page.getByText(/^Flat underside/)).toBeVisible()
})
