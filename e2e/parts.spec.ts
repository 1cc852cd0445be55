import { readFileSync } from 'node:fs'
import { meshFacts, openMesh, write3mf, writeStl } from '@tender/core/mesh'
import { box, boxes, join } from '@tender/core/testing'
import { expect, expectAccessible, savesOf, test } from './app'

/** A plate on a post, with a peg that begins in mid-air. */
const TABLE = boxes([
  { size: [6, 6, 12], at: [10, 10, 0] },
  { size: [30, 26, 3], at: [0, 0, 12] },
  { size: [4, 4, 6], at: [24, 2, 6] },
])
const stl = (mesh: Parameters<typeof writeStl>[0]) => Buffer.from(writeStl(mesh))
const asFile = (name: string, buffer: Buffer) => ({ name, mimeType: 'application/octet-stream', buffer })

test('several files come in as parts or as one part of bodies; versions, doubles and tags are told', async ({
  page,
  empty,
}) => {
  await page.goto(`${empty.url}/parts`)
  const pick = page.locator('input[type=file]')
  await pick.setInputFiles([
    asFile('post.stl', stl(box([6, 6, 20]))),
    asFile('rest.stl', stl(box([8, 8, 4], [12, 0, 0]))),
    asFile('note.stl', Buffer.from('Dear workshop')),
  ])
  const dialog = page.getByRole('dialog')
  await expect(dialog.getByRole('alert')).toContainText('“note.stl” was not taken in.')
  await expectAccessible(page)
  await dialog.getByRole('radio', { name: 'one part of 2 bodies' }).click()
  await dialog.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'post' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'How it stands' })).toContainText('20 × 8 × 20')
  await page.getByRole('tab', { name: 'About' }).click()
  await page.getByRole('region', { name: 'Bodies' }).getByRole('button', { name: /rest/ }).click()
  await page.getByRole('option', { name: 'is a stand already' }).click()
  // What is no part does not count for its size.
  await expect(page.getByRole('region', { name: 'Facts' })).toContainText('6 × 6 × 20')
  await page.getByLabel('New tag').fill('mast')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Take off the tag mast' })).toBeVisible()
  await expectAccessible(page)
  await expect
    .poll(async () => (await (await fetch(`${empty.url}/api/parts`)).json()).items[0])
    .toMatchObject({ tags: ['mast'], bodies: ['part', 'stand'] })
  await page.reload()
  await expect(page.getByRole('region', { name: 'Facts' })).toContainText('6 × 6 × 20')

  await page.goto(`${empty.url}/parts`)
  for (const side of [9, 10]) {
    await pick.setInputFiles(asFile('foot.stl', stl(box([side, side, side]))))
    if (side === 10) await dialog.getByRole('button', { name: 'It is a newer version' }).click()
    await dialog.getByRole('button', { name: 'Bring it in' }).click()
    await expect(page.getByRole('region', { name: 'How it stands' })).toContainText(
      `${side} × ${side} × ${side}`,
    )
    await page.goto(`${empty.url}/parts`)
  }
  await expect(page.locator('article')).toHaveCount(2)
  await expect(page.locator('article').filter({ hasText: 'foot' })).toContainText('2 versions')
  await page.getByRole('group', { name: 'Only with the tag' }).getByRole('button', { name: 'mast' }).click()
  await expect(page.locator('article')).toHaveCount(1)
  await pick.setInputFiles(asFile('again.stl', stl(box([10, 10, 10]))))
  await expect(dialog).toContainText('This very file is here already, as foot')
})

