import { statSync } from 'node:fs'
import { choose, expect, expectAccessible, test } from './app'

test('the whole workshop leaves as one file, and comes into another by asking first', async ({
  page,
  demo,
  empty,
}) => {
  await page.goto(`${demo.url}/bench`)
  // Money has a currency, chosen once: it goes along with the rest.
  await choose(page, /Prices and costs are in/, /^Euro/)
  await expect(page.getByRole('row', { name: /^Chalk PLA/ })).toContainText('€21.00')
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Take it along' }).click()
  const path = await (await download).path()
  expect(statSync(path).size).toBeGreaterThan(100_000)
  // A copy by day and name, whatever the browser calls it on its disk.
  expect((await download).suggestedFilename()).toMatch(/^workshop-\d{4}-\d\d-\d\d\.jsonl\.gz$/)

  // A press on a page whose lists are still coming may land where its button was.
  await page.goto(`${empty.url}/bench`, { waitUntil: 'networkidle' })
  const choosing = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Bring a copy in' }).click()
  await (await choosing).setFiles(path)
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText(/\d+ printers added/)
  // Tests before this one may have taken something off.
  const { total } = await (await fetch(`${demo.url}/api/take-offs`)).json()
  await expect(dialog).toContainText(`${total} take-offs added`)
  await expectAccessible(page)
  expect((await (await fetch(`${empty.url}/api/parts`)).json()).total).toBe(0)
  await dialog.getByRole('button', { name: 'Bring it in' }).click()
  await expect(page.getByRole('row', { name: /^Reed TPU/ })).toContainText('€34.00')
  const [there, here] = await Promise.all(
    [demo, empty].map(async ({ url }) => (await (await fetch(`${url}/api/take-offs`)).json()).items),
  )
  expect(here).toEqual(there)

  // What is no copy is refused in words, and nothing changes.
  const again = page.waitForEvent('filechooser')
  await page.getByRole('button', { name: 'Bring a copy in' }).click()
  await (
    await again
  ).setFiles({ name: 'letter.gz', mimeType: 'application/gzip', buffer: Buffer.from('Dear workshop') })
  await expect(dialog).toContainText('not packed as a copy of a workshop is')
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
})

test('the bench opens the door to the local network, shows its code, and shuts it again', async ({
  page,
  empty,
}) => {
  await page.goto(`${empty.url}/bench`)
  await page.getByText('Share with the local network').click()
  const shared = async () => (await fetch(`${empty.url}/api/sharing`)).json()
  await expect.poll(async () => (await shared()).on).toBe(true)
  const { addresses, code } = await shared()
  // A machine without a network has a code, but no address to show it for.
  if (addresses.length > 0) {
    await expect(page.getByText(`${code.slice(0, 3)} ${code.slice(3)}`)).toBeVisible()
    await expect(page.getByRole('img', { name: /^Square code of/ })).toBeVisible()
    await expectAccessible(page)
    const [door] = addresses
    const phone = await page
      .context()
      .browser()!
      .newContext({ viewport: { width: 390, height: 844 } })
    const away = await phone.newPage()
    await away.goto(door)
    await expect(away.getByRole('heading', { name: 'This workshop is shared by code' })).toBeVisible()
    await expectAccessible(away)
    await away.getByLabel('The six figures shown on the bench').fill(code)
    await away.getByRole('button', { name: 'Let me in' }).click()
    await expect(away.getByRole('heading', { name: /Supports that hold/ })).toBeVisible()
    await away.getByRole('link', { name: 'Bench', exact: true }).click()
    // Who is let in is no matter of devices that were let in.
    await expect(away.getByText('All of it as one file')).toBeVisible()
    await expect(away.getByText('The phone at the printer')).toHaveCount(0)
    await page.reload()
    await page.getByRole('button', { name: /^Put out / }).click()
    await expect(page.getByRole('list', { name: 'Devices that are let in' })).toHaveCount(0)
    await away.reload()
    await expect(away.getByRole('heading', { name: 'This workshop is shared by code' })).toBeVisible()
    await phone.close()
  }
  await page.getByText('Share with the local network').click()
  await expect.poll(async () => (await shared()).on).toBe(false)
})
