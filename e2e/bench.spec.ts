import { readFileSync } from 'node:fs'
import { plainFilament, FAMILIES } from '@tender/core/bench'
import { table } from '@tender/core/testing'
import { aSmallPlan, choose, expect, expectAccessible, settled, test } from './app'

test('the matrix: arrow keys move, the pairing beside it follows, Enter opens it; what was measured stands apart from guesses', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/pairings`)
  const picked = page.getByRole('region', { name: 'The pairing picked' })
  await page
    .getByRole('gridcell', { name: /^Chalk PLA on itself: cling 4 of 4, measured/ })
    .getByRole('button')
    .click()
  await expect(picked).toContainText('Chalk PLA on itself')
  await page.keyboard.press('ArrowRight')
  await expect(picked).toContainText('Chalk PLA touched by Moss PETG')
  await expect(picked).toContainText('on 2 ladders and one take-off, 16 readings')
  await expect(page).toHaveURL(/part=.*&touching=/)
  await page.keyboard.press('ArrowDown')
  await expect(picked).toContainText('Moss PETG on itself')
  await expect(picked).toContainText('as a starting guess')
  await page.keyboard.press('ArrowUp')
  await expect(page.getByRole('gridcell', { name: /measured/ })).toHaveCount(3)
  await page.getByText('Only what was measured').click()
  await expect(page.getByRole('columnheader', { name: 'Reed TPU' })).toHaveCount(0)
  await page.getByText('Only what was measured').click()
  await page
    .getByRole('gridcell', { name: /^Chalk PLA touched by Moss PETG/ })
    .getByRole('button')
    .focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'Chalk PLA touched by Moss PETG' })).toBeVisible()
})

test('a pairing: bonds and remedies, whether the two live together, ways with their price on a real part', async ({
  page,
  demo,
}) => {
  const [chalk, moss, mist] = [
    await demo.idOf('filaments', 'Chalk PLA'),
    await demo.idOf('filaments', 'Moss PETG'),
    await demo.idOf('filaments', 'Mist PVA'),
  ]
  await page.goto(`${demo.url}/pairings/${chalk}/${moss}`)
  await expect(page.getByRole('region', { name: 'The bridge' })).toContainText(
    'that speaks before the guess by the clings of the families',
  )
  await expect(page.getByRole('row', { name: /Stands in Moss PETG as well/ })).toContainText('yes')
  await expect(page.getByRole('region', { name: 'Can they live together' })).toContainText(
    'No bed suits both',
  )
  await expect(page.getByRole('region', { name: 'Can they live together' })).toContainText(
    'The colours stand apart',
  )
  const ways = page.getByRole('region', { name: 'Ways to use it' })
  await choose(page, /On another part/, 'Vane pivot')
  await expect(ways.locator('[aria-busy=true]')).toHaveCount(0, { timeout: 180_000 })
  const swaps = async (way: string) =>
    Number(
      await ways
        .getByRole('row', { name: new RegExp(`^${way}`) })
        .getByRole('cell')
        .nth(3)
        .innerText(),
    )
  expect(await swaps('Chalk PLA only')).toBe(0)
  expect(await swaps('Moss PETG in the whole stand')).toBeGreaterThan(
    await swaps('Moss PETG in the touch layers'),
  )
  await expectAccessible(page)
  await page.getByRole('link', { name: 'The other way round' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Moss PETG touched by Chalk PLA' })).toBeVisible()
  await page.goto(`${demo.url}/pairings/${chalk}/${mist}`)
  await expect(page.getByText('Water takes Mist PVA away where no tool reaches.')).toBeVisible()
  await page.getByRole('link', { name: 'Print a gap ladder of it' }).click()
  await expect(page.getByRole('button', { name: /Touched by/ })).toContainText('Mist PVA')
  await page.goto(`${demo.url}/pairings/${chalk}/00000000-0000-4000-8000-000000000000`)
  await expect(page.getByText('One of the two filaments is not on the bench.')).toBeVisible()
})

test('forty filaments: grouped by family, searched and filtered, still by keys', async ({ page, empty }) => {
  for (let i = 0; i < 40; i++) {
    const family = FAMILIES[i % FAMILIES.length]
    const {
      id: _id,
      gramsLeft: _grams,
      lots: _lots,
      ...filament
    } = plainFilament(`Stock ${i} ${family}`, family, '#6d7f4b')
    await fetch(`${empty.url}/api/filaments/${crypto.randomUUID()}`, {
      method: 'PUT',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ ...filament, spools: [] }),
    })
  }
  await page.goto(`${empty.url}/pairings`)
  await expect(page.getByRole('gridcell')).toHaveCount(1600)
  await page.getByRole('gridcell').first().getByRole('button').focus()
  await page.keyboard.press('End')
  await expect(page.getByRole('region', { name: 'The pairing picked' })).toContainText(
    /touched by Stock \d+ PP/,
  )
  await choose(page, /Family/, 'PETG')
  await expect(page.getByRole('gridcell')).toHaveCount(16)
  await expectAccessible(page)
  await page.getByLabel('Search by name').fill('nothing of that name')
  await expect(page.getByText('No filament fits.')).toBeVisible()
})

test('spools: weighed in, loaded on a nozzle, missed by the plan when they are not, out and in as CSV', async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/bench`)
  await page.getByRole('button', { name: 'Weigh spool 1 of Moss PETG' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('button', { name: 'Write it down' })).toBeDisabled()
  await dialog.getByLabel('On the scale').fill('100')
  await dialog.getByLabel('Empty spool').click()
  await expect(dialog).toContainText('The scale shows less than the empty spool weighs.')
  await dialog.getByLabel('On the scale').fill('830')
  await dialog.getByLabel('Empty spool').click()
  await expect(dialog).toContainText(/600.g are left/)
  await expectAccessible(page)
  await dialog.getByRole('button', { name: 'Write it down' }).click()
  await expect(page.getByRole('row', { name: /^Moss PETG/ })).toContainText('600')

  const touching = await demo.idOf('plans', 'Moss touch layers')
  const plan = `${demo.url}/plans/${await aSmallPlan(demo.url, 'Moss under a table', table, touching)}`
  const twin = page.getByRole('article').filter({ hasText: 'Workshop twin' })
  await twin.getByRole('button', { name: /Nozzle 2/ }).click()
  await page.getByRole('option', { name: 'nothing' }).click()
  await expect(twin.getByRole('button', { name: /Nozzle 2/ })).toContainText('nothing')
  await page.goto(plan)
  await settled(page)
  await expect(page.getByText('Moss PETG sits on no nozzle of Workshop twin.')).toBeVisible()
  await page.goto(`${demo.url}/bench`)
  await twin.getByRole('button', { name: /Nozzle 2/ }).click()
  await page.getByRole('option', { name: /Moss PETG/ }).click()
  await expect(twin.getByRole('button', { name: /Nozzle 2/ })).toContainText('Moss PETG')
  await page.goto(plan)
  await settled(page)
  await expect(page.getByText('sits on no nozzle')).toHaveCount(0)

  await page.goto(`${demo.url}/bench`)
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Filaments as CSV' }).click(),
  ])
  const csv = readFileSync((await download.path())!, 'utf8')
  expect(csv.trim().split('\n')).toHaveLength(8)
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Bring in CSV' }).click(),
  ])
  await chooser.setFiles({
    name: 'f.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      `${csv}Tide PLA,PLA,#5b7f95,1.24,1.75,19,210,55,first,T-1,750,,,,,\nBad PLA,PLA,blue,1.24,1.75,19,210,55,,,1,,,,,\n`,
    ),
  })
  await expect(page.getByRole('dialog')).toContainText('1 new filament, 6 to change.')
  await expect(page.getByRole('dialog')).toContainText('Line 10: "colour" is not right.')
  await page.getByRole('button', { name: 'Take them in' }).click()
  await expect(page.getByRole('row', { name: /^Tide PLA/ })).toContainText('750')
  await page.getByRole('button', { name: 'Remove Tide PLA' }).click()
  await expect(page.getByRole('row', { name: /^Tide PLA/ })).toHaveCount(0)
})