test('what needs holding is told, jumped to and drawn; zones change it, and undo takes them back', async ({
  page,
  empty,
}) => {
  const saved = savesOf(page)
  await page.goto(`${empty.url}/parts`)
  await page.locator('input[type=file]').setInputFiles(asFile('table.stl', stl(TABLE)))
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it in' }).click()
  await page.getByRole('tab', { name: 'Needs holding' }).click()
  const says = page.getByRole('region', { name: 'What needs holding' })
  // 780 of the plate less the post's 36 and the peg's 16, and the peg's own 16.
  await expect(says).toContainText('744 mm² need holding, in 2 patches; 1 island starts in mid-air.')
  await expect(page.getByRole('button', { name: /^Island 1 of 1, 6\.00 mm up, 16 mm²/ })).toBeVisible()
  await page.getByRole('region', { name: 'Islands: 1' }).getByRole('button').click()
  await expect(page.getByRole('radio', { name: 'Layer' })).toBeChecked()
  await expect(page.getByRole('img', { name: /^Layer 31, .* some of it hangs/ })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('radio', { name: 'Section' }).click()
  await page.getByLabel('Cut turned by').fill('90')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('img', { name: /^Section front to back: 2 undersides/ })).toBeVisible()

  await page.getByRole('tab', { name: 'Zones' }).click()
  await page.getByRole('radio', { name: 'keep off' }).first().click()
  await page.getByRole('button', { name: 'Box' }).click()
  const field = (name: string) => page.getByRole('region', { name: 'Zones' }).getByLabel(name)
  for (const [name, value] of [
    ['high', '9'],
    ['low', '5'],
    ['right', '29'],
    ['left', '23'],
    ['back', '7'],
    ['front', '1'],
  ]) {
    await field(name).fill(value)
    await page.keyboard.press('Enter')
  }
  await expect(page.getByRole('alert')).toContainText(
    '1 island starts in mid-air and is kept off by “Keep off 1”',
  )
  await expectAccessible(page)
  await page.getByRole('tab', { name: 'Needs holding' }).click()
  await expect(says).toContainText('728 mm² need holding, in 1 patch')
  await page.getByRole('tab', { name: 'Zones' }).click()
  await page.getByRole('button', { name: 'Remove Keep off 1' }).click()
  await expect(page.getByRole('region', { name: 'Zones' })).toContainText('None yet')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('region', { name: 'Zones' })).toContainText('Keep off 1')
  await saved()
  await page.reload()
  await expect(page.getByRole('region', { name: 'Zones' })).toContainText('Keep off 1')
})

test('a search finds the pose that needs nothing, and it is taken; reshaping saves a closed file', async ({
  page,
  empty,
}) => {
  await page.goto(`${empty.url}/parts`)
  await page.locator('input[type=file]').setInputFiles(asFile('table.stl', stl(TABLE)))
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it in' }).click()
  await page.getByRole('button', { name: 'Search', exact: true }).click()
  const found = page.getByRole('region', { name: 'Poses found' })
  await expect(page.getByText('The poses found stand below')).toBeVisible({ timeout: 180_000 })
  await expect(found.getByRole('listitem').first()).toContainText('0.0 g supports')
  for (const i of [0, 1]) await found.getByRole('button', { name: 'Compare' }).nth(i).click()
  await expect(found.getByRole('table')).toContainText('Tallest thin stand')
  await expectAccessible(page)
  await found.getByRole('button', { name: 'Take it' }).first().click()
  await page.getByRole('tab', { name: 'Needs holding' }).click()
  await expect(page.getByRole('region', { name: 'What needs holding' })).toContainText(
    'Nothing needs holding as it lies.',
  )
  await page.getByRole('button', { name: 'Undo' }).click()
  await page.getByRole('tab', { name: 'Reshape' }).click()
  await page.getByRole('button', { name: 'Show what changes' }).click()
  await expect(page.getByRole('region', { name: 'Reshape' })).toContainText(
    /g \(.* cm³\) more, on \d+ layers/,
  )
  await expectAccessible(page)
  for (const form of ['STL', '3MF']) {
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: `Save as ${form}` }).click(),
    ])
    const { mesh } = openMesh(readFileSync(await file.path()))
    const facts = meshFacts(mesh)
    expect(facts.watertight).toBe(true)
    expect(facts.volumeMm3).toBeGreaterThan(meshFacts(TABLE).volumeMm3)
  }
})

