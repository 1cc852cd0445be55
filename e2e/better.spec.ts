import { readFileSync } from 'node:fs'
import { aSmallPlan, expect, expectAccessible, settled, test } from './app'

test('a better plan is searched by the workers, shown with what differs, and taken as a variant', async ({
  page,
  demo,
}) => {
  test.setTimeout(600_000)
  await aSmallPlan(demo.url, 'Small table')
  const partId = await demo.idOf('parts', 'Small table')
  await page.goto(`${demo.url}/parts/${partId}`)
  await page.getByRole('button', { name: 'Plan how to hold it' }).click()
  await settled(page)
  await page.getByRole('button', { name: 'More for this plan' }).click()
  await page.getByRole('menuitem', { name: 'Find a better plan' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Find a better plan' })).toBeVisible()
  await page.getByRole('button', { name: 'Search', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Search again' })).toBeVisible({ timeout: 200_000 })
  const search = await (await fetch(`${demo.url}/api/parts/${partId}/better/newest`)).json()
  expect(search).toMatchObject({ state: 'done', progress: 1 })
  expect(search.tried).toBeGreaterThan(12)
  const { asItIs, found } = search
  const better = found.filter((one: { words: string }) => one.words !== asItIs.words)
  expect(better.length).toBeGreaterThan(0)
  // Each is better in something that is shown.
  for (const { figures } of better)
    expect(
      figures.massG < asItIs.figures.massG ||
        figures.timeS < asItIs.figures.timeS ||
        figures.pTender > asItIs.figures.pTender ||
        asItIs.release !== 'comes out whole',
    ).toBe(true)
  await expect(page.getByRole('row')).toHaveCount(2 + better.length)
  await expectAccessible(page)
  const [first] = better
  await page.getByRole('button', { name: `Take ${first.words}`, exact: true }).click()
  await expect(page).toHaveURL(/\/plans\/[0-9a-f-]+$/)
  await settled(page)
  // The plan in the app costs what the search said.
  const id = page.url().split('/').at(-1)!
  const taken = await (await fetch(`${demo.url}/api/plans/${id}`)).json()
  expect(taken.document.decisions).toEqual(first.document.decisions)
  await expect(page.getByLabel('Totals')).toContainText(`${first.figures.massG.toFixed(1)}\u202fg`)

  // Both on one bed, one of them moved by hand: one file, then a take-off each, side by side.
  await page.goto(`${demo.url}/parts/${partId}/plans`)
  await page.getByRole('link', { name: 'Print them on one bed' }).click()
  const bed = page.getByRole('group', { name: 'The bed with 2 variants' })
  await bed.getByRole('button').first().focus()
  await page.keyboard.press('Shift+ArrowRight')
  await expect(page.getByRole('main')).toContainText(/stand in each other|and need 2 mm/)
  await expect(page.getByRole('button', { name: 'G-code of all' })).toBeDisabled()
  for (let n = 0; n < 5; n++) await page.keyboard.press('Shift+ArrowUp')
  await expect(page.getByText('Which is which')).toBeVisible()
  const [, name, leftMm] = /^(.*) at (\d+), /.exec(
    (await bed.getByRole('button').first().getAttribute('aria-label'))!,
  )!
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'G-code of all' }).click()
  const gcode = readFileSync(await (await download).path(), 'utf8')
  const own = gcode
    .split('; step ')
    .filter((step) => step.startsWith(`${name}\n`))
    .join('')
  // Filaments print from where they are loaded: with the spools the other way round, so are the tools.
  const toolsIn = (text: string) =>
    Object.fromEntries([...text.matchAll(/^; tool (\d): (.+), /gm)].map(([, tool, of]) => [of, tool]))
  const { items } = await (await fetch(`${demo.url}/api/printers`)).json()
  const bench = items.find((one: { id: string }) => one.id === taken.document.printer.id)
  const load = (revision: number, loaded: readonly string[]) => {
    const { id: _id, revision: _revision, updatedAt: _updatedAt, ...input } = bench
    return fetch(`${demo.url}/api/printers/${bench.id}?revision=${revision}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...input, loaded }),
    })
  }
  await load(bench.revision, bench.loaded.toReversed())
  const again = page.waitForEvent('download')
  await page.getByRole('button', { name: 'G-code of all' }).click()
  const turned = toolsIn(readFileSync(await (await again).path(), 'utf8'))
  await load(bench.revision + 1, bench.loaded)
  expect(toolsIn(gcode)).toMatchObject({ 'Chalk PLA': '0' })
  expect(turned).toMatchObject({ 'Chalk PLA': '1' })
  const xs = [...own.matchAll(/^G1 X([\d.]+)/gm)].map(([, x]) => Number(x))
  expect(Math.abs(Math.min(...xs) - Number(leftMm))).toBeLessThan(1)
  await expectAccessible(page)
  await page.getByRole('button', { name: 'They are printed' }).click()
  await expect(page.getByRole('heading', { level: 1, name: /^Small table, 2 variants of/ })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('columnheader').getByRole('link').first().click()
  await page.getByRole('button', { name: /^1, / }).focus()
  await page.keyboard.press('1')
  await expect(page.getByText(/1 of 1 came off by hand/)).toBeVisible()
  await page.getByRole('link', { name: 'the whole bed side by side' }).click()
  await expect(page.getByRole('row', { name: /^How it came off/ })).toContainText('1 of 1 came off by hand')
})