test('families: a cling of one’s own moves the guess, and goes back to ours', async ({ page, demo }) => {
  const [slate, reed] = [await demo.idOf('filaments', 'Slate ABS'), await demo.idOf('filaments', 'Reed TPU')]
  const expectGuess = async (says: string) => {
    await page.goto(`${demo.url}/pairings/${slate}/${reed}`)
    await expect(page.getByRole('region', { name: 'What is known' })).toContainText(says)
  }
  await expectGuess('probably cling at 2')
  await page.goto(`${demo.url}/bench/families`)
  await page.getByRole('button', { name: 'ABS and TPU: 2, not known' }).click()
  await page.getByRole('dialog').getByRole('radio', { name: '0', exact: true }).click()
  await page.getByRole('dialog').getByLabel('Where this comes from').fill('fell apart on the bench')
  await expectAccessible(page)
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('button', { name: 'ABS and TPU: 0, yours' })).toBeVisible()
  await expectGuess('families like these usually cling at 0')
  await page.goto(`${demo.url}/bench/families`)
  await page.getByRole('button', { name: 'ABS and TPU: 0, yours' }).click()
  await page.getByRole('button', { name: 'Back to the starting guess' }).click()
  await expect(page.getByRole('button', { name: 'ABS and TPU: 2, not known' })).toBeVisible()
  await page.getByRole('button', { name: 'Change PETG' }).click()
  await page.getByRole('dialog').getByLabel('Bed from').fill('120')
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('dialog')).toContainText('The lower end must not lie above the upper one.')
})