test('an open mesh is reported in words and in the picture; places are measured; on a phone nothing sticks out', async ({
  page,
  empty,
}) => {
  const whole = box([20, 20, 20])
  // Above the open box: one with another inside it, and one that cuts into it by 2 mm.
  const above = [box([10, 10, 10], [5, 5, 21]), box([4, 4, 4], [8, 8, 24]), box([6, 10, 10], [13, 5, 21])]
  await page.goto(`${empty.url}/parts`)
  await page
    .locator('input[type=file]')
    .setInputFiles(
      asFile('open.stl', stl(join([{ ...whole, corners: whole.corners.slice(0, -6) }, ...above]))),
    )
  await expect(page.getByRole('dialog')).toContainText('4 edges stay open')
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it in' }).click()
  await page.getByRole('tab', { name: 'About' }).click()
  await expect(page.getByRole('region', { name: 'Facts' })).toContainText('sliced it comes to 9.4 cm³')
  await expect(page.getByRole('region', { name: 'Facts' })).toContainText(
    /Its shells lie in one another by 0\.264 cm³, from 21\.0 to 31\.0 mm up.*Outlined in the picture/,
  )
  await expect(
    page.getByRole('button', { name: 'A shell inside another one, 4 mm long, 26.00 mm up' }),
  ).toBeVisible()
  await page.getByRole('button', { name: 'front', exact: true }).click()
  await page.getByRole('button', { name: 'Measure' }).click()
  const canvas = page.locator('canvas')
  const area = (await canvas.boundingBox())!
  // The tree of triangles grows beside the page; until then a click finds the part as well.
  await canvas.click({ position: { x: area.width / 2, y: area.height / 2 } })
  await expect(page.getByRole('status').filter({ hasText: 'mm up' })).toContainText(
    'leaning 0° from vertical',
  )
  await canvas.click({ position: { x: area.width / 2 + 30, y: area.height / 2 } })
  await expect(page.getByRole('status').filter({ hasText: 'mm apart' })).toContainText('the faces turn by 0°')
  await page.keyboard.press('p')
  await expect(page.getByRole('button', { name: 'with depth' })).toBeVisible()
  await page.setViewportSize({ width: 390, height: 844 })
  for (const tab of ['Lay', 'Needs holding', 'Zones', 'Reshape', 'About']) {
    await page.getByRole('tab', { name: tab }).click()
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  }
})

test('readings that do not arrive are told on a part: nothing is judged by a guess until they do', async ({
  page,
  demo,
}) => {
  const refused = {
    type: 'about:blank',
    code: 'INTERNAL',
    title: 'The shelf of trials is jammed.',
    status: 500,
  }
  const isTrials = (url: URL) => url.pathname === '/api/trials'
  await page.route(isTrials, (route) => route.fulfill({ status: 500, json: refused }))
  await page.goto(`${demo.url}/parts/${await demo.idOf('parts', 'Vane pivot')}?tab=needs`)
  const told = page.getByRole('alert').filter({ hasText: 'did not arrive' })
  await expect(told).toContainText('The shelf of trials is jammed.')
  const needs = page.getByRole('region', { name: 'What needs holding' })
  await expect(needs).toContainText('Not judged')
  await expect(page.getByRole('region', { name: 'Limits' })).toHaveCount(0)
  await page.unroute(isTrials)
  await told.getByRole('button', { name: 'Try again' }).click()
  await expect(needs).toContainText('mm²')
  await expect(page.getByRole('region', { name: 'Limits' })).toContainText('Half of prints hold to')
  await expect(told).toHaveCount(0)
})

test('a file that holds stands of its own is planned with them', async ({ page, demo }) => {
  const saved = savesOf(page)
  const shelf = boxes([
    { size: [6, 20, 12], at: [0, 0, 0] },
    { size: [26, 20, 3], at: [0, 0, 12] },
  ])
  const file = write3mf('Shelf', [
    { name: 'Shelf', colour: '#a5a8b4', mesh: shelf },
    { name: 'My prop', colour: '#cd8a62', mesh: box([6, 20, 11.8], [18, 0, 0]) },
  ])
  await page.goto(`${demo.url}/parts`)
  await page.locator('input[type=file]').setInputFiles(asFile('shelf.3mf', Buffer.from(file)))
  await expect(page.getByRole('dialog')).toContainText('2 bodies: Shelf, My prop')
  await page.getByRole('dialog').getByRole('button', { name: 'Bring it in' }).click()
  await page.getByRole('tab', { name: 'About' }).click()
  await page
    .getByRole('region', { name: 'Bodies' })
    .getByRole('button', { name: /My prop/ })
    .click()
  await page.getByRole('option', { name: 'is a stand already' }).click()
  await saved()
  await page.getByRole('button', { name: 'Plan how to hold it' }).click()
  await expect(page.getByLabel('Contact')).toContainText(/Flat underside/)
  await expect(page.getByLabel('Contact')).toContainText(/4\d\d mm² held/)
})
