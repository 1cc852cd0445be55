import { readFileSync } from 'node:fs'
import { strFromU8, unzipSync } from 'fflate'
import { solidEngine } from '@tender/core/node'
import { demoParts, writeStl } from '@tender/core/mesh'
import type { Page } from '@playwright/test'
import { choose, expect, settled, test } from './app'

/** A part as it comes from outside: a file on disk. */
async function stlOf(key: string): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const part = demoParts(await solidEngine()).find((one) => one.key === key)!
  return { name: `${key}.stl`, mimeType: 'model/stl', buffer: Buffer.from(writeStl(part.mesh)) }
}

async function addFilament(page: Page, name: string, family: string, grams: number): Promise<void> {
  await page.getByRole('button', { name: 'Add a filament' }).click()
  const dialog = page.getByRole('dialog')
  await dialog.getByLabel('Name').fill(name)
  if (family !== 'PLA') await choose(page, /Family/, family)
  await dialog.getByRole('button', { name: 'Add a spool' }).click()
  await dialog.getByLabel('Left on it').fill(String(grams))
  await dialog.getByRole('button', { name: 'Put it on the bench' }).click()
  await expect(page.getByRole('row', { name: new RegExp(`^${name}`) })).toBeVisible()
}

test('one evening, from an empty database to a 3MF on disk, by the interface alone', async ({
  page,
  empty,
}) => {
  await page.goto(empty.url)
  await expect(page.getByRole('heading', { name: /Supports that hold/ })).toBeVisible()
  await page.getByRole('link', { name: 'Set the bench' }).click()

  // The bench: a printer and two filaments.
  await expect(page.getByText('No printer yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Add a printer' }).click()
  await page.getByRole('button', { name: 'Put it on the bench' }).click()
  await expect(page.getByText('Must not be empty.')).toBeVisible()
  await page.getByRole('dialog').getByLabel('Name').fill('Workshop twin')
  await page.getByRole('dialog').getByLabel('Nozzle diameter').fill('9')
  await page.getByRole('button', { name: 'Put it on the bench' }).click()
  await expect(page.getByText('Must be at most 2.')).toBeVisible()
  await page.getByRole('dialog').getByLabel('Nozzle diameter').fill('0.4')
  await page.getByRole('button', { name: 'Put it on the bench' }).click()
  await expect(page.getByRole('heading', { name: 'Workshop twin' })).toBeVisible()
  await addFilament(page, 'Chalk PLA', 'PLA', 400)
  await addFilament(page, 'Moss PETG', 'PETG', 250)

  // An overhang fan of one side, read by pointing.
  await page.getByRole('link', { name: 'Trials' }).click()
  await expect(page.getByText('No trial yet.')).toBeVisible()
  await page.getByRole('link', { name: 'A new trial' }).click()
  await page.getByRole('link', { name: 'Overhang fan' }).click()
  await page.getByLabel('Name').fill('First fan')
  await page.getByRole('radio', { name: 'one', exact: true }).click()
  await page.getByRole('button', { name: 'Read it' }).click()
  await expect(page.getByText('starting guess for the free angle')).toBeVisible()
  for (const [angle, word] of [
    [40, 'clean'],
    [45, 'clean'],
    [50, 'clean'],
    [55, 'marked'],
    [60, 'drooping'],
    [65, 'failed'],
  ] as const) {
    await page.getByRole('button', { name: new RegExp(`^${angle}° facing`) }).click()
    await page
      .getByRole('group', { name: 'How the underside looks' })
      .getByRole('button', { name: new RegExp(word) })
      .click()
  }
  const fanAnswer = page.getByRole('region', { name: 'Free angle' })
  await expect(fanAnswer).toContainText(/Up to 5\d° from vertical prints well/)
  await expect(fanAnswer).toContainText('6 arms read')

  // A gap ladder of the pairing.
  await page.getByRole('link', { name: 'Trials' }).click()
  await page.getByRole('link', { name: 'A new trial' }).click()
  await page.getByRole('link', { name: 'Gap ladder' }).click()
  await page.getByLabel('Name').fill('Moss under Chalk')
  await choose(page, /Touched by/, 'Moss PETG')
  await page.getByLabel('Gaps, mm').fill('0, 0.05 0.1; 0.15, 0.2')
  await page.getByRole('button', { name: 'Read it' }).click()
  for (const [gap, release, finish] of [
    ['0.00', 'with a tool', 'like a top face'],
    ['0.05', 'by hand', 'like a top face'],
    ['0.10', 'by hand', 'fine'],
    ['0.15', 'fell off', 'rough'],
    ['0.20', 'fell off', 'sagging'],
  ]) {
    await page.getByRole('button', { name: new RegExp(`^${gap} mm`) }).click()
    await page
      .getByRole('group', { name: 'How it came off' })
      .getByRole('button', { name: new RegExp(release) })
      .click()
    await page
      .getByRole('group', { name: 'How the face looks' })
      .getByRole('button', { name: new RegExp(finish) })
      .click()
  }
  await expect(page.getByRole('region', { name: 'Release window' })).toContainText(/Leave 0\.0\d mm/)

  // A part from a file.
  await page.getByRole('link', { name: 'Parts' }).click()
  await expect(page.getByText('No part yet.')).toBeVisible()
  await page.locator('input[type=file]').setInputFiles(await stlOf('logger-pod'))
  const report = page.getByRole('dialog')
  await expect(report).toContainText('70 × 44 × 30')
  await expect(report).toContainText('Closed')
  await report.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByRole('heading', { name: 'logger pod' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'How it stands' })).toContainText('70 × 44 × 30')
  await page.getByRole('button', { name: 'Turn 90° clockwise' }).click()
  await expect(page.getByRole('region', { name: 'How it stands' })).toContainText('70 × 30 × 44')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('region', { name: 'How it stands' })).toContainText('70 × 44 × 30')

  // The plan.
  await page.getByRole('button', { name: 'Plan how to hold it' }).click()
  await settled(page)
  await expect(page.getByRole('button', { name: /^Free angle: 5\d°, measured/ })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Upper gap.*a starting guess/ })).toBeVisible()
  await page.getByRole('button', { name: /^What touches the part/ }).click()
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /Moss PETG/ })
    .click()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: /^Upper gap: 0\.0\d mm, measured/ })).toBeVisible()
  await page.getByRole('button', { name: /^Where stands may rest/ }).click()
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /the bed and the part/ })
    .click()
  await page.keyboard.press('Escape')
  await settled(page)
  await expect(page.getByLabel('Before it goes to the printer')).toContainText('Moss PETG: 250')
  await expect(page.getByLabel('Totals')).toContainText('swaps on')

  // To the printer.
  await page.getByRole('button', { name: 'Take to printer' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: /Bodies as 3MF/ }).click()
  const file = await download
  expect(file.suggestedFilename()).toBe('logger-pod-chalk-pla-only.3mf')
  const model = strFromU8(unzipSync(readFileSync(await file.path()))['3D/3dmodel.model'])
  for (const name of ['Part', 'Stand', 'Interface']) expect(model).toContain(`name="${name}"`)

  // Tomorrow it is all still there.
  await page.reload()
  await settled(page)
  await expect(page.getByRole('button', { name: /^What touches the part: Moss PETG/ })).toBeVisible()
  await page.getByRole('link', { name: 'Plans', exact: true }).click()
  await expect(page.getByRole('row', { name: /Chalk PLA only/ })).toContainText('logger pod')
})
